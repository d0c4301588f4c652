#include "pick/changed_reference.h"

#include <fmt/format.h>

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <set>

#include "geom/box.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

constexpr double kSame_mm = 1e-3, kSame_rad = 1e-5;
constexpr double kSameDirection_rad = 1e-3;
constexpr double kFarthest = 0.1;  // of the diagonal of the body
constexpr double kClearer = 2;     // the next candidate lies so many times farther

struct Candidate {
  int index;
  TopologyReference described;
};

std::vector<Candidate> of_same_kind(const Part& part, const TopologyReference& wanted) {
  const TopologyIndex& topology = part.topology();
  const size_t count = wanted.kind == TopologyKind::kFace   ? topology.faces.size()
                       : wanted.kind == TopologyKind::kEdge ? topology.edges.size()
                                                            : topology.vertices.size();
  std::vector<Candidate> found;
  for (int i = 0; i < static_cast<int>(count); ++i) {
    TopologyReference here = describe(part, wanted.part_entry, wanted.kind, i, wanted.snap);
    if (here.body == wanted.body && here.shape == wanted.shape) found.push_back({i, std::move(here)});
  }
  return found;
}

bool has_size(const TopologyReference& wanted) {
  return wanted.kind == TopologyKind::kFace;  // edges are as long as what bounds them
}

bool is_revolution(const TopologyReference& wanted) {
  return wanted.shape == "cylinder" || wanted.shape == "cone" || wanted.shape == "torus";
}

bool same_direction(const TopologyReference& a, const TopologyReference& b, double angular_rad) {
  if (a.shape == "plane") return a.direction.IsEqual(b.direction, angular_rad);
  return a.kind == TopologyKind::kVertex || parallel(a.direction, b.direction, angular_rad);
}

double off_axis(const TopologyReference& a, const TopologyReference& b) {
  return distance(gp_Ax1(a.axis_at, a.direction), b.axis_at);
}

bool same_geometry(const TopologyReference& wanted, const TopologyReference& here) {
  if (wanted.kind == TopologyKind::kVertex || !same_direction(wanted, here, kSame_rad)) return false;
  if (has_size(wanted) && std::abs(wanted.size_mm - here.size_mm) > kSame_mm) return false;
  if (wanted.shape == "plane")
    return std::abs(height_over(gp_Pln(wanted.where, wanted.direction), here.where)) <= kSame_mm;
  return !is_revolution(wanted) || off_axis(wanted, here) <= kSame_mm;
}

// How far the element lies from where the wanted one was; of a cylinder its vertices' mean may lie on the
// axis.
double distance_to(const Part& part, const TopologyReference& wanted, int index) {
  const TopologyIndex& topology = part.topology();
  const bool is_face = wanted.kind == TopologyKind::kFace;
  const TopoDS_Shape shape =
      is_face ? TopoDS_Shape(topology.faces[index].face) : TopoDS_Shape(topology.edges[index].edge);
  const Body& body = part.bodies()[is_face ? topology.faces[index].body : topology.edges[index].body];
  const BRepExtrema_DistShapeShape extrema(
      BRepBuilderAPI_MakeVertex(wanted.where.Transformed(body.arranged)).Shape(), shape);
  const double apart = extrema.IsDone() && extrema.NbSolution() > 0 ? extrema.Value() : 1e300;
  return is_revolution(wanted) ? std::max(0.0, apart - wanted.size_mm) : apart;
}

double diagonal_of(const Part& part, const TopologyReference& wanted) {
  Box box;
  for (const VertexInfo& vertex : part.topology().vertices)
    if (part.bodies()[vertex.body].delivered == wanted.body) box.add(vertex.point);
  return box.diagonal_mm();
}

std::optional<Located> on_same_surface(const Part& part, const TopologyReference& wanted,
                                       const std::vector<Candidate>& candidates) {
  Located nearest{Located::How::kSameSurface, -1, 1e300};
  std::set<int> patches;
  for (const Candidate& c : candidates) {
    if (!same_geometry(wanted, c.described)) continue;
    patches.insert(wanted.kind == TopologyKind::kFace ? part.topology().faces[c.index].patch : c.index);
    const double here = distance_to(part, wanted, c.index);
    if (here < nearest.moved_mm) nearest = {Located::How::kSameSurface, c.index, here};
  }
  // The mean of the vertices may lie in a hole of the face: then it must be the only one on its surface.
  const bool beside = patches.size() == 1 && nearest.moved_mm <= kFarthest * diagonal_of(part, wanted);
  if (nearest.index < 0 || (nearest.moved_mm > kSame_mm && !beside)) return std::nullopt;
  return Located{Located::How::kSameSurface, nearest.index, 0};
}

// A bore of another diameter on its old axis is the same bore; otherwise the size must be the same.
bool may_be_meant(const TopologyReference& wanted, const TopologyReference& here) {
  if (!same_direction(wanted, here, kSameDirection_rad)) return false;
  return !has_size(wanted) || std::abs(wanted.size_mm - here.size_mm) <= kSame_mm ||
         (is_revolution(wanted) && off_axis(wanted, here) <= kSame_mm);
}

Result<Located> by_intent(const Part& part, const TopologyReference& wanted,
                          const std::vector<Candidate>& candidates) {
  Located nearest{Located::How::kByIntent, -1, 1e300};
  double next = 1e300;
  for (const Candidate& c : candidates) {
    if (!may_be_meant(wanted, c.described)) continue;
    const double here = c.described.where.Distance(wanted.where);
    next = std::min(next, std::max(here, nearest.moved_mm));
    if (here < nearest.moved_mm) nearest = {Located::How::kByIntent, c.index, here};
  }
  if (nearest.index < 0 || nearest.moved_mm > kFarthest * diagonal_of(part, wanted))
    return refuse(RefusalCode::kUnknownName, fmt::format("the {} that was picked ({}) is not on this part",
                                                         topology_name(wanted.kind), wanted.shape));
  if (next < kClearer * nearest.moved_mm) return refuse(several(wanted));
  return nearest;
}

}  // namespace

Refusal several(const TopologyReference& reference) {
  return {RefusalCode::kAmbiguous, fmt::format("several {}s fit the {} that was picked: pick again",
                                               topology_name(reference.kind), reference.shape)};
}

Result<Located> locate_changed(const Part& part, const TopologyReference& reference) {
  const std::vector<Candidate> candidates = of_same_kind(part, reference);
  if (auto located = on_same_surface(part, reference, candidates)) return *located;
  return by_intent(part, reference, candidates);
}

}  // namespace anvil
