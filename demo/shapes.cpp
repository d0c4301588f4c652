#include "demo/shapes.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <Standard_Failure.hxx>
#include <TopTools_ListOfShape.hxx>
#include <gp_Circ.hxx>

namespace anvil::demo {
namespace {

template <class Operation>
TopoDS_Shape combine(const TopoDS_Shape& first, const std::vector<TopoDS_Shape>& others, bool merge_faces) {
  TopTools_ListOfShape arguments, tools;
  arguments.Append(first);
  for (const TopoDS_Shape& other : others) tools.Append(other);
  Operation operation;
  operation.SetArguments(arguments);
  operation.SetTools(tools);
  operation.Build();
  if (merge_faces) operation.SimplifyResult();
  return operation.Shape();
}

struct Corner {
  gp_Pnt2d at;
  gp_Vec2d into, out_of;  // unit directions of the sides before and after
  double radius;
};

TopoDS_Wire outline(const gp_Ax2& at, const PocketShape& s) {
  const double w = s.width / 2, h = s.height / 2;
  const Corner corners[4] = {{{-w, -h}, {0, -1}, {1, 0}, s.r[0]},
                             {{w, -h}, {1, 0}, {0, 1}, s.r[1]},
                             {{w, h}, {0, 1}, {-1, 0}, s.r[2]},
                             {{-w, h}, {-1, 0}, {0, -1}, s.r[3]}};
  const auto place = [&](const gp_Pnt2d& p) {
    return at.Location().Translated(gp_Vec(at.XDirection()) * p.X() + gp_Vec(at.YDirection()) * p.Y());
  };
  BRepBuilderAPI_MakeWire wire;
  for (int i = 0; i < 4; ++i) {
    const Corner &c = corners[i], &next = corners[(i + 1) % 4];
    const gp_Pnt2d start = c.at.Translated(c.out_of * c.radius);
    if (c.radius > 0) {
      const gp_Pnt2d begin = c.at.Translated(c.into * -c.radius);
      const gp_Pnt2d centre = begin.Translated(c.out_of * c.radius);
      const gp_Circ circle(gp_Ax2(place(centre), at.Direction(), at.XDirection()), c.radius);
      wire.Add(BRepBuilderAPI_MakeEdge(circle, place(begin), place(start)));
    }
    wire.Add(BRepBuilderAPI_MakeEdge(place(start), place(next.at.Translated(next.into * -next.radius))));
  }
  return wire.Wire();
}

bool is_straight_along(const TopoDS_Edge& edge, const gp_Dir& along) {
  const BRepAdaptor_Curve curve(edge);
  return curve.GetType() == GeomAbs_Line && curve.Line().Direction().IsParallel(along, 1e-9);
}

}  // namespace

TopoDS_Shape block(const gp_Pnt& low, const gp_Pnt& high) {
  return BRepPrimAPI_MakeBox(low, high).Shape();
}

TopoDS_Shape rod(const gp_Ax2& at, double diameter, double length) {
  return BRepPrimAPI_MakeCylinder(at, diameter / 2, length).Shape();
}

TopoDS_Shape taper(const gp_Ax2& at, double d0, double d1, double length) {
  return BRepPrimAPI_MakeCone(at, d0 / 2, d1 / 2, length).Shape();
}

TopoDS_Shape pocket(const gp_Ax2& at, const PocketShape& s) {
  const TopoDS_Face face = BRepBuilderAPI_MakeFace(outline(at, s), true).Face();
  const TopoDS_Shape prism = BRepPrimAPI_MakePrism(face, gp_Vec(at.Direction()) * -s.depth).Shape();
  if (s.floor_radius <= 0) return prism;
  BRepFilletAPI_MakeFillet fillet(prism);
  const gp_Pnt floor = at.Location().Translated(gp_Vec(at.Direction()) * -s.depth);
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(prism, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(edges(i)));
    const gp_Pnt middle = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
    if (std::abs(gp_Vec(floor, middle).Dot(gp_Vec(at.Direction()))) < 1e-7)
      fillet.Add(s.floor_radius, TopoDS::Edge(edges(i)));
  }
  return fillet.Shape();
}

TopoDS_Shape cut(const TopoDS_Shape& from, const std::vector<TopoDS_Shape>& tools) {
  return combine<BRepAlgoAPI_Cut>(from, tools, false);
}

TopoDS_Shape join(const TopoDS_Shape& a, const std::vector<TopoDS_Shape>& others) {
  return combine<BRepAlgoAPI_Fuse>(a, others, true);
}

TopoDS_Shape round_edges(const TopoDS_Shape& solid, const gp_Dir& along, double radius) {
  BRepFilletAPI_MakeFillet fillet(solid);
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(solid, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i)
    if (is_straight_along(TopoDS::Edge(edges(i)), along)) fillet.Add(radius, TopoDS::Edge(edges(i)));
  return fillet.Shape();
}

}  // namespace anvil::demo
