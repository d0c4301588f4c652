#include "correct/combine.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <memory>

#include "base/tolerance.h"
#include "correct/retrim.h"
#include "geom/guard.h"
#include "part/face_info.h"
#include "part/measure.h"

namespace anvil {
namespace {

std::unique_ptr<BRepAlgoAPI_BooleanOperation> operation(Combining how) {
  if (how == Combining::kJoin) return std::make_unique<BRepAlgoAPI_Fuse>();
  if (how == Combining::kCut) return std::make_unique<BRepAlgoAPI_Cut>();
  return std::make_unique<BRepAlgoAPI_Common>();
}

// A single solid is not wrapped up.
TopoDS_Shape unwrapped(const TopoDS_Shape& shape) {
  TopTools_IndexedMapOfShape solids;
  TopExp::MapShapes(shape, TopAbs_SOLID, solids);
  return solids.Extent() == 1 ? solids(1) : shape;
}

// What is left of the body's own faces, edges or vertices.
ShapeSet own_pieces(const TopoDS_Shape& before, const BodyChange& change, TopAbs_ShapeEnum kind) {
  ShapeSet own;
  for (const TopoDS_Shape& old : shapes_in(before, kind)) {
    own.insert(old);
    const TopTools_ListOfShape& now = change.history->Modified(old);
    own.insert(now.begin(), now.end());
  }
  return own;
}

// Its edges and vertices around which nothing but its own faces stands: they keep those apart as they did.
TopTools_MapOfShape what_stays(const TopoDS_Shape& before, const BodyChange& change) {
  const ShapeSet own = own_pieces(before, change, TopAbs_FACE);
  TopTools_MapOfShape stays;
  for (const TopAbs_ShapeEnum kind : {TopAbs_EDGE, TopAbs_VERTEX}) {
    const ShapeSet known = own_pieces(before, change, kind);
    TopTools_IndexedDataMapOfShapeListOfShape faces_at;
    TopExp::MapShapesAndAncestors(change.shape, kind, TopAbs_FACE, faces_at);
    for (int i = 1; i <= faces_at.Extent(); ++i)
      if (known.count(faces_at.FindKey(i)) &&
          std::all_of(faces_at(i).begin(), faces_at(i).end(),
                      [&](const TopoDS_Shape& face) { return own.count(face) > 0; }))
        stays.Add(faces_at.FindKey(i));
  }
  return stays;
}

// Whether an edge that is new has one surface on both its sides. Looked for first, because uniting looks at
// the whole body.
bool is_there_something_to_unite(const TopoDS_Shape& before, const BodyChange& change) {
  const ShapeSet known = own_pieces(before, change, TopAbs_EDGE),
                 own = own_pieces(before, change, TopAbs_FACE);
  TopTools_IndexedDataMapOfShapeListOfShape faces_at;
  TopExp::MapShapesAndAncestors(change.shape, TopAbs_EDGE, TopAbs_FACE, faces_at);
  for (int i = 1; i <= faces_at.Extent(); ++i) {
    if (faces_at(i).Extent() != 2) continue;
    const TopoDS_Face &a = TopoDS::Face(faces_at(i).First()), &b = TopoDS::Face(faces_at(i).Last());
    if (a.IsSame(b) || (known.count(faces_at.FindKey(i)) && own.count(a) && own.count(b))) continue;
    if (same_surface(recognise_surface(a), recognise_surface(b), kMeets_mm, kExact.angular_rad)) return true;
  }
  return false;
}

// What was apart before stays apart.
void unify_what_is_new(const TopoDS_Shape& before, BodyChange& change) {
  if (!is_there_something_to_unite(before, change)) return;
  ShapeUpgrade_UnifySameDomain unify(change.shape, true, true, false);
  unify.KeepShapes(what_stays(before, change));
  unify.Build();
  change.shape = unify.Shape();
  change.history->Merge(unify.History());
}

// The faces that a tool's faces are now, by their place in it.
std::vector<std::vector<TopoDS_Shape>> faces_now(const TopoDS_Shape& tool, const ShapeSet& now,
                                                 const BRepTools_History& history) {
  std::vector<std::vector<TopoDS_Shape>> all;
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(tool, TopAbs_FACE, faces);
  for (int i = 1; i <= faces.Extent(); ++i) {
    auto& pieces = all.emplace_back();
    for (const TopoDS_Shape& piece : history.Modified(faces(i)))
      if (now.count(piece)) pieces.push_back(piece);
    if (pieces.empty() && now.count(faces(i))) pieces.push_back(faces(i));
  }
  return all;
}

TopTools_ListOfShape listed(const std::vector<TopoDS_Shape>& shapes) {
  TopTools_ListOfShape list;
  for (const TopoDS_Shape& shape : shapes) list.Append(shape);
  return list;
}

}  // namespace

Result<Combined> combined_telling(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools,
                                  Combining how) {
  return guarded("joining and cutting", [&]() -> Result<Combined> {
    const auto boolean = operation(how);
    boolean->SetArguments(listed({body}));
    boolean->SetTools(listed(tools));
    boolean->SetRunParallel(true);
    boolean->SetNonDestructive(true);
    boolean->Build();
    if (!boolean->IsDone() || boolean->HasErrors())
      return refuse(RefusalCode::kGeometry, "the kernel finds no way to join or cut them");
    BodyChange change;
    change.shape = unwrapped(boolean->Shape());
    change.history->Merge(boolean->History());
    unify_what_is_new(body, change);
    Combined result;
    const ShapeSet now = shapes_in(change.shape, TopAbs_FACE);
    for (const TopoDS_Shape& tool : tools)
      result.faces_of_tools.push_back(faces_now(tool, now, *change.history));
    auto sound = judged(body, std::move(change), how == Combining::kJoin ? Expected::kMore : Expected::kLess);
    if (!sound) return refuse(sound);
    result.change = std::move(*sound);
    return result;
  });
}

Result<BodyChange> combined(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools, Combining how) {
  auto told = combined_telling(body, tools, how);
  if (!told) return refuse(told);
  return std::move(told->change);
}

namespace {

std::optional<double> volume_of(BRepAlgoAPI_BooleanOperation& operation,
                                const std::vector<TopoDS_Shape>& solids,
                                const std::vector<TopoDS_Shape>& others) {
  const auto told = guarded("comparing", [&]() -> Result<double> {
    operation.SetArguments(listed(solids));
    operation.SetTools(listed(others));
    operation.SetRunParallel(true);
    operation.SetNonDestructive(true);
    operation.Build();
    if (!operation.IsDone() || operation.HasErrors()) return refuse(RefusalCode::kGeometry, "cannot be told");
    return volume_properties(operation.Shape()).volume_mm3;
  });
  return told ? std::optional(*told) : std::nullopt;
}

}  // namespace

std::optional<double> volume_beyond(const TopoDS_Shape& solid, const TopoDS_Shape& other) {
  BRepAlgoAPI_Cut cut;
  return volume_of(cut, {solid}, {other});
}

std::optional<double> volume_in_common(const std::vector<TopoDS_Shape>& solids,
                                       const std::vector<TopoDS_Shape>& others) {
  BRepAlgoAPI_Common common;
  return volume_of(common, solids, others);
}

}  // namespace anvil
