#include "correct/step_faces.h"

#include <BRepPrimAPI_MakePrism.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <algorithm>
#include <set>

#include "correct/combine.h"
#include "geom/guard.h"
#include "part/kept_border.h"

namespace anvil {

bool leave_their_plane(const TopologyIndex& topology, const std::vector<int>& faces) {
  const std::set<int> own(faces.begin(), faces.end());
  return std::any_of(faces.begin(), faces.end(), [&](int face) {
    const auto& edges = topology.faces[face].edges;
    return topology.faces[face].surface.kind == SurfaceKind::kPlane &&
           std::any_of(edges.begin(), edges.end(), [&](int edge) {
             const EdgeInfo& info = topology.edges[edge];
             return is_kept_border(info.edge) && !info.is_open() && !own.count(info.other_face(face));
           });
  });
}

Result<BodyChange> with_faces_stepped(const TopoDS_Shape& body, const TopologyIndex& topology,
                                      const MovedFaces& set) {
  std::vector<TopoDS_Shape> tools, tops;
  bool outward = true;
  for (const int face : set.faces) {
    const FaceInfo& info = topology.faces[face];
    const gp_Dir normal = info.surface.position.Direction();
    if (info.surface.kind != SurfaceKind::kPlane || std::abs(set.by.Dot(gp_Vec(normal))) < 1e-9)
      return refuse(RefusalCode::kGeometry,
                    "beside a face of the same plane only flat faces can be moved, and not along themselves");
    outward = set.by.Dot(gp_Vec(normal)) > 0;
    BRepPrimAPI_MakePrism prism(info.face, set.by);
    tools.push_back(prism.Shape());
    tops.push_back(prism.LastShape());
  }
  auto told = combined_telling(body, tools, outward ? Combining::kJoin : Combining::kCut);
  if (!told) return refuse(told);
  BodyChange change = std::move(told->change);
  for (size_t i = 0; i < tools.size(); ++i) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(tools[i], TopAbs_FACE, faces);
    const int top = faces.FindIndex(tops[i]);
    const TopoDS_Face& old = topology.faces[set.faces[i]].face;
    for (const TopoDS_Shape& now : told->faces_of_tools[i][top - 1]) {
      change.history->AddModified(old, now);
      change.moved.insert({old, now});
    }
  }
  return change;
}

}  // namespace anvil
