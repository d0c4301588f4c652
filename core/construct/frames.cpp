// Frames on faces, planes, holes, edges and what is seen.
#include <fmt/format.h>
#include <TopoDS.hxx>

#include "construct/families.h"
#include "construct/frame_helpers.h"
#include "construct/on_part.h"
#include "part/measure.h"

namespace anvil {
namespace {

const char* const kLongestEdge = "longest edge";

gp_Pnt zero_on_face(const std::string& where, const gp_Ax2& at, const Given& face, const gp_Ax2& reading) {
  if (where == "area centroid") return area_properties(face.shape).centroid;
  if (where == "reading frame's zero") return foot_on(*face.plane, reading.Location());
  const bool is_corner = where.rfind("corner", 0) == 0;
  const double x = is_corner ? (where.find("+X") != std::string::npos ? 1 : 0) : 0.5,
               y = is_corner ? (where.find("+Y") != std::string::npos ? 1 : 0) : 0.5;
  return bounds_of(face.shape, at).at(x, y);
}

Parameter zero_parameter() {
  return {"zero",
          "Zero at",
          Quantity::kChoice,
          "box centre",
          {"box centre", "area centroid", "corner −X −Y", "corner +X −Y", "corner +X +Y", "corner −X +Y",
           "reading frame's zero"}};
}

Parameter x_parameter() {
  return {"x", "X along", Quantity::kChoice, kLongestEdge, {kLongestEdge, "X of the reading frame"}};
}

gp_Dir x_on(const Inputs& in, const Given& plane, const gp_Ax2& reading) {
  if (in.choices.at("x") != kLongestEdge || !gives(plane, Need::kFlatFace)) return reading.XDirection();
  return longest_edge(TopoDS::Face(plane.shape)).value_or(reading.XDirection());
}

Solutions on_face(const Inputs& in) {
  const gp_Ax2& reading = *in[1].frame;
  const gp_Ax2 at =
      make_frame(in[0].plane->Location(), in[0].plane->Axis().Direction(), x_on(in, in[0], reading));
  return quarter_turns(moved_to(at, zero_on_face(in.choices.at("zero"), at, in[0], reading)));
}

Solutions on_face_at(const Inputs& in) {
  return quarter_turns(make_frame(foot_on(*in[0].plane, *in[1].point), in[0].plane->Axis().Direction(),
                                  x_on(in, in[0], *in[2].frame)));
}

// Refuses a line square to the plane: it has no direction in it.
Result<gp_Dir> along_in(const gp_Pln& plane, const gp_Dir& along, const Inputs& in, const char* line) {
  if (acute_angle(plane.Axis().Direction(), along) > in.tolerance.angular_rad)
    return square_to(plane.Axis().Direction(), along);
  return refused(fmt::format("{} is square to {{1}}: X has no direction in it", line));
}

Solutions on_face_along(const Inputs& in) {
  const auto x = along_in(*in[0].plane, in[1].axis->Direction(), in, "{2}");
  if (!x) return refuse(x);
  const gp_Ax2 at = make_frame(in[0].plane->Location(), in[0].plane->Axis().Direction(), *x);
  return quarter_turns(moved_to(at, zero_on_face(in.choices.at("zero"), at, in[0], *in[2].frame)));
}

// 3-2-1: three points of support (the plane), two (the line), one (the point).
Solutions plane_line_point(const Inputs& in) {
  const auto x = along_in(*in[0].plane, in[1].axis->Direction(), in, "{2}");
  if (!x) return refuse(x);
  return quarter_turns(make_frame(foot_on(*in[0].plane, *in[2].point), in[0].plane->Axis().Direction(), *x));
}

// A datum reference frame: Z out of A, X out of B, zero where all three meet.
Solutions three_planes(const Inputs& in) {
  const gp_Pln &a = *in[0].plane, &b = *in[1].plane, &c = *in[2].plane;
  const auto line = crossing(a, b, c.Location(), in.tolerance.angular_rad);
  if (!line) return refuse(line);
  const double lean = angle_to_plane(line->Direction(), c);
  if (lean < in.tolerance.angular_rad)
    return refused("{3} is parallel to the line where {1} and {2} cross: they share no point",
                   {{"distance_mm", std::abs(height_over(c, line->Location()))}});
  const double along = -height_over(c, line->Location()) / line->Direction().Dot(c.Axis().Direction());
  return quarter_turns(make_frame(line->Location().Translated(gp_Vec(line->Direction()) * along),
                                  a.Axis().Direction(), b.Axis().Direction()));
}

Solutions of_hole(const Inputs& in) {
  return quarter_turns(make_frame(in[0].hole->opening, in[0].hole->out, in[1].frame->XDirection()));
}

Solutions hole_to_hole(const Inputs& in) {
  const gp_Pnt zero = in[0].hole->opening;
  const gp_Vec towards(zero, in[1].hole->opening);
  const gp_Vec across = towards - gp_Vec(in[0].hole->out) * towards.Dot(gp_Vec(in[0].hole->out));
  if (across.Magnitude() < in.tolerance.linear_mm)
    return refused(fmt::format("{{2}} lies on the axis of {{1}} (within {}): X has no direction",
                               format_length(across.Magnitude(), in.display)),
                   {{"distance_mm", across.Magnitude()}}, "frame.of-hole");
  return quarter_turns(make_frame(zero, in[0].hole->out, gp_Dir(across)));
}

Solutions along_curve(const Inputs& in) {
  const auto place = nearest_on_edge(TopoDS::Edge(in[0].shape), *in[1].point);
  if (!place) return refuse(place);
  return quarter_turns(make_frame(place->point, place->along, in[2].frame->XDirection()));
}

Solutions as_seen(const Inputs& in) {
  const auto towards = direction_from(in.choices.at("towards")),
             right = direction_from(in.choices.at("right"));
  if (!towards) return refuse(towards);
  if (!right) return refuse(right);
  return quarter_turns(make_frame(*in[0].point, *towards, *right));
}

Construction reading(Construction c) {
  c.reads_frame = true;
  return c;
}

Construction ordered(Construction c) {
  c.ordered = true;
  return c;
}

}  // namespace

Construction frame_on_face() {
  return reading(framing("frame.on-face", "Frame on {1}, Z out of it", {Need::kFlatFace, Need::kFrame}, 16,
                         on_face, {zero_parameter(), x_parameter()}));
}

Construction frame_on_face_at() {
  return reading(framing("frame.on-face-at", "Frame on {1}, zero at {2}, Z out of it",
                         {Need::kPlane, Need::kPoint, Need::kFrame}, 22, on_face_at, {x_parameter()}));
}

Construction frame_on_face_along() {
  return reading(framing("frame.on-face-along", "Frame on {1}, Z out of it, X along {2}",
                         {Need::kFlatFace, Need::kStraightEdge, Need::kFrame}, 22, on_face_along,
                         {zero_parameter()}));
}

Construction frame_of_plane_line_point() {
  return framing("frame.plane-line-point", "Frame: Z out of {1}, X along {2}, zero at {3}",
                 {Need::kPlane, Need::kAxis, Need::kPoint}, 9, plane_line_point);
}

Construction frame_of_three_planes() {
  return ordered(framing("frame.three-planes",
                         "Frame where {1}, {2} and {3} meet, Z out of {1}, X out of {2}",
                         {Need::kPlane, Need::kPlane, Need::kPlane}, 13, three_planes));
}

Construction frame_of_hole() {
  return reading(framing("frame.of-hole", "Frame at the opening of hole {1}, Z out of it",
                         {Need::kHole, Need::kFrame}, 17, of_hole));
}

Construction frame_of_hole_to_hole() {
  return ordered(framing("frame.hole-to-hole", "Frame at the opening of hole {1}, X towards hole {2}",
                         {Need::kHole, Need::kHole}, 18, hole_to_hole));
}

Construction frame_along_curve() {
  return reading(framing("frame.along-curve", "Frame with Z along {1}, at {2}",
                         {Need::kEdge, Need::kPoint, Need::kFrame}, 32, along_curve));
}

Construction frame_as_seen() {
  return framing("frame.as-seen", "Frame at {1}, as it is seen now: Z towards you, X to the right",
                 {Need::kPoint}, 37, as_seen,
                 {{"towards", "Towards you", Quantity::kView, "0, 0, 1"},
                  {"right", "To the right", Quantity::kView, "1, 0, 0"}});
}

}  // namespace anvil
