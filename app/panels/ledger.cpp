#include "app/panels/ledger.h"

#include <QAbstractItemDelegate>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QRegularExpression>

#include "app/panels/ledger_roles.h"
#include "app/panels/wrapped_rows.h"
#include "app/theme.h"
#include "construct/registry.h"
#include "job/setup_edits.h"
#include "report/json_reports.h"

namespace anvil::app {
namespace {

QString symbol_of(const Entry& entry) {
  return QString::fromUtf8(kind_name(entry));
}

}  // namespace

bool gives_something(const Entry& entry) {
  return entry.datum() && entry.datum()->makes != Makes::kMeasurement;
}

Ledger::Ledger(Session& session, QWidget* parent) : QTreeWidget(parent), session_(session) {
  setObjectName(QStringLiteral("ledger"));
  setAccessibleName(tr("Ledger"));
  setColumnCount(kColumns);
  setHeaderHidden(true);
  setIndentation(8);
  setRootIsDecorated(false);
  setUniformRowHeights(false);
  setEditTriggers(QAbstractItemView::NoEditTriggers);
  setWordWrap(true);
  setItemDelegate(new WrappedTreeRows(this));
  // While a name is edited its row shows the name alone; whatever ends the edit puts the value back.
  connect(itemDelegate(), &QAbstractItemDelegate::closeEditor, this, &Ledger::refresh_soon);
  setContextMenuPolicy(Qt::CustomContextMenu);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  header()->setStretchLastSection(false);
  header()->setMinimumSectionSize(20);
  header()->setSectionResizeMode(kName, QHeaderView::Stretch);
  for (int column : {static_cast<int>(kState), static_cast<int>(kEye)}) {
    header()->setSectionResizeMode(column, QHeaderView::Fixed);
    setColumnWidth(column, 24);
  }
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & (Change::kJob | Change::kSoundness)) refresh_soon();
  });
  connect(this, &QTreeWidget::itemClicked, this,
          [this](QTreeWidgetItem* item, int column) { on_click(LedgerRow::of(item), column); });
  connect(this, &QTreeWidget::itemDoubleClicked, this,
          [this](QTreeWidgetItem* item, int) { open(LedgerRow::of(item)); });
  connect(this, &QTreeWidget::itemChanged, this, &Ledger::on_renamed);
  connect(this, &QTreeWidget::customContextMenuRequested, this, &Ledger::show_menu);
  refresh();
}

int Ledger::current_entry() const {
  return current_row().entry;
}

void Ledger::refresh_soon() {
  if (refresh_waits_) return;
  refresh_waits_ = true;
  QMetaObject::invokeMethod(this, &Ledger::refresh, Qt::QueuedConnection);
}

QTreeWidgetItem* Ledger::section(const QString& title) {
  auto* item = new QTreeWidgetItem(this);
  item->setText(kName, title);
  item->setFlags(Qt::ItemIsEnabled);
  item->setForeground(kName, theme().quiet_ink);
  QFont font = this->font();
  font.setPixelSize(text_size_px() - 1);
  font.setWeight(QFont::DemiBold);
  item->setFont(kName, font);
  item->setExpanded(true);
  return item;
}

// The heading of a group, made when it is met first.
QTreeWidgetItem* Ledger::group_of(QTreeWidgetItem* datums, const QString& name) {
  for (int i = 0; i < datums->childCount(); ++i)
    if (datums->child(i)->data(kName, kGroupRole).toString() == name) return datums->child(i);
  auto* item = new QTreeWidgetItem(datums);
  item->setText(kName, name);
  item->setData(kName, kGroupRole, name);
  item->setForeground(kName, theme().quiet_ink);
  item->setFlags(Qt::ItemIsEnabled);
  item->setExpanded(true);
  return item;
}

void Ledger::refresh() {
  refresh_waits_ = false;
  if (state() == EditingState) return;  // its end asks again
  refreshing_ = true;
  const int current = current_entry();
  clear();
  QTreeWidgetItem* parts = section(tr("PART"));
  QTreeWidgetItem* placement = section(tr("PLACEMENT"));
  QTreeWidgetItem* corrections = section(tr("CORRECTIONS"));
  QTreeWidgetItem* datums = section(tr("DATUMS"));
  QTreeWidgetItem* setups = section(tr("SETUPS"));
  for (const Entry& entry : session_.document().job().entries) {
    add_entry(entry.part() || entry.healing() ? parts
              : entry.placement()             ? placement
              : entry.setup()                 ? setups
              : entry.is_correction()         ? corrections
              : entry.group.empty()           ? datums
                                              : group_of(datums, QString::fromStdString(entry.group)),
              entry);
  }
  for (QTreeWidgetItem* group : {parts, placement, corrections, datums, setups})
    group->setHidden(group->childCount() == 0);
  for (QTreeWidgetItemIterator it(this); *it; ++it)
    if (const LedgerRow row = LedgerRow::of(*it); row.is_entry() && row.entry == current) setCurrentItem(*it);
  refreshing_ = false;
}

