// A flat drawing at true size: strokes, circles and texts on named layers, with the sheet it goes on. What
// is drawn is in mm of the part, Y up; written as SVG at a scale of paper, and as DXF one to one.
#pragma once

#include <gp_Pnt2d.hxx>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "base/units.h"

namespace anvil {

enum class Layer { kPart, kHoles, kCentres, kNames, kTable };
inline constexpr Layer kLayers[] = {Layer::kPart, Layer::kHoles, Layer::kCentres, Layer::kNames,
                                    Layer::kTable};
const char* layer_name(Layer layer);  // "PART", …

struct Drawing {
  struct Stroke {
    Layer layer = Layer::kPart;
    std::vector<gp_Pnt2d> points;
  };
  struct Circle {
    gp_Pnt2d centre;
    double radius_mm = 0;
  };
  struct Text {
    Layer layer = Layer::kNames;
    gp_Pnt2d at;  // where its first letter stands
    double height_mm = 0;
    std::string text;
  };
  std::string title;
  Unit unit = Unit::kMillimetre;
  gp_Pnt2d low;                                        // the sheet's corner, in the part's mm
  double sheet_width_mm = 297, sheet_height_mm = 210;  // of paper
  double scale = 1;                                    // paper to part
  std::vector<Stroke> strokes;
  std::vector<Circle> circles;  // on the layer of holes
  std::vector<Text> texts;
};

// "1:2", "5:1"
std::string scale_text(double scale);

std::string drawing_svg(const Drawing& drawing);
// The text of an ASCII DXF (AC1015), one to one in the drawing's unit, every circle a CIRCLE.
std::string drawing_dxf(const Drawing& drawing);

}  // namespace anvil
