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
namespace {

struct Grown {
  TopoDS_Face old;
  TopoDS_Shape tool, top;  // what is added or cut away, and where the face comes to lie
  bool outward = true;
};

}  // namespace

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
                                      const std::vector<MovedFaces>& sets) {
  std::vector<Grown> all;
  for (const MovedFaces& set : sets)
    for (const int face : set.faces) {
      const FaceInfo& info = topology.faces[face];
      const double out = set.by.Dot(gp_Vec(info.surface.position.Direction()));
      if (info.surface.kind != SurfaceKind::kPlane || std::abs(out) < 1e-9)
        return refuse(RefusalCode::kGeometry, "walls come up only beside flat faces, and not along them");
      BRepPrimAPI_MakePrism prism(info.face, set.by);
      all.push_back({info.face, prism.Shape(), prism.LastShape(), out > 0});
    }
  const bool outward = all.front().outward;
  if (std::any_of(all.begin(), all.end(), [&](const Grown& one) { return one.outward != outward; }))
    return refuse(RefusalCode::kGeometry,
                  "some of these faces would go out and others in: move them one after the other");
  std::vector<TopoDS_Shape> tools;
  tools.reserve(all.size());
  for (const Grown& one : all) tools.push_back(one.tool);
  auto told = combined_telling(body, tools, outward ? Combining::kJoin : Combining::kCut);
  if (!told) return refuse(told);
  BodyChange change = std::move(told->change);
  for (size_t i = 0; i < all.size(); ++i) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(all[i].tool, TopAbs_FACE, faces);
    for (const TopoDS_Shape& now : told->faces_of_tools[i][faces.FindIndex(all[i].top) - 1]) {
      change.history->AddModified(all[i].old, now);
      change.moved.insert({all[i].old, now});
    }
  }
  return change;
}

}  // namespace anvil
