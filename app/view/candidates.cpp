#include "app/view/candidates.h"

#include <QLineF>
#include <SelectMgr_ViewerSelector.hxx>
#include <StdSelect_BRepOwner.hxx>
#include <StdSelect_ViewerSelector3d.hxx>

#include "app/view/datum_shapes.h"
#include "job/names.h"

namespace anvil::app {
namespace {

constexpr double kSnapPixels = 8;

std::optional<Reference> reference_to(const Session& session, const TopoDS_Shape& shape) {
  const PartPtr part = session.document().part();
  if (!part || shape.IsNull()) return std::nullopt;
  const TopologyIndex& topology = part->topology();
  const auto make = [&](TopologyKind kind, int index) -> std::optional<Reference> {
    if (index < 0) return std::nullopt;
    return Reference{session.document().describe(kind, index), {}};
  };
  switch (shape.ShapeType()) {
    case TopAbs_FACE:
      return make(TopologyKind::kFace, topology.find_face(shape));
    case TopAbs_EDGE:
      return make(TopologyKind::kEdge, topology.find_edge(shape));
    case TopAbs_VERTEX:
      return make(TopologyKind::kVertex, topology.find_vertex(shape));
    default:
      return std::nullopt;
  }
}

// A region that begins at that place, when the face is the mesh of a scan.
std::optional<Reference> region_at(const Session& session, const Reference& face, const gp_Dir& seen_from) {
  const auto& topology = std::get<TopologyReference>(face.target);
  if (topology.kind != TopologyKind::kFace || !face.clicked) return std::nullopt;
  const PartPtr part = session.document().part();
  const FaceInfo& info = part->topology().faces[static_cast<size_t>(topology.index_hint)];
  if (info.surface.kind != SurfaceKind::kMesh) return std::nullopt;
  const gp_Dir in_part = seen_from.Transformed(session.document().evaluation().placement.Inverted());
  return Reference{
      describe_region(*part, session.document().part_entry(), info.body, {*face.clicked, in_part}),
      face.clicked};
}

double distance_to_segment(const QPointF& p, const QLineF& line) {
  const QPointF d = line.p2() - line.p1();
  const double length2 = QPointF::dotProduct(d, d);
  const double t = length2 < 1e-9 ? 0 : std::clamp(QPointF::dotProduct(p - line.p1(), d) / length2, 0.0, 1.0);
  return QLineF(p, line.p1() + d * t).length();
}

}  // namespace

std::vector<Candidate> CandidateFinder::at(const QPointF& position) const {
  std::vector<Candidate> found;
  add_shapes(position, found);
  const double surface = found.empty() ? 1e300 : found.front().depth;
  std::vector<Candidate> points;
  add_points(position, points);
  add_points_of_arcs(position, found, points);
  // A point that is plainly behind what lies under the cursor is not meant; it waits behind it.
  const double slack = 12 * view_.mm_per_pixel();
  std::vector<Candidate> ordered, behind;
  for (Candidate& c : points) (c.depth <= surface + slack ? ordered : behind).push_back(std::move(c));
  add_datums(position, ordered);
  ordered.insert(ordered.end(), found.begin(), found.end());
  ordered.insert(ordered.end(), behind.begin(), behind.end());
  return ordered;
}

void CandidateFinder::add_shapes(const QPointF& position, std::vector<Candidate>& found) const {
  const QPoint p = view_.device(position);
  const Handle(StdSelect_ViewerSelector3d)& selector = view_.context()->MainSelector();
  selector->Pick(p.x(), p.y(), view_.camera_view());
  const gp_Pnt eye = view_.camera_view()->Camera()->Eye();
  const gp_Vec into(view_.camera_view()->Camera()->Direction());
  for (int i = 1; i <= selector->NbPicked(); ++i) {
    const Handle(StdSelect_BRepOwner) owner = Handle(StdSelect_BRepOwner)::DownCast(selector->Picked(i));
    if (owner.IsNull()) continue;
    auto reference = reference_to(session_, owner->Shape());
    if (!reference) continue;
    const gp_Pnt at = selector->PickedPoint(i);
    reference->clicked = at.Transformed(session_.document().evaluation().placement.Inverted());
    const double depth = gp_Vec(eye, at).Dot(into);
    if (auto region = region_at(session_, *reference, gp_Dir(into).Reversed()))
      found.push_back({*region, at, depth});
    found.push_back({*reference, at, depth});
  }
  // Edges and vertices a hair behind their face still come first; what is plainly behind comes later.
  const double slack = 12 * view_.mm_per_pixel();
  const auto rank = [&](const Candidate& c) {
    const auto* topology = std::get_if<TopologyReference>(&c.reference.target);
    const TopologyKind kind = topology ? topology->kind : TopologyKind::kFace;
    return c.depth - (kind == TopologyKind::kVertex ? 2 * slack : kind == TopologyKind::kEdge ? slack : 0);
  };
  std::stable_sort(found.begin(), found.end(),
                   [&](const Candidate& a, const Candidate& b) { return rank(a) < rank(b); });
}

// Quadrants, and the middles of arcs, of the circles under the cursor: looked at alone, because working them
// out takes more than a look at what is known.
void CandidateFinder::add_points_of_arcs(const QPointF& position, const std::vector<Candidate>& under,
                                         std::vector<Candidate>& points) const {
  const PartPtr part = session_.document().part();
  if (!part || !filter_.middles) return;
  const gp_Trsf& placement = session_.document().evaluation().placement;
  for (const Candidate& candidate : under) {
    const auto* edge = std::get_if<TopologyReference>(&candidate.reference.target);
    if (!edge || edge->kind != TopologyKind::kEdge) continue;
    const EdgeInfo& info = part->topology().edges[static_cast<size_t>(edge->index_hint)];
    if (info.kind != CurveKind::kCircle) continue;
    const BRepAdaptor_Curve curve(TopoDS::Edge(info.edge.Moved(TopLoc_Location(placement))));
    const bool is_arc = curve.LastParameter() - curve.FirstParameter() < 2 * kPi - 1e-9;
    std::vector<std::pair<gp_Pnt, Snap>> places;
    for (int i = 0; i < 4; ++i)
      if (const auto [at, on_arc] = quadrant_of(curve, i); on_arc) places.emplace_back(at, kQuadrants[i]);
    if (is_arc)
      places.emplace_back(*given_by_edge(*part, edge->index_hint, Snap::kMiddle, placement).point,
                          Snap::kMiddle);
    for (const auto& [at, snap] : places) {
      double depth = 0;
      const auto screen = view_.to_screen(at, &depth);
      if (!screen || QLineF(*screen, position).length() > kSnapPixels) continue;
      points.push_back({Reference{session_.document().describe(TopologyKind::kEdge, edge->index_hint, snap),
                                  at.Transformed(placement.Inverted())},
                        at, depth});
      return;
    }
  }
}

void CandidateFinder::add_points(const QPointF& position, std::vector<Candidate>& found) const {
  const PartPtr part = session_.document().part();
  if (!part || (!filter_.middles && !filter_.centres)) return;
  const TopologyIndex& topology = part->topology();
  const gp_Trsf& placement = session_.document().evaluation().placement;
  const Projector projector = view_.projector();
  std::vector<std::pair<double, Candidate>> near;
  const auto consider = [&](const gp_Pnt& in_part, int edge, Snap snap, double reach_px) {
    const gp_Pnt placed = in_part.Transformed(placement);
    double depth = 0;
    const auto screen = projector.to_screen(placed, &depth);
    if (!screen) return;
    const double apart = QLineF(*screen, position).length();
    if (apart > reach_px) return;
    near.push_back(
        {apart,
         {Reference{session_.document().describe(TopologyKind::kEdge, edge, snap), in_part}, placed, depth}});
  };
  const auto radius_of = [&](const EdgeInfo& circle) {
    return circle.vertex_a < 0 ? 1e300 : topology.vertices[circle.vertex_a].point.Distance(circle.snap);
  };
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    if (edge.is_seam()) continue;
    // Of a circle that is small on the screen the centre leaves room for what lies around it.
    constexpr double kShareOfCircle = 0.35;
    if (filter_.centres && edge.kind == CurveKind::kCircle)
      consider(edge.snap, static_cast<int>(i), Snap::kCentre,
               std::min(kSnapPixels, kShareOfCircle * radius_of(edge) / view_.mm_per_pixel()));
    if (filter_.middles && edge.kind == CurveKind::kLine)
      consider(edge.snap, static_cast<int>(i), Snap::kMiddle, kSnapPixels);
  }
  std::stable_sort(near.begin(), near.end(), [](const auto& a, const auto& b) {
    return std::make_pair(std::lround(a.first), a.second.depth) <
           std::make_pair(std::lround(b.first), b.second.depth);
  });
  for (auto& [apart, candidate] : near) {
    // Arcs of one circle share their centre; it is offered once.
    const bool known = std::any_of(found.begin(), found.end(), [&at = candidate.at](const Candidate& c) {
      return c.at.Distance(at) < 1e-6;
    });
    if (!known) found.push_back(std::move(candidate));
  }
}

