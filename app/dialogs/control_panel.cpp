#include "app/dialogs/control_panel.h"

#include <fmt/format.h>

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>
#include <gp_Quaternion.hxx>

#include "app/theme.h"
#include "geom/primitives.h"
#include "job/ready_recipes.h"
#include "job/setup_edits.h"
#include "setup/control_words.h"

namespace anvil::app {
namespace {

constexpr double kSame_mm = 5e-4;  // offsets travel with three decimals
enum Column { kPlane, kOffset, kSent, kRead, kDifference, kColumns };

QString told(const std::string& text) {
  return QString::fromStdString(text);
}

QString point_words(const gp_Pnt& p, const Display& d) {
  return QStringLiteral("%1  %2  %3")
      .arg(told(format_length(p.X(), d)), told(format_length(p.Y(), d)), told(format_length(p.Z(), d)));
}

}  // namespace

ControlPanel::ControlPanel(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
  setObjectName(QStringLiteral("control"));
  setWindowTitle(tr("Control"));
  setAttribute(Qt::WA_DeleteOnClose);
  resize(660, 420);
  auto* layout = new QVBoxLayout(this);
  auto* line = new QHBoxLayout;
  line->addWidget(new QLabel(tr("Port on this computer"), this));
  port_ = new QLineEdit(QSettings().value(QStringLiteral("control/port"), 7411).toString(), this);
  port_->setObjectName(QStringLiteral("control.port"));
  port_->setFixedWidth(70);
  line->addWidget(port_);
  connect_ = new QPushButton(tr("Connect"), this);
  connect_->setObjectName(QStringLiteral("control.connect"));
  line->addWidget(connect_);
  line->addStretch(1);
  layout->addLayout(line);
  build_offsets(layout);
  build_probing(layout);
  said_ = new QLabel(this);
  said_->setObjectName(QStringLiteral("control.said"));
  said_->setWordWrap(true);
  layout->addWidget(said_);
  connect(connect_, &QPushButton::clicked, this, [this] {
    if (client_.is_connected()) return client_.leave();
    bool number = false;
    const int port = port_->text().toInt(&number);
    if (!number || port < 1 || port > 65535) return tell(tr("A port is a number from 1 to 65535."), true);
    QSettings().setValue(QStringLiteral("control/port"), port);
    tell(tr("Connecting …"));
    client_.connect_to(static_cast<quint16>(port));
  });
  connect(&client_, &ControlClient::changed, this, [this] {
    if (client_.is_connected()) tell(tr("Connected."));
    refresh();
  });
  connect(&client_, &ControlClient::trouble, this, [this](const QString& sentence) { tell(sentence, true); });
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & (Change::kJob | Change::kPicks)) refresh();
  });
  refresh();
}

QPushButton* ControlPanel::add_button(QHBoxLayout* row, const QString& text, const char* name,
                                      void (ControlPanel::*act)()) {
  auto* made = new QPushButton(text, this);
  made->setObjectName(QLatin1String(name));
  connect(made, &QPushButton::clicked, this, act);
  row->addWidget(made);
  return made;
}

void ControlPanel::build_offsets(QVBoxLayout* layout) {
  table_ = new QTableWidget(0, kColumns, this);
  table_->setObjectName(QStringLiteral("control.offsets"));
  table_->setHorizontalHeaderLabels(
      {tr("Tool plane"), tr("Offset"), tr("Here  X Y Z"), tr("In the control  X Y Z"), tr("Difference")});
  table_->verticalHeader()->hide();
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setShowGrid(false);
  layout->addWidget(table_, 1);
  auto* row = new QHBoxLayout;
  send_ = add_button(row, tr("Send offsets"), "control.send", &ControlPanel::send_offsets);
  read_ = add_button(row, tr("Read back and compare"), "control.read", &ControlPanel::read_back);
  go_ = add_button(row, tr("Turn to the active tool plane"), "control.go", &ControlPanel::go_to_plane);
  row->addStretch(1);
  layout->addLayout(row);
}

