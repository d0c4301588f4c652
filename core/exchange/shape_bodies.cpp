#include "exchange/shape_bodies.h"

#include <fmt/format.h>

#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>

namespace anvil {

TopoDS_Shape loose_faces(const TopoDS_Shape& shape) {
  const BRep_Builder builder;
  TopoDS_Compound all;
  for (TopExp_Explorer faces(shape, TopAbs_FACE, TopAbs_SHELL); faces.More(); faces.Next()) {
    if (all.IsNull()) builder.MakeCompound(all);
    builder.Add(all, faces.Current());
  }
  return all;
}

std::vector<Body> bodies_of_shape(const TopoDS_Shape& shape, const std::string& name) {
  std::vector<Body> bodies;
  for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next())
    bodies.push_back({name, BodyKind::kSolid, solids.Current(), {}, {}});
  for (TopExp_Explorer shells(shape, TopAbs_SHELL, TopAbs_SOLID); shells.More(); shells.Next())
    bodies.push_back({name, BodyKind::kShell, shells.Current(), {}, {}});
  if (const TopoDS_Shape loose = loose_faces(shape); !loose.IsNull())
    bodies.push_back({name, BodyKind::kShell, loose, {}, {}});
  if (bodies.size() > 1)
    for (size_t i = 0; i < bodies.size(); ++i) bodies[i].name += fmt::format(" {}", i + 1);
  return bodies;
}

std::string stem_of(const std::string& file_name) {
  std::filesystem::path path(file_name);
  if (path.extension() == ".gz") path = path.stem();
  return path.stem().string();
}

}  // namespace anvil
