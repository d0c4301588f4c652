#include "part/part_geometry.h"

#include <BRep_Builder.hxx>
#include <algorithm>

#include "part/element_content.h"

namespace anvil {
namespace {

bool same_shapes(const std::vector<TopoDS_Shape>& a, const std::vector<TopoDS_Shape>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](const TopoDS_Shape& x, const TopoDS_Shape& y) { return x.IsEqual(y); });
}

// A body as a donor has it.
BodyIndex donated(const TopoDS_Shape& shape, const std::vector<GeometryPtr>& donors) {
  for (const GeometryPtr& donor : donors)
    for (size_t body = 0; donor && body < donor->shapes().size(); ++body)
      if (donor->shapes()[body].IsEqual(shape)) return {&donor->topology(), static_cast<int>(body)};
  return {};
}

}  // namespace

TopoDS_Compound compound_of(const std::vector<TopoDS_Shape>& shapes) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

PartGeometry::PartGeometry(std::vector<TopoDS_Shape> shapes, TopologyIndex topology)
    : shapes_(std::move(shapes)), compound_(compound_of(shapes_)), topology_(std::move(topology)) {}

void PartGeometry::name() const {
  KeyMaker whole;
  std::vector<KeyMaker> makers(shapes_.size());
  for (size_t i = 0; i < topology_.faces.size(); ++i)
    add_face(makers[topology_.faces[i].body], topology_, static_cast<int>(i));
  for (size_t i = 0; i < topology_.edges.size(); ++i) {
    const EdgeInfo& edge = topology_.edges[i];
    for (const int number : {edge.face_a, edge.face_b, edge.vertex_a, edge.vertex_b}) whole.add(number);
    if (edge.face_a < 0) add_edge(makers[edge.body], topology_, static_cast<int>(i));
  }
  for (size_t i = 0; i < topology_.vertices.size(); ++i)
    add_vertex(makers[topology_.vertices[i].body], topology_, static_cast<int>(i));
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
  std::vector<BodyIndex> known;
  known.reserve(shapes.size());
  for (const TopoDS_Shape& shape : shapes) known.push_back(donated(shape, donors));
  TopologyIndex topology = build_topology_index(shapes, known);
  return std::make_shared<const PartGeometry>(std::move(shapes), std::move(topology));
}

}  // namespace anvil
