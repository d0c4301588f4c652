// The ledger: the job as an ordered list, laid out like the setup sheet it becomes.
#pragma once

#include <QTreeWidget>
#include <set>

#include "app/forms/tray_form.h"
#include "app/panels/ledger_roles.h"
#include "app/state/session.h"

class QMenu;

namespace anvil::app {

// Whether an entry can be picked: measurements and corrections give nothing.
bool gives_something(const Entry& entry);

class Ledger : public QTreeWidget {
  Q_OBJECT
 public:
  explicit Ledger(Session& session, QWidget* parent = nullptr);
  [[nodiscard]] int current_entry() const;  // 0: none

 public Q_SLOTS:
  void remove_current();
  void rename_current();
  void toggle_current();

 Q_SIGNALS:
  void form_wanted(anvil::app::TrayForm* form);  // something is to be asked

 protected:
  void keyPressEvent(QKeyEvent* event) override;

 private:
  // Acts are set off by signals of rows, so the rows are built anew only when those have returned, once for
  // however many acts.
  void refresh_soon();
  void refresh();
  QTreeWidgetItem* section(const QString& title);
  QTreeWidgetItem* group_of(QTreeWidgetItem* datums, const QString& name);
  void ask_group(int id);
  void add_entry(QTreeWidgetItem* parent, const Entry& entry);
  void add_bodies(QTreeWidgetItem* parent, const Entry& entry);
  void body_menu(int delivered, const QPoint& at);
  void set_body(int delivered, const BodySetting& setting, const QString& act);
  void add_planes(QTreeWidgetItem* parent, const Entry& entry);
  void add_setup_actions(QMenu& menu, const Entry& entry);
  void plane_menu(int setup, int plane, const QPoint& at);
  void add_steps(QTreeWidgetItem* parent, const Entry& entry);
  void on_click(const LedgerRow& row, int column);
  void open(const LedgerRow& row);
  void toggle(const LedgerRow& row);
  void on_renamed(QTreeWidgetItem* item, int column);
  void show_menu(const QPoint& at);
  void remove(int id);
  void rebase(int id);
  void try_act(const QString& name, const Result<Job>& next);
  void add_datum_actions(QMenu& menu, const Entry& entry);
  void add_colours(QMenu& menu, int id);
  void add_hiding(QMenu& menu, const Entry& entry);
  void mark(const std::vector<int>& entries, int picks_of);
  [[nodiscard]] LedgerRow current_row() const { return LedgerRow::of(currentItem()); }
  void remove_step(int step);

  Session& session_;
  std::set<int> marked_;  // rows shown as what another is made from, or what is made from it
  bool refreshing_ = false, refresh_waits_ = false;
};

}  // namespace anvil::app
