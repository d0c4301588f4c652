// The job's list of cutters: edited in a table, read from and written to CSV or JSON.
#pragma once

#include <QDialog>

#include "app/state/session.h"

class QLabel;
class QTableWidget;

namespace anvil::app {

class CutterForm : public QDialog {
  Q_OBJECT
 public:
  CutterForm(Session& session, QWidget* parent);

 private:
  void show_cutters(const std::vector<Cutter>& cutters);
  // What the table says; refuses with the row.
  [[nodiscard]] Result<std::vector<Cutter>> typed() const;
  void read_asked();
  void write_asked();
  void keep();

  Session& session_;
  Unit unit_;  // of what is typed
  QTableWidget* table_ = nullptr;
  QLabel* wrong_ = nullptr;
};

}  // namespace anvil::app
