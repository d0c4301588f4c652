// Figures: lines, circles, rectangles, slots and regular polygons of typed sizes on any plane, measured from
// a picked point along the reading frame's axes as they lie in that plane.
#include <fmt/format.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

// Where a figure is drawn: zero and X in the plane, Z its normal.
struct Paper {
  gp_Ax2 axes;
  [[nodiscard]] gp_Pnt at(double x, double y) const {
    return axes.Location().Translated(gp_Vec(axes.XDirection()) * x + gp_Vec(axes.YDirection()) * y);
  }
};

// {1} the plane, {2} the point it is measured from, {3} the frame whose X it follows; then the typed shift
// and turn.
Paper paper_of(const Inputs& in) {
  const gp_Dir normal = in[0].plane->Axis().Direction();
  const Paper measured{make_frame(foot_on(*in[0].plane, *in[1].point), normal, in[2].frame->XDirection())};
  gp_Ax2 axes = measured.axes;
  axes.SetLocation(measured.at(in.numbers.at("x"), in.numbers.at("y")));
  const auto turn = in.numbers.find("turn");
  if (turn != in.numbers.end()) axes.Rotate(gp_Ax1(axes.Location(), normal), turn->second);
  return {axes};
}

TopoDS_Edge line(const gp_Pnt& from, const gp_Pnt& to) {
  return BRepBuilderAPI_MakeEdge(from, to).Edge();
}

Solutions drawn(const Paper& paper, std::vector<TopoDS_Edge> edges, std::string note = {}) {
  return one(FigureDatum{gp_Pln(gp_Ax3(paper.axes)), std::move(edges)}, std::move(note));
}

// Sizes must be at least this; shorter edges do not exist for the kernel.
constexpr double kLeastSize_mm = 1e-3;

Result<double> size(const Inputs& in, const char* id, const char* what) {
  const double value = in.numbers.at(id);
  if (value >= kLeastSize_mm) return value;
  Refusal refusal{RefusalCode::kBadInput,
                  fmt::format("{} of {} cannot be drawn: at least {} is wanted", what,
                              format_length(value, in.display), format_length(kLeastSize_mm, in.display))};
  refusal.facts = {{"size_mm", value}};
  return refuse(std::move(refusal));
}

Solutions line_at_angle(const Inputs& in) {
  const auto length = size(in, "length", "a length");
  if (!length) return refuse(length);
  const Paper paper = paper_of(in);
  return drawn(paper, {line(paper.at(0, 0), paper.at(*length, 0))});
}

Solutions line_between(const Inputs& in) {
  const gp_Pnt from = foot_on(*in[0].plane, *in[1].point), to = foot_on(*in[0].plane, *in[2].point);
  const double length = from.Distance(to);
  if (length < kLeastSize_mm)
    return refused(fmt::format("{{2}} and {{3}} lie {} apart in {{1}}: no line between them",
                               format_length(length, in.display)),
                   {{"distance_mm", length}});
  const Paper paper{make_frame(from, in[0].plane->Axis().Direction(), gp_Dir(gp_Vec(from, to)))};
  return drawn(paper, {line(from, to)}, format_length(length, in.display));
}

Solutions circle(const Inputs& in) {
  const auto diameter = size(in, "diameter", "a diameter");
  if (!diameter) return refuse(diameter);
  const Paper paper = paper_of(in);
  return drawn(paper, {BRepBuilderAPI_MakeEdge(gp_Circ(paper.axes, *diameter / 2)).Edge()});
}

// Its longer axis along X as it is turned.
Solutions ellipse(const Inputs& in) {
  const auto length = size(in, "length", "a length"), width = size(in, "width", "a width");
  if (!length) return refuse(length);
  if (!width) return refuse(width);
  gp_Ax2 axes = paper_of(in).axes;
  if (*length < *width) axes.Rotate(gp_Ax1(axes.Location(), axes.Direction()), kPi / 2);
  const double most = std::max(*length, *width), least = std::min(*length, *width);
  if (most - least < kLeastSize_mm)
    return drawn({axes}, {BRepBuilderAPI_MakeEdge(gp_Circ(axes, most / 2)).Edge()});
  return drawn({axes}, {BRepBuilderAPI_MakeEdge(gp_Elips(axes, most / 2, least / 2)).Edge()});
}

std::vector<TopoDS_Edge> closed(const std::vector<gp_Pnt>& corners) {
  std::vector<TopoDS_Edge> edges;
  for (size_t i = 0; i < corners.size(); ++i)
    edges.push_back(line(corners[i], corners[(i + 1) % corners.size()]));
  return edges;
}

Solutions rectangle(const Inputs& in) {
  const auto width = size(in, "width", "a width"), height = size(in, "height", "a height");
  if (!width) return refuse(width);
  if (!height) return refuse(height);
  const Paper paper = paper_of(in);
  const bool by_centre = in.choices.at("from") == "centre";
  const double x = by_centre ? -*width / 2 : 0, y = by_centre ? -*height / 2 : 0;
  return drawn(paper, closed({paper.at(x, y), paper.at(x + *width, y), paper.at(x + *width, y + *height),
                              paper.at(x, y + *height)}));
}

