#include "app/panels/tray.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/panels/first_look_card.h"
#include "app/panels/offer_list.h"
#include "app/panels/region_row.h"
#include "app/panels/setup_card.h"
#include "app/panels/wrapped_rows.h"
#include "app/theme.h"
#include "geom/primitives.h"
#include "job/correcting.h"
#include "report/json_reports.h"

namespace anvil::app {
namespace {

QLabel* heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setObjectName(QStringLiteral("heading"));
  return label;
}

QIcon badge(int number) {
  QPixmap pixmap(40, 40);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(theme().pick(number - 1));
  painter.drawEllipse(2, 2, 36, 36);
  QFont font = number_font(10);
  font.setStyleName(QStringLiteral("SemiBold"));
  painter.setFont(font);
  painter.setPen(theme().dark ? QColor(0x1A1A1A) : QColor(0xFFFFFF));
  painter.drawText(QRect(0, 0, 40, 40), Qt::AlignCenter, QString::number(number));
  painter.end();
  pixmap.setDevicePixelRatio(2);
  return QIcon(pixmap);
}

}  // namespace

Tray::Tray(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName(QStringLiteral("panel"));
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(10, 10, 10, 10);
  layout->setSpacing(6);
  sentence_ = new QLabel(this);
  sentence_->setObjectName(QStringLiteral("tray.sentence"));
  sentence_->setWordWrap(true);
  layout->addWidget(sentence_);
  build_picks(layout);
  region_ = new RegionRow(session_, this);
  region_->findChild<QComboBox*>()->installEventFilter(this);
  layout->addWidget(region_);
  card_ = new SetupCard(session_, this);
  card_area_ = new QScrollArea(this);  // low windows and open tables leave it little height
  card_area_->setObjectName(QStringLiteral("setup.area"));
  card_area_->setWidgetResizable(true);
  card_area_->setFrameShape(QFrame::NoFrame);
  card_area_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  card_area_->setWidget(card_);
  card_area_->hide();
  layout->addWidget(card_area_, 1);
  build_draft(layout);
  offers_ = new OfferList(session_, this);
  layout->addWidget(offers_, 1);
  first_look_ = new FirstLookCard(session_, this);
  layout->addWidget(first_look_, 1);
  layout->addStretch(0);
  connect(card_, &SetupCard::closed, &session_, [this] { session_.desk().open_setup(0); });
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & Change::kPicks) show_picks();
    if (what & Change::kPicks) offers_->refresh();
    if (what & (Change::kDraft | Change::kSeats | Change::kSetup | Change::kJob)) show_draft();
  });
  show_picks();
  offers_->refresh();
  show_draft();
}

void Tray::build_picks(QVBoxLayout* layout) {
  picks_heading_ = heading(tr("PICKS"), this);
  layout->addWidget(picks_heading_);
  picks_ = new QListWidget(this);
  picks_->setObjectName(QStringLiteral("tray.picks"));
  picks_->setDragDropMode(QAbstractItemView::InternalMove);
  picks_->setAccessibleName(tr("Picks"));
  picks_->setToolTip(
      tr("Click and pick again to replace it; drag to change the order; double-click lets go"));
  picks_->setFocusPolicy(Qt::NoFocus);
  picks_->setWordWrap(true);
  picks_->setResizeMode(QListView::Adjust);  // rows wrap anew when a scroll bar takes some of the width
  picks_->setItemDelegate(new WrappedRows(picks_));
  picks_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  layout->addWidget(picks_);
  connect(picks_->model(), &QAbstractItemModel::rowsMoved, this,
          [this](const QModelIndex&, int from, int, const QModelIndex&, int to) {
            if (!refreshing_)
              QMetaObject::invokeMethod(
                  this, [this, from, to] { session_.tray().move_pick(from, to > from ? to - 1 : to); },
                  Qt::QueuedConnection);
          });
  connect(picks_, &QListWidget::itemClicked, this,
          [this](QListWidgetItem* item) { session_.tray().replace_pick_next(picks_->row(item)); });
  connect(picks_, &QListWidget::itemDoubleClicked, this,
          [this](QListWidgetItem* item) { session_.tray().remove_pick(picks_->row(item)); });
}

