#include <fmt/format.h>
#include <BRepTools.hxx>

#include "construct/families.h"
#include "construct/helpers.h"
#include "part/measure.h"

namespace anvil {
namespace {

// Straight outline edges of the face, longest first; directions follow no orientation, so they are turned
// towards the positive side of the axis they are nearest to.
std::optional<gp_Dir> longest_edge(const TopoDS_Shape& face) {
  double longest = 0;
  std::optional<gp_Dir> direction;
  for (TopExp_Explorer ex(BRepTools::OuterWire(TopoDS::Face(face)), TopAbs_EDGE); ex.More(); ex.Next()) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(ex.Current()));
    if (curve.GetType() != GeomAbs_Line) continue;
    const double length = curve.LastParameter() - curve.FirstParameter();
    if (length < longest + kExact.linear_mm) continue;
    longest = length;
    direction = curve.Line().Direction();
  }
  if (!direction) return direction;
  const gp_XYZ d = direction->XYZ();
  double largest = 0;
  for (int i = 1; i <= 3; ++i)
    if (std::abs(d.Coord(i)) > std::abs(largest) + 1e-9) largest = d.Coord(i);
  return largest < 0 ? direction->Reversed() : *direction;
}

struct Bounds {
  double x0 = 1e300, x1 = -1e300, y0 = 1e300, y1 = -1e300;
};

Bounds bounds_in(const gp_Ax2& frame, const TopoDS_Shape& face) {
  Bounds b;
  for (TopExp_Explorer ex(face, TopAbs_EDGE); ex.More(); ex.Next()) {
    const double x_shift = frame.Location().XYZ().Dot(frame.XDirection().XYZ()),
                 y_shift = frame.Location().XYZ().Dot(frame.YDirection().XYZ());
    const auto [xl, xh] = level_range(TopoDS::Edge(ex.Current()), frame.XDirection());
    const auto [yl, yh] = level_range(TopoDS::Edge(ex.Current()), frame.YDirection());
    b.x0 = std::min(b.x0, xl - x_shift);
    b.x1 = std::max(b.x1, xh - x_shift);
    b.y0 = std::min(b.y0, yl - y_shift);
    b.y1 = std::max(b.y1, yh - y_shift);
  }
  return b;
}

gp_Pnt zero_on_face(const std::string& where, const gp_Ax2& at, const TopoDS_Shape& face) {
  if (where == "area centroid") return area_properties(face).centroid;
  const Bounds b = bounds_in(at, face);
  double x = (b.x0 + b.x1) / 2, y = (b.y0 + b.y1) / 2;
  if (where == "corner −X −Y" || where == "corner −X +Y") x = b.x0;
  if (where == "corner +X −Y" || where == "corner +X +Y") x = b.x1;
  if (where == "corner −X −Y" || where == "corner +X −Y") y = b.y0;
  if (where == "corner −X +Y" || where == "corner +X +Y") y = b.y1;
  return at.Location().Translated(gp_Vec(at.XDirection()) * x + gp_Vec(at.YDirection()) * y);
}

// One frame a quarter turn after the other about Z, the preferred one first.
std::vector<Solution> quarter_turns(const gp_Ax2& frame) {
  static const char* const kKeys[] = {"turn-0", "turn-90", "turn-180", "turn-270"};
  std::vector<Solution> solutions;
  for (int i = 0; i < 4; ++i) {
    gp_Ax2 turned = frame;
    turned.Rotate(frame.Axis(), i * kPi / 2);
    solutions.push_back({FrameDatum{turned}, kKeys[i], i == 0 ? "" : fmt::format("turned {}°", 90 * i)});
  }
  return solutions;
}

Solutions face_frame(const Inputs& in) {
  const gp_Pln plane = *in[0].plane;
  const gp_Dir z = plane.Axis().Direction();
  const gp_Dir x = longest_edge(in[0].shape).value_or(gp_Dir(1, 0, 0));
  const gp_Ax2 at =
      make_frame(plane.Location(), z, in.choices.at("x") == "longest edge" ? x : gp_Dir(1, 0, 0));
  gp_Ax2 frame = at;
  frame.SetLocation(zero_on_face(in.choices.at("zero"), at, in[0].shape));
  return quarter_turns(frame);
}

Solutions three_point_frame(const Inputs& in) {
  const gp_Pnt &zero = *in[0].point, &towards = *in[1].point, &side = *in[2].point;
  const gp_Vec x(zero, towards), normal = x.Crossed(gp_Vec(zero, side));
  if (x.Magnitude() < kExact.linear_mm)
    return refuse(RefusalCode::kGeometry, "{1} and {2} are the same point: X has no direction");
  const double off = normal.Magnitude() / x.Magnitude();
  if (off < kExact.linear_mm) {
    Refusal refusal{
        RefusalCode::kGeometry,
        fmt::format("{{3}} lies on the line through {{1}} and {{2}} (within {:.6f} mm): Z has no direction",
                    off)};
    refusal.facts["off_line_mm"] = off;
    return refuse(refusal);
  }
  const gp_Ax2 up(zero, gp_Dir(normal), gp_Dir(x)), down(zero, gp_Dir(normal).Reversed(), gp_Dir(x));
  return std::vector<Solution>{{FrameDatum{up}, "z-up", ""},
                               {FrameDatum{down}, "z-down", "Z to the other side"}};
}

}  // namespace

Construction frame_on_face() {
  Construction c;
  c.id = "frame.on-face";
  c.makes = Makes::kFrame;
  c.sentence = "Frame on {1}, Z out of it";
  c.roles = {Need::kFlatFace};
  c.rank = 16;
  c.parameters = {
      {"zero",
       "Zero at",
       Quantity::kChoice,
       "box centre",
       {"box centre", "area centroid", "corner −X −Y", "corner +X −Y", "corner +X +Y", "corner −X +Y"}},
      {"x", "X along", Quantity::kChoice, "longest edge", {"longest edge", "X of the part"}},
      work_offset_parameter()};
  c.solve = face_frame;
  return c;
}

Construction frame_of_three_points() {
  Construction c;
  c.id = "frame.three-points";
  c.makes = Makes::kFrame;
  c.sentence = "Frame: zero at {1}, X towards {2}, {3} on the +Y side";
  c.roles = {Need::kPoint, Need::kPoint, Need::kPoint};
  c.rank = 12;
  c.parameters = {work_offset_parameter()};
  c.solve = three_point_frame;
  return c;
}

}  // namespace anvil
