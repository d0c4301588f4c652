// One body after a correction: its shape, where its faces, edges and vertices went, and how much material
// came and went.
#pragma once

#include <BRepTools_History.hxx>
#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS_Face.hxx>
#include <unordered_set>
#include <vector>

#include "base/refusal.h"

namespace anvil {

struct ShapeHash {
  size_t operator()(const TopoDS_Shape& shape) const {
    return static_cast<size_t>(TopTools_ShapeMapHasher::HashCode(shape, 2147483647));
  }
};
struct SamePlace {
  bool operator()(const TopoDS_Shape& a, const TopoDS_Shape& b) const { return a.IsSame(b); }
};
// Shapes whichever way round they are used.
using ShapeSet = std::unordered_set<TopoDS_Shape, ShapeHash, SamePlace>;

struct BodyChange {
  TopoDS_Shape shape;
  Handle(BRepTools_History) history = new BRepTools_History();
  double added_mm3 = 0, removed_mm3 = 0;
  bool may_cross = false;  // new faces may run into others: to be looked at once they are meshed
  ShapeSet moved;          // faces, before and after, that the history tells as one though they lie elsewhere
};

// What a change does to volume; what only moves may leave it as it is.
enum class Expected { kMore, kLess, kEither, kPerhapsNone };

// The sub-shapes of a kind, each once.
ShapeSet shapes_in(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind);

// The guard around every correction: one closed solid, valid where it is new, with more or less volume as
// expected; fills in how much. What is not told of by the history and no longer there is gone. Refuses
// (kGeometry) with what is wrong and where. Faces that were there before are not judged again.
Result<BodyChange> judged(const TopoDS_Shape& before, BodyChange change, Expected expected);

// The second change follows the first on the same body.
BodyChange then(BodyChange first, const BodyChange& second);

}  // namespace anvil
