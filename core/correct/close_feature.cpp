#include "correct/close_feature.h"

#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <set>

#include "geom/guard.h"

namespace anvil {
namespace {

// The face without those of its outlines that are to go.
TopoDS_Face without_outlines(const TopoDS_Face& face, const ShapeSet& border) {
  const TopoDS_Shape forward = face.Oriented(TopAbs_FORWARD);
  TopoDS_Shape bare = forward.EmptyCopied();
  for (TopoDS_Iterator wires(forward, false); wires.More(); wires.Next()) {
    const TopExp_Explorer first(wires.Value(), TopAbs_EDGE);
    if (wires.Value().ShapeType() == TopAbs_WIRE && first.More() && border.count(first.Current())) continue;
    BRep_Builder().Add(bare, wires.Value());
  }
  return TopoDS::Face(bare.Oriented(face.Orientation()));
}

struct Border {
  ShapeSet edges;
  std::vector<int> hosts;  // the faces that hold the feature
};

Border border_of(const TopologyIndex& topology, const Feature& feature) {
  Border border;
  const std::set<int> own(feature.faces.begin(), feature.faces.end());
  std::set<int> hosts;
  for (const int face : feature.faces)
    for (const int edge : topology.faces[face].edges) {
      const int next = topology.edges[edge].other_face(face);
      if (next < 0 || own.count(next)) continue;
      border.edges.insert(topology.edges[edge].edge);
      hosts.insert(next);
    }
  border.hosts.assign(hosts.begin(), hosts.end());
  return border;
}

BodyChange lifted_off(const TopoDS_Shape& body, const TopologyIndex& topology, const Feature& feature) {
  const Border border = border_of(topology, feature);
  Handle(BRepTools_ReShape) reshape = new BRepTools_ReShape();
  BodyChange change;
  for (const int face : feature.faces) reshape->Remove(topology.faces[face].face);
  for (const int host : border.hosts) {
    const TopoDS_Face& old = topology.faces[host].face;
    const TopoDS_Face bare = without_outlines(old, border.edges);
    reshape->Replace(old, bare);
    change.history->AddModified(old, bare);
  }
  change.shape = reshape->Apply(body);
  return change;
}

Result<BodyChange> extended(const TopoDS_Shape& body, const TopologyIndex& topology, const Feature& feature) {
  BRepAlgoAPI_Defeaturing remove;
  remove.SetShape(body);
  for (const int face : feature.faces) remove.AddFaceToRemove(topology.faces[face].face);
  remove.SetRunParallel(true);
  remove.Build();
  if (!remove.IsDone() || remove.HasErrors())
    return refuse(RefusalCode::kGeometry, "the faces around it cannot be extended until they meet");
  BodyChange change;
  change.shape = remove.Shape();
  change.history = remove.History();
  change.may_cross = true;
  return change;
}

}  // namespace

Result<BodyChange> with_feature_lifted(const TopoDS_Shape& body, const TopologyIndex& topology,
                                       const Feature& feature, Expected expected) {
  if (!feature.stands_free)
    return refuse(RefusalCode::kGeometry, "it does not stand in its faces by whole outlines");
  return guarded("taking faces off",
                 [&] { return judged(body, lifted_off(body, topology, feature), expected); });
}

Result<BodyChange> without_feature(const TopoDS_Shape& body, const TopologyIndex& topology,
                                   const Feature& feature, Expected expected) {
  if (auto lifted = with_feature_lifted(body, topology, feature, expected)) return lifted;
  return guarded("extending faces", [&]() -> Result<BodyChange> {
    auto change = extended(body, topology, feature);
    if (!change) return refuse(change);
    return judged(body, std::move(*change), expected);
  });
}

}  // namespace anvil