void ControlPanel::build_probing(QVBoxLayout* layout) {
  auto* row = new QHBoxLayout;
  row->addWidget(new QLabel(tr("Touches on each face"), this));
  touches_per_face_ = new QSpinBox(this);
  touches_per_face_->setObjectName(QStringLiteral("control.touches"));
  touches_per_face_->setRange(3, 16);
  touches_per_face_->setValue(4);
  row->addWidget(touches_per_face_);
  probe_ = add_button(row, tr("Probe the picked faces"), "control.probe", &ControlPanel::probe_picks);
  keep_ = add_button(row, tr("Keep as a frame"), "control.keep_frame", &ControlPanel::keep_as_frame);
  take_ =
      add_button(row, tr("Take as the setup's place"), "control.take_place", &ControlPanel::take_as_place);
  row->addStretch(1);
  layout->addLayout(row);
  found_ = new QLabel(this);
  found_->setObjectName(QStringLiteral("control.found"));
  found_->setWordWrap(true);
  layout->addWidget(found_);
}

void ControlPanel::tell(const QString& text, bool bad) {
  said_->setText(text.isEmpty() ? text : text.left(1).toUpper() + text.mid(1));
  said_->setStyleSheet(bad ? QStringLiteral("color: %1;").arg(theme().does_not_fit.name()) : QString());
}

Result<SetupOnMachine> ControlPanel::in_use() const {
  return setup_on_machine(session_.document().job(), session_.document().evaluation(),
                          session_.desk().setup_in_use());
}

void ControlPanel::refresh() {
  const bool on = client_.is_connected();
  const bool free = on && !client_.is_busy();
  connect_->setText(on ? tr("Leave") : tr("Connect"));
  port_->setEnabled(!on);
  for (QPushButton* button : {send_, read_, go_}) button->setEnabled(free && in_use());
  const bool faces = std::any_of(session_.tray().picks().begin(), session_.tray().picks().end(),
                                 [](const Pick& p) { return p.given.surface.has_value(); });
  probe_->setEnabled(free && faces && in_use());
  if (probed_) static_cast<void>(is_still_so());
  keep_->setVisible(probed_.has_value());
  take_->setVisible(probed_.has_value());
  show_offsets();
}