void Ledger::add_entry(QTreeWidgetItem* parent, const Entry& entry) {
  const auto at = session_.document().evaluation().entries.find(entry.id);
  const EntryState state =
      at == session_.document().evaluation().entries.end() ? EntryState::kCurrent : at->second.state;
  const bool good = state == EntryState::kCurrent;
  QString name = QString::fromStdString(entry.name);
  if (entry.setup()) name += QStringLiteral(" · ") + QString::fromStdString(entry.setup()->offset);
  const bool reading = session_.document().job().reading_frame == entry.id;
  QString value =
      QString::fromStdString(value_text(session_.document().job(), session_.document().evaluation(), entry));
  if (!good) value = QString::fromStdString(at->second.reason);
  if (entry.part() && session_.checks().soundness())
    value += session_.checks().soundness()->empty()
                 ? tr(", sound")
                 : tr(", %n findings", nullptr, static_cast<int>(session_.checks().soundness()->size()));
  // An axis and its number stay on one line.
  static const QRegularExpression axis(QStringLiteral("\\b([A-ZØ]) (?=[-−0-9])"));
  value.replace(axis, QStringLiteral("\\1\u00A0"));
  auto* item = new QTreeWidgetItem(parent);
  item->setText(kName, value.isEmpty() ? name : name + QStringLiteral("\n") + value);
  item->setToolTip(kName, value);
  item->setData(kName, kIdRole, entry.id);
  item->setData(kName, kNameRole, QString::fromStdString(entry.name));
  item->setIcon(kName, icon(symbol_of(entry), reading ? theme().accent
                                              : good  ? theme().ink
                                                      : theme().does_not_fit));
  item->setIcon(kState,
                icon(QString::fromUtf8(state_name(state)), good ? theme().quiet_ink : theme().does_not_fit));
  const bool unsound =
      entry.part() && session_.checks().soundness() && !session_.checks().soundness()->empty();
  if (unsound) item->setIcon(kState, icon(QStringLiteral("attention"), theme().tight));
  item->setToolTip(kState, unsound ? tr("Not sound: see the table of soundness")
                           : good && entry.datum()
                               ? tr("Up to date, made within %1")
                                     .arg(QString::fromStdString(tolerance_text(
                                         at->second.tolerance, session_.document().job().display)))
                           : good ? tr("Up to date")
                                  : value);
  if (can_be_seen(session_.document().evaluation(), entry)) {
    item->setIcon(kEye,
                  icon(entry.visible ? QStringLiteral("eye") : QStringLiteral("eye-off"), theme().quiet_ink));
    item->setToolTip(kEye, entry.visible ? tr("Hide") : tr("Show"));
  }
  item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable);
  const bool suppressed = state == EntryState::kSuppressed;
  if (!good) item->setForeground(kName, suppressed ? theme().quiet_ink : theme().does_not_fit);
  if (suppressed) {
    item->setIcon(kName, icon(symbol_of(entry), theme().quiet_ink));
    item->setIcon(kState, {});
  }
  if (marked_.count(entry.id)) {
    QColor veil = theme().accent;
    veil.setAlpha(46);
    for (int column = kName; column <= kEye; ++column) item->setBackground(column, veil);
  }
  if (entry.setup()) add_planes(item, entry);
  if (entry.placement()) add_steps(item, entry);
  if (entry.part()) add_bodies(item, entry);
}

void Ledger::add_steps(QTreeWidgetItem* parent, const Entry& entry) {
  const auto& steps = entry.placement()->steps;
  const auto& reasons = session_.document().evaluation().entries.at(entry.id).step_reasons;
  for (size_t i = 0; i < steps.size(); ++i) {
    const Construction* construction = find_construction(steps[i].construction);
    std::vector<int> numbers;
    for (size_t k = 0; k < steps[i].inputs.size(); ++k) numbers.push_back(static_cast<int>(k) + 1);
    QString text = QString::fromStdString(construction ? fill_numbers(construction->sentence, numbers)
                                                       : steps[i].construction);
    for (const char* prefix : {"Turn the part: ", "Move the part: "})
      if (text.startsWith(QLatin1String(prefix))) text.remove(0, static_cast<int>(qstrlen(prefix)));
    QStringList details;
    for (const auto& [id, value] : steps[i].parameters) details << QString::fromStdString(value);
    if (!details.isEmpty())
      text += QStringLiteral(" (") + details.join(QStringLiteral(", ")) + QStringLiteral(")");
    auto* item = new QTreeWidgetItem(parent);
    item->setText(kName, QStringLiteral("%1. %2").arg(i + 1).arg(text));
    item->setToolTip(kName, text);
    item->setData(kName, kIdRole, entry.id);
    item->setData(kName, kStepRole, static_cast<int>(i));
    item->setForeground(kName,
                        i < reasons.size() && !reasons[i].empty() ? theme().does_not_fit : theme().quiet_ink);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
  }
  parent->setExpanded(true);
}

