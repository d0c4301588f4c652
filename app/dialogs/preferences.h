// What a user sets once: mouse, theme, unit and decimals of new jobs. Kept between runs; takes effect at
// once.
#pragma once

#include <QDialog>

#include "base/units.h"

namespace anvil::app {

struct Preferences {
  bool right_button_turns = false;
  bool dark = false;
  std::optional<Unit> unit;  // of new jobs; nothing: as in the file
  int decimals = 3;
  bool smooth_moves = true;  // from one view to another

  static Preferences load();
  void save() const;
};

class PreferencesForm : public QDialog {
  Q_OBJECT
 public:
  explicit PreferencesForm(QWidget* parent);

 Q_SIGNALS:
  void changed(const Preferences& now);
};

}  // namespace anvil::app
