#include "inspect/hole_surroundings.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <map>
#include <set>

#include "geom/guard.h"
#include "geom/nearest.h"
#include "geom/primitives.h"
#include "inspect/box_tree.h"
#include "inspect/hole_walls.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

double deepest_mm(const Hole& hole) {
  if (hole.through) return hole.depth_mm;
  const bool goes_on = !hole.steps.empty() && (hole.steps.back().kind == StepKind::kTip ||
                                               hole.steps.back().kind == StepKind::kBall);
  return hole.depth_mm + (goes_on ? hole.steps.back().depth_mm : 0);
}
gp_Pnt deepest_point(const Hole& hole) {
  return hole.entry.Translated(gp_Vec(hole.axis) * -deepest_mm(hole));
}

class Surveyor {
 public:
  Surveyor(const Part& part, const HoleReport& report)
      : part_(part),
        topology_(part.topology()),
        report_(report),
        hole_of_(topology_.faces.size(), -1),
        walls_(part) {
    std::vector<std::pair<Box3, int>> axes;
    for (size_t i = 0; i < report.holes.size(); ++i) {
      for (const int face : report.holes[i].faces) hole_of_[face] = static_cast<int>(i);
      axes.emplace_back(box_between(report.holes[i].entry, deepest_point(report.holes[i])),
                        static_cast<int>(i));
    }
    for (const Slot& slot : report.slots)
      for (const int face : slot.faces) hole_of_[face] = -2;
    axes_ = BoxTree(axes);
  }

  HoleSurroundings around(int index) {
    const Hole& hole = report_.holes[index];
    HoleSurroundings found;
    found.next = next_to(index);
    found.edge = edge_from(hole);
    found.wall = walls_.thinnest(hole);
    if (!hole.through) found.floor = floor_under(hole);
    found.crossed = crossed_by(index);
    return found;
  }

 private:
  [[nodiscard]] int patch_of(int face) const { return topology_.faces[face].patch; }

  [[nodiscard]] std::optional<NextHole> next_to(int index) const {
    const Hole& hole = report_.holes[index];
    const gp_Pnt bottom = deepest_point(hole);
    const Box3 box = box_between(hole.entry, bottom);
    std::optional<NextHole> next;
    double nearest = 1e300;
    nearest_first(axes_, box, [&](double at_least, int candidate) {
      if (at_least >= nearest) return false;
      const Hole& other = report_.holes[candidate];
      const auto [a, b] = nearest_points(hole.entry, bottom, other.entry, deepest_point(other));
      const double apart = a.Distance(b);
      if (candidate == index || apart >= nearest) return true;
      nearest = apart;
      const double beside = distance(gp_Ax1(other.entry, other.axis), hole.entry);
      next = NextHole{candidate, parallel(hole.axis, other.axis, 1e-4) && beside > 1e-3 ? beside : apart};
      return true;
    });
    return next;
  }

  // Edges where a flat patch ends, but for those of holes and slots.
  const BoxTree& rims_of(int patch) {
    const auto [at, is_new] = rims_.try_emplace(patch);
    if (!is_new) return at->second;
    std::vector<std::pair<Box3, int>> rims;
    for (const int edge : topology_.patches[patch].border) {
      const EdgeInfo& info = topology_.edges[edge];
      const auto is_bore = [&](int face) { return face >= 0 && hole_of_[face] != -1; };
      if (!is_bore(info.face_a) && !is_bore(info.face_b)) rims.emplace_back(box_of(info.edge), edge);
    }
    return at->second = BoxTree(rims);
  }

  // Flat patches that the hole opens in at its entry.
  [[nodiscard]] std::set<int> mouths_of(const Hole& hole) const {
    std::set<int> mouths;
    for (const int face : hole.faces)
      for (const int edge : topology_.faces[face].edges) {
        const int across = topology_.edges[edge].other_face(face);
        if (across < 0 || hole_of_[across] == hole_of_[face]) continue;
        const Surface& surface = topology_.faces[across].surface;
        constexpr double kInPlane_mm = 0.01;
        if (surface.kind == SurfaceKind::kPlane && surface.position.Direction().Dot(hole.axis) > 0.1 &&
            std::abs(height_over(surface.plane(), hole.entry)) < kInPlane_mm)
          mouths.insert(patch_of(across));
      }
    return mouths;
  }

