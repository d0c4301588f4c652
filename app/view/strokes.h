// The pens and colours of what is painted over the part.
#pragma once

#include <QPen>

namespace anvil::app {

inline QPen pen(const QColor& colour, double width, Qt::PenStyle style = Qt::SolidLine) {
  QPen p(colour, width, style);
  p.setCapStyle(Qt::RoundCap);
  return p;
}

inline QPen long_dash(const QColor& colour, double width) {
  QPen p(colour, width);
  p.setDashPattern({9, 3, 2, 3});
  return p;
}

inline QColor faded(QColor colour, double opacity) {
  colour.setAlphaF(colour.alphaF() * opacity);
  return colour;
}

}  // namespace anvil::app
