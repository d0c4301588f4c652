#include "construct/on_part.h"

#include <fmt/format.h>

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <GeomLib.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <map>
#include <mutex>

#include "construct/helpers.h"
#include "geom/coordinate.h"
#include "part/along_curve.h"
#include "part/edge_info.h"
#include "part/outer_wire.h"

namespace anvil {
namespace {

Result<PlaceOnEdge> place_at(const BRepAdaptor_Curve& curve, double parameter) {
  PlaceOnEdge place;
  gp_Vec along;
  curve.D1(parameter, place.point, along);
  if (along.Magnitude() < 1e-12) return refused("the edge has no direction there");
  place.along = gp_Dir(along);
  return place;
}

}  // namespace

Result<PlaceOnEdge> place_along(const TopoDS_Edge& edge, double ratio) {
  if (ratio < 0 || ratio > 1)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("the ratio {:.4g} lies off the edge: give 0 to 1", ratio));
  const BRepAdaptor_Curve curve(edge);
  const auto at = parameter_at_share(curve, ratio);
  if (!at) return refused("the length of the edge cannot be measured");
  return place_at(curve, *at);
}

Result<PlaceOnEdge> nearest_on_edge(const TopoDS_Edge& edge, const gp_Pnt& to) {
  const BRepExtrema_DistShapeShape extrema(BRepBuilderAPI_MakeVertex(to).Shape(), edge);
  if (!extrema.IsDone() || extrema.NbSolution() == 0) return refused("no place of the edge is nearest");
  const BRepAdaptor_Curve curve(edge);
  double parameter = 0;
  if (extrema.SupportTypeShape2(1) == BRepExtrema_IsOnEdge)
    extrema.ParOnEdgeS2(1, parameter);
  else
    parameter = curve.Value(curve.FirstParameter()).Distance(extrema.PointOnShape2(1)) <
                        curve.Value(curve.LastParameter()).Distance(extrema.PointOnShape2(1))
                    ? curve.FirstParameter()
                    : curve.LastParameter();
  return place_at(curve, parameter);
}

bool lies_on_edge(const Given& edge, const gp_Pnt& point) {
  const auto nearest = nearest_on_edge(TopoDS::Edge(edge.shape), point);
  return nearest && nearest->point.Distance(point) < kExact.linear_mm;
}

Result<PlaceOnFace> nearest_on_face(const TopoDS_Face& face, const gp_Pnt& to) {
  const BRepExtrema_DistShapeShape extrema(BRepBuilderAPI_MakeVertex(to).Shape(), face);
  if (!extrema.IsDone() || extrema.NbSolution() == 0) return refused("no place of the face is nearest");
  PlaceOnFace place;
  place.point = extrema.PointOnShape2(1);
  const Handle(ShapeAnalysis_Surface) surface = new ShapeAnalysis_Surface(BRep_Tool::Surface(face));
  const gp_Pnt2d uv = surface->ValueOfUV(place.point, 1e-7);
  if (outward_normal(face, uv.X(), uv.Y(), place.normal)) return place;
  // At a pole the parameters say nothing, but the surface may still be smooth.
  constexpr int kDetermined = 1;
  if (GeomLib::NormEstim(surface->Surface(), uv, 1e-7, place.normal) > kDetermined)
    return refused("the face has no normal there");
  if (face.Orientation() == TopAbs_REVERSED) place.normal.Reverse();
  return place;
}

std::optional<gp_Dir> longest_edge(const TopoDS_Face& face) {
  double longest = 0;
  std::optional<gp_Dir> direction;
  for (TopExp_Explorer ex(outer_wire(face), TopAbs_EDGE); ex.More(); ex.Next()) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(ex.Current()));
    if (curve.GetType() != GeomAbs_Line) continue;
    const double length = curve.LastParameter() - curve.FirstParameter();
    if (length < longest + kExact.linear_mm) continue;
    longest = length;
    direction = curve.Line().Direction();
  }
  if (!direction) return direction;
  double largest = 0;
  for (int axis = 0; axis < 3; ++axis)
    if (std::abs(coordinate(*direction, axis)) > std::abs(largest) + 1e-9)
      largest = coordinate(*direction, axis);
  return largest < 0 ? direction->Reversed() : *direction;
}

