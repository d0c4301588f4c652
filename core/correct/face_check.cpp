#include "correct/face_check.h"

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <IntTools_Context.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>

namespace anvil {
namespace {

constexpr size_t kFew = 24;

struct Outline {
  TopoDS_Shape wire;
  bool is_new = false;
  Bnd_Box box;
};

Outline outline_of(const TopoDS_Shape& wire, const ShapeSet& old_edges) {
  Outline outline{wire, false, {}};
  for (TopExp_Explorer edges(wire, TopAbs_EDGE); edges.More(); edges.Next())
    outline.is_new = outline.is_new || !old_edges.count(edges.Current());
  BRepBndLib::Add(wire, outline.box, false);
  outline.box.Enlarge(1e-3);
  return outline;
}

}  // namespace

bool is_valid_face(const TopoDS_Face& face, const ShapeSet& old_edges) {
  const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
  std::vector<Outline> outlines;
  for (TopoDS_Iterator wires(forward, false); wires.More(); wires.Next())
    if (wires.Value().ShapeType() == TopAbs_WIRE) outlines.push_back(outline_of(wires.Value(), old_edges));
  if (outlines.size() <= kFew) return BRepCheck_Analyzer(face).IsValid();
  std::vector<Bnd_Box> fresh;
  for (const Outline& outline : outlines)
    if (outline.is_new) fresh.push_back(outline.box);
  const TopoDS_Wire outer = BRepTools::OuterWire(forward);
  TopoDS_Shape reduced = forward.EmptyCopied();
  for (const Outline& outline : outlines) {
    const bool is_outer = outline.wire.IsSame(outer);
    if (is_outer && outline.is_new) return BRepCheck_Analyzer(face).IsValid();
    const bool near_new =
        std::any_of(fresh.begin(), fresh.end(), [&](const Bnd_Box& box) { return !box.IsOut(outline.box); });
    if (is_outer || near_new) BRep_Builder().Add(reduced, outline.wire);
  }
  return BRepCheck_Analyzer(reduced).IsValid();
}

std::optional<gp_Pnt> place_inside(const TopoDS_Face& face) {
  gp_Pnt place;
  gp_Pnt2d on_surface;
  const Handle(IntTools_Context) context = new IntTools_Context();
  if (BOPTools_AlgoTools3D::PointInFace(face, place, on_surface, context) != 0) return std::nullopt;
  return place;
}

}  // namespace anvil
