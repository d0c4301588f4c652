// Planes that lie on a pick, parallel to it, or square to it.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

Solutions plane_itself(const Inputs& in) {
  return one(drawn_plane(*in[0].plane, in[0].extent), fitted_text(in[0], in.display));
}

// Several: each a step farther than the one before.
Solutions offset(const Inputs& in) {
  const double step = in.numbers.at("distance");
  const auto count = static_cast<int>(in.numbers.at("count"));
  std::vector<Solution> solutions;
  for (int i = 1; i <= count; ++i) {
    const gp_Pln plane = in[0].plane->Translated(gp_Vec(in[0].plane->Axis().Direction()) * (i * step));
    solutions.push_back({drawn_plane(plane, extents(in)), i == 1 ? "only" : fmt::format("copy-{}", i),
                         i == 1 ? "" : fmt::format("{} away", format_length(i * step, in.display))});
  }
  return solutions;
}

Solutions parallel_through(const Inputs& in) {
  const double height = height_over(*in[1].plane, *in[0].point);
  const gp_Pln plane = in[1].plane->Translated(gp_Vec(in[1].plane->Axis().Direction()) * height);
  return one(drawn_plane(plane, extents(in)), format_length(height, in.display) + " from {2}");
}

Solutions square_to_line(const Inputs& in) {
  return one(drawn_plane(plane_at(*in[0].point, in[1].axis->Direction()), extents(in)));
}

Solutions square_to_curve(const Result<PlaceOnEdge>& place) {
  if (!place) return refuse(place);
  return one(drawn_plane(plane_at(place->point, place->along), {place->point}));
}

Solutions square_along_curve(const Inputs& in) {
  return square_to_curve(place_along(TopoDS::Edge(in[0].shape), in.numbers.at("ratio")));
}

Solutions square_to_curve_at_point(const Inputs& in) {
  return square_to_curve(nearest_on_edge(TopoDS::Edge(in[0].shape), *in[1].point));
}

Solutions touching_where_clicked(const Inputs& in) {
  if (!in[0].clicked) return refused("where on {1} is not known: point at the place on it");
  auto place = nearest_on_face(TopoDS::Face(in[0].shape), *in[0].clicked);
  if (!place) return refuse(place);
  return one(drawn_plane(plane_at(place->point, place->normal), {place->point}));
}

Solutions as_seen(const Inputs& in) {
  const std::string& text = in.choices.at("towards");
  auto towards = direction_from(text);
  if (!towards) return refuse(towards);
  return one(drawn_plane(plane_at(*in[0].point, *towards), in[0].extent));
}

}  // namespace

Construction plane_on_face() {
  Construction c =
      described(Makes::kPlane, "plane.on-face", "Plane on {1}", {Need::kPlane}, 14, plane_itself);
  return c;
}

Construction plane_offset() {
  Construction c = described(
      Makes::kPlane, "plane.offset", "Plane offset from {1}", {Need::kPlane}, 18, offset,
      {{"distance", "Distance", Quantity::kLength, "10mm"}, {"count", "Count", Quantity::kCount, "1"}});
  c.steps_per_copy = {"distance"};
  return c;
}

Construction plane_parallel_through() {
  return described(Makes::kPlane, "plane.parallel-through", "Plane through {1} parallel to {2}",
                   {Need::kPoint, Need::kPlane}, 11, parallel_through);
}

Construction plane_square_to_line() {
  Construction c = described(Makes::kPlane, "plane.square-to-line", "Plane through {1} square to {2}",
                             {Need::kPoint, Need::kAxis}, 15, square_to_line);
  return c;
}

Construction plane_square_along_curve() {
  return described(Makes::kPlane, "plane.square-along-edge",
                   "Plane square to edge {1}, at a ratio of its length", {Need::kEdge}, 31,
                   square_along_curve, {{"ratio", "Ratio", Quantity::kRatio, "0.5"}});
}

Construction plane_square_to_curve_at_point() {
  Construction c = described(Makes::kPlane, "plane.square-to-edge", "Plane square to edge {1} nearest to {2}",
                             {Need::kEdge, Need::kPoint}, 17, square_to_curve_at_point);
  // Along a straight edge the plane through the point says the same.
  c.rank_for = [](const Inputs& in) {
    return in[0].is_straight_edge ? 60 : lies_on_edge(in[0], *in[1].point) ? 13 : 28;
  };
  return c;
}

Construction plane_touching_where_clicked() {
  Construction c =
      described(Makes::kPlane, "plane.touching-where-clicked", "Plane touching {1} at the place clicked",
                {Need::kFace}, 26, touching_where_clicked);
  c.rank_for = [](const Inputs& in) { return in[0].plane ? 62 : 26; };
  return c;
}

Construction plane_as_seen() {
  return described(Makes::kPlane, "plane.as-seen", "Plane through {1}, facing the direction of view",
                   {Need::kPoint}, 36, as_seen, {{"towards", "Towards", Quantity::kView, "0, 0, 1"}});
}

}  // namespace anvil
