// Colours and materials as the kernel's viewer takes them.
#pragma once

#include <QColor>

#include <Graphic3d_MaterialAspect.hxx>

#include "part/part.h"

namespace anvil::app {

inline Quantity_Color kernel(const QColor& c) {
  return Quantity_Color(c.redF(), c.greenF(), c.blueF(), Quantity_TOC_sRGB);
}
inline Quantity_Color kernel(const Colour& c) {
  return Quantity_Color(c.r, c.g, c.b, Quantity_TOC_sRGB);
}

// Faces tell their slope by shade alone: gloss would move with the eye and hide it.
inline Graphic3d_MaterialAspect matt() {
  Graphic3d_MaterialAspect material(Graphic3d_NameOfMaterial_Plastified);
  material.SetSpecularColor(Quantity_NOC_BLACK);
  return material;
}

}  // namespace anvil::app
