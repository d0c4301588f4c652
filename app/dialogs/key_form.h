// Every act with its key: another one is given by pressing it.
#pragma once

#include <QDialog>

class QKeySequenceEdit;
class QLabel;
class QLineEdit;
class QTreeWidget;

namespace anvil::app {

class Actions;

class KeyForm : public QDialog {
  Q_OBJECT
 public:
  KeyForm(const Actions& actions, QWidget* parent);

 private:
  void fill();
  void show_current();
  void give();
  [[nodiscard]] class QAction* current() const;

  const Actions& actions_;
  QLineEdit* filter_ = nullptr;
  QTreeWidget* list_ = nullptr;
  QKeySequenceEdit* key_ = nullptr;
  QLabel* told_ = nullptr;
};

}  // namespace anvil::app