void CandidateFinder::add_datums(const QPointF& position, std::vector<Candidate>& found) const {
  if (!filter_.datums) return;
  for (const Entry& entry : session_.document().job().entries) {
    const auto at = session_.document().evaluation().entries.find(entry.id);
    if ((!entry.datum() && !entry.setup()) || !entry.visible ||
        at == session_.document().evaluation().entries.end() || !at->second.value)
      continue;
    if (entry.setup()) {
      add_stock(position, entry.id, found);
      continue;
    }
    if (at->second.state != EntryState::kCurrent || entry.datum()->makes == Makes::kMeasurement ||
        entry.is_correction())
      continue;
    if (const auto* figure = std::get_if<FigureDatum>(&*at->second.value)) {
      add_figure(position, entry.id, *figure, found);
      continue;
    }
    for (const auto& [a, b] : datum_segments(*at->second.value, view_.mm_per_pixel())) {
      double depth = 0;
      const auto p = view_.to_screen(a, &depth), q = view_.to_screen(b);
      if (!p || !q || distance_to_segment(position, QLineF(*p, *q)) > 5) continue;
      found.push_back({Reference{EntryReference{entry.id}, {}}, a, depth});
      break;
    }
  }
}

// The points of its stock, while the setup is read in.
void CandidateFinder::add_stock(const QPointF& position, int setup, std::vector<Candidate>& found) const {
  if (session_.document().job().reading_frame != setup) return;
  for (const EntryReference& reference : pickable(session_.document().evaluation(), setup)) {
    if (reference.element == 0) continue;
    const auto given = give(session_.document().job(), session_.document().evaluation(), {reference, {}});
    if (!given || !given->point) continue;
    double depth = 0;
    const auto p = view_.to_screen(*given->point, &depth);
    if (p && QLineF(*p, position).length() <= kSnapPixels)
      found.push_back({Reference{reference, {}}, *given->point, depth});
  }
}

