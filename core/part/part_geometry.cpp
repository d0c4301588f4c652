#include "part/part_geometry.h"

#include <BRep_Builder.hxx>
#include <algorithm>
#include <climits>
#include <unordered_map>

#include "part/element_content.h"

namespace anvil {
namespace {

bool same_shapes(const std::vector<TopoDS_Shape>& a, const std::vector<TopoDS_Shape>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](const TopoDS_Shape& x, const TopoDS_Shape& y) { return x.IsEqual(y); });
}

struct SameShape {
  size_t operator()(const TopoDS_Shape& shape) const { return static_cast<size_t>(shape.HashCode(INT_MAX)); }
  bool operator()(const TopoDS_Shape& a, const TopoDS_Shape& b) const { return a.IsEqual(b); }
};

// Bodies as donors have them; the first donor counts.
std::vector<BodyIndex> donated(const std::vector<TopoDS_Shape>& shapes,
                               const std::vector<GeometryPtr>& donors) {
  std::unordered_map<TopoDS_Shape, BodyIndex, SameShape, SameShape> known;
  for (const GeometryPtr& donor : donors)
    for (size_t body = 0; body < donor->shapes().size(); ++body)
      known.try_emplace(donor->shapes()[body], BodyIndex{&donor->topology(), static_cast<int>(body)});
  std::vector<BodyIndex> found;
  found.reserve(shapes.size());
  for (const TopoDS_Shape& shape : shapes) {
    const auto at = known.find(shape);
    found.push_back(at == known.end() ? BodyIndex{} : at->second);
  }
  return found;
}

}  // namespace

TopoDS_Compound compound_of(const std::vector<TopoDS_Shape>& shapes) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

PartGeometry::PartGeometry(std::vector<TopoDS_Shape> shapes, const std::vector<GeometryPtr>& donors)
    : shapes_(std::move(shapes)), compound_(compound_of(shapes_)), donors_(donors.begin(), donors.end()) {}

const TopologyIndex& PartGeometry::topology() const {
  std::call_once(index_once_, [&] { index(); });
  return topology_;
}

void PartGeometry::index() const {
  std::vector<GeometryPtr> donors;
  for (const auto& weak : donors_)
    if (GeometryPtr donor = weak.lock(); donor && donor->is_indexed()) donors.push_back(std::move(donor));
  topology_ = build_topology_index(shapes_, donated(shapes_, donors));
  donors_.clear();
  indexed_.store(true, std::memory_order_release);
}

void PartGeometry::name() const {
  const TopologyIndex& topology = this->topology();
  KeyMaker whole;
  std::vector<KeyMaker> makers(shapes_.size());
  for (size_t i = 0; i < topology.faces.size(); ++i)
    add_face(makers[topology.faces[i].body], topology, static_cast<int>(i));
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    for (const int number : {edge.face_a, edge.face_b, edge.vertex_a, edge.vertex_b}) whole.add(number);
    if (edge.face_a < 0) add_edge(makers[edge.body], topology, static_cast<int>(i));
  }
  for (size_t i = 0; i < topology.vertices.size(); ++i)
    add_vertex(makers[topology.vertices[i].body], topology, static_cast<int>(i));
  for (const KeyMaker& maker : makers) {
    body_ids_.push_back(maker.key());
    whole.add(body_ids_.back());
  }
  id_ = whole.key();
}

const ContentKey& PartGeometry::id() const {
  std::call_once(named_, [&] { name(); });
  return id_;
}

const ContentKey& PartGeometry::body_id(int body) const {
  std::call_once(named_, [&] { name(); });
  return body_ids_[body];
}

GeometryPtr geometry_of(std::vector<TopoDS_Shape> shapes, const std::vector<GeometryPtr>& donors) {
  for (const GeometryPtr& donor : donors)
    if (donor && same_shapes(donor->shapes(), shapes)) return donor;
  std::vector<GeometryPtr> others;
  for (const GeometryPtr& donor : donors)
    if (donor) others.push_back(donor);
  return std::make_shared<const PartGeometry>(std::move(shapes), others);
}

}  // namespace anvil
