#include "correct/retrim.h"

#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_IntCS.hxx>
#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <algorithm>

namespace anvil {
namespace {

// Trimming ends nothing here: what is wanted is where the whole of it goes.
Handle(Geom_Curve) untrimmed(Handle(Geom_Curve) curve) {
  while (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(curve)) curve = trimmed->BasisCurve();
  return curve;
}

std::optional<double> parameter_at(const Handle(Geom_Curve) & curve, const gp_Pnt& point) {
  const GeomAPI_ProjectPointOnCurve projection(point, curve);
  if (projection.NbPoints() > 0 && projection.LowerDistance() <= 10 * kMeets_mm)
    return projection.LowerDistanceParameter();
  for (const double end : {curve->FirstParameter(), curve->LastParameter()})
    if (std::abs(end) < 1e50 && curve->Value(end).Distance(point) <= 10 * kMeets_mm) return end;
  return std::nullopt;
}

double way_to(const Handle(Geom_Curve) & curve, const gp_Pnt& point) {
  const GeomAPI_ProjectPointOnCurve projection(point, curve);
  return projection.NbPoints() > 0 ? projection.LowerDistance() : 1e300;
}

TopoDS_Edge make_edge(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& from, double first,
                      const TopoDS_Vertex& to, double last) {
  const BRep_Builder builder;
  TopoDS_Edge edge;
  builder.MakeEdge(edge, curve, 1e-7);
  builder.Add(edge, from.Oriented(TopAbs_FORWARD));
  builder.Add(edge, to.Oriented(TopAbs_REVERSED));
  builder.Range(edge, first, last);
  return edge;
}

}  // namespace

Handle(Geom_Curve) curve_of(const TopoDS_Edge& edge) {
  double first = 0, last = 0;
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
  return curve.IsNull() ? curve : untrimmed(curve);
}

Handle(Geom_Surface) surface_of(const TopoDS_Face& face) {
  return BRep_Tool::Surface(face);
}

bool lies_on(const Handle(Geom_Surface) & surface, const gp_Pnt& point) {
  const GeomAPI_ProjectPointOnSurf projection(point, surface);
  return projection.NbPoints() > 0 && projection.LowerDistance() <= kMeets_mm;
}

std::optional<gp_Dir> normal_near(const Handle(Geom_Surface) & surface, const gp_Pnt& point) {
  const GeomAPI_ProjectPointOnSurf projection(point, surface);
  if (projection.NbPoints() == 0) return std::nullopt;
  double u = 0, v = 0;
  projection.LowerDistanceParameters(u, v);
  GeomLProp_SLProps local(surface, u, v, 1, kMeets_mm);
  return local.IsNormalDefined() ? std::optional(local.Normal()) : std::nullopt;
}

bool lies_on(const Handle(Geom_Surface) & surface, const Handle(Geom_Curve) & curve, double from, double to) {
  constexpr int kPlaces = 5;
  for (int i = 0; i < kPlaces; ++i)
    if (!lies_on(surface, curve->Value(from + (to - from) * i / (kPlaces - 1)))) return false;
  return true;
}

std::optional<gp_Pnt> meeting(const Handle(Geom_Curve) & curve, const Handle(Geom_Surface) & surface,
                              const gp_Pnt& near) {
  const GeomAPI_IntCS crossing(untrimmed(curve), surface);
  std::optional<gp_Pnt> nearest;
  for (int i = 1; crossing.IsDone() && i <= crossing.NbPoints(); ++i)
    if (!nearest || crossing.Point(i).Distance(near) < nearest->Distance(near)) nearest = crossing.Point(i);
  return nearest;
}

Handle(Geom_Curve)
    meeting(const Handle(Geom_Surface) & a, const Handle(Geom_Surface) & b, const gp_Pnt& near) {
  const GeomAPI_IntSS crossing(a, b, kMeets_mm);
  Handle(Geom_Curve) nearest;
  for (int i = 1; crossing.IsDone() && i <= crossing.NbLines(); ++i)
    if (nearest.IsNull() || way_to(crossing.Line(i), near) < way_to(nearest, near))
      nearest = crossing.Line(i);
  return nearest.IsNull() ? nearest : untrimmed(nearest);
}

TopoDS_Edge edge_on(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to,
                    const gp_Pnt& middle) {
  const auto first = parameter_at(curve, BRep_Tool::Pnt(from)),
             last = parameter_at(curve, BRep_Tool::Pnt(to));
  if (!first || !last) return {};
  if (!curve->IsPeriodic() && !curve->IsClosed()) {
    if (*first < *last) return make_edge(curve, from, *first, to, *last);
    const Handle(Geom_Curve) back = curve->Reversed();
    return make_edge(back, from, back->ReversedParameter(*first), to, back->ReversedParameter(*last));
  }
  const double round = curve->LastParameter() - curve->FirstParameter();
  if (from.IsSame(to)) return make_edge(curve, from, *first, to, *first + round);
  // Either way round: the one whose middle lies nearer to where the edge was.
  const double forward_end = *last > *first ? *last : *last + round;
  const gp_Pnt forward = curve->Value((*first + forward_end) / 2);
  const Handle(Geom_Curve) back = curve->Reversed();
  const double back_first = curve->ReversedParameter(*first), back_last = curve->ReversedParameter(*last);
  const double backward_end = back_last > back_first ? back_last : back_last + round;
  const gp_Pnt backward = back->Value((back_first + backward_end) / 2);
  return forward.Distance(middle) <= backward.Distance(middle)
             ? make_edge(curve, from, *first, to, forward_end)
             : make_edge(back, from, back_first, to, backward_end);
}

}  // namespace anvil
