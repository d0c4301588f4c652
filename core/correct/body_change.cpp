#include "correct/body_change.h"

#include <fmt/format.h>

#include <BRepCheck_Shell.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

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

// The volume under faces, seen from a point: what faces that stay add cancels out of a difference.
std::optional<double> volume_under(const TopoDS_Shape& body, const ShapeSet& without, const gp_Pnt& about) {
  double volume = 0;
  for (TopExp_Explorer faces(body, TopAbs_FACE); faces.More(); faces.Next()) {
    if (without.count(faces.Current())) continue;
    const auto own = integrals_over(TopoDS::Face(faces.Current()), about);
    if (!own) return std::nullopt;
    volume += own->volume_mm3;
  }
  return volume;
}

double whole_volume(const TopoDS_Shape& body) {
  GProp_GProps properties;
  BRepGProp::VolumeProperties(body, properties, 1e-9);
  return properties.Mass();
}

double volume_gained(const TopoDS_Shape& before, const TopoDS_Shape& after) {
  const TopExp_Explorer any(before, TopAbs_VERTEX);
  const gp_Pnt about = any.More() ? BRep_Tool::Pnt(TopoDS::Vertex(any.Current())) : gp_Pnt();
  const auto now = volume_under(after, shapes_in(before, TopAbs_FACE), about);
  const auto was = volume_under(before, shapes_in(after, TopAbs_FACE), about);
  return now && was ? *now - *was : whole_volume(after) - whole_volume(before);
}

Result<void> is_one_closed_solid(const TopoDS_Shape& shape) {
  int solids = 0;
  for (TopExp_Explorer all(shape, TopAbs_SOLID); all.More(); all.Next()) ++solids;
  if (solids == 0) return refuse(RefusalCode::kGeometry, "nothing would be left of the body");
  if (solids > 1)
    return refuse(RefusalCode::kGeometry, fmt::format("the body would fall into {} pieces", solids));
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
  if (auto solid = is_one_closed_solid(change.shape); !solid) return refuse(solid);
  if (auto valid = new_faces_are_valid(before, change.shape); !valid) return refuse(valid);
  const double gained = volume_gained(before, change.shape);
  const double least = kRounding * std::max(1.0, area_properties(change.shape).area_mm2);
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
