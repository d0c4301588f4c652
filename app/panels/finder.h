// The command finder (Ctrl+K): every action by its words, and everything that has a name, to pick it.
#pragma once

#include <QLineEdit>
#include <functional>
#include <vector>

class QAction;
class QListWidget;

namespace anvil::app {

struct Findable {
  QString text;
  QString also;  // words that stand for it, too
  QString keys;
  std::function<void()> run;
};

class Finder : public QLineEdit {
  Q_OBJECT
 public:
  explicit Finder(QWidget* parent = nullptr);
  void set_actions(const QList<QAction*>& actions) { actions_ = actions; }
  // What can be picked by name at the moment; asked each time something is typed.
  void set_named(std::function<std::vector<Findable>()> named) { named_ = std::move(named); }
  void begin();  // takes the keyboard and lists everything

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

 private:
  void list_matches();
  void run_current();
  void end();

  [[nodiscard]] std::vector<Findable> matches() const;

  QList<QAction*> actions_;
  std::function<std::vector<Findable>()> named_;
  std::vector<Findable> found_;  // as listed
  QListWidget* list_;
};

}  // namespace anvil::app
