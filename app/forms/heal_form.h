// What healing may do, and how far it may move anything.
#pragma once

#include "app/forms/tray_form.h"
#include "part/heal.h"

namespace anvil::app {

class HealForm : public TrayForm {
  Q_OBJECT
 public:
  HealForm(const HealOptions& start, std::function<void(const HealOptions&)> heal, QWidget* parent);

 private:
  QCheckBox *sew_, *fix_, *slivers_, *unify_, *recognise_;
  QLineEdit *tolerance_, *limit_;
};

}  // namespace anvil::app