  std::optional<EdgeDistance> edge_from(const Hole& hole) {
    std::optional<EdgeDistance> nearest;
    const TopoDS_Vertex centre = BRepBuilderAPI_MakeVertex(hole.entry);
    const BoxPoint at(hole.entry.X(), hole.entry.Y(), hole.entry.Z());
    for (const int patch : mouths_of(hole)) {
      nearest_first(rims_of(patch), at, [&](double at_least, int edge) {
        if (nearest && at_least >= nearest->distance_mm) return false;
        const BRepExtrema_DistShapeShape apart(centre, topology_.edges[edge].edge);
        if (apart.IsDone() && (!nearest || apart.Value() < nearest->distance_mm))
          nearest = EdgeDistance{apart.Value(), edge, apart.PointOnShape2(1)};
        return true;
      });
    }
    return nearest;
  }

  [[nodiscard]] std::optional<WallThickness> floor_under(const Hole& hole) const {
    const gp_Pnt bottom = deepest_point(hole);
    const gp_Dir down = hole.axis.Reversed();
    const auto hit = rays_of(part_).first_hit(bottom, down, 0.01);
    if (!hit) return std::nullopt;
    IntCurvesFace_Intersector exact(topology_.faces[hit->face].face, 1e-7);
    exact.Perform(gp_Lin(bottom, down), 0, 1e6);
    if (!exact.IsDone() || exact.NbPnt() == 0) return std::nullopt;
    int nearest = 1;
    for (int i = 2; i <= exact.NbPnt(); ++i)
      if (std::abs(exact.WParameter(i) - hit->distance_mm) <
          std::abs(exact.WParameter(nearest) - hit->distance_mm))
        nearest = i;
    return WallThickness{exact.WParameter(nearest), hit->face, bottom, exact.Pnt(nearest)};
  }

  [[nodiscard]] std::vector<CrossedHole> crossed_by(int index) const {
    const Hole& hole = report_.holes[index];
    std::set<int> others;
    for (const int face : hole.faces)
      for (const int edge : topology_.faces[face].edges)
        if (const int across = topology_.edges[edge].other_face(face);
            across >= 0 && hole_of_[across] >= 0 && hole_of_[across] != index)
          others.insert(hole_of_[across]);
    std::vector<CrossedHole> crossed;
    for (const int other : others) {
      const Hole& with = report_.holes[other];
      const auto [a, b] = nearest_points(hole.entry, deepest_point(hole), with.entry, deepest_point(with));
      crossed.push_back({other, midpoint(a, b)});
    }
    return crossed;
  }

  const Part& part_;
  const TopologyIndex& topology_;
  const HoleReport& report_;
  std::vector<int> hole_of_;  // by face: -1 none, -2 a slot's
  BoxTree axes_;
  WallFinder walls_;
  std::map<int, BoxTree> rims_;
};

}  // namespace

Result<std::vector<HoleSurroundings>> look_around(const Part& part, const HoleReport& report,
                                                  const Progress& progress) {
  return guarded("looking around holes", [&]() -> Result<std::vector<HoleSurroundings>> {
    std::vector<HoleSurroundings> around;
    if (report.holes.empty()) return around;
    Surveyor surveyor(part, report);
    for (size_t i = 0; i < report.holes.size(); ++i) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      progress.say("around holes", static_cast<double>(i) / report.holes.size());
      around.push_back(surveyor.around(static_cast<int>(i)));
    }
    return around;
  });
}

std::vector<HoleSurroundings> moved(const std::vector<HoleSurroundings>& around, const gp_Trsf& placement) {
  std::vector<HoleSurroundings> result = around;
  for (HoleSurroundings& s : result) {
    if (s.edge) s.edge->at.Transform(placement);
    for (std::optional<WallThickness>* wall : {&s.wall, &s.floor})
      if (*wall) {
        (*wall)->on_hole.Transform(placement);
        (*wall)->on_face.Transform(placement);
      }
    for (CrossedHole& c : s.crossed) c.place.Transform(placement);
  }
  return result;
}

}  // namespace anvil
