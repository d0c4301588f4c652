// The command finder (Ctrl+K): every action by its words.
#pragma once

#include <QLineEdit>

class QAction;
class QListWidget;

namespace anvil::app {

class Finder : public QLineEdit {
  Q_OBJECT
 public:
  explicit Finder(QWidget* parent = nullptr);
  void set_actions(const QList<QAction*>& actions) { actions_ = actions; }
  void begin();  // takes the keyboard and lists everything

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

 private:
  void list_matches();
  void run_current();
  void end();

  QList<QAction*> actions_;
  QListWidget* list_;
};

}  // namespace anvil::app
