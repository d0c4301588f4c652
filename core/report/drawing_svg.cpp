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

namespace {

class SvgPage {
 public:
  explicit SvgPage(const Drawing& drawing) : drawing_(drawing) {}

  std::string written() {
    const auto width = fmt::format("{:.3f}", drawing_.sheet_width_mm),
               height = fmt::format("{:.3f}", drawing_.sheet_height_mm);
    page_.open("svg", {{"xmlns", "http://www.w3.org/2000/svg"},
                       {"width", width + "mm"},
                       {"height", height + "mm"},
                       {"viewBox", "0 0 " + width + " " + height}});
    page_.line_end().element("title", {}, drawing_.title).line_end();
    for (const Layer layer : kLayers) {
      write_lines(layer);
      write_texts(layer);
    }
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + page_.finished() + "\n";
  }

 private:
  [[nodiscard]] double x(const gp_Pnt2d& p) const { return (p.X() - drawing_.low.X()) * drawing_.scale; }
  [[nodiscard]] double y(const gp_Pnt2d& p) const {
    return drawing_.sheet_height_mm - (p.Y() - drawing_.low.Y()) * drawing_.scale;
  }

  void write_lines(Layer layer) {
    const Pen pen = pen_of(layer);
    page_.open("g", {{"id", layer_name(layer)},
                     {"fill", "none"},
                     {"stroke", pen.colour},
                     {"stroke-width", fmt::format("{}", pen.width_mm)},
                     {"stroke-linecap", "round"}});
    page_.line_end();
    for (const Drawing::Stroke& stroke : drawing_.strokes) {
      if (stroke.layer != layer || stroke.points.empty()) continue;
      std::string path;
      for (const gp_Pnt2d& point : stroke.points)
        path += fmt::format("{}{:.4f} {:.4f}", path.empty() ? "M" : " L", x(point), y(point));
      page_.empty("path", {{"d", path}}).line_end();
    }
    if (layer == Layer::kHoles)
      for (const Drawing::Circle& circle : drawing_.circles)
        page_
            .empty("circle", {{"cx", fmt::format("{:.4f}", x(circle.centre))},
                              {"cy", fmt::format("{:.4f}", y(circle.centre))},
                              {"r", fmt::format("{:.4f}", circle.radius_mm * drawing_.scale)}})
            .line_end();
    page_.close().line_end();
  }

  void write_texts(Layer layer) {
    constexpr double kCapitals = 0.72;  // of the type's size, in most types
    page_.open("g", {{"fill", "#24282C"}, {"font-family", "Inter"}}).line_end();
    for (const Drawing::Text& text : drawing_.texts)
      if (text.layer == layer)
        page_
            .element("text",
                     {{"x", fmt::format("{:.4f}", x(text.at))},
                      {"y", fmt::format("{:.4f}", y(text.at))},
                      {"font-size", fmt::format("{:.3f}", text.height_mm * drawing_.scale / kCapitals)}},
                     text.text)
            .line_end();
    page_.close().line_end();
  }

  const Drawing& drawing_;
  Markup page_;
};

}  // namespace

std::string drawing_svg(const Drawing& drawing) {
  return SvgPage(drawing).written();
}

}  // namespace anvil
