#include "pick/follow.h"

#include <fmt/format.h>

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <set>

#include "base/tolerance.h"

namespace anvil {
namespace {

TopoDS_Shape shape_of(const TopologyIndex& topology, TopologyKind kind, int index) {
  if (kind == TopologyKind::kFace) return topology.faces[index].face;
  if (kind == TopologyKind::kEdge) return topology.edges[index].edge;
  return topology.vertices[index].vertex;
}

// One step on: by its map, else by what the element looks like.
std::set<int> step(const PartState& from, const PartState& to, const TopologyReference& pick,
                   const std::set<int>& indices) {
  std::set<int> next;
  for (const int index : indices) {
    if (const Went went = to.from_before.after(pick.kind, index)) {
      next.insert(went->begin(), went->end());
      continue;
    }
    const auto found = locate(*to.part, describe(*from.part, pick.part_entry, pick.kind, index, pick.snap));
    if (found) next.insert(found->index);
  }
  return next;
}

bool on_one_surface(const TopologyIndex& topology, TopologyKind kind, const std::set<int>& indices) {
  if (kind == TopologyKind::kVertex) return false;
  const int first = *indices.begin();
  return std::all_of(indices.begin(), indices.end(), [&](int index) {
    if (kind == TopologyKind::kFace)
      return same_surface(topology.faces[first].surface, topology.faces[index].surface, kExact.linear_mm,
                          kExact.angular_rad);
    const EdgeInfo &a = topology.edges[first], &b = topology.edges[index];
    return a.kind == CurveKind::kCircle && b.kind == a.kind && a.snap.Distance(b.snap) <= kExact.linear_mm;
  });
}

int nearest_to(const TopologyIndex& topology, TopologyKind kind, const std::set<int>& indices,
               const gp_Pnt& point) {
  const TopoDS_Vertex probe = BRepBuilderAPI_MakeVertex(point).Vertex();
  int nearest = *indices.begin();
  double least = 1e300;
  for (const int index : indices) {
    const BRepExtrema_DistShapeShape apart(probe, shape_of(topology, kind, index));
    if (!apart.IsDone() || apart.NbSolution() == 0 || apart.Value() >= least) continue;
    least = apart.Value();
    nearest = index;
  }
  return nearest;
}

Result<Located> one_of(const Part& part, const TopologyReference& pick, Located found,
                       const std::set<int>& pieces, const std::optional<gp_Pnt>& clicked) {
  const bool alike = on_one_surface(part.topology(), pick.kind, pieces);
  if (!alike && !clicked)
    return refuse(RefusalCode::kAmbiguous,
                  fmt::format("the {} that was picked is {} pieces now: pick the one that is meant",
                              topology_name(pick.kind), pieces.size()));
  found.index = nearest_to(part.topology(), pick.kind, pieces, clicked.value_or(pick.where));
  found.candidates.assign(pieces.begin(), pieces.end());
  if (!alike && found.how != Located::How::kByIntent) found.how = Located::How::kOfPieces;
  return found;
}

}  // namespace

int made_on(const std::vector<PartState>& states) {
  for (auto state = states.rbegin(); state != states.rend(); ++state)
    if (!state->only_moved) return state->made_by;
  return 0;
}

Result<Located> follow(const std::vector<PartState>& states, const TopologyReference& pick,
                       const std::optional<gp_Pnt>& clicked) {
  const auto start = std::find_if(states.begin(), states.end(), [&](const PartState& state) {
    return pick.made_on != 0 && state.made_by == pick.made_on;
  });
  const Part& last = *states.back().part;
  if (start == states.end()) return locate(last, pick);
  auto found = locate(*start->part, pick);
  if (!found) return found;
  std::set<int> pieces{found->index};
  for (auto state = start + 1; state != states.end(); ++state) {
    pieces = step(*(state - 1), *state, pick, pieces);
    if (!pieces.empty()) continue;
    Refusal gone{RefusalCode::kUnknownName,
                 fmt::format("the {} that was picked is gone", topology_name(pick.kind))};
    gone.facts["gone_with"] = state->made_by;
    return refuse(std::move(gone));
  }
  if (pieces.size() > 1) return one_of(last, pick, std::move(*found), pieces, clicked);
  found->index = *pieces.begin();
  return found;
}

}  // namespace anvil