void Tray::build_draft(QVBoxLayout* layout) {
  draft_ = new QFrame(this);
  draft_->setObjectName(QStringLiteral("chip"));
  auto* box = new QVBoxLayout(draft_);
  box->setContentsMargins(10, 8, 10, 10);
  box->setSpacing(7);
  draft_sentence_ = new QLabel(draft_);
  draft_sentence_->setWordWrap(true);
  box->addWidget(draft_sentence_);
  parameters_ = new QFormLayout;
  parameters_->setLabelAlignment(Qt::AlignLeft);
  parameters_->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
  box->addLayout(parameters_);
  solution_text_ = new QLabel(draft_);
  solution_text_->setWordWrap(true);
  solution_text_->setObjectName(QStringLiteral("quiet"));
  box->addWidget(solution_text_);
  outcome_ = new QLabel(draft_);
  outcome_->setWordWrap(true);
  outcome_->setObjectName(QStringLiteral("tray.outcome"));
  box->addWidget(outcome_);
  build_solution_buttons(box);
  build_keep_buttons(box);
  layout->addWidget(draft_);
}

// Which of several solutions.
void Tray::build_solution_buttons(QVBoxLayout* box) {
  solution_row_ = new QWidget(draft_);
  auto* solutions = new QHBoxLayout(solution_row_);
  solutions->setContentsMargins(0, 0, 0, 0);
  next_ = new QPushButton(tr("Next (N)"), draft_);
  quarter_ = new QPushButton(tr("¼ turn (Q)"), draft_);
  leave_out_ = new QPushButton(draft_);
  leave_out_->setObjectName(QStringLiteral("tray.leave_out"));
  leave_out_->setAccessibleName(tr("Leave out the pick that is farthest off"));
  flip_ = new QPushButton(tr("Flip (F)"), draft_);
  for (QPushButton* button : {next_, quarter_, flip_, leave_out_}) {
    button->setFocusPolicy(Qt::NoFocus);
    button->setStyleSheet(QStringLiteral("padding: 4px 6px;"));
    solutions->addWidget(button);
  }
  box->addWidget(solution_row_);
  connect(next_, &QPushButton::clicked, &session_.tray(), &PickTray::next_solution);
  connect(leave_out_, &QPushButton::clicked, &session_.tray(), &PickTray::leave_out_worst);
  connect(quarter_, &QPushButton::clicked, &session_.tray(), &PickTray::quarter_turn);
  connect(flip_, &QPushButton::clicked, &session_.tray(), &PickTray::flip);
}

void Tray::build_keep_buttons(QVBoxLayout* box) {
  auto* buttons = new QHBoxLayout;
  keep_ = new QPushButton(tr("Keep"), draft_);
  keep_->setObjectName(QStringLiteral("primary"));
  keep_->setToolTip(tr("Enter"));
  drop_ = new QPushButton(tr("Drop"), draft_);
  drop_->setToolTip(tr("Esc"));
  buttons->addWidget(keep_);
  buttons->addWidget(drop_);
  box->addLayout(buttons);
  auto* onward = new QHBoxLayout;
  again_ = new QPushButton(tr("Keep, once more"), draft_);
  again_->setObjectName(QStringLiteral("tray.again"));
  again_->setToolTip(tr("Keeps it and begins the same from the same picks (Shift+Enter)"));
  go_on_ = new QPushButton(tr("Keep, go on"), draft_);
  go_on_->setObjectName(QStringLiteral("tray.go_on"));
  go_on_->setToolTip(tr("Keeps the point and measures the next one from it (Ctrl+Enter)"));
  as_setup_ = new QPushButton(tr("Keep as setup"), draft_);
  as_setup_->setObjectName(QStringLiteral("tray.as_setup"));
  as_plane_ = new QPushButton(tr("Keep as tool plane"), draft_);
  as_plane_->setObjectName(QStringLiteral("tray.as_tool_plane"));
  connect(as_setup_, &QPushButton::clicked, &session_.desk(), &SetupDesk::keep_as_setup);
  connect(as_plane_, &QPushButton::clicked, &session_.desk(), &SetupDesk::keep_as_tool_plane);
  for (QPushButton* button : {again_, go_on_, as_setup_, as_plane_}) {
    button->setFocusPolicy(Qt::NoFocus);
    button->setStyleSheet(QStringLiteral("padding: 4px 6px;"));
    onward->addWidget(button);
  }
  box->addLayout(onward);
  connect(keep_, &QPushButton::clicked, &session_.tray(), &PickTray::keep);
  connect(drop_, &QPushButton::clicked, &session_, &Session::drop);
  connect(again_, &QPushButton::clicked, this, [this] {
    session_.tray().keep_and_repeat();
    focus_parameters();
  });
  connect(go_on_, &QPushButton::clicked, this, [this] {
    session_.tray().keep_and_go_on();
    focus_parameters();
  });
}

