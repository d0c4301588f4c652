#include "app/panels/setup_card.h"

#include <fmt/format.h>

#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QStandardPaths>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/panels/setup_card_parts.h"
#include "app/theme.h"
#include "app/view/machine_picture.h"
#include "geom/primitives.h"
#include "job/setup_edits.h"
#include "report/json_reports.h"
#include "setup/orientation.h"
#include "setup/shipped_machines.h"

namespace anvil::app {
namespace {

// The kinds of stock as one list; the last ones depend on the job.
struct StockKind {
  const char* name;
  Stock::Kind kind;
  bool round;
};
const StockKind kStocks[] = {{"none", Stock::Kind::kNone, false},
                             {"box, allowance on each side", Stock::Kind::kAllowance, false},
                             {"box, by its sizes", Stock::Kind::kSizes, false},
                             {"round bar, allowance", Stock::Kind::kAllowance, true},
                             {"round bar, by its sizes", Stock::Kind::kSizes, true}};
constexpr int kBodyRole = Qt::UserRole, kSetupRole = Qt::UserRole + 1;

std::vector<Machine> known_machines(const Job& job) {
  std::map<std::string, Machine> all;
  std::vector<std::string> complaints;
  const QString folder =
      QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/machines");
  for (const Machine& machine : shipped_machines()) all[machine.id] = machine;
  for (const Machine& machine : machines_in(folder.toStdString(), complaints)) all[machine.id] = machine;
  for (const auto& [id, machine] : job.machines) all[id] = machine;
  std::vector<Machine> list;
  list.reserve(all.size());
  for (auto& [id, machine] : all) list.push_back(std::move(machine));
  return list;
}

}  // namespace

SetupCard::SetupCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName(QStringLiteral("setup_card"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 4, 0);
  layout->setSpacing(6);
  auto* top = new QHBoxLayout;
  title_ = new QLabel(this);
  top->addWidget(title_, 1);
  auto* close = new QToolButton(this);
  close->setObjectName(QStringLiteral("setup.close"));
  close->setIcon(icon(QStringLiteral("close"), theme().quiet_ink));
  close->setToolTip(tr("Close this card (Esc)"));
  close->setFocusPolicy(Qt::NoFocus);
  top->addWidget(close);
  layout->addLayout(top);
  problem_ = new QLabel(this);
  problem_->setObjectName(QStringLiteral("setup.problem"));
  problem_->setWordWrap(true);
  layout->addWidget(problem_);
  build_rows(layout);
  build_stock(layout);
  build_place(layout);
  build_planes(layout);
  connect(close, &QToolButton::clicked, this, &SetupCard::closed);
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & (Change::kJob | Change::kSetup)) refresh();
  });
}

void SetupCard::build_rows(QVBoxLayout* layout) {
  rows_ = new QFormLayout;
  rows_->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
  rows_->setVerticalSpacing(5);
  layout->addLayout(rows_);
  offset_ = new QLineEdit(this);
  offset_->setObjectName(QStringLiteral("setup.offset"));
  offset_->setFont(number_font());
  frame_ = new QComboBox(this);
  frame_->setObjectName(QStringLiteral("setup.frame"));
  machine_ = new QComboBox(this);
  machine_->setObjectName(QStringLiteral("setup.machine"));
  stock_ = new QComboBox(this);
  stock_->setObjectName(QStringLiteral("setup.stock"));
  for (QComboBox* box : {frame_, machine_, stock_}) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
  }
  rows_->addRow(tr("Offset"), offset_);
  rows_->addRow(tr("Zero"), frame_);
  rows_->addRow(tr("Machine"), machine_);
  rows_->addRow(tr("Stock"), stock_);
  connect(offset_, &QLineEdit::editingFinished, this, [this] {
    if (!refreshing_)
      change(tr("Work offset"), [this](Setup& s) { s.offset = offset_->text().trimmed().toStdString(); });
  });
  connect(frame_, &QComboBox::activated, this, [this](int index) {
    change(tr("Zero of a setup"), [this, index](Setup& s) {
      s.frame = Reference{EntryReference{frame_->itemData(index).toInt()}, {}};
    });
  });
  connect(machine_, &QComboBox::activated, this, &SetupCard::choose_machine);
  connect(stock_, &QComboBox::activated, this, &SetupCard::choose_stock);
}

void SetupCard::build_stock(QVBoxLayout* layout) {
  stock_fields_ = new QWidget(this);
  layout->addWidget(stock_fields_);
  stock_text_ = new QLabel(this);
  stock_text_->setObjectName(QStringLiteral("quiet"));
  layout->addWidget(stock_text_);
}

