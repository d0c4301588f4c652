// The job's tolerances: from which gap on things do not meet, and from which angle on they are not parallel.
#pragma once

#include <QDialog>

#include "app/state/session.h"

namespace anvil::app {

class ToleranceForm : public QDialog {
  Q_OBJECT
 public:
  ToleranceForm(Session& session, QWidget* parent);
};

}  // namespace anvil::app
