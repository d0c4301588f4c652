// Every colour of the window, light and dark, in one place; fonts; icons in the ink of the theme.
#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

#include "part/part.h"

class QApplication;

namespace anvil::app {

struct Theme {
  bool dark = false;
  QColor paper, panel, ink, quiet_ink, line, accent, accent_text, field, hover;
  QColor view_background, part, part_edge;
  QColor fits, tight, does_not_fit;
  QColor axis_x, axis_y, axis_z;
  QColor datum, ghost;
  QColor added, removed;  // material that a correction brings or takes

  static Theme light();
  static Theme dark_one();
  // Picks are told apart by number as much as by colour.
  [[nodiscard]] QColor pick(int index) const;
};

const Theme& theme();
void apply_theme(QApplication& application, const Theme& theme);

// A shipped line icon in the given colour.
QIcon icon(const QString& name, const QColor& colour);

int text_size_px();  // as the desktop asks for it

// Tabular figures for every number the user reads or compares.
QFont number_font(int point_size_delta = 0);

// A colour of the job as the window draws it.
QColor on_screen(const Colour& colour);

}  // namespace anvil::app
