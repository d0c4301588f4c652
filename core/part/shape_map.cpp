#include "part/shape_map.h"

#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>

namespace anvil {
namespace {

constexpr TopAbs_ShapeEnum kShapes[] = {TopAbs_FACE, TopAbs_EDGE, TopAbs_VERTEX};

TopTools_IndexedMapOfShape listed(const TopoDS_Shape& shape, size_t kind) {
  TopTools_IndexedMapOfShape all;
  TopExp::MapShapes(shape, kShapes[kind], all);
  return all;
}

int find_in(const TopologyIndex& topology, size_t kind, const TopoDS_Shape& shape) {
  if (kind == 0) return topology.find_face(shape);
  return kind == 1 ? topology.find_edge(shape) : topology.find_vertex(shape);
}

Went went_to(const TopoDS_Shape& shape, const TopTools_IndexedMapOfShape& after,
             const BRepTools_History& history) {
  if (history.IsRemoved(shape)) return std::vector<int>();
  std::vector<int> places;
  for (const TopoDS_Shape& modified : history.Modified(shape))
    if (const int place = after.FindIndex(modified); place > 0) places.push_back(place - 1);
  if (!places.empty()) return places;
  if (const int place = after.FindIndex(shape); place > 0) return std::vector<int>{place - 1};
  return std::nullopt;
}

}  // namespace

const char* topology_name(TopologyKind kind) {
  static const char* const kNames[] = {"face", "edge", "vertex"};
  return kNames[static_cast<size_t>(kind)];
}

BodyMap body_map(const TopoDS_Shape& before, const TopoDS_Shape& after, const BRepTools_History& history) {
  BodyMap map;
  for (size_t kind = 0; kind < map.size(); ++kind) {
    const TopTools_IndexedMapOfShape old = listed(before, kind), now = listed(after, kind);
    for (int i = 1; i <= old.Extent(); ++i) map[kind].push_back(went_to(old(i), now, history));
  }
  return map;
}

ShapeMap::ShapeMap(const Part& before, const Part& after, const std::vector<BodyMap>& bodies)
    : is_same_(false) {
  const TopologyIndex &old = before.topology(), &now = after.topology();
  went_[0].resize(old.faces.size());
  went_[1].resize(old.edges.size());
  went_[2].resize(old.vertices.size());
  for (size_t body = 0; body < bodies.size() && body < before.bodies().size(); ++body)
    for (size_t kind = 0; kind < went_.size(); ++kind) {
      const TopTools_IndexedMapOfShape from = listed(before.bodies()[body].shape, kind),
                                       to = listed(after.bodies()[body].shape, kind);
      const std::vector<Went>& told = bodies[body][kind];
      for (int i = 1; i <= from.Extent() && i <= static_cast<int>(told.size()); ++i) {
        const int number = find_in(old, kind, from(i));
        if (number < 0 || !told[i - 1]) continue;
        std::vector<int> numbers;
        for (const int place : *told[i - 1])
          if (place >= 0 && place < to.Extent())
            if (const int there = find_in(now, kind, to(place + 1)); there >= 0) numbers.push_back(there);
        // What went to something that has no number, as the tip of a cone, is not told.
        if (!numbers.empty() || told[i - 1]->empty()) went_[kind][number] = std::move(numbers);
      }
    }
}

Went ShapeMap::after(TopologyKind kind, int index) const {
  if (is_same_) return std::vector<int>{index};
  const auto& went = went_[static_cast<size_t>(kind)];
  return index >= 0 && index < static_cast<int>(went.size()) ? went[index] : std::nullopt;
}

}  // namespace anvil