// Where the work zero lies in the machine: wanted for offsets only, so it folds away.
void SetupCard::build_place(QVBoxLayout* layout) {
  place_button_ = new QToolButton(this);
  place_button_->setObjectName(QStringLiteral("setup.place"));
  place_button_->setText(tr("Place in the machine"));
  place_button_->setCheckable(true);
  place_button_->setFocusPolicy(Qt::NoFocus);
  layout->addWidget(place_button_, 0, Qt::AlignLeft);
  place_fields_ = new QWidget(this);
  auto* grid = new QGridLayout(place_fields_);
  grid->setContentsMargins(0, 0, 0, 0);
  const std::tuple<const char*, QString> texts[] = {
      {"x", tr("X")}, {"y", tr("Y")}, {"z", tr("Z")}, {"turn", tr("Turn °")}, {"gauge", tr("Gauge")}};
  int cell = 0;
  for (const auto& [id, label] : texts)
    place_texts_[id] =
        add_text(grid, cell++, label, QStringLiteral("setup.place.%1").arg(QLatin1String(id)), "0",
                 [id = std::string(id)](Setup& s, const std::string& text) { s.place[id] = text; });
  place_fields_->setToolTip(
      tr("The work zero in machine coordinates with all rotary axes at zero; Gauge: from "
         "the spindle's gauge point to the tip, for heads."));
  place_fields_->hide();
  layout->addWidget(place_fields_);
  connect(place_button_, &QToolButton::toggled, place_fields_, &QWidget::setVisible);
}

QLineEdit* SetupCard::add_text(QGridLayout* grid, int cell, const QString& label, const QString& object,
                               const std::string& text,
                               const std::function<void(Setup&, const std::string&)>& set) {
  auto* field = new QLineEdit(told(text), grid->parentWidget());
  field->setObjectName(object);
  field->setAccessibleName(label);
  field->setFont(number_font());
  const int row = cell / 2, column = 2 * (cell % 2);
  grid->addWidget(new QLabel(label, grid->parentWidget()), row, column);
  grid->addWidget(field, row, column + 1);
  connect(field, &QLineEdit::editingFinished, this, [this, field, label, set] {
    if (refreshing_) return;
    change(label, [&](Setup& s) { set(s, field->text().trimmed().toStdString()); });
  });
  return field;
}

void SetupCard::change(const QString& name, const std::function<void(Setup&)>& how) {
  const Setup* now = session_.desk().opened_setup();
  if (!now) return;
  Setup next = *now;
  how(next);
  session_.desk().change_setup(name, next);
}

const Machine* SetupCard::machine() const {
  const Setup* setup = session_.desk().opened_setup();
  const auto at = setup ? session_.document().job().machines.find(setup->machine)
                        : session_.document().job().machines.end();
  return at == session_.document().job().machines.end() ? nullptr : &at->second;
}

int SetupCard::shown_plane() const {
  return session_.document().job().reading_frame == session_.desk().opened_setup_id()
             ? session_.document().job().tool_plane
             : 0;
}

void SetupCard::refresh() {
  const Setup* setup = session_.desk().opened_setup();
  if (!setup) return;
  refreshing_ = true;
  const Entry* entry = session_.document().job().find(session_.desk().opened_setup_id());
  title_->setTextFormat(Qt::RichText);
  title_->setText(QStringLiteral("<b>%1</b>").arg(told(entry->name).toHtmlEscaped()));
  const auto evaluated = session_.document().evaluation().entries.find(entry->id);
  const bool known = evaluated != session_.document().evaluation().entries.end();
  const QString problem = known ? told(evaluated->second.reason) : QString();
  problem_->setText(problem);
  problem_->setVisible(!problem.isEmpty());
  problem_->setStyleSheet(QStringLiteral("color: %1;").arg(theme().does_not_fit.name()));
  if (!offset_->hasFocus()) offset_->setText(told(setup->offset));
  fill_frames(*setup);
  fill_machines(*setup);
  fill_stock(*setup);
  for (const auto& [id, field] : place_texts_) {
    const auto text = setup->place.find(id);
    if (!field->hasFocus())
      field->setText(text == setup->place.end() ? QStringLiteral("0") : told(text->second));
  }
  fill_planes(*setup, session_.desk().opened_setup_value());
  fill_proposals();
  show_machine();
  refreshing_ = false;
}

void SetupCard::fill_frames(const Setup& setup) {
  frame_->clear();
  for (const Entry& entry : session_.document().job().entries) {
    if (entry.setup() && entry.id == session_.desk().opened_setup_id()) break;
    if (entry.is_frame()) frame_->addItem(told(entry.name), entry.id);
  }
  if (const auto* to = std::get_if<EntryReference>(&setup.frame.target))
    frame_->setCurrentIndex(frame_->findData(to->entry));
}

