// One thing to choose or to type, and what is done with it: a heading for entries, a name for a view.
#pragma once

#include "app/forms/tray_form.h"

namespace anvil::app {

struct Question {
  QString heading;
  QString told;            // above the row; may be empty
  QString label;           // of the row
  QStringList answers;     // the first stands there
  bool own_words = false;  // others than those can be typed
  QString act;             // on the button
};

class ChoiceForm : public TrayForm {
  Q_OBJECT
 public:
  // `take` gives why the answer cannot be taken; empty: it was.
  ChoiceForm(const Question& question, std::function<QString(const QString& answer)> take, QWidget* parent);
};

}  // namespace anvil::app
