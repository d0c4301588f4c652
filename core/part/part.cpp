#include "part/part.h"

#include <BRep_Builder.hxx>

namespace anvil {
namespace {

TopoDS_Compound compound_of(const std::vector<Body>& bodies) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const Body& body : bodies) builder.Add(compound, body.shape);
  return compound;
}

std::vector<TopoDS_Shape> shapes_of(const std::vector<Body>& bodies) {
  std::vector<TopoDS_Shape> shapes;
  shapes.reserve(bodies.size());
  for (const Body& body : bodies) shapes.push_back(body.shape);
  return shapes;
}

}  // namespace

Part::Part(SourceInfo source, std::vector<Body> bodies)
    : source_(std::move(source)),
      bodies_(std::move(bodies)),
      shape_(compound_of(bodies_)),
      topology_(build_topology_index(shapes_of(bodies_))) {}

}  // namespace anvil