bool Tray::eventFilter(QObject* watched, QEvent* event) {
  // Letters typed into a list of choices search it; they must not run the one-letter commands.
  if (event->type() == QEvent::ShortcutOverride && qobject_cast<QComboBox*>(watched)) {
    auto* key = static_cast<QKeyEvent*>(event);
    if (!key->text().isEmpty() && key->text().front().isPrint() &&
        !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier)))
      key->accept();
  }
  return QWidget::eventFilter(watched, event);
}

void Tray::show_picks() {
  refreshing_ = true;
  picks_->clear();
  int number = 0;
  for (const Pick& pick : session_.tray().picks()) {
    picks_->addItem(new QListWidgetItem(badge(++number), pick.text));
    picks_->item(number - 1)->setToolTip(pick.text);
    if (number - 1 == session_.tray().replacing()) picks_->item(number - 1)->setForeground(theme().accent);
  }
  picks_->setVisible(number > 0);
  picks_heading_->setVisible(number > 0);
  fit_height(picks_, 150);
  region_->refresh();
  refreshing_ = false;
}

bool Tray::shows_offers() const {
  return !session_.tray().draft() && !session_.tray().offers().empty();
}

void Tray::show_draft() {
  const auto& draft = session_.tray().draft();
  const QString needed = session_.still_needed_text();
  const bool refused = draft && !draft->reason.isEmpty();
  sentence_->setText(needed);
  sentence_->setVisible(!needed.isEmpty());
  sentence_->setStyleSheet(refused ? QStringLiteral("color: %1;").arg(theme().does_not_fit.name())
                                   : QString());
  offers_->setVisible(shows_offers());
  draft_->setVisible(draft.has_value());
  const bool card = session_.desk().opened_setup() && session_.tray().is_empty();
  card_area_->setVisible(card);
  const bool first_look = session_.document().part() && session_.tray().is_empty() && !card;
  first_look_->setVisible(first_look);
  session_.checks().want_first_look(first_look);
  if (card) sentence_->hide();
  if (!draft) {
    shown_construction_.clear();
    return;
  }
  if (shown_construction_ != draft->construction->id || shown_entry_ != draft->editing_entry)
    rebuild_parameters();
  draft_sentence_->setTextFormat(Qt::RichText);
  draft_sentence_->setText(
      QStringLiteral("<b>%1</b>")
          .arg(QString::fromStdString(fill_numbers(draft->construction->sentence,
                                                   pick_numbers(*draft->construction, draft->picks)))
                   .toHtmlEscaped()));
  show_results();
  show_solutions();
}

void Tray::rebuild_parameters() {
  shown_construction_ = session_.tray().draft()->construction->id;
  shown_entry_ = session_.tray().draft()->editing_entry;
  while (parameters_->rowCount() > 0) parameters_->removeRow(0);
  fields_.clear();
  results_.clear();
  asides_.clear();
  for (const Parameter& parameter : session_.tray().draft()->construction->parameters)
    add_parameter(parameter);
  if (!asides_.empty()) add_aside_button();
  if (session_.tray().draft()->construction->makes == Makes::kPlacement) add_moving_bodies();
}

// Which bodies a placement moves: all of them, or one against the others.
void Tray::add_moving_bodies() {
  const PartPtr part = session_.document().part();
  if (!part || part->bodies().size() < 2) return;
  auto* combo = new QComboBox(draft_);
  combo->setObjectName(QStringLiteral("parameter.moves"));
  combo->installEventFilter(this);
  combo->addItem(tr("all bodies"), -1);
  for (const Body& body : part->bodies()) combo->addItem(QString::fromStdString(body.name), body.delivered);
  if (!session_.tray().draft()->bodies.empty())
    combo->setCurrentIndex(std::max(0, combo->findData(session_.tray().draft()->bodies.front())));
  connect(combo, &QComboBox::currentIndexChanged, this, [this, combo] {
    const int body = combo->currentData().toInt();
    session_.tray().set_moving_bodies(body < 0 ? std::vector<int>() : std::vector<int>{body});
  });
  parameters_->addRow(tr("Moves"), combo);
}

