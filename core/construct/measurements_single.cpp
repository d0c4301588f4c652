// What can be measured on one pick.
#include <fmt/format.h>
#include <GCPnts_AbscissaPoint.hxx>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"
#include "part/measure.h"

namespace anvil {
namespace {

using Kind = Measurement::Kind;

Solutions place(const Inputs& in) {
  const gp_Ax2& frame = *in[1].frame;
  const gp_Pnt p = read_in(frame, *in[0].point);
  return one(
      Measurement{
          Kind::kDistance,
          in[0].point->Distance(frame.Location()),
          frame.Location(),
          *in[0].point,
          {{"x", Kind::kDistance, p.X()}, {"y", Kind::kDistance, p.Y()}, {"z", Kind::kDistance, p.Z()}}},
      fmt::format("X {}  Y {}  Z {}", format_length(p.X(), in.display), format_length(p.Y(), in.display),
                  format_length(p.Z(), in.display)));
}

Solutions area(const Inputs& in) {
  const AreaProperties properties = area_of(in[0]);
  Measurement m{Kind::kArea, properties.area_mm2, properties.centroid, properties.centroid};
  const Surface& s = *in[0].surface;
  if (s.kind == SurfaceKind::kCylinder || s.kind == SurfaceKind::kSphere)
    m.details.push_back({"radius", Kind::kDistance, s.radius_mm});
  if (s.kind == SurfaceKind::kTorus) m.details.push_back({"radius", Kind::kDistance, s.minor_mm});
  if (s.kind == SurfaceKind::kCone)
    m.details.push_back({"included", Kind::kAngle, 2 * std::abs(s.semi_angle_rad)});
  return one(m, measurement_text(m, in.display));
}

// How far the wall leans from the tool axis, which is the Z of the frame; positive opens towards the tool.
Solutions draft(const Inputs& in) {
  const gp_Dir z = in[1].frame->Direction();
  const Surface& s = *in[0].surface;
  if (s.kind == SurfaceKind::kCylinder || s.kind == SurfaceKind::kCone) {
    if (!parallel(s.position.Direction(), z, 1e-4))
      return refused("the axis of {1} is not along Z: its draft differs from place to place", {},
                     "measure.angle");
    const Measurement m{Kind::kAngle, std::abs(s.semi_angle_rad), in[0].extent.front(), in[0].extent.front()};
    return one(m, measurement_text(m, in.display));
  }
  if (!in[0].plane) return refused("the draft of {1} differs from place to place");
  const double lean = std::asin(std::clamp(in[0].plane->Axis().Direction().Dot(z), -1.0, 1.0));
  const gp_Pnt at = in[0].extent.front();
  const Measurement m{Kind::kAngle, lean, at, at};
  return one(m, measurement_text(m, in.display));
}

Solutions length(const Inputs& in) {
  const TopoDS_Edge& edge = TopoDS::Edge(in[0].shape);
  const BRepAdaptor_Curve curve(edge);
  Measurement m{Kind::kDistance, GCPnts_AbscissaPoint::Length(curve), curve.Value(curve.FirstParameter()),
                curve.Value(curve.LastParameter())};
  if (in[0].is_circular_edge) m.details.push_back({"radius", Kind::kDistance, m.from.Distance(*in[0].point)});
  return one(m, measurement_text(m, in.display));
}

Solutions body(const Inputs& in) {
  const bool mesh = in[0].region || (in[0].surface && in[0].surface->kind == SurfaceKind::kMesh);
  const auto [properties, area] = mesh ? mesh_shape_properties(in[0].body) : shape_properties(in[0].body);
  const gp_Ax2& frame = *in[1].frame;
  const gp_Pnt centroid = read_in(frame, properties.centroid);
  const gp_XYZ size = exact_box(in[0].body, into_frame(frame)).size();
  const Measurement m{Kind::kVolume,
                      properties.volume_mm3,
                      properties.centroid,
                      properties.centroid,
                      {{"area", Kind::kArea, area.area_mm2},
                       {"x", Kind::kDistance, centroid.X()},
                       {"y", Kind::kDistance, centroid.Y()},
                       {"z", Kind::kDistance, centroid.Z()},
                       {"length", Kind::kDistance, size.X()},
                       {"width", Kind::kDistance, size.Y()},
                       {"height", Kind::kDistance, size.Z()}}};
  return one(m, measurement_text(m, in.display));
}

}  // namespace

Construction measure_place() {
  Construction c =
      measuring("measure.place", "Coordinates of {1} in {2}", {Need::kPoint, Need::kFrame}, 20, place);
  c.kept_as = "Place";
  c.reads_frame = true;
  return c;
}

Construction measure_face() {
  return measuring("measure.face", "Area and radius of {1}", {Need::kFace}, 34, area);
}

Construction measure_draft() {
  Construction c =
      measuring("measure.draft", "Draft of {1} against Z of {2}", {Need::kFace, Need::kFrame}, 38, draft);
  c.reads_frame = true;
  return c;
}

Construction measure_edge() {
  return measuring("measure.edge", "Length and radius of {1}", {Need::kEdge}, 28, length);
}

Construction measure_body() {
  Construction c = measuring("measure.body", "Volume, area, centroid and box of the body of {1}, in {2}",
                             {Need::kOfBody, Need::kFrame}, 50, body);
  c.reads_frame = true;
  c.takes_time = true;
  return c;
}

}  // namespace anvil
