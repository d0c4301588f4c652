// Points that lie on a single pick.
#include <fmt/format.h>
#include <BRepAdaptor_Curve.hxx>
#include <GCPnts_AbscissaPoint.hxx>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

Solutions at_ratio(const Inputs& in) {
  auto point = place_along(TopoDS::Edge(in[0].shape), in.numbers.at("ratio"));
  if (!point) return refuse(point);
  return one(PointDatum{point->point});
}

Solutions at_length(const Inputs& in) {
  const TopoDS_Edge& edge = TopoDS::Edge(in[0].shape);
  const double length = in.numbers.at("length"),
               whole = GCPnts_AbscissaPoint::Length(BRepAdaptor_Curve(edge));
  if (length < 0 || length > whole)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("{} lies off the edge: it is {} long", format_length(length, in.display),
                              format_length(whole, in.display)));
  auto from_start = place_along(edge, length / whole), from_end = place_along(edge, 1 - length / whole);
  if (!from_start) return refuse(from_start);
  if (!from_end) return refuse(from_end);
  return std::vector<Solution>{{PointDatum{from_start->point}, "from-start", ""},
                               {PointDatum{from_end->point}, "from-end", "from its other end"}};
}

Solutions middle_or_tip(const Inputs& in) {
  const Surface& s = *in[0].surface;
  const std::string fitted = fitted_text(in[0], in.display);
  if (s.kind != SurfaceKind::kCone) return one(PointDatum{s.position.Location()}, fitted);
  return one(PointDatum{tip_of(s)}, "tip of the cone" + (fitted.empty() ? "" : ", " + fitted));
}

Solutions middles_of_face(const Inputs& in) {
  const gp_Pln plane = *in[0].plane;
  const FaceBounds box = bounds_of(in[0].shape, face_frame_of(in[0]));
  return std::vector<Solution>{{PointDatum{area_of(in[0]).centroid}, "centroid", "centroid of its area"},
                               {PointDatum{foot_on(plane, box.at(0.5, 0.5))}, "box", "middle of its box"}};
}

Solutions ends_of_hole(const Inputs& in) {
  const HoleEnds& hole = *in[0].hole;
  return std::vector<Solution>{
      {PointDatum{hole.opening}, "opening", "at its opening"},
      {PointDatum{hole.bottom}, "bottom", hole.through ? "at its other opening" : "at its bottom"}};
}

}  // namespace

Construction point_at() {
  Construction c = described(Makes::kPoint, "point.at", "Point at {1}", {Need::kPoint}, 10,
                             [](const Inputs& in) { return one(PointDatum{*in[0].point}); });
  c.rank_for = [](const Inputs& in) { return in[0].is_circular_edge ? 16 : 10; };
  return c;
}

Construction point_on_edge() {
  return described(Makes::kPoint, "point.on-edge", "Point along edge {1}, at a ratio of its length",
                   {Need::kEdge}, 30, at_ratio, {{"ratio", "Ratio", Quantity::kRatio, "0.5"}});
}

Construction point_on_edge_at_length() {
  return described(Makes::kPoint, "point.on-edge-length", "Point along edge {1}, at a length from its end",
                   {Need::kEdge}, 32, at_length, {{"length", "Length", Quantity::kLength, "0mm"}});
}

Construction point_centre() {
  return described(Makes::kPoint, "point.centre", "Centre or tip of {1}", {Need::kCentred}, 20,
                   middle_or_tip);
}

Construction point_of_face() {
  return described(Makes::kPoint, "point.face-middle", "Middle of face {1}", {Need::kFlatFace}, 28,
                   middles_of_face);
}

Construction point_of_hole() {
  return described(Makes::kPoint, "point.hole-end", "Centre of hole {1}, at its opening or bottom",
                   {Need::kHole}, 14, ends_of_hole);
}

}  // namespace anvil