Solutions slot(const Inputs& in) {
  const auto length = size(in, "length", "a distance of the centres"), width = size(in, "width", "a width");
  if (!length) return refuse(length);
  if (!width) return refuse(width);
  const Paper paper = paper_of(in);
  const double l = *length / 2, r = *width / 2;
  const auto end = [&](double centre, double from_angle) {
    gp_Ax2 about = paper.axes;
    about.SetLocation(paper.at(centre, 0));
    return BRepBuilderAPI_MakeEdge(gp_Circ(about, r), from_angle, from_angle + kPi).Edge();
  };
  return drawn(paper, {line(paper.at(-l, -r), paper.at(l, -r)), end(l, -kPi / 2),
                       line(paper.at(l, r), paper.at(-l, r)), end(-l, kPi / 2)});
}

Solutions polygon(const Inputs& in) {
  const auto across = size(in, "across", "a size");
  if (!across) return refuse(across);
  const int sides = static_cast<int>(in.numbers.at("sides"));
  if (sides < 3)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("a polygon of {} sides cannot be drawn: from 3", sides));
  const double inner = *across / 2, half_side = kPi / sides;
  const double outer = in.choices.at("measured") == "across flats" ? inner / std::cos(half_side) : inner;
  const Paper paper = paper_of(in);
  std::vector<gp_Pnt> corners;
  for (int i = 0; i < sides; ++i) {
    const double angle = 2 * kPi * i / sides;
    corners.push_back(paper.at(outer * std::cos(angle), outer * std::sin(angle)));
  }
  return drawn(paper, closed(corners),
               fmt::format("sides of {}", format_length(2 * outer * std::sin(half_side), in.display)));
}

Solutions point_in_plane(const Inputs& in) {
  return one(PointDatum{paper_of(in).axes.Location()});
}

std::vector<Parameter> with_place(std::vector<Parameter> sizes, bool turns) {
  sizes.push_back({"x", "dX", Quantity::kLength, "0mm"});
  sizes.push_back({"y", "dY", Quantity::kLength, "0mm"});
  if (turns) sizes.push_back({"turn", "Turn", Quantity::kAngle, "0"});
  return sizes;
}

Construction on_plane(Makes makes, const char* id, const char* sentence, int rank,
                      std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters) {
  Construction c = described(makes, id, sentence, {Need::kPlane, Need::kPoint, Need::kFrame}, rank,
                             std::move(solve), std::move(parameters));
  c.reads_frame = true;
  c.own_colour = true;
  return c;
}

}  // namespace

Construction figure_point() {
  return on_plane(Makes::kPoint, "figure.point", "Point drawn in {1}, a step from {2} along {3}", 56,
                  point_in_plane, with_place({}, false));
}

Construction figure_line() {
  return on_plane(Makes::kFigure, "figure.line", "Line drawn in {1}, from a step from {2} along {3}", 57,
                  line_at_angle, with_place({{"length", "Length", Quantity::kLength, "20mm"}}, true));
}

Construction figure_line_between() {
  Construction c = described(Makes::kFigure, "figure.line-between", "Line drawn in {1} from {2} to {3}",
                             {Need::kPlane, Need::kPoint, Need::kPoint}, 52, line_between);
  c.ordered = true;
  c.own_colour = true;
  return c;
}

Construction figure_circle() {
  return on_plane(Makes::kFigure, "figure.circle", "Circle drawn in {1} round {2}, along {3}", 55, circle,
                  with_place({{"diameter", "Diameter", Quantity::kLength, "20mm"}}, false));
}

Construction figure_ellipse() {
  return on_plane(Makes::kFigure, "figure.ellipse", "Ellipse drawn in {1} round {2}, along {3}", 61, ellipse,
                  with_place({{"length", "Along X", Quantity::kLength, "30mm"},
                              {"width", "Along Y", Quantity::kLength, "20mm"}},
                             true));
}

Construction figure_rectangle() {
  return on_plane(Makes::kFigure, "figure.rectangle", "Rectangle drawn in {1} at {2}, along {3}", 58,
                  rectangle,
                  with_place({{"width", "Width", Quantity::kLength, "30mm"},
                              {"height", "Height", Quantity::kLength, "20mm"},
                              {"from", "Placed by", Quantity::kChoice, "centre", {"centre", "corner"}}},
                             true));
}

Construction figure_slot() {
  return on_plane(Makes::kFigure, "figure.slot", "Slot drawn in {1} at {2}, along {3}", 59, slot,
                  with_place({{"length", "Between centres", Quantity::kLength, "20mm"},
                              {"width", "Width", Quantity::kLength, "8mm"}},
                             true));
}

Construction figure_polygon() {
  Construction c = on_plane(
      Makes::kFigure, "figure.polygon", "Regular polygon drawn in {1} round {2}, along {3}", 60, polygon,
      with_place(
          {{"sides", "Sides", Quantity::kCount, "6"},
           {"across", "Size", Quantity::kLength, "20mm"},
           {"measured", "Size is", Quantity::kChoice, "across flats", {"across flats", "across corners"}}},
          true));
  c.kept_as = "Polygon";
  return c;
}

}  // namespace anvil
