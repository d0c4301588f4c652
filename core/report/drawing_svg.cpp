#include <fmt/format.h>

#include "report/drawing.h"
#include "report/markup.h"

namespace anvil {
namespace {

struct Pen {
  const char* colour;
  double width_mm;  // of paper
};

Pen pen_of(Layer layer) {
  switch (layer) {
    case Layer::kPart:
      return {"#3A3F44", 0.25};
    case Layer::kHoles:
      return {"#24282C", 0.35};
    case Layer::kCentres:
      return {"#9A6B16", 0.15};
    case Layer::kNames:
      return {"#24282C", 0.18};
    case Layer::kTable:
      break;
  }
  return {"#6A7076", 0.15};
}

// XML has no place for control characters.
std::string in_xml(std::string text) {
  std::erase_if(text, [](char c) { return static_cast<unsigned char>(c) < 0x20; });
  return escaped(text);
}

}  // namespace

const char* layer_name(Layer layer) {
  switch (layer) {
    case Layer::kPart:
      return "PART";
    case Layer::kHoles:
      return "HOLES";
    case Layer::kCentres:
      return "CENTRES";
    case Layer::kNames:
      return "NAMES";
    case Layer::kTable:
      break;
  }
  return "TABLE";
}

std::string scale_text(double scale) {
  return scale >= 1 ? format_plain(scale) + ":1" : "1:" + format_plain(std::round(1 / scale));
}

std::string drawing_svg(const Drawing& drawing) {
  const auto x = [&](const gp_Pnt2d& p) { return (p.X() - drawing.low.X()) * drawing.scale; };
  const auto y = [&](const gp_Pnt2d& p) {
    return drawing.sheet_height_mm - (p.Y() - drawing.low.Y()) * drawing.scale;
  };
  std::string svg = fmt::format(
      "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
      "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" "
      "viewBox=\"0 0 {0:.3f} {1:.3f}\">\n<title>{2}</title>\n",
      drawing.sheet_width_mm, drawing.sheet_height_mm, in_xml(drawing.title));
  for (const Layer layer : kLayers) {
    const Pen pen = pen_of(layer);
    svg += fmt::format(
        "<g id=\"{}\" fill=\"none\" stroke=\"{}\" stroke-width=\"{}\" stroke-linecap=\"round\">\n",
        layer_name(layer), pen.colour, pen.width_mm);
    for (const Drawing::Stroke& stroke : drawing.strokes) {
      if (stroke.layer != layer || stroke.points.empty()) continue;
      svg += "<path d=\"";
      for (size_t i = 0; i < stroke.points.size(); ++i)
        svg += fmt::format("{}{:.4f} {:.4f}", i == 0 ? "M" : " L", x(stroke.points[i]), y(stroke.points[i]));
      svg += "\"/>\n";
    }
    if (layer == Layer::kHoles)
      for (const Drawing::Circle& circle : drawing.circles)
        svg += fmt::format("<circle cx=\"{:.4f}\" cy=\"{:.4f}\" r=\"{:.4f}\"/>\n", x(circle.centre),
                           y(circle.centre), circle.radius_mm * drawing.scale);
    svg += "</g>\n";
    svg += fmt::format("<g fill=\"#24282C\" font-family=\"Inter\">\n");
    for (const Drawing::Text& text : drawing.texts)
      if (text.layer == layer)
        // Capital letters of most types are 0.72 of the type's size.
        svg += fmt::format("<text x=\"{:.4f}\" y=\"{:.4f}\" font-size=\"{:.3f}\">{}</text>\n", x(text.at),
                           y(text.at), text.height_mm * drawing.scale / 0.72, in_xml(text.text));
    svg += "</g>\n";
  }
  return svg + "</svg>\n";
}

}  // namespace anvil