void Tray::add_parameter(const Parameter& parameter) {
  const auto& texts = session_.tray().draft()->parameters;
  const auto known = texts.find(parameter.id);
  const QString text = QString::fromStdString(known == texts.end() ? parameter.initial : known->second);
  const QString label = QString::fromStdString(parameter.label);
  if (parameter.quantity == Quantity::kChoice) {
    auto* combo = new QComboBox(draft_);
    combo->installEventFilter(this);
    combo->setObjectName(QStringLiteral("parameter.") + QString::fromStdString(parameter.id));
    for (const std::string& choice : parameter.choices) combo->addItem(QString::fromStdString(choice));
    // Long choices must not take the room of the labels.
    combo->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    combo->setMinimumContentsLength(8);
    combo->setCurrentText(text);
    connect(combo, &QComboBox::currentTextChanged, this, [this, id = parameter.id](const QString& now) {
      session_.tray().set_parameter(id, now.toStdString());
    });
    parameters_->addRow(label, combo);
    return;
  }
  auto* row = new QWidget(draft_);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  auto* field = new QLineEdit(text, row);
  if (parameter.may_be_empty) field->setPlaceholderText(tr("as it is"));
  field->setObjectName(QStringLiteral("parameter.") + QString::fromStdString(parameter.id));
  field->setAccessibleName(label);
  field->setFont(number_font());
  auto* result = new QLabel(row);
  result->setObjectName(QStringLiteral("quiet"));
  result->setFont(number_font());
  line->addWidget(field, 1);
  line->addWidget(result);
  fields_[parameter.id] = field;
  results_[parameter.id] = result;
  connect(field, &QLineEdit::textEdited, this, [this, id = parameter.id](const QString& now) {
    session_.tray().set_parameter(id, now.toStdString());
  });
  connect(field, &QLineEdit::returnPressed, &session_.tray(), &PickTray::keep);
  parameters_->addRow(label, row);
  if (parameter.aside) asides_.push_back(row);
}

// What is seldom wanted stays folded until it is asked for, or says something.
void Tray::add_aside_button() {
  auto* button = new QToolButton(draft_);
  button->setObjectName(QStringLiteral("tray.aside"));
  button->setText(session_.tray().draft()->construction->makes == Makes::kCorrection ? tr("More numbers")
                                                                                     : tr("Shift and turn"));
  button->setCheckable(true);
  button->setFocusPolicy(Qt::NoFocus);
  parameters_->insertRow(parameters_->rowCount() - static_cast<int>(asides_.size()), button);
  const auto show = [this](bool on) {
    for (QWidget* row : asides_) parameters_->setRowVisible(row, on);
    session_.tray().open_asides(on);
  };
  connect(button, &QToolButton::toggled, this, show);
  show(false);
  aside_button_ = button;
}

// The value beside what was typed, or why it is none.
void Tray::show_results() {
  const Draft& draft = *session_.tray().draft();
  const Display& display = session_.document().job().display;
  for (const auto& [id, field] : fields_)  // dragged in the view
    if (const QString text = QString::fromStdString(draft.parameters.at(id)); field->text() != text)
      field->setText(text);
  for (const Parameter& parameter : draft.construction->parameters) {
    if (parameter.aside && !asides_.empty() && draft.parameters.at(parameter.id) != parameter.initial)
      aside_button_->setChecked(true);
    const auto label = results_.find(parameter.id);
    if (label == results_.end()) continue;
    if (parameter.may_be_empty && draft.parameters.at(parameter.id).empty()) {
      label->second->clear();
      label->second->setToolTip({});
      continue;
    }
    const auto value = evaluate_parameter(parameter, draft.parameters.at(parameter.id), draft.unit,
                                          session_.tray().draft_names());
    if (!value)
      label->second->setText(QStringLiteral("?"));
    else if (parameter.quantity == Quantity::kText || parameter.quantity == Quantity::kView)
      label->second->clear();
    else if (parameter.quantity == Quantity::kLength)
      label->second->setText(
          QStringLiteral("= %1 %2").arg(QString::fromStdString(format_length(*value, display)),
                                        QString::fromUtf8(unit_name(display.unit))));
    else if (parameter.quantity == Quantity::kAngle)
      label->second->setText(
          QStringLiteral("= %1").arg(QString::fromStdString(format_angle(*value, display))));
    else
      label->second->setText(QStringLiteral("= %1").arg(QString::fromStdString(format_plain(*value))));
    label->second->setToolTip(value ? QString() : QString::fromStdString(value.error().sentence));
  }
}

