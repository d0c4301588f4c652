#include "correct/body_change.h"

#include <fmt/format.h>

#include <BRepCheck_Shell.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <unordered_map>

#include "base/union_find.h"
#include "correct/face_check.h"
#include "part/face_integrals.h"
#include "part/measure.h"
#include "part/mend.h"

namespace anvil {
namespace {

constexpr TopAbs_ShapeEnum kKinds[] = {TopAbs_FACE, TopAbs_EDGE, TopAbs_VERTEX};
// Below this share of what was integrated a change of volume is rounding.
constexpr double kRounding = 1e-10;

std::string at(const TopoDS_Face& face) {
  const gp_Pnt place = area_properties(face).centroid;
  return fmt::format(" (at X {:.3f} Y {:.3f} Z {:.3f} of the part)", place.X(), place.Y(), place.Z());
}

// The volume under faces, seen from a point: what faces that stay add cancels out of a difference. `whole`
// gets the sizes of all that was summed, which tells how far rounding goes.
std::optional<double> volume_under(const TopoDS_Shape& body, const ShapeSet& without, const gp_Pnt& about,
                                   double& whole) {
  double volume = 0;
  for (TopExp_Explorer faces(body, TopAbs_FACE); faces.More(); faces.Next()) {
    if (without.count(faces.Current())) continue;
    const auto own = integrals_over(TopoDS::Face(faces.Current()), about);
    if (!own) return std::nullopt;
    volume += own->volume_mm3;
    whole += std::abs(own->volume_mm3);
  }
  return volume;
}

double whole_volume(const TopoDS_Shape& body) {
  GProp_GProps properties;
  BRepGProp::VolumeProperties(body, properties, 1e-9);
  return properties.Mass();
}

struct Gained {
  double volume_mm3 = 0, rounding_mm3 = 0;
};

Gained volume_gained(const TopoDS_Shape& before, const TopoDS_Shape& after) {
  const TopExp_Explorer any(before, TopAbs_VERTEX);
  const gp_Pnt about = any.More() ? BRep_Tool::Pnt(TopoDS::Vertex(any.Current())) : gp_Pnt();
  double whole = 1;
  const auto now = volume_under(after, shapes_in(before, TopAbs_FACE), about, whole);
  const auto was = volume_under(before, shapes_in(after, TopAbs_FACE), about, whole);
  if (now && was) return {*now - *was, kRounding * whole};
  const double volume = whole_volume(after);
  return {volume - whole_volume(before), kRounding * std::max(1.0, std::abs(volume))};
}

// The edges of faces that came or went.
ShapeSet touched_edges(const TopoDS_Shape& before, const TopoDS_Shape& after) {
  ShapeSet touched;
  for (const auto& [of, other] : {std::pair(&before, &after), std::pair(&after, &before)}) {
    const ShapeSet known = shapes_in(*other, TopAbs_FACE);
    for (TopExp_Explorer faces(*of, TopAbs_FACE); faces.More(); faces.Next())
      if (!known.count(faces.Current()))
        for (TopExp_Explorer edges(faces.Current(), TopAbs_EDGE); edges.More(); edges.Next())
          touched.insert(edges.Current());
  }
  return touched;
}

// Whether a shell that was closed is so still: each touched edge is passed once in either sense, and from
// every face every other is reached. Much quicker than the kernel's own check of all edges; what it does not
// find closed is asked of that.
bool stays_closed(const TopoDS_Shape& shell, const ShapeSet& touched) {
  struct Uses {
    int forward = 0, reversed = 0, face = -1;
  };
  std::unordered_map<TopoDS_Shape, Uses, ShapeHash, SamePlace> uses;
  int count = 0;
  for (TopExp_Explorer faces(shell, TopAbs_FACE); faces.More(); faces.Next()) ++count;
  UnionFind joined(static_cast<size_t>(count));
  int face = 0;
  for (TopExp_Explorer faces(shell, TopAbs_FACE); faces.More(); faces.Next(), ++face)
    for (TopExp_Explorer edges(faces.Current(), TopAbs_EDGE); edges.More(); edges.Next()) {
      if (BRep_Tool::Degenerated(TopoDS::Edge(edges.Current()))) continue;
      Uses& use = uses[edges.Current()];
      ++(edges.Current().Orientation() == TopAbs_FORWARD ? use.forward : use.reversed);
      if (use.face >= 0) joined.join(use.face, face);
      use.face = face;
    }
  for (const auto& [edge, use] : uses)
    if (touched.count(edge) && (use.forward != 1 || use.reversed != 1)) return false;
  for (int i = 1; i < count; ++i)
    if (joined.root(i) != joined.root(0)) return false;
  return true;
}

Result<void> is_one_closed_solid(const TopoDS_Shape& before, const TopoDS_Shape& shape) {
  int solids = 0;
  for (TopExp_Explorer all(shape, TopAbs_SOLID); all.More(); all.Next()) ++solids;
  if (solids == 0) return refuse(RefusalCode::kGeometry, "nothing would be left of the body");
  if (solids > 1)
    return refuse(RefusalCode::kGeometry, fmt::format("the body would fall into {} pieces", solids));
  const ShapeSet touched = touched_edges(before, shape);
  bool closed = true;
  for (TopExp_Explorer shells(shape, TopAbs_SHELL); closed && shells.More(); shells.Next())
    closed = stays_closed(shells.Current(), touched);
  if (closed) return {};
  if (count_open_edges(shape) > 0)
    return refuse(RefusalCode::kGeometry, "the faces around it do not meet again: the solid would be open");
  for (TopExp_Explorer shells(shape, TopAbs_SHELL); shells.More(); shells.Next()) {
    BRepCheck_Shell check(TopoDS::Shell(shells.Current()));
    if (check.Closed() != BRepCheck_NoError || check.Orientation() != BRepCheck_NoError)
      return refuse(RefusalCode::kGeometry, "the faces around it would not close the solid");
  }
  return {};
}

Result<void> new_faces_are_valid(const TopoDS_Shape& before, const TopoDS_Shape& after) {
  const ShapeSet old = shapes_in(before, TopAbs_FACE), old_edges = shapes_in(before, TopAbs_EDGE);
  for (TopExp_Explorer faces(after, TopAbs_FACE); faces.More(); faces.Next()) {
    if (old.count(faces.Current())) continue;
    if (!is_valid_face(TopoDS::Face(faces.Current()), old_edges))
      return refuse(RefusalCode::kGeometry,
                    "a face beside it would cross itself" + at(TopoDS::Face(faces.Current())));
  }
  return {};
}

// So that following says "gone" and looks for nothing.
void tell_what_is_gone(const TopoDS_Shape& before, BodyChange& change) {
  for (const TopAbs_ShapeEnum kind : kKinds) {
    const ShapeSet now = shapes_in(change.shape, kind);
    for (const TopoDS_Shape& old : shapes_in(before, kind))
      if (!now.count(old) && change.history->Modified(old).IsEmpty()) change.history->Remove(old);
  }
}

}  // namespace

ShapeSet shapes_in(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind) {
  ShapeSet all;
  for (TopExp_Explorer it(shape, kind); it.More(); it.Next()) all.insert(it.Current());
  return all;
}

Result<BodyChange> judged(const TopoDS_Shape& before, BodyChange change, Expected expected) {
  if (auto solid = is_one_closed_solid(before, change.shape); !solid) return refuse(solid);
  if (auto valid = new_faces_are_valid(before, change.shape); !valid) return refuse(valid);
  const auto [gained, least] = volume_gained(before, change.shape);
  if (expected != Expected::kPerhapsNone && std::abs(gained) < least)
    return refuse(RefusalCode::kGeometry, "it would change nothing");
  if (expected == Expected::kMore && gained < 0)
    return refuse(RefusalCode::kGeometry, "the faces around it close on the wrong side");
  if (expected == Expected::kLess && gained > 0)
    return refuse(RefusalCode::kGeometry, "the cut would leave more than there was");
  change.added_mm3 = std::max(0.0, gained);
  change.removed_mm3 = std::max(0.0, -gained);
  tell_what_is_gone(before, change);
  return change;
}

BodyChange then(BodyChange first, const BodyChange& second) {
  first.history->Merge(second.history);
  first.shape = second.shape;
  first.may_cross = first.may_cross || second.may_cross;
  first.added_mm3 += second.added_mm3;
  first.removed_mm3 += second.removed_mm3;
  first.moved.insert(second.moved.begin(), second.moved.end());
  return first;
}

}  // namespace anvil