gp_Pnt FaceBounds::at(double x_share, double y_share) const {
  return frame.Location().Translated(gp_Vec(frame.XDirection()) * (x0 + (x1 - x0) * x_share) +
                                     gp_Vec(frame.YDirection()) * (y0 + (y1 - y0) * y_share));
}

FaceBounds bounds_of(const TopoDS_Shape& face, const gp_Ax2& frame) {
  FaceBounds b;
  b.frame = frame;
  const double x_shift = frame.Location().XYZ().Dot(frame.XDirection().XYZ()),
               y_shift = frame.Location().XYZ().Dot(frame.YDirection().XYZ());
  // Of a flat face the outline that holds the others is enough.
  const bool flat = face.ShapeType() == TopAbs_FACE &&
                    BRepAdaptor_Surface(TopoDS::Face(face), false).GetType() == GeomAbs_Plane;
  const TopoDS_Shape around = flat ? TopoDS_Shape(outer_wire(TopoDS::Face(face))) : face;
  for (TopExp_Explorer ex(around, TopAbs_EDGE); ex.More(); ex.Next()) {
    const auto [xl, xh] = level_range(TopoDS::Edge(ex.Current()), frame.XDirection());
    const auto [yl, yh] = level_range(TopoDS::Edge(ex.Current()), frame.YDirection());
    b.x0 = std::min(b.x0, xl - x_shift);
    b.x1 = std::max(b.x1, xh - x_shift);
    b.y0 = std::min(b.y0, yl - y_shift);
    b.y1 = std::max(b.y1, yh - y_shift);
  }
  return b;
}

gp_Ax2 face_frame_of(const Given& flat_face) {
  return make_frame(flat_face.plane->Location(), flat_face.plane->Axis().Direction(),
                    longest_edge(TopoDS::Face(flat_face.shape)).value_or(gp_Dir(1, 0, 0)));
}

namespace {

// Areas of faces of a part, by their number: several constructions ask for one with every pick.
struct FaceAreas {
  std::mutex mutex;
  std::map<int, AreaProperties> known;  // in part coordinates
};

AreaProperties kept_area(const PartPick& pick) {
  FaceAreas& areas =
      pick.part->geometry()->kept().get<FaceAreas>([] { return std::make_shared<FaceAreas>(); });
  const std::lock_guard lock(areas.mutex);
  auto [at, is_new] = areas.known.try_emplace(pick.index);
  if (is_new) at->second = area_properties(pick.part->topology().faces[pick.index].face);
  return {at->second.area_mm2, at->second.centroid.Transformed(pick.placement)};
}

}  // namespace

AreaProperties area_of(const Given& face) {
  if (face.region) return {face.region->area_mm2, face.region->centroid};
  if (face.surface->kind == SurfaceKind::kMesh) return mesh_area(face.shape);
  if (face.picked && face.picked->part && face.picked->kind == TopologyKind::kFace && face.picked->index >= 0)
    return kept_area(*face.picked);
  return area_properties(face.shape);
}

TopoDS_Shape measurable_shape(const Given& given, const gp_Pnt& near) {
  // Datum axes and planes have no end; for a shortest distance this much of them is enough.
  constexpr double kReach_mm = 1e5;
  if (!given.shape.IsNull()) return given.shape;
  if (given.frame || (given.point && !given.plane && !given.axis))
    return BRepBuilderAPI_MakeVertex(*given.point).Shape();
  if (given.plane) {
    gp_Pln plane = *given.plane;
    plane.SetLocation(foot_on(plane, near));
    return BRepBuilderAPI_MakeFace(plane, -kReach_mm, kReach_mm, -kReach_mm, kReach_mm).Shape();
  }
  if (given.axis)
    return BRepBuilderAPI_MakeEdge(gp_Lin(foot_on(*given.axis, near), given.axis->Direction()), -kReach_mm,
                                   kReach_mm)
        .Shape();
  return BRepBuilderAPI_MakeVertex(*given.point).Shape();
}

}  // namespace anvil
