#include "correct/split_faces.h"

#include <BRepAlgoAPI_Section.hxx>
#include <BRepFeat_SplitShape.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include "geom/guard.h"
#include "part/kept_border.h"

namespace anvil {
namespace {

// Where the plane crosses a face, but not along its border, which divides nothing.
std::vector<TopoDS_Edge> cuts_in(const TopologyIndex& topology, int face, const gp_Pln& at) {
  BRepAlgoAPI_Section section(topology.faces[face].face, at, false);
  section.ComputePCurveOn1(true);
  section.Approximation(false);
  section.Build();
  std::vector<TopoDS_Edge> cuts;
  if (!section.IsDone()) return cuts;
  const ShapeSet border = shapes_in(topology.faces[face].face, TopAbs_EDGE);
  for (TopExp_Explorer it(section.Shape(), TopAbs_EDGE); it.More(); it.Next())
    if (!border.count(it.Current())) cuts.push_back(TopoDS::Edge(it.Current()));
  return cuts;
}

void tell(BRepFeat_SplitShape& split, const TopoDS_Shape& body, BodyChange& change) {
  const ShapeSet faces = shapes_in(change.shape, TopAbs_FACE), edges = shapes_in(change.shape, TopAbs_EDGE);
  for (const TopAbs_ShapeEnum kind : {TopAbs_FACE, TopAbs_EDGE})
    for (const TopoDS_Shape& old : shapes_in(body, kind))
      for (const TopoDS_Shape& now : split.Modified(old))
        if (!now.IsSame(old) && (faces.count(now) || edges.count(now))) change.history->AddModified(old, now);
}

// The edges that are new inside the old faces.
void keep_apart(const TopoDS_Shape& body, const BodyChange& change) {
  ShapeSet known = shapes_in(body, TopAbs_EDGE);
  for (const TopoDS_Shape& old : shapes_in(body, TopAbs_EDGE))
    for (const TopoDS_Shape& now : change.history->Modified(old)) known.insert(now);
  for (const TopoDS_Shape& edge : shapes_in(change.shape, TopAbs_EDGE))
    if (!known.count(edge)) keep_as_border(TopoDS::Edge(edge));
}

}  // namespace

Result<BodyChange> with_faces_split(const TopoDS_Shape& body, const TopologyIndex& topology,
                                    const std::vector<int>& faces, const gp_Pln& at) {
  return guarded("splitting faces", [&]() -> Result<BodyChange> {
    BRepFeat_SplitShape split(body);
    bool any = false;
    for (const int face : faces)
      for (const TopoDS_Edge& cut : cuts_in(topology, face, at)) {
        split.Add(cut, topology.faces[face].face);
        any = true;
      }
    if (!any)
      return refuse(RefusalCode::kGeometry, "the plane crosses none of the faces: there is nothing to split");
    split.Build();
    if (!split.IsDone())
      return refuse(RefusalCode::kGeometry, "the cut does not divide the face from border to border");
    BodyChange change;
    change.shape = split.Shape();
    tell(split, body, change);
    keep_apart(body, change);
    return judged(body, std::move(change), Expected::kPerhapsNone);
  });
}

}  // namespace anvil
