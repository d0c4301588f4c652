#include "correct/remake_holes.h"

#include <fmt/format.h>

#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <map>
#include <tuple>

#include "correct/close_feature.h"
#include "correct/combine.h"
#include "correct/lay_holes.h"

namespace anvil {
namespace {

// Volumes that differ by less are those of one form.
constexpr double kSameVolume = 1e-6;

bool same_volume(double a, double b) {
  return std::abs(a - b) <= kSameVolume * std::max(std::abs(a), std::abs(b));
}

// Whether the steps that holes were read as are all there is of them.
Result<void> forms_are_whole(const BodyChange& closed, const RemakeHoles& step) {
  double told = 0;
  std::vector<TopoDS_Shape> tools;
  for (const HoleToMake& hole : step.made) {
    if (!hole.instead_of) continue;
    told += volume_of(hole.instead_of->form);
    const auto tool = hole_tool(hole.instead_of->form, hole.instead_of->at, hole.above_mm, hole.below_mm);
    if (!tool) return refuse(tool);
    tools.push_back(tool->solid);
  }
  if (tools.empty() || same_volume(told, closed.added_mm3)) return {};
  // Their mouths are not flat, or they meet other holes.
  const auto cut = combined_telling(closed.shape, tools, Combining::kCut);
  if (cut && same_volume(cut->change.removed_mm3, closed.added_mm3)) return {};
  return refuse(RefusalCode::kGeometry,
                "the hole has more to it than the steps it was read as: close it, then add one");
}

// Every one of the holes takes something: one that lies beside the part is a mistake.
Result<void> each_meets_material(const RemakeHoles& step, const Combined& cut) {
  for (size_t i = 0; i < step.made.size(); ++i) {
    const auto& faces = cut.faces_of_tools[i];
    if (std::any_of(faces.begin(), faces.end(), [](const auto& pieces) { return !pieces.empty(); })) continue;
    const gp_Pnt at = step.made[i].at.Location();
    return refuse(
        RefusalCode::kGeometry,
        fmt::format(
            "the hole at X {:.3f} Y {:.3f} Z {:.3f} of the part meets no material: leave it out, or move it",
            at.X(), at.Y(), at.Z()));
  }
  return {};
}

struct CutWithHoles {
  std::vector<HoleTool> tools;
  Combined of_all;
};

std::optional<CutWithHoles> laid_into(const TopoDS_Shape& body, const RemakeHoles& step) {
  std::vector<HoleToLay> holes;
  std::vector<HoleTool> tools;
  for (const HoleToMake& hole : step.made) {
    auto tool = hole_tool(hole.form, hole.at, 0, 0);
    if (!tool) return std::nullopt;
    tools.push_back(*tool);
    holes.push_back({std::move(*tool), hole.at, depth_of(hole.form), hole.form.through});
  }
  auto laid = with_holes_laid(body, holes);
  if (!laid) return std::nullopt;
  return CutWithHoles{std::move(tools), std::move(*laid)};
}

Result<CutWithHoles> cut_with_holes(const TopoDS_Shape& body, const RemakeHoles& step) {
  if (auto laid = laid_into(body, step)) return std::move(*laid);
  CutWithHoles cut;
  std::vector<TopoDS_Shape> solids;
  for (const HoleToMake& hole : step.made) {
    auto tool = hole_tool(hole.form, hole.at, hole.above_mm, hole.below_mm);
    if (!tool) return refuse(tool);
    solids.push_back(tool->solid);
    cut.tools.push_back(std::move(*tool));
  }
  auto told = combined_telling(body, solids, Combining::kCut);
  if (!told) return refuse(told);
  if (auto all = each_meets_material(step, *told); !all) return refuse(all);
  cut.of_all = std::move(*told);
  return cut;
}

using NewFaces = std::map<int, std::vector<TopoDS_Shape>>;  // by old face

NewFaces faces_in_their_place(const TopologyIndex& topology, const RemakeHoles& step,
                              const std::vector<HoleTool>& tools, const Combined& cut) {
  NewFaces now;
  for (size_t i = 0; i < step.made.size(); ++i) {
    if (!step.made[i].instead_of) continue;
    const HoleThere& there = *step.made[i].instead_of;
    for (const int face : there.faces) {
      const FaceInfo& info = topology.faces[face];
      const StepFace is =
          step_face_of(there.form, there.at, info.face, info.surface.kind == SurfaceKind::kPlane);
      if (is.step < 0) continue;
      for (size_t f = 0; f < tools[i].step_of_face.size(); ++f)
        if (tools[i].step_of_face[f] == is)
          for (const TopoDS_Shape& piece : cut.faces_of_tools[i][f]) now[face].push_back(piece);
    }
  }
  return now;
}

// The edge between two faces, when there is one and no other.
TopoDS_Shape edge_between(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  const ShapeSet of_a = shapes_in(a, TopAbs_EDGE);
  TopoDS_Shape found;
  for (const TopoDS_Shape& edge : shapes_in(b, TopAbs_EDGE)) {
    if (!of_a.count(edge)) continue;
    if (!found.IsNull()) return {};
    found = edge;
  }
  return found;
}

// What a face is now: what took its place, or what it was cut to.
std::vector<TopoDS_Shape> face_now(const TopologyIndex& topology, int face, const NewFaces& replaced,
                                   const BRepTools_History& history) {
  if (const auto at = replaced.find(face); at != replaced.end()) return at->second;
  const TopoDS_Shape& shape = topology.faces[face].face;
  const TopTools_ListOfShape& modified = history.Modified(shape);
  if (!modified.IsEmpty()) return {modified.begin(), modified.end()};
  if (history.IsRemoved(shape)) return {};
  return {shape};
}

// The operation knows where the hole went; the kernel's history knows only that faces were taken off and
// others came.
void tell_where_holes_went(const TopologyIndex& topology, const NewFaces& replaced, BodyChange& change) {
  std::map<int, TopoDS_Shape> edges;
  for (const auto& [face, pieces] : replaced)
    for (const int edge : topology.faces[face].edges) {
      const EdgeInfo& info = topology.edges[edge];
      if (info.is_open() || info.is_seam() || edges.count(edge)) continue;
      const auto a = face_now(topology, info.face_a, replaced, *change.history);
      const auto b = face_now(topology, info.face_b, replaced, *change.history);
      if (a.size() != 1 || b.size() != 1) continue;
      if (const TopoDS_Shape now = edge_between(a.front(), b.front()); !now.IsNull()) edges[edge] = now;
    }
  for (const auto& [edge, now] : edges) change.history->AddModified(topology.edges[edge].edge, now);
  for (const auto& [face, pieces] : replaced)
    for (const TopoDS_Shape& piece : pieces) {
      change.history->AddModified(topology.faces[face].face, piece);
      change.moved.insert({topology.faces[face].face, piece});
    }
}

// What of the material that closing adds is cut away again, so that only what really comes and goes is told.
// Between flat mouths the tools tell it, which costs little; else the whole bodies do.
void leave_out_what_stays_open(const TopoDS_Shape& body, const RemakeHoles& step, const BodyChange& closed,
                               BodyChange& change) {
  std::vector<TopoDS_Shape> were, are;
  double told = 0;
  for (const HoleToMake& hole : step.made) {
    if (!hole.instead_of) continue;
    const auto was = hole_tool(hole.instead_of->form, hole.instead_of->at, 0, 0),
               is = hole_tool(hole.form, hole.at, 0, 0);
    if (!was || !is) return;
    told += volume_of(hole.instead_of->form);
    were.push_back(was->solid);
    are.push_back(is->solid);
  }
  if (were.empty()) return;
  const auto same = same_volume(told, closed.added_mm3) ? volume_in_common(were, are) : std::nullopt;
  if (same) {
    change.added_mm3 -= *same;
    change.removed_mm3 -= *same;
    return;
  }
  const auto added = volume_beyond(change.shape, body), removed = volume_beyond(body, change.shape);
  if (added && removed) std::tie(change.added_mm3, change.removed_mm3) = std::pair(*added, *removed);
}

}  // namespace

namespace {

BodyChange put_together(const TopoDS_Shape& body, const TopologyIndex& topology, const RemakeHoles& step,
                        const BodyChange& closed, const CutWithHoles& cut) {
  BodyChange change = then(closed, cut.of_all.change);
  if (!step.closed.faces.empty()) leave_out_what_stays_open(body, step, closed, change);
  tell_where_holes_went(topology, faces_in_their_place(topology, step, cut.tools, cut.of_all), change);
  return change;
}

// The body before anything is closed.
BodyChange nothing_done(const TopoDS_Shape& body) {
  BodyChange change;
  change.shape = body;
  return change;
}

// Whether the steps that the closed holes were read as enclose what closing added.
bool steps_tell_all(const RemakeHoles& step, const BodyChange& closed) {
  double told = 0;
  for (const HoleToMake& hole : step.made)
    if (hole.instead_of) told += volume_of(hole.instead_of->form);
  return told == 0 || same_volume(told, closed.added_mm3);
}

}  // namespace

Result<BodyChange> remade_holes(const TopoDS_Shape& body, const TopologyIndex& topology,
                                const RemakeHoles& step) {
  BodyChange closed = nothing_done(body);
  if (!step.closed.faces.empty()) {
    auto done = without_feature(body, topology, step.closed, Expected::kMore);
    if (!done) return refuse(done);
    closed = std::move(*done);
    if (auto whole = forms_are_whole(closed, step); !whole) return refuse(whole);
  }
  const auto cut = cut_with_holes(closed.shape, step);
  if (!cut) return refuse(cut);
  return put_together(body, topology, step, closed, *cut);
}

std::optional<BodyChange> remade_holes_directly(const TopoDS_Shape& body, const TopologyIndex& topology,
                                                const RemakeHoles& step) {
  BodyChange closed = nothing_done(body);
  if (!step.closed.faces.empty()) {
    auto done = with_feature_lifted(body, topology, step.closed, Expected::kMore);
    if (!done || !steps_tell_all(step, *done)) return std::nullopt;
    closed = std::move(*done);
  }
  const auto cut = laid_into(closed.shape, step);
  if (!cut) return std::nullopt;
  return put_together(body, topology, step, closed, *cut);
}

}  // namespace anvil
