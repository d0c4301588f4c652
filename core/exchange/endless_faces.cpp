#include "exchange/endless_faces.h"

#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <TopExp_Explorer.hxx>

namespace anvil {

int remove_endless_faces(Body& body) {
  const Handle(ShapeBuild_ReShape) context = new ShapeBuild_ReShape;
  int removed = 0, kept = 0;
  for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next()) {
    Bnd_Box box;
    BRepBndLib::Add(faces.Current(), box, false);
    if (!box.IsVoid() && !box.IsOpen()) {
      ++kept;
      continue;
    }
    context->Remove(faces.Current());
    ++removed;
  }
  if (removed == 0 || kept == 0) return 0;
  body.shape = context->Apply(body.shape);
  body.face_colours.clear();
  return removed;
}

}  // namespace anvil
