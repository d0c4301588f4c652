#include "correct/carry_out.h"

#include <fmt/format.h>

#include <BRepClass3d_SolidClassifier.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <map>
#include <tuple>

#include "correct/close_feature.h"
#include "correct/combine.h"
#include "correct/face_check.h"
#include "correct/fillets.h"
#include "correct/move_faces.h"
#include "correct/remake_holes.h"
#include "correct/split_faces.h"
#include "correct/step_faces.h"
#include "geom/guard.h"
#include "part/crossing_faces.h"
#include "part/mesh.h"
#include "part/mesh_faces.h"
#include "part/patch_mesh.h"
#include "part/settle.h"
#include "part/shallow_copy.h"

namespace anvil {
namespace {

struct Doing {
  const TopoDS_Shape& body;
  const TopologyIndex& topology;

  Result<BodyChange> operator()(const CloseFeature& step) const {
    Result<BodyChange> change = refuse(RefusalCode::kGeometry, "there is nothing to close");
    for (const Feature& feature : step.tries)
      if (change = without_feature(body, topology, feature, step.expected); change) break;
    return change;
  }
  Result<BodyChange> operator()(const MoveFaces& step) const {
    const bool cannot_follow = step.sets.size() == 1 && leave_their_plane(topology, step.sets.front().faces);
    if (step.with_walls || cannot_follow) return with_faces_stepped(body, topology, step.sets);
    return told_both_ways(with_faces_moved(body, topology, step.sets));
  }
  // What goes at one side comes at the other; the sum tells neither.
  Result<BodyChange> told_both_ways(Result<BodyChange> change) const {
    if (!change) return change;
    const auto added = volume_beyond(change->shape, body), removed = volume_beyond(body, change->shape);
    if (added && removed) std::tie(change->added_mm3, change->removed_mm3) = std::pair(*added, *removed);
    return change;
  }
  Result<BodyChange> operator()(const RoundAnew& step) const {
    return with_radius(body, topology, step.faces, step.radius_mm);
  }
  Result<BodyChange> operator()(const CombineWith& step) const {
    return combined(body, step.tools, step.how);
  }
  Result<BodyChange> operator()(const LayFaces& step) const {
    return told_both_ways(with_faces_laid(body, topology, step.faces, step.onto));
  }
  Result<BodyChange> operator()(const SplitFaces& step) const {
    return with_faces_split(body, topology, step.faces, step.at);
  }
  Result<BodyChange> operator()(const RemakeHoles& step) const { return remade_holes(body, topology, step); }
};

// Where a face lies to a solid, by a place inside the face.
TopAbs_State state_of(BRepClass3d_SolidClassifier& solid, const TopoDS_Face& face) {
  const auto place = place_inside(face);
  if (!place) return TopAbs_UNKNOWN;
  solid.Perform(*place, 1e-6);
  return solid.State();
}

// Faces of one that the other has not.
std::vector<TopoDS_Face> only_in(const TopoDS_Shape& one, const TopoDS_Shape& other) {
  const ShapeSet shared = shapes_in(other, TopAbs_FACE);
  std::vector<TopoDS_Face> faces;
  for (TopExp_Explorer it(one, TopAbs_FACE); it.More(); it.Next())
    if (!shared.count(it.Current())) faces.push_back(TopoDS::Face(it.Current()));
  return faces;
}

// Old faces that were only cut or lengthened where they are, and what they are now.
ShapeSet grown_in_place(const TopoDS_Shape& before, const BodyChange& change) {
  ShapeSet all;
  for (const TopoDS_Shape& old : shapes_in(before, TopAbs_FACE)) {
    const TopTools_ListOfShape& now = change.history->Modified(old);
    if (now.IsEmpty() || change.moved.count(old)) continue;
    all.insert(old);
    all.insert(now.begin(), now.end());
  }
  return all;
}

// Holes that were closed bounded what was added, and what is cut what is removed: nothing needs to be looked
// at.
void paint_holes(const TopoDS_Shape& before, const BodyChange& change, CorrectedBody& corrected) {
  std::vector<TopoDS_Shape> gone, made;
  const ShapeSet in_place = grown_in_place(before, change);
  for (const TopoDS_Face& face : only_in(before, change.shape))
    if (!in_place.count(face)) gone.push_back(face);
  for (const TopoDS_Face& face : only_in(change.shape, before))
    if (!in_place.count(face)) made.push_back(face);
  const bool is_boss = change.added_mm3 <= 0 && made.empty();
  corrected.added = compound_of(is_boss ? made : gone);
  corrected.removed = compound_of(is_boss ? gone : made);
}

// A face that is new bounds what was removed where it lies in what was material, else what was added; one
// that is gone the other way round.
void paint(const TopoDS_Shape& before, const BodyChange& change, CorrectedBody& corrected) {
  std::vector<TopoDS_Shape> added, removed;
  const ShapeSet in_place = grown_in_place(before, change);
  const auto look = [&](const TopoDS_Shape& at, const TopoDS_Shape& other, std::vector<TopoDS_Shape>& inside,
                        std::vector<TopoDS_Shape>& outside) {
    BRepClass3d_SolidClassifier solid(other);
    for (const TopoDS_Face& face : only_in(at, other)) {
      const TopAbs_State state = state_of(solid, face);
      if (state == TopAbs_IN) inside.push_back(face);
      if (state == TopAbs_OUT && !in_place.count(face)) outside.push_back(face);
    }
  };
  look(change.shape, before, removed, added);
  look(before, change.shape, added, removed);
  corrected.added = compound_of(added);
  corrected.removed = compound_of(removed);
}

// Faces that were made anew may run into others that are no neighbours: a floor pushed through the bottom. By
// the display mesh, confirmed on the surfaces; crossings that were there before are nobody's doing here.
Result<void> crosses_nothing(const TopoDS_Shape& before, const TopoDS_Shape& after) {
  Body body;
  body.shape = after;
  body.meshed = true;
  const Part part(SourceInfo{}, {body});
  const ShapeSet old = shapes_in(before, TopAbs_FACE);
  const auto is_new = [&](int face) { return !old.count(part.topology().faces[face].face); };
  for (const Crossing& crossing : crossing_faces(part, 0))
    if (is_new(crossing.face_a) || is_new(crossing.face_b))
      return refuse(
          RefusalCode::kGeometry,
          fmt::format("it would run into a face that is not beside it, at X {:.3f} Y {:.3f} Z {:.3f} of "
                      "the part: cut through with a hole or a body instead",
                      crossing.where.X(), crossing.where.Y(), crossing.where.Z()));
  return {};
}

struct DoingDirectly {
  const TopoDS_Shape& body;
  const TopologyIndex& topology;

