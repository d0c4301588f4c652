#include "app/panels/first_look_card.h"

#include <QListWidget>
#include <QScrollBar>
#include <QVBoxLayout>

#include "app/panels/wrapped_rows.h"
#include "app/theme.h"
#include "inspect/hole_text.h"
#include "inspect/unit_suspicion.h"

namespace anvil::app {

FirstLookCard::FirstLookCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  list_ = sentence_list("tray.first_look", tr("What came"), this);
  list_->viewport()->installEventFilter(this);
  layout->addWidget(list_);
  connect(list_, &QListWidget::itemEntered, this,
          [this](QListWidgetItem* item) { point_at(list_->row(item)); });
  connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) { take(list_->row(item)); });
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    constexpr auto kConcerns = Changes(Change::kJob) | Change::kPart | Change::kChecks | Change::kSoundness |
                               Change::kSeats | Change::kFirstLook | Change::kPlace;
    if (isVisible() && (what & kConcerns)) fill();
  });
}

void FirstLookCard::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  fill();
}

void FirstLookCard::fill() {
  const int scrolled = list_->verticalScrollBar()->value();
  list_->clear();
  rows_.clear();
  if (!session_.document().part()) return;
  add_what_came();
  add_soundness();
  add_seats();
  add_directions();
  add_next();
  add_holes();
  list_->verticalScrollBar()->setValue(scrolled);
}

void FirstLookCard::add_heading(const QString& text) {
  auto* item = new QListWidgetItem(text);
  item->setFlags(Qt::NoItemFlags);
  QFont font = list_->font();
  font.setBold(true);
  item->setFont(font);
  item->setForeground(theme().quiet_ink);
  list_->addItem(item);
  rows_.emplace_back();
}

void FirstLookCard::add_row(const QString& symbol, const QString& text, Row row, bool needs_attention) {
  auto* item = new QListWidgetItem(icon(symbol, needs_attention ? theme().does_not_fit
                                                : row.take      ? theme().accent
                                                                : theme().quiet_ink),
                                   text);
  if (!row.take) item->setFlags(Qt::ItemIsEnabled);
  list_->addItem(item);
  rows_.push_back(std::move(row));
}

// Name, unit and size, and what looks wrong with them.
void FirstLookCard::add_what_came() {
  const PartPtr part = session_.document().part();
  const Display& display = session_.document().job().display;
  add_heading(tr("WHAT CAME"));
  QString text = QString::fromStdString(part->source().file_name);
  if (part->sources().size() > 1) text += tr(" and %1 more").arg(part->sources().size() - 1);
  if (const auto& box = session_.checks().box()) {
    const auto size = [&](double mm) { return QString::fromStdString(format_length(mm, display)); };
    text += QStringLiteral("\n%1 × %2 × %3 %4")
                .arg(size(box->max.X() - box->min.X()), size(box->max.Y() - box->min.Y()),
                     size(box->max.Z() - box->min.Z()), QString::fromUtf8(unit_name(display.unit)));
  }
  text += tr("\nthe file says %1").arg(QString::fromStdString(part->source().unit_name));
  add_row(QStringLiteral("part"), text, {{}, [this] { Q_EMIT asked(QStringLiteral("job.scale")); }});
  if (!same_geometry(part, judged_)) {
    judged_ = part;
    const auto suspicion = suspect_unit(*part);
    unit_suspicion_ = suspicion ? QString::fromStdString(suspicion->sentence) : QString();
  }
  if (!unit_suspicion_.isEmpty())
    add_row(QStringLiteral("attention"), unit_suspicion_,
            {{}, [this] { Q_EMIT asked(QStringLiteral("job.scale")); }}, true);
}

void FirstLookCard::add_soundness() {
  const PartPtr part = session_.document().part();
  const auto bodies = part->bodies().size(), faces = part->topology().faces.size();
  const QString count =
      (bodies == 1 ? tr("1 body, ") : tr("%1 bodies, ").arg(bodies)) + tr("%1 faces").arg(faces);
  const auto found = session_.checks().soundness();
  const bool sound = found && found->empty();
  const QString state = !found  ? tr("soundness is being checked")
                        : sound ? tr("sound")
                                : tr("%1 findings: see where").arg(found->size());
  add_row(sound || !found ? QStringLiteral("part") : QStringLiteral("attention"),
          count + QLatin1Char('\n') + state, {{}, [this] { Q_EMIT asked(QStringLiteral("view.soundness")); }},
          found && !sound);
  const auto corners = session_.checks().corners();
  if (corners && !corners->not_judged.empty())
    add_row(QStringLiteral("attention"),
            QString::fromStdString(not_judged_text(corners->not_judged.size(), faces)),
            {[this, which = corners->not_judged] { session_.checks().show_faces(which); },
             [this] { Q_EMIT asked(QStringLiteral("view.corners")); }});
}

