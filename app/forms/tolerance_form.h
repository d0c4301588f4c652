// The job's tolerances: from which gap on things do not meet, and from which angle on they are not parallel.
#pragma once

#include "app/forms/tray_form.h"
#include "app/state/session.h"

namespace anvil::app {

class ToleranceForm : public TrayForm {
  Q_OBJECT
 public:
  ToleranceForm(Session& session, QWidget* parent);

 private:
  void show_tolerance(const Tolerance& tolerance);
  QString take();

  Session& session_;
  Unit unit_;  // of what is typed
  QLineEdit *linear_, *angular_;
};

}  // namespace anvil::app
