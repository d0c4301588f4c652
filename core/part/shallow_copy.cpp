#include "part/shallow_copy.h"

#include <BRep_Builder.hxx>
#include <BRep_CurveRepresentation.hxx>
#include <BRep_ListOfCurveRepresentation.hxx>
#include <BRep_TEdge.hxx>
#include <BRep_TFace.hxx>
#include <BRep_Tool.hxx>
#include <TopTools_DataMapOfShapeShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include "part/kept_border.h"

namespace anvil {
namespace {

class Copier {
 public:
  TopoDS_Shape operator()(const TopoDS_Shape& shape) {
    if (shape.ShapeType() == TopAbs_VERTEX) return shape;
    const TopoDS_Shape bare = shape.Located(TopLoc_Location()).Oriented(TopAbs_FORWARD);
    if (!copies_.IsBound(bare)) copies_.Bind(bare, copy(bare));
    return copies_(bare).Located(shape.Location()).Oriented(shape.Orientation());
  }

 private:
  TopoDS_Shape copy(const TopoDS_Shape& shape) {
    const BRep_Builder builder;
    TopoDS_Shape own = shape.EmptyCopied();
    for (TopoDS_Iterator parts(shape, false, false); parts.More(); parts.Next())
      builder.Add(own, (*this)(parts.Value()));
    own.Closed(shape.Closed());
    own.Infinite(shape.Infinite());
    own.Orientable(shape.Orientable());
    if (shape.ShapeType() == TopAbs_FACE) copy_triangles(TopoDS::Face(shape), TopoDS::Face(own));
    if (shape.ShapeType() == TopAbs_EDGE) copy_points(TopoDS::Edge(shape), TopoDS::Edge(own));
    return own;
  }

  static void copy_triangles(const TopoDS_Face& from, const TopoDS_Face& to) {
    const auto& old = Handle(BRep_TFace)::DownCast(from.TShape());
    const auto& own = Handle(BRep_TFace)::DownCast(to.TShape());
    own->NaturalRestriction(old->NaturalRestriction());
    if (old->NbTriangulations() > 0) own->Triangulations(old->Triangulations(), old->ActiveTriangulation());
  }

  // The kernel copies an edge without its places in the triangles beside it.
  static void copy_points(const TopoDS_Edge& from, const TopoDS_Edge& to) {
    auto& own = Handle(BRep_TEdge)::DownCast(to.TShape())->ChangeCurves();
    for (const Handle(BRep_CurveRepresentation) & one : Handle(BRep_TEdge)::DownCast(from.TShape())->Curves())
      if (one->IsPolygonOnTriangulation() || one->IsPolygon3D()) own.Append(one->Copy());
    if (is_kept_border(from)) keep_as_border(to);
  }

  TopTools_DataMapOfShapeShape copies_;
};

}  // namespace

TopoDS_Shape shallow_copy(const TopoDS_Shape& shape) {
  return Copier()(shape);
}

}  // namespace anvil
