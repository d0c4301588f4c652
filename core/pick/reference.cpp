#include "pick/reference.h"

#include <fmt/format.h>
#include <GCPnts_AbscissaPoint.hxx>

#include "base/tolerance.h"
#include "geom/primitives.h"
#include "pick/changed_reference.h"

namespace anvil {
namespace {

constexpr Tolerance kFound{1e-3, 1e-5};
// Healing closes gaps of kSoundTolerance_mm; a corner then moves by as much.
constexpr Tolerance kHealed{0.03, 1e-3};

void describe_face(const TopologyIndex& topology, int index, TopologyReference& r) {
  const FaceInfo& face = topology.faces[index];
  r.shape = surface_name(face.surface.kind);
  r.direction = face.surface.position.Direction();
  r.size_mm = face.surface.radius_mm;
  gp_XYZ sum;
  int count = 0;
  for (int edge : face.edges) {
    for (int vertex : {topology.edges[edge].vertex_a, topology.edges[edge].vertex_b}) {
      if (vertex < 0) continue;
      sum += topology.vertices[vertex].point.XYZ();
      ++count;
    }
  }
  r.where = count > 0 ? gp_Pnt(sum / count) : face.surface.position.Location();
  r.axis_at = face.surface.is_revolution() ? foot_on(face.surface.axis(), r.where) : r.where;
}

void describe_edge(const TopologyIndex& topology, int index, TopologyReference& r) {
  static const char* const kNames[] = {"line", "circle", "ellipse", "curve"};
  const EdgeInfo& edge = topology.edges[index];
  const BRepAdaptor_Curve curve(edge.edge);
  r.shape = kNames[static_cast<int>(edge.kind)];
  r.where = middle_of(curve);
  r.size_mm = GCPnts_AbscissaPoint::Length(curve);
  if (edge.kind == CurveKind::kLine) r.direction = curve.Line().Direction();
  if (edge.kind == CurveKind::kCircle) r.direction = curve.Circle().Axis().Direction();
}

size_t count_of(const TopologyIndex& topology, TopologyKind kind) {
  if (kind == TopologyKind::kFace) return topology.faces.size();
  return kind == TopologyKind::kEdge ? topology.edges.size() : topology.vertices.size();
}

// Jobs of earlier versions describe what is stored as a spline as free form, whatever it is.
bool was_free_form(const TopologyIndex& topology, const TopologyReference& wanted, int index) {
  return wanted.kind == TopologyKind::kFace && wanted.shape == surface_name(SurfaceKind::kFreeForm) &&
         topology.faces[index].surface.recognised;
}

bool fits(const Part& part, const TopologyReference& wanted, int index, const Tolerance& tolerance) {
  const TopologyReference here = describe(part, wanted.part_entry, wanted.kind, index, wanted.snap);
  if (was_free_form(part.topology(), wanted, index))
    return here.body == wanted.body && here.where.Distance(wanted.where) <= tolerance.linear_mm;
  return here.body == wanted.body && here.shape == wanted.shape &&
         here.where.Distance(wanted.where) <= tolerance.linear_mm &&
         std::abs(here.size_mm - wanted.size_mm) <= tolerance.linear_mm &&
         parallel(here.direction, wanted.direction, tolerance.angular_rad);
}

}  // namespace

bool TopologyReference::operator==(const TopologyReference& o) const {
  return part_entry == o.part_entry && kind == o.kind && snap == o.snap && body == o.body &&
         index_hint == o.index_hint && where.Distance(o.where) <= kFound.linear_mm;
}

int entry_of(const Reference& reference) {
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) return entry->entry;
  if (const auto* region = std::get_if<RegionReference>(&reference.target)) return region->part_entry;
  return std::get<TopologyReference>(reference.target).part_entry;
}

std::optional<int> body_of(const Reference& reference) {
  if (const auto* region = std::get_if<RegionReference>(&reference.target)) return region->body;
  if (const auto* topology = std::get_if<TopologyReference>(&reference.target)) return topology->body;
  return std::nullopt;
}

TopologyReference describe(const Part& part, int part_entry, TopologyKind kind, int index, Snap snap) {
  TopologyReference r;
  r.part_entry = part_entry;
  r.kind = kind;
  r.snap = snap;
  r.index_hint = index;
  const TopologyIndex& topology = part.topology();
  if (kind == TopologyKind::kFace) {
    describe_face(topology, index, r);
  } else if (kind == TopologyKind::kEdge) {
    describe_edge(topology, index, r);
  } else {
    r.shape = "vertex";
    r.where = topology.vertices[index].point;
  }
  const int at = kind == TopologyKind::kFace   ? topology.faces[index].body
                 : kind == TopologyKind::kEdge ? topology.edges[index].body
                                               : topology.vertices[index].body;
  const Body& body = part.bodies()[at];
  r.body = body.delivered;
  if (same_motion(body.arranged, gp_Trsf())) return r;
  const gp_Trsf back = body.arranged.Inverted();
  r.where.Transform(back);
  r.axis_at.Transform(back);
  r.direction.Transform(back);
  return r;
}

Result<Located> locate(const Part& part, const TopologyReference& reference) {
  const auto count = static_cast<int>(count_of(part.topology(), reference.kind));
  if (reference.index_hint >= 0 && reference.index_hint < count &&
      fits(part, reference, reference.index_hint, kFound))
    return Located{Located::How::kAsDescribed, reference.index_hint, 0};
  for (const Tolerance& tolerance : {kFound, kHealed}) {
    int found = -1;
    for (int i = 0; i < count; ++i) {
      if (!fits(part, reference, i, tolerance)) continue;
      if (found >= 0) return refuse(several(reference));
      found = i;
    }
    if (found >= 0) return Located{Located::How::kAsDescribed, found, 0};
  }
  return locate_changed(part, reference);
}

Result<Located> locate(const Part& part, const Reference& reference) {
  if (const auto* topology = std::get_if<TopologyReference>(&reference.target))
    return locate(part, *topology);
  const auto* region = std::get_if<RegionReference>(&reference.target);
  if (!region) return Located{};
  const auto grown = region_of(part, *region);
  if (!grown) return refuse(grown);
  const double off = (*grown)->off_mm;
  if (off <= std::max(kFound.linear_mm, (*grown)->within_mm)) return Located{};
  return Located{Located::How::kByIntent, -1, off};
}

Result<int> resolve(const Part& part, const TopologyReference& reference) {
  const auto located = locate(part, reference);
  if (!located) return refuse(located);
  return located->index;
}

}  // namespace anvil
