// A form that stands in the tray's column while the rest of the window goes on: what it is about, its rows,
// one button that does it and one that leaves it. Enter does it, Esc leaves.
#pragma once

#include <QWidget>
#include <functional>

class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace anvil::app {

class TrayForm : public QWidget {
  Q_OBJECT
 public:
  TrayForm(const char* name, const QString& heading, QWidget* parent);
  void focus_first();  // the keyboard goes to the first row, with what stands there marked

 Q_SIGNALS:
  void left();  // done, or given up

 protected:
  // Rows, from above to below; `name` is how the row is found, `label` also what a screen reader says.
  QLabel* say(const QString& text);
  QLineEdit* field(const QString& label, const QString& text, const char* name);
  QComboBox* choice(const QString& label, const QStringList& items, const char* name);
  QCheckBox* tick(const QString& text, bool on, const char* name);
  void add_row(const QString& label, QWidget* row);
  void show_row(QWidget* row, bool shown);
  QPushButton* add_button(const QString& text, const char* name, std::function<void()> run);
  // Last of all. `run` gives why it cannot be done: told under the rows, and the form stays. Empty: done.
  void ends_with(const QString& act, std::function<QString()> run);

  void keyPressEvent(QKeyEvent* event) override;

 private:
  void do_it();

  QVBoxLayout* layout_ = nullptr;
  QFormLayout* rows_ = nullptr;
  QLabel* wrong_ = nullptr;
  QWidget* buttons_ = nullptr;
  std::function<QString()> run_;
};

}  // namespace anvil::app