void Tray::show_solutions() {
  const Draft& draft = *session_.tray().draft();
  const bool ready = !draft.solutions.empty();
  keep_->setEnabled(session_.tray().can_keep());
  const Makes makes = draft.construction->makes;
  as_setup_->setVisible(makes == Makes::kFrame && !draft.editing_entry);
  as_plane_->setVisible(as_setup_->isVisibleTo(draft_) && session_.desk().setup_in_use() != 0);
  as_setup_->setEnabled(ready);
  as_plane_->setEnabled(ready);
  again_->setVisible(session_.tray().can_repeat() && makes != Makes::kFrame);
  go_on_->setVisible(session_.tray().can_go_on());
  next_->setVisible(draft.solutions.size() > 1);
  quarter_->setVisible(makes == Makes::kFrame);
  flip_->setVisible(makes == Makes::kPlane || makes == Makes::kAxis || makes == Makes::kFrame);
  const int worst = ready ? draft.solutions[draft.solution].worst_role : -1;
  leave_out_->setVisible(worst >= 0 && draft.picks.size() > draft.construction->roles.size());
  if (worst >= 0)
    leave_out_->setText(tr("Leave out %1").arg(QString::fromStdString(circled(draft.picks[worst] + 1))));
  solution_row_->setVisible(ready && (next_->isVisibleTo(draft_) || leave_out_->isVisibleTo(draft_) ||
                                      quarter_->isVisibleTo(draft_) || flip_->isVisibleTo(draft_)));
  QString text;
  if (ready) {
    const Solution& solution = draft.solutions[draft.solution];
    if (draft.solutions.size() > 1)
      text = tr("Solution %1 of %2. ").arg(draft.solution + 1).arg(draft.solutions.size());
    text +=
        QString::fromStdString(fill_numbers(solution.note, pick_numbers(*draft.construction, draft.picks)));
    if (const auto* m = std::get_if<Measurement>(&solution.value); m && solution.note.empty())
      text += QString::fromStdString(measurement_text(*m, session_.document().job().display));
    const gp_Ax2 frame = session_.document().frame();
    if (const auto* f = std::get_if<FrameDatum>(&solution.value))
      text += QStringLiteral("\nZero %1\nX %2\nZ %3")
                  .arg(QString::fromStdString(
                           point_text(f->frame.Location(), frame, session_.document().job().display)),
                       QString::fromStdString(direction_text(read_in(frame, f->frame.XDirection()))),
                       QString::fromStdString(direction_text(read_in(frame, f->frame.Direction()))));
    if (const auto* p = std::get_if<PointDatum>(&solution.value))
      text += QStringLiteral("\n") +
              QString::fromStdString(point_text(p->point, frame, session_.document().job().display));
  }
  solution_text_->setText(text.trimmed());
  show_outcome();
  solution_text_->setVisible(!text.trimmed().isEmpty());
}

// What a correction would do, once it has been tried.
void Tray::show_outcome() {
  const auto& outcome = session_.tray().outcome();
  const bool refused = outcome && !outcome->refused.isEmpty();
  QString text;
  if (refused)
    text = outcome->refused;
  else if (outcome)
    text = QString::fromStdString(change_text(*outcome->report, session_.document().job().display));
  else if (session_.tray().correcting().is_busy())
    text = tr("Being computed …");
  outcome_->setText(text);
  outcome_->setVisible(!text.isEmpty());
  outcome_->setStyleSheet(refused ? QStringLiteral("color: %1;").arg(theme().does_not_fit.name())
                                  : QString());
}

void Tray::start_number(const QString& text) {
  focus_parameters();
  for (const auto& [id, field] : fields_) {
    if (!field->hasFocus()) continue;
    field->setText(text);
    session_.tray().set_parameter(id, text.toStdString());
  }
}

bool Tray::focus_region() {
  return region_->focus();
}

bool Tray::focus_parameters() {
  if (!session_.tray().draft()) return false;
  for (const Parameter& parameter : session_.tray().draft()->construction->parameters) {
    const auto field = fields_.find(parameter.id);
    if (field == fields_.end() || parameter.quantity == Quantity::kText || parameter.aside) continue;
    field->second->setFocus();
    field->second->selectAll();
    return true;
  }
  return false;
}

}  // namespace anvil::app
