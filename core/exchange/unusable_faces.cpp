#include "exchange/unusable_faces.h"

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <Bnd_Box.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <TopExp_Explorer.hxx>
#include <vector>

#include "exchange/tried_apart.h"
#include "geom/guard.h"
#include "part/mend.h"
#include "part/mesh.h"

namespace anvil {
namespace {

std::vector<TopoDS_Shape> faces_of(const TopoDS_Shape& shape) {
  std::vector<TopoDS_Shape> faces;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next()) faces.push_back(ex.Current());
  return faces;
}

void remove(Body& body, const std::vector<TopoDS_Shape>& faces) {
  const Handle(ShapeBuild_ReShape) context = new ShapeBuild_ReShape;
  for (const TopoDS_Shape& face : faces) context->Remove(face);
  body.shape = context->Apply(body.shape);
  body.face_colours.clear();
}

// What is done with every face later on.
void use(const TopoDS_Shape& face) {
  static_cast<void>(guarded("trying", [&]() -> Result<void> {
    std::vector<Body> alone(1);
    alone.front().shape = BRepBuilderAPI_Copy(face);
    close_outlines(alone);
    static_cast<void>(BRepCheck_Analyzer(alone.front().shape).IsValid());
    mesh_shape(alone.front().shape);
    return {};
  }));
}

}  // namespace

int remove_endless_faces(Body& body) {
  std::vector<TopoDS_Shape> endless;
  const std::vector<TopoDS_Shape> faces = faces_of(body.shape);
  for (const TopoDS_Shape& face : faces) {
    Bnd_Box box;
    BRepBndLib::Add(face, box, false);
    if (box.IsVoid() || box.IsOpen()) endless.push_back(face);
  }
  if (endless.empty() || endless.size() == faces.size()) return 0;
  remove(body, endless);
  return static_cast<int>(endless.size());
}

int remove_fatal_faces(Body& body) {
  const std::vector<TopoDS_Shape> faces = faces_of(body.shape);
  constexpr unsigned kSeconds = 10;
  std::vector<TopoDS_Shape> fatal;
  for (const int i : fatal_ones(static_cast<int>(faces.size()), kSeconds, [&](int begin, int end) {
         for (int face = begin; face < end; ++face) use(faces[static_cast<size_t>(face)]);
       }))
    fatal.push_back(faces[static_cast<size_t>(i)]);
  if (!fatal.empty()) remove(body, fatal);
  return static_cast<int>(fatal.size());
}

}  // namespace anvil