void FirstLookCard::add_seats() {
  const auto& seats = session_.checks().seats();
  if (seats.empty()) return;
  add_heading(tr("HOW IT COULD STAND"));
  constexpr size_t kFew = 2;
  const size_t shown = all_seats_ ? seats.size() : std::min(kFew, seats.size());
  for (size_t i = 0; i < shown; ++i) {
    const auto seat = static_cast<int>(i);
    add_row(QStringLiteral("placement"),
            QString::fromStdString(seat_text(seats[i], session_.document().job().display))
                .replace(QStringLiteral("; "), QStringLiteral("\n")),
            {[this, seat] { session_.checks().preview_seat(seat); },
             [this, seat] { session_.checks().take_seat(seat); }});
  }
  if (shown < seats.size())
    add_row(QStringLiteral("chevron"), tr("%1 other ways").arg(seats.size() - shown), {{}, [this] {
                                                                                         all_seats_ = true;
                                                                                         fill();
                                                                                       }});
}

// A click shows the corner on the part and opens the table.
void FirstLookCard::add_directions() {
  const auto directions = session_.checks().directions();
  const bool busy = !directions && session_.checks().directing().is_busy();
  if (!busy && (!directions || directions->empty())) return;
  const Display& display = session_.document().job().display;
  add_heading(tr("CORNERS AND CUTTERS"));
  if (busy)
    return add_row(QStringLiteral("measurement"),
                   tr("being looked for along the main directions; a click stops it"),
                   {{}, [this] {
                      session_.checks().directing().cancel();
                      fill();
                    }});
  for (const DirectionCheck& check : *directions) {
    QString text = tr("Along %1: %2")
                       .arg(QString::fromStdString(check.name).replace(QLatin1Char('-'), QChar(0x2212)),
                            QString::fromStdString(corner_text(check.corners, display)));
    text += QLatin1Char('\n');
    text += check.is_last_word ? QString::fromStdString(largest_cutter_text(check.corners, display))
                               : tr("its largest cutter is being looked for");
    if (check.is_last_word && !check.corners.reservations.empty())
      text += tr("\nBut: %1").arg(QString::fromStdString(check.corners.reservations));
    const auto show = [this, faces = check.corners.faces] { session_.checks().show_faces(faces); };
    add_row(QStringLiteral("measurement"), text, {show, [this, show] {
                                                    Q_EMIT asked(QStringLiteral("view.corners"));
                                                    show();
                                                  }});
  }
}

void FirstLookCard::add_holes() {
  const auto holes = session_.checks().holes();
  if (!holes || holes->groups.empty()) return;
  add_heading(tr("HOLES"));
  for (const HoleGroup& group : holes->groups) {
    std::vector<int> faces;
    for (const int hole : group.holes)
      faces.insert(faces.end(), holes->holes[hole].faces.begin(), holes->holes[hole].faces.end());
    const auto show = [this, faces] { session_.checks().show_faces(faces); };
    add_row(
        QStringLiteral("axis"),
        tr("%1 × %2")
            .arg(group.holes.size())
            .arg(QString::fromStdString(form_text(*holes, group, session_.document().job().display.unit))),
        {show, [this, show] {
           Q_EMIT asked(QStringLiteral("view.holes"));
           show();
         }});
  }
}

// What would usually come next, by what the job has.
void FirstLookCard::add_next() {
  const Job& job = session_.document().job();
  const auto has = [&](auto&& test) { return std::any_of(job.entries.begin(), job.entries.end(), test); };
  const bool has_frame = has([](const Entry& e) { return e.is_frame(); });
  const bool has_setup = has([](const Entry& e) { return e.setup() != nullptr; });
  add_heading(tr("NEXT"));
  const auto act = [this](const char* symbol, const QString& text, const char* id) {
    add_row(QLatin1String(symbol), text, {{}, [this, id] { Q_EMIT asked(QLatin1String(id)); }});
  };
  if (!job.placement() && session_.checks().seats().empty())
    act("placement", tr("Say how it stands"), "orient.seats");
  if (!has_frame && !has_setup) act("frame", tr("Set the zero on a face"), "define.frame.on-face");
  if (!has_setup)
    act("frame", tr("Zero on a corner of the stock"), "define.frame.of-box");
  else
    act("setup", tr("Export the part in a frame"), "hand-over.part");
  act("axis", tr("Compare the holes with a list"), "inspect.compare");
}

void FirstLookCard::point_at(int row) {
  const bool known = row >= 0 && row < static_cast<int>(rows_.size());
  session_.checks().preview_seat(-1);
  session_.checks().show_faces({});
  if (known && rows_[row].point) rows_[row].point();
}

void FirstLookCard::take(int row) {
  if (row < 0 || row >= static_cast<int>(rows_.size()) || !rows_[row].take) return;
  // Whatever it does may fill this list anew.
  const std::function<void()> act = rows_[row].take;
  act();
}

bool FirstLookCard::eventFilter(QObject* watched, QEvent* event) {
  if (watched == list_->viewport() && event->type() == QEvent::Leave) point_at(-1);
  return QWidget::eventFilter(watched, event);
}

}  // namespace anvil::app
