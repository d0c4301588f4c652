// Faces laid onto a plane or another face's surface, and faces split along a plane.
#include <fmt/format.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <TopoDS.hxx>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Solutions laid(const Inputs& in) {
  const auto picked = faces_from(in, 1, in.picks.size());
  if (!picked) return refuse(picked);
  const Given& onto = in[0];
  // In part coordinates; of a plane the surface counts, wherever it ends.
  const TopoDS_Face surface = onto.shape.IsNull() || onto.shape.ShapeType() != TopAbs_FACE
                                  ? BRepBuilderAPI_MakeFace(*onto.plane, -1, 1, -1, 1).Face()
                                  : TopoDS::Face(onto.shape);
  const TopoDS_Face own =
      TopoDS::Face(BRepBuilderAPI_Transform(surface, picked->pick.placement.Inverted(), true).Shape());
  Plan plan;
  for (const auto& [body, faces] : picked->by_body)
    plan.steps.push_back({body, LayFaces{{faces.begin(), faces.end()}, own}});
  return std::vector<Solution>{planned(std::move(plan), {}, "only", {})};
}

Solutions split(const Inputs& in) {
  const auto picked = faces_from(in, 1, in.picks.size());
  if (!picked) return refuse(picked);
  const gp_Pln at(in_part(picked->pick, in[0].plane->Location()),
                  in_part(picked->pick, in[0].plane->Axis().Direction()));
  Plan plan;
  for (const auto& [body, faces] : picked->by_body)
    plan.steps.push_back({body, SplitFaces{{faces.begin(), faces.end()}, at}});
  return std::vector<Solution>{planned(std::move(plan), {}, "only", {})};
}

Construction of_faces(const char* id, const char* kept_as, const char* sentence, Need by, int rank,
                      std::function<Solutions(const Inputs&)> solve) {
  Construction c = correcting(id, kept_as, sentence, {by, Need::kFace}, rank, std::move(solve));
  c.repeats = true;
  c.ordered = true;
  return c;
}

}  // namespace

Construction correct_lay() {
  return of_faces("correct.face-onto", "Laid", "Lay {rest} onto the surface of {1}", Need::kLimit, 80, laid);
}

Construction correct_split() {
  return of_faces("correct.face-split", "Split", "Split {rest} along plane {1}", Need::kPlane, 89, split);
}

}  // namespace anvil