  std::optional<BodyChange> operator()(const RemakeHoles& step) const {
    return remade_holes_directly(body, topology, step);
  }
  std::optional<BodyChange> operator()(const CloseFeature& step) const {
    if (step.tries.empty()) return std::nullopt;
    auto lifted = with_feature_lifted(body, topology, step.tries.front(), step.expected);
    return lifted ? std::optional(std::move(*lifted)) : std::nullopt;
  }
  template <class Step>
  std::optional<BodyChange> operator()(const Step& /*wants_more*/) const {
    return std::nullopt;
  }
};

CorrectedBody told(const TopoDS_Shape& before, const BodyChange& change, bool of_holes) {
  CorrectedBody corrected;
  corrected.shape = change.shape;
  corrected.map = body_map(before, change.shape, *change.history);
  corrected.added_mm3 = change.added_mm3;
  corrected.removed_mm3 = change.removed_mm3;
  of_holes ? paint_holes(before, change, corrected) : paint(before, change, corrected);
  return corrected;
}

// The faces of a compound as they are in a copy of what they are of.
TopoDS_Shape copied(const TopoDS_Shape& faces, const TopoDS_Shape& of, const TopoDS_Shape& copy) {
  TopTools_IndexedMapOfShape from, to;
  TopExp::MapShapes(of, TopAbs_FACE, from);
  TopExp::MapShapes(copy, TopAbs_FACE, to);
  std::vector<TopoDS_Shape> all;
  for (TopExp_Explorer it(faces, TopAbs_FACE); it.More(); it.Next()) {
    const int place = from.FindIndex(it.Current());
    all.push_back(place > 0 ? to(place) : it.Current());
  }
  return compound_of(all);
}

bool is_on_same_surface(const TopoDS_Face& a, const TopoDS_Face& b) {
  TopLoc_Location of_a, of_b;
  return BRep_Tool::Surface(a, of_a) == BRep_Tool::Surface(b, of_b) && of_a.IsEqual(of_b);
}

// What each face of the shape now was, where it was on the same surface; by its place.
std::map<int, TopoDS_Face> what_they_were(const TopoDS_Shape& before, const BodyChange& change) {
  TopTools_IndexedMapOfShape old, now;
  TopExp::MapShapes(before, TopAbs_FACE, old);
  TopExp::MapShapes(change.shape, TopAbs_FACE, now);
  std::map<int, TopoDS_Face> were;
  for (int i = 1; i <= old.Extent(); ++i)
    for (const TopoDS_Shape& became : change.history->Modified(old(i)))
      if (const int place = now.FindIndex(became); place > 0)
        if (const TopoDS_Face was = TopoDS::Face(old(i)); is_on_same_surface(was, TopoDS::Face(became)))
          were[place] = was;
  return were;
}

// Faces that only won or lost an outline are patched, after what is new beside them: most of a large face's
// triangles stay.
void mesh_what_is_new(const TopoDS_Shape& before, const BodyChange& change, const TopoDS_Shape& copy) {
  const auto were = what_they_were(before, change);
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(copy, TopAbs_FACE, faces);
  std::vector<TopoDS_Face> anew, whole;
  std::vector<std::pair<TopoDS_Face, TopoDS_Face>> changed;
  for (int i = 1; i <= faces.Extent(); ++i) {
    const TopoDS_Face& face = TopoDS::Face(faces(i));
    if (has_triangles(face)) continue;
    const auto was = were.find(i);
    if (was == were.end())
      anew.push_back(face);
    else
      changed.emplace_back(was->second, face);
  }
  mesh_faces(anew, copy);
  for (const auto& [was, face] : changed)
    if (!patch_mesh(was, face)) whole.push_back(face);
  mesh_faces(whole, copy);
}

}  // namespace

std::optional<CorrectedBody> carry_out_directly(const Part& part, const PlanStep& step,
                                                const Progress& progress) {
  const Body& body = part.bodies()[step.body];
  if (body.kind != BodyKind::kSolid) return std::nullopt;
  progress.say("correcting " + body.name, 0.1);
  auto done = guarded("correcting", [&]() -> Result<CorrectedBody> {
    const auto change = std::visit(DoingDirectly{body.shape, part.topology()}, step.what);
    if (!change || progress.stop()) return refuse(RefusalCode::kCancelled, "it wants more than that");
    CorrectedBody corrected = told(body.shape, *change, true);
    for (const TopoDS_Face& face : only_in(change->shape, body.shape)) settle(face);
    // Meshing writes into edges, which the faces that stay share.
    const TopoDS_Shape copy = shallow_copy(change->shape);
    progress.say("meshing " + body.name, 0.6);
    mesh_what_is_new(body.shape, *change, copy);
    corrected.added = copied(corrected.added, change->shape, copy);
    corrected.removed = copied(corrected.removed, change->shape, copy);
    corrected.shape = copy;
    return corrected;
  });
  return done ? std::optional(std::move(*done)) : std::nullopt;
}

Result<CorrectedBody> carry_out(const Part& part, const PlanStep& step, const Progress& progress) {
  const Body& body = part.bodies()[step.body];
  if (body.kind != BodyKind::kSolid)
    return refuse(RefusalCode::kGeometry,
                  body.name + " is no closed solid, so nothing can be corrected on it: heal it first");
  progress.say("correcting " + body.name, 0.1);
  auto change = std::visit(Doing{body.shape, part.topology()}, step.what);
  if (!change) return refuse(change);
  progress.say("meshing " + body.name, 0.7);
  mesh_faces(only_in(change->shape, body.shape), change->shape);
  if (change->may_cross) {
    mesh_shape(change->shape);  // all faces are looked at
    if (auto free = crosses_nothing(body.shape, change->shape); !free) return refuse(free);
  }
  const bool of_holes =
      std::holds_alternative<RemakeHoles>(step.what) || std::holds_alternative<CloseFeature>(step.what);
  return told(body.shape, *change, of_holes);
}

}  // namespace anvil
