#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"
#include "part/measure.h"

namespace anvil {
namespace {

gp_Pnt zero_on_face(const std::string& where, const gp_Ax2& at, const TopoDS_Shape& face) {
  if (where == "area centroid") return area_properties(face).centroid;
  const bool is_corner = where.rfind("corner", 0) == 0;
  const double x = is_corner ? (where.find("+X") != std::string::npos ? 1 : 0) : 0.5,
               y = is_corner ? (where.find("+Y") != std::string::npos ? 1 : 0) : 0.5;
  return bounds_of(face, at).at(x, y);
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
  const gp_Dir x = longest_edge(TopoDS::Face(in[0].shape)).value_or(gp_Dir(1, 0, 0));
  const gp_Ax2 at =
      make_frame(plane.Location(), z, in.choices.at("x") == "longest edge" ? x : gp_Dir(1, 0, 0));
  gp_Ax2 frame = at;
  frame.SetLocation(zero_on_face(in.choices.at("zero"), at, in[0].shape));
  return quarter_turns(frame);
}

Solutions three_point_frame(const Inputs& in) {
  const gp_Pnt &zero = *in[0].point, &towards = *in[1].point, &side = *in[2].point;
  const gp_Vec x(zero, towards), normal = x.Crossed(gp_Vec(zero, side));
  if (x.Magnitude() < in.tolerance.linear_mm)
    return refuse(RefusalCode::kGeometry, "{1} and {2} are the same point: X has no direction");
  const double off = normal.Magnitude() / x.Magnitude();
  if (off < in.tolerance.linear_mm) {
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