// Its points first (a corner as the start of an edge), then the edge under the cursor.
void CandidateFinder::add_figure(const QPointF& position, int entry, const FigureDatum& figure,
                                 std::vector<Candidate>& found) const {
  const auto count = static_cast<int>(figure.edges.size());
  for (const Snap snap : {Snap::kStart, Snap::kEnd, Snap::kMiddle, Snap::kCentre})
    for (int element = 1; element <= count; ++element) {
      const Given given = given_by_curve(figure.edges[element - 1], snap);
      double depth = 0;
      const auto p = given.shape.IsNull() ? view_.to_screen(*given.point, &depth) : std::nullopt;
      if (!p || QLineF(*p, position).length() > kSnapPixels) continue;
      const bool known = std::any_of(found.begin(), found.end(),
                                     [&](const Candidate& c) { return c.at.Distance(*given.point) < 1e-6; });
      if (!known) found.push_back({Reference{EntryReference{entry, element, snap}, {}}, *given.point, depth});
    }
  for (int element = 1; element <= count; ++element)
    for (const auto& [a, b] : curve_segments(figure.edges[element - 1])) {
      double depth = 0;
      const auto p = view_.to_screen(a, &depth), q = view_.to_screen(b);
      if (!p || !q || distance_to_segment(position, QLineF(*p, *q)) > 5) continue;
      found.push_back({Reference{EntryReference{entry, element}, {}}, a, depth});
      break;
    }
}

std::vector<Reference> CandidateFinder::in(const QRectF& area, bool touching) const {
  const Handle(StdSelect_ViewerSelector3d)& selector = view_.context()->MainSelector();
  const QPoint a = view_.device(area.topLeft()), b = view_.device(area.bottomRight());
  selector->AllowOverlapDetection(touching);
  selector->Pick(a.x(), a.y(), b.x(), b.y(), view_.camera_view());
  std::vector<Reference> found;
  for (int i = 1; i <= selector->NbPicked(); ++i) {
    const Handle(StdSelect_BRepOwner) owner = Handle(StdSelect_BRepOwner)::DownCast(selector->Picked(i));
    if (owner.IsNull()) continue;
    if (auto reference = reference_to(session_, owner->Shape())) found.push_back(*reference);
  }
  selector->AllowOverlapDetection(false);
  return found;
}

QString candidate_text(const Session& session, const Candidate& candidate) {
  if (const auto* entry = std::get_if<EntryReference>(&candidate.reference.target)) {
    return session.document().job().find(entry->entry)
               ? QString::fromStdString(pick_name(session.document().job(), *entry))
               : QString();
  }
  if (std::holds_alternative<RegionReference>(candidate.reference.target))
    return QCoreApplication::translate("Candidates", "scan: a click grows a region from here");
  const auto& t = std::get<TopologyReference>(candidate.reference.target);
  const PartPtr part = session.document().part();
  return part ? QString::fromStdString(
                    pick_text(*part, t.kind, t.index_hint, t.snap, session.document().job().display))
              : QString();
}

}  // namespace anvil::app