void Ledger::on_click(const LedgerRow& row, int column) {
  if (column == kEye) toggle(row);
  if (row.body >= 0) return;
  if (row.plane >= 0) return session_.desk().activate_plane(row.entry, row.plane);
  const Entry* entry = session_.document().job().find(row.entry);
  if (column == kName && entry && gives_something(*entry) && session_.tray().draft() &&
      !session_.tray().draft()->editing_entry)
    session_.tray().add_pick(Reference{EntryReference{entry->id}, {}});
  if (marked_.empty()) return;
  marked_.clear();
  refresh_soon();
}

void Ledger::open(const LedgerRow& row) {
  if (row.body >= 0) return;
  if (row.plane >= 0) return session_.desk().activate_plane(row.entry, row.plane);
  const Entry* entry = session_.document().job().find(row.entry);
  if (!entry) return;
  if (entry->setup()) return session_.desk().open_setup(entry->id);
  if (entry->placement() && row.step < 0)
    return session_.tray().edit(entry->id, static_cast<int>(entry->placement()->steps.size()) - 1);
  session_.tray().edit(entry->id, row.step);
}

void Ledger::on_renamed(QTreeWidgetItem* item, int column) {
  if (refreshing_ || column != kName) return;
  const LedgerRow row = LedgerRow::of(item);
  // The editor opens with name and value; the first line is the name.
  const QString name =
      item->text(kName).section(QLatin1Char('\n'), 0, 0).section(QStringLiteral(" · "), 0, 0).trimmed();
  QMetaObject::invokeMethod(
      this,
      [this, row, name] {
        if (row.body >= 0) {
          BodySetting setting = session_.document().job().body(row.body);
          setting.name = name.toStdString();
          return set_body(row.body, setting, tr("Rename a body"));
        }
        const Entry* entry = session_.document().job().find(row.entry);
        if (!entry) return;
        if (name.isEmpty() || name.toStdString() == entry->name) return refresh_soon();
        const QString now =
            QString::fromStdString(name_for(session_.document().job(), entry->id, name.toStdString()));
        session_.document().act(tr("Rename %1").arg(QString::fromStdString(entry->name)),
                                with_name(session_.document().job(), entry->id, name.toStdString()));
        if (now != name) session_.bus().tell(tr("%1 is taken: the entry is called %2 now").arg(name, now));
      },
      Qt::QueuedConnection);
}

void Ledger::rename_current() {
  QTreeWidgetItem* item = currentItem();
  if (!item || !(item->flags() & Qt::ItemIsEditable)) return;
  refreshing_ = true;
  item->setText(kName, LedgerRow::of(item).name);
  refreshing_ = false;
  editItem(item, kName);
}

void Ledger::toggle_current() {
  toggle(current_row());
}

void Ledger::toggle(const LedgerRow& row) {
  if (row.body >= 0) {
    BodySetting setting = session_.document().job().body(row.body);
    if (!setting.included) return;
    setting.visible = !setting.visible;
    return set_body(row.body, setting, setting.visible ? tr("Show a body") : tr("Hide a body"));
  }
  const Entry* entry = session_.document().job().find(row.entry);
  if (!row.is_entry() || !entry || !can_be_seen(session_.document().evaluation(), *entry)) return;
  session_.document().act(entry->visible ? tr("Hide %1").arg(QString::fromStdString(entry->name))
                                         : tr("Show %1").arg(QString::fromStdString(entry->name)),
                          with_visible(session_.document().job(), entry->id, !entry->visible),
                          QStringLiteral("visible %1").arg(entry->id));
}

void Ledger::remove_current() {
  const LedgerRow row = current_row();
  if (row.body >= 0) {
    BodySetting setting = session_.document().job().body(row.body);
    setting.included = false;
    return set_body(row.body, setting, tr("Leave a body out"));
  }
  if (row.plane == 0)
    return session_.bus().tell(tr("The first tool plane is the setup's own and stays with it."));
  if (row.plane > 0) {
    session_.document().act(
        tr("Remove a tool plane"),
        without_tool_plane(session_.document().job(), row.entry, static_cast<size_t>(row.plane - 1)));
    return;
  }
  if (row.step >= 0) return remove_step(row.step);
  remove(row.entry);
}

void Ledger::remove_step(int step) {
  const Entry* placement = session_.document().job().placement();
  if (!placement) return;
  std::vector<Recipe> steps = placement->placement()->steps;
  if (step >= static_cast<int>(steps.size())) return;
  steps.erase(steps.begin() + step);
  session_.document().act(tr("Remove a step of the placement"),
                          with_placement_steps(session_.document().job(), std::move(steps)));
}

void Ledger::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Delete) return remove_current();
  if (event->key() == Qt::Key_F2) return rename_current();
  QTreeWidget::keyPressEvent(event);
}

}  // namespace anvil::app