void ControlPanel::show_offsets() {
  const auto use = in_use();
  if (!use) {
    table_->setRowCount(0);
    return tell(told(use.error().sentence), true);
  }
  table_->setRowCount(static_cast<int>(use->offsets.size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const IndexedOffset& o = use->offsets[static_cast<size_t>(row)];
    const QString here = point_words(o.in_machine, session_.document().job().display);
    // What was read is of use only as long as what it is compared with stays.
    const bool same = table_->item(row, kSent) && table_->item(row, kSent)->text() == here;
    table_->setItem(row, kPlane, new QTableWidgetItem(told(o.plane)));
    table_->setItem(row, kOffset, new QTableWidgetItem(told(work_offset_text(o.offset))));
    table_->setItem(row, kSent, new QTableWidgetItem(here));
    for (const int column : {kRead, kDifference})
      if (!same || !table_->item(row, column)) table_->setItem(row, column, new QTableWidgetItem);
  }
  table_->resizeColumnsToContents();
}

void ControlPanel::send_offsets() {
  const auto use = in_use();
  if (!use) return tell(told(use.error().sentence), true);
  const QString program = told(offsets_program(use->entry->name, *use->machine, use->place, use->offsets,
                                               session_.document().job().display.unit));
  QStringList lines = program.split(QLatin1Char('\n'), Qt::SkipEmptyParts);
  lines.prepend(QStringLiteral("PROGRAM %1").arg(lines.size()));
  tell(tr("Sending …"));
  const QString unwritten = told(unwritten_text(*use->machine, use->offsets));
  const auto count = static_cast<size_t>(lines.size()) - 1;
  client_.ask(lines.join(QLatin1Char('\n')), [this, unwritten, count](const Result<QString>& answer) {
    const auto taken = answer ? check_program_taken(answer->toStdString(), count) : Result<void>();
    if (!taken)
      tell(told(taken.error().sentence) + tr(": read back what its table holds."), true);
    else if (answer)
      tell(tr("The control has taken the offsets.") +
               (unwritten.isEmpty() ? QString() : QLatin1Char(' ') + unwritten),
           !unwritten.isEmpty());
    else
      tell(
          tr("The control did not take them: %1. Its table is as it was.").arg(told(answer.error().sentence)),
          true);
    refresh();
  });
  refresh();
}

// What was read before stays to be seen, as what it is.
void ControlPanel::mark_read_as_old() {
  for (int row = 0; row < table_->rowCount(); ++row)
    for (const int column : {kRead, kDifference}) {
      QTableWidgetItem* item = table_->item(row, column);
      if (!item || item->text().isEmpty() || item->data(Qt::UserRole).toBool()) continue;
      item->setData(Qt::UserRole, true);
      item->setText(tr("%1 (read before)").arg(item->text()));
      item->setForeground(theme().quiet_ink);
    }
}

void ControlPanel::take_offset(int row, const IndexedOffset& sent, const gp_Pnt& read) {
  if (row >= table_->rowCount()) return;
  const double off = read.Distance(sent.in_machine);
  auto* difference = new QTableWidgetItem(
      off <= kSame_mm ? tr("✓ same") : told(format_length(off, session_.document().job().display)));
  if (off > kSame_mm) difference->setForeground(theme().does_not_fit);
  table_->setItem(row, kRead, new QTableWidgetItem(point_words(read, session_.document().job().display)));
  table_->setItem(row, kDifference, difference);
}

void ControlPanel::read_back() {
  const auto use = in_use();
  if (!use) return tell(told(use.error().sentence), true);
  tell(tr("Reading …"));
  mark_read_as_old();
  struct Counts {
    int differing = 0;
    QString trouble;
  };
  const auto counts = std::make_shared<Counts>();
  for (size_t i = 0; i < use->offsets.size(); ++i) {
    const IndexedOffset o = use->offsets[i];
    const bool last = i + 1 == use->offsets.size();
    client_.ask(told("OFFSET " + work_offset_text(o.offset)),
                [this, i, o, last, counts](const Result<QString>& answer) {
                  const auto read = answer ? offset_in_answer(answer->toStdString(), o.offset)
                                           : Result<gp_Pnt>(refuse(answer));
                  if (read) {
                    take_offset(static_cast<int>(i), o, *read);
                    if (read->Distance(o.in_machine) > kSame_mm) ++counts->differing;
                  } else if (counts->trouble.isEmpty()) {
                    counts->trouble = told(read.error().sentence);
                  }
                  if (!last) return;
                  if (!counts->trouble.isEmpty())
                    tell(counts->trouble, true);
                  else
                    tell(counts->differing ? tr("%n offsets differ.", nullptr, counts->differing)
                                           : tr("The control has what is here."),
                         counts->differing > 0);
                  table_->resizeColumnsToContents();
                  QMetaObject::invokeMethod(this, &ControlPanel::refresh, Qt::QueuedConnection);
                });
  }
  refresh();
}

void ControlPanel::go_to_plane() {
  const auto use = in_use();
  if (!use) return tell(told(use.error().sentence), true);
  const auto plane = static_cast<size_t>(std::max(0, session_.document().job().tool_plane));
  const std::string name = plane < use->value->planes.size() ? use->value->planes[plane].name : "";
  const IndexedOffset* offset = use->offset_of(plane);
  if (!offset) return tell(tr("%1 is not reached on this machine.").arg(told(name)), true);
  const RotaryCommand command = plane_command(*use->machine, *offset);
  client_.ask(told(command.words),
              [this, name, sent = command.sent, to = offset->offset](const Result<QString>& answer) {
                const auto there = answer ? check_position(answer->toStdString(), to, sent) : Result<void>();
                if (!there)
                  tell(told(there.error().sentence) + tr(": it does not stand where it was sent."), true);
                else if (answer)
                  tell(tr("The control stands at %1: %2.").arg(told(name), answer->mid(3)));
                else
                  tell(tr("The control did not turn: %1.").arg(told(answer.error().sentence)), true);
                refresh();
              });
  refresh();
}

// --- probing

bool ControlPanel::Began::operator==(const Began& other) const {
  return job == other.job && part == other.part && setup == other.setup && same_motion(lies, other.lies);
}

std::optional<ControlPanel::Began> ControlPanel::now() const {
  const auto use = in_use();
  if (!use || !session_.document().part()) return std::nullopt;
  return Began{
      session_.document().ticket().job, session_.document().part(), use->entry->id,
      use->place.from_setup() * into_frame(use->value->frame) * session_.document().evaluation().placement};
}

void ControlPanel::stop_probing(const QString& why) {
  moves_.clear();
  touched_.clear();
  missed_ = 0;
  probed_.reset();
  began_.reset();
  found_->clear();
  tell(why, true);
}

bool ControlPanel::is_still_so() {
  if (began_ && now() == began_) return true;
  stop_probing(tr("The part or its setup was changed meanwhile: what was touched is dropped."));
  return false;
}

void ControlPanel::probe_picks() {
  const auto use = in_use();
  if (!use || !session_.document().part())
    return tell(use ? tr("There is no part.") : told(use.error().sentence), true);
  stop_probing({});
  began_ = now();
  for (const Pick& pick : session_.tray().picks()) {
    const auto* face = std::get_if<TopologyReference>(&pick.reference.target);
    if (!face || face->kind != TopologyKind::kFace) continue;
    const auto found = located_pick(session_.document().evaluation(), pick.reference);
    const auto moves = found ? probe_moves(*session_.document().part(), found->index, began_->lies,
                                           touches_per_face_->value())
                             : Result<std::vector<ProbeMove>>(refuse(found));
    if (!moves) return tell(pick.text + QStringLiteral(": ") + told(moves.error().sentence), true);
    moves_.insert(moves_.end(), moves->begin(), moves->end());
  }
  // All rotary axes at zero: that is where the part lies as it is measured.
  const RotaryCommand home = home_command(*use->machine);
  client_.ask(told(home.words), [this, sent = home.sent](const Result<QString>& answer) {
    const auto there =
        answer ? check_position(answer->toStdString(), std::nullopt, sent) : Result<void>(refuse(answer));
    if (there) return probe_next();
    stop_probing(tr("The control did not turn to zero: %1.").arg(told(there.error().sentence)));
    refresh();
  });
  refresh();
}

void ControlPanel::probe_next() {
  if (!is_still_so()) return refresh();
  const size_t done = touched_.size() + static_cast<size_t>(missed_);
  if (done >= moves_.size()) return show_probed();
  tell(tr("Touching %1 of %2 …").arg(done + 1).arg(moves_.size()));
  const ProbeMove move = moves_[done];
  client_.ask(told(probe_words(move)), [this, move](const Result<QString>& answer) {
    const auto at =
        answer ? touch_in_answer(answer->toStdString(), move) : Result<std::optional<gp_Pnt>>(refuse(answer));
    if (!at) {
      stop_probing(told(at.error().sentence));
      return refresh();
    }
    if (*at)
      touched_.push_back({move.face, **at});
    else
      ++missed_;
    probe_next();
  });
}

void ControlPanel::show_probed() {
  if (missed_) tell(tr("%n touches missed the part.", nullptr, missed_), true);
  auto place = probed_place(*began_->part, began_->lies, touched_);
  if (!place) {
    refresh();
    return tell(told(place.error().sentence), true);
  }
  probed_ = std::move(*place);
  const Display& d = session_.document().job().display;
  const auto use = in_use();
  const gp_Pnt zero = use ? use->place.zero.Transformed(probed_->motion) : gp_Pnt();
  gp_Vec axis;
  double turn = 0;
  probed_->motion.GetRotation().GetVectorAndAngle(axis, turn);
  found_->setText(
      tr("Work zero in the machine %1; off by %2, turned by %3. RMS %4, largest %5; %6 of 6 freedoms fixed.")
          .arg(point_words(zero, d), told(format_length(use ? zero.Distance(use->place.zero) : 0, d)),
               told(format_angle(turn, d)), told(format_length(probed_->quality.rms_mm, d)),
               told(format_length(probed_->quality.largest_mm, d)))
          .arg(probed_->freedoms_fixed));
  if (!missed_) tell(tr("%n touches.", nullptr, static_cast<int>(touched_.size())));
  refresh();
}

// The touched points as datums on the part, and the frame that reads them as they were measured.
void ControlPanel::keep_as_frame() {
  if (probed_ && !is_still_so()) return refresh();
  if (!probed_ || touched_.size() < 3) return tell(tr("A frame wants three touches or more."), true);
  Job next = with_probed_frame(session_.document().job(), session_.document().evaluation(), probed_->contacts,
                               touched_);
  session_.document().act(tr("Keep what was probed"), std::move(next));
  tell(tr("Kept: the frame in which the part is read in machine coordinates."));
}

void ControlPanel::take_as_place() {
  const auto use = in_use();
  if (!use || !probed_ || !is_still_so()) return refresh();
  const gp_Pnt zero = use->place.zero.Transformed(probed_->motion);
  const gp_Dir x = gp_Dir(1, 0, 0).Transformed(probed_->motion * use->place.from_setup());
  Setup setup = *use->entry->setup();
  setup.place = place_as_probed(setup.place, zero, x);
  const int id = use->entry->id;
  probed_.reset();
  found_->clear();
  session_.document().act(tr("Place as probed"), with_setup_changed(session_.document().job(), id, setup));
  tell(tr("The setup lies where it was found; what is tilted beyond a turn about Z stays in the residuals."));
}

}  // namespace anvil::app