void SetupCard::fill_machines(const Setup& setup) {
  machine_->clear();
  machine_->addItem(tr("none"), QString());
  for (const Machine& known : known_machines(session_.document().job())) {
    machine_->addItem(told(known.name), told(known.id));
    machine_->setItemData(machine_->count() - 1, told(machine_summary(known)), Qt::ToolTipRole);
  }
  machine_->addItem(tr("From a file …"));
  machine_->setCurrentIndex(std::max(0, machine_->findData(told(setup.machine))));
}

void SetupCard::choose_machine(int index) {
  if (index == machine_->count() - 1) {
    const QString path = QFileDialog::getOpenFileName(window(), tr("A machine"), {}, tr("Machines (*.json)"));
    if (path.isEmpty()) return refresh();
    const auto read = read_machine(path.toStdString());
    if (!read) {
      Q_EMIT session_.bus().told(told(read.error().sentence));
      return refresh();
    }
    Setup next = *session_.desk().opened_setup();
    next.machine = read->id;
    session_.document().act(tr("Machine"), with_setup_changed(with_machine(session_.document().job(), *read),
                                                              session_.desk().opened_setup_id(), next));
    return;
  }
  Setup next = *session_.desk().opened_setup();
  next.machine = machine_->itemData(index).toString().toStdString();
  Job job = session_.document().job();
  for (const Machine& known : known_machines(job))
    if (known.id == next.machine) job = with_machine(std::move(job), known);
  session_.document().act(tr("Machine"),
                          with_setup_changed(std::move(job), session_.desk().opened_setup_id(), next));
}

void SetupCard::fill_stock(const Setup& setup) {
  stock_->clear();
  for (const StockKind& kind : kStocks) stock_->addItem(tr(kind.name));
  if (session_.document().part() && session_.document().part()->bodies().size() > 1)
    for (const Body& body : session_.document().part()->bodies()) {
      stock_->addItem(tr("the body %1").arg(told(body.name)));
      stock_->setItemData(stock_->count() - 1, body.delivered, kBodyRole);
    }
  for (const Entry& entry : session_.document().job().entries) {
    if (entry.id == session_.desk().opened_setup_id()) break;
    if (!entry.setup() || entry.setup()->stock.kind == Stock::Kind::kNone) continue;
    stock_->addItem(tr("that of %1").arg(told(entry.name)));
    stock_->setItemData(stock_->count() - 1, entry.id, kSetupRole);
  }
  const Stock& stock = setup.stock;
  int current = 0;
  for (int i = 0; i < static_cast<int>(std::size(kStocks)); ++i)
    if (kStocks[i].kind == stock.kind && kStocks[i].round == stock.round) current = i;
  if (stock.kind == Stock::Kind::kBody) current = stock_->findData(stock.body, kBodyRole);
  if (stock.kind == Stock::Kind::kOfSetup) current = stock_->findData(stock.setup, kSetupRole);
  stock_->setCurrentIndex(current);
  // The fields stay while their kind does, so that the keyboard stays in them.
  const std::string kind = fmt::format("{}", session_.desk().opened_setup_id()) + "." +
                           fmt::format("{}", static_cast<int>(stock.kind)) + (stock.round ? "r" : "");
  if (kind != shown_stock_) {
    shown_stock_ = kind;
    stock_texts_.clear();
    clear(stock_fields_);
    delete stock_fields_->layout();
    auto* grid = new QGridLayout(stock_fields_);
    grid->setContentsMargins(0, 0, 0, 0);
    int cell = 0;
    for (const StockField& field : anvil::stock_fields(stock))
      stock_texts_[field.id] = add_text(
          grid, cell++, told(field.label), QStringLiteral("setup.stock.%1").arg(told(field.id)),
          field.initial, [id = field.id](Setup& s, const std::string& text) { s.stock.texts[id] = text; });
  }
  for (const auto& [id, field] : stock_texts_)
    if (const auto text = stock.texts.find(id); text != stock.texts.end() && !field->hasFocus())
      field->setText(told(text->second));
  stock_fields_->setVisible(!stock_texts_.empty());
  const SetupValue* value = session_.desk().opened_setup_value();
  const bool has = value && value->stock;
  stock_text_->setVisible(has);
  if (has) stock_text_->setText(told(anvil::stock_text(*value->stock, session_.document().job().display)));
}

void SetupCard::choose_stock(int index) {
  change(tr("Stock"), [this, index](Setup& s) {
    s.stock = {};
    if (index < static_cast<int>(std::size(kStocks))) {
      s.stock.kind = kStocks[index].kind;
      s.stock.round = kStocks[index].round;
    } else if (const QVariant body = stock_->itemData(index, kBodyRole); body.isValid()) {
      s.stock.kind = Stock::Kind::kBody;
      s.stock.body = body.toInt();
    } else {
      s.stock.kind = Stock::Kind::kOfSetup;
      s.stock.setup = stock_->itemData(index, kSetupRole).toInt();
    }
  });
}

}  // namespace anvil::app
