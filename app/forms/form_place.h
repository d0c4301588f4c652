// Where forms stand: above the tray, one at a time; out of sight while there is none.
#pragma once

#include <QScrollArea>

#include "app/forms/tray_form.h"

namespace anvil::app {

class FormPlace : public QScrollArea {
  Q_OBJECT
 public:
  explicit FormPlace(QWidget* parent = nullptr);
  void open(TrayForm* form);  // takes it, in the place of the one that is there
  void close_form();
  [[nodiscard]] bool holds(const QWidget* widget) const { return isVisible() && isAncestorOf(widget); }

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void fit();
  TrayForm* form_ = nullptr;
};

}  // namespace anvil::app
