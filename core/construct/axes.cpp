// Axes that lie on picks, or through them.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

Solutions axis_itself(const Inputs& in) {
  return one(drawn_axis(*in[0].axis, in[0].extent), fitted_text(in[0], in.display));
}

Solutions where_planes_cross(const Inputs& in) {
  const std::vector<gp_Pnt> around = extents(in);
  auto axis = crossing(*in[0].plane, *in[1].plane, around.empty() ? in[0].plane->Location() : around.front(),
                       in.tolerance.angular_rad);
  if (!axis) return refuse(axis);
  return one(drawn_axis(*axis, around));
}

Solutions through_points(const Inputs& in, const gp_Pnt& a, const gp_Pnt& b) {
  const double apart = a.Distance(b);
  if (apart < in.tolerance.linear_mm)
    return refused(fmt::format("the two points are the same within {:.6f} mm: they give no direction", apart),
                   {{"distance_mm", apart}});
  return one(drawn_axis(gp_Ax1(a, gp_Dir(gp_Vec(a, b))), {a, b}), format_length(apart, in.display) + " long");
}

Solutions through_spots(const Inputs& in) {
  return through_points(in, spot_of(in[0]), spot_of(in[1]));
}

Solutions through_typed(const Inputs& in) {
  const gp_Trsf out = into_frame(*in[0].frame).Inverted();
  const auto typed = [&](const char* x, const char* y, const char* z) {
    return gp_Pnt(in.numbers.at(x), in.numbers.at(y), in.numbers.at(z)).Transformed(out);
  };
  return through_points(in, typed("x1", "y1", "z1"), typed("x2", "y2", "z2"));
}

Solutions square_to_plane(const Inputs& in) {
  return one(drawn_axis(gp_Ax1(*in[0].point, in[1].plane->Axis().Direction()), extents(in)));
}

Solutions square_to_face(const Inputs& in) {
  auto place = nearest_on_face(TopoDS::Face(in[1].shape), *in[0].point);
  if (!place) return refuse(place);
  const double off = place->point.Distance(*in[0].point);
  return one(drawn_axis(gp_Ax1(place->point, place->normal), {*in[0].point, place->point}),
             off > in.tolerance.linear_mm ? format_length(off, in.display) + " from {1}" : "");
}

Solutions square_where_clicked(const Inputs& in) {
  if (!in[0].clicked) return refused("where on {1} is not known: point at the place on it");
  auto place = nearest_on_face(TopoDS::Face(in[0].shape), *in[0].clicked);
  if (!place) return refuse(place);
  return one(drawn_axis(gp_Ax1(place->point, place->normal), {place->point}));
}

Solutions parallel_through(const Inputs& in) {
  return one(drawn_axis(gp_Ax1(*in[0].point, *in[1].direction), extents(in)));
}

Solutions projected(const Inputs& in) {
  const gp_Ax1& axis = *in[0].axis;
  const gp_Vec along(axis.Direction()), normal(in[1].plane->Axis().Direction());
  const gp_Vec flat = along - normal * along.Dot(normal);
  if (flat.Magnitude() < in.tolerance.angular_rad)
    return refused("{1} stands square to {2}: projected it is a point, no axis", {}, "point.axis-plane");
  return one(drawn_axis(gp_Ax1(foot_on(*in[1].plane, axis.Location()), gp_Dir(flat)), in[0].extent));
}

Solutions tangent_at(const Inputs& in) {
  auto place = nearest_on_edge(TopoDS::Edge(in[0].shape), *in[1].point);
  if (!place) return refuse(place);
  const double off = place->point.Distance(*in[1].point);
  return one(drawn_axis(gp_Ax1(place->point, place->along), in[0].extent),
             off > in.tolerance.linear_mm ? format_length(off, in.display) + " from {2}" : "");
}

std::vector<Parameter> two_typed_points() {
  std::vector<Parameter> parameters;
  for (const char* end : {"1", "2"})
    for (const char* axis : {"x", "y", "z"})
      parameters.push_back({axis + std::string(end),
                            (*end == '1' ? "From " : "To ") + std::string(1, static_cast<char>(axis[0] - 32)),
                            Quantity::kLength, *end == '2' && *axis == 'z' ? "10mm" : "0mm"});
  return parameters;
}

}  // namespace

Construction axis_of() {
  return described(Makes::kAxis, "axis.of", "Axis of {1}", {Need::kRevolution}, 12, axis_itself);
}

Construction axis_along_edge() {
  return described(Makes::kAxis, "axis.along-edge", "Axis along edge {1}", {Need::kStraightEdge}, 12,
                   axis_itself);
}

Construction axis_of_two_planes() {
  return described(Makes::kAxis, "axis.of-two-planes", "Axis where {1} and {2} cross",
                   {Need::kPlane, Need::kPlane}, 20, where_planes_cross);
}

Construction axis_of_two_points() {
  return described(Makes::kAxis, "axis.two-points", "Axis from {1} to {2}", {Need::kSpot, Need::kSpot}, 14,
                   through_spots);
}

Construction axis_typed() {
  Construction c = described(Makes::kAxis, "axis.typed", "Axis between two points typed in {1}",
                             {Need::kFrame}, 40, through_typed, two_typed_points());
  c.reads_frame = true;
  return c;
}

Construction axis_square_to_plane() {
  return described(Makes::kAxis, "axis.square-to-plane", "Axis through {1} square to {2}",
                   {Need::kPoint, Need::kPlane}, 16, square_to_plane);
}

Construction axis_square_to_face() {
  Construction c = described(Makes::kAxis, "axis.square-to-face", "Axis through {1} square to face {2} there",
                             {Need::kPoint, Need::kFace}, 19, square_to_face);
  // On a flat face the axis square to its plane says the same.
  c.rank_for = [](const Inputs& in) { return in[1].plane ? 60 : 19; };
  return c;
}

Construction axis_where_clicked() {
  return described(Makes::kAxis, "axis.square-where-clicked", "Axis square to {1} at the place clicked",
                   {Need::kFace}, 42, square_where_clicked);
}

Construction axis_parallel() {
  return described(Makes::kAxis, "axis.parallel", "Axis through {1} parallel to {2}",
                   {Need::kPoint, Need::kDirection}, 18, parallel_through);
}

Construction axis_projected() {
  return described(Makes::kAxis, "axis.projected", "Axis {1} projected on {2}", {Need::kAxis, Need::kPlane},
                   25, projected);
}

Construction axis_tangent() {
  Construction c = described(Makes::kAxis, "axis.tangent", "Axis touching edge {1} at {2}",
                             {Need::kEdge, Need::kPoint}, 18, tangent_at);
  c.rank_for = [](const Inputs& in) {
    return in[0].is_straight_edge ? 60 : lies_on_edge(in[0], *in[1].point) ? 14 : 29;
  };
  return c;
}

}  // namespace anvil
