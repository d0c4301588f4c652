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
  [[nodiscard]] QSize sizeHint() const override;

 private:
  TrayForm* form_ = nullptr;
};

}  // namespace anvil::app
