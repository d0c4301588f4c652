#include "inspect/corners.h"

#include <fmt/format.h>

#include <Bnd_Box.hxx>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "inspect/corner_depth.h"
#include "inspect/corner_roles.h"
#include "inspect/corner_summary.h"
#include "inspect/explained_left.h"
#include "inspect/free_form_corners.h"
#include "inspect/holes.h"
#include "inspect/pockets.h"

namespace anvil {
namespace {

constexpr double kMostLean_rad = 30 * kPi / 180;  // of an edge that is a corner of walls
constexpr double kOneLine_mm = 1e-3;

gp_Pnt at_level(const gp_Ax1& line, const gp_Dir& axis, double level) {
  const double now = line.Location().XYZ().Dot(axis.XYZ());
  return line.Location().Translated(gp_Vec(line.Direction()) * ((level - now) / line.Direction().Dot(axis)));
}

// Holes that are no part of a pocket: they are drilled.
std::vector<bool> drilled_faces(const Part& part, const std::vector<Role>& roles, const HoleReport& holes) {
  const TopologyIndex& topology = part.topology();
  std::vector<bool> drilled(topology.faces.size(), false);
  for (const Hole& hole : holes.holes) {
    const bool milled = std::any_of(hole.faces.begin(), hole.faces.end(), [&](int face) {
      const Role role = roles[topology.faces[face].patch];
      return role == Role::kRelief || role == Role::kRoundWall || role == Role::kSlotEnd;
    });
    if (!milled)
      for (const int face : hole.faces) drilled[face] = true;
  }
  return drilled;
}

// Free-form faces that are no walls to the axis, and no holes.
std::vector<int> not_judged_faces(const Part& part, const std::vector<Role>& roles, const HoleReport& holes) {
  std::vector<int> faces;
  for (const int face : holes.not_judged)
    if (roles[part.topology().faces[face].patch] == Role::kOther) faces.push_back(face);
  return faces;
}

class CornerFinder {
 public:
  CornerFinder(const Part& part, const CornerOptions& options)
      : topology_(part.topology()),
        axis_(options.axis),
        roles_(roles_for(part, axis_)),
        extent_mm_(extent_of(topology_)) {}

  std::vector<Corner> run() {
    for (size_t i = 0; i < topology_.patches.size(); ++i) {
      if (roles_[i] == Role::kWallCorner) corners_.push_back(round_corner(static_cast<int>(i)));
      if (roles_[i] == Role::kTaper) corners_.push_back(taper(static_cast<int>(i)));
      if (topology_.patches[i].surface.kind == SurfaceKind::kFreeForm && roles_[i] != Role::kOther)
        free_form(static_cast<int>(i));
    }
    sharp_wall_corners();
    floor_fillets();
    sharp_floors();
    for (Corner& corner : corners_)
      for (const int face : corner.faces)
        corner.deviation_mm = std::max(corner.deviation_mm, topology_.faces[face].surface.deviation_mm);
    return std::move(corners_);
  }

  [[nodiscard]] const std::vector<Role>& roles() const { return roles_; }

 private:
  static double extent_of(const TopologyIndex& topology) {
    Bnd_Box box;
    for (const VertexInfo& vertex : topology.vertices) box.Add(vertex.point);
    return box.IsVoid() ? 0 : std::sqrt(box.SquareExtent());
  }

  bool is_wall(int patch) const {
    return is_upright(roles_[patch]) || roles_[patch] == Role::kDraftWall ||
           roles_[patch] == Role::kFreeWall || roles_[patch] == Role::kTaper;
  }

  double wall_top(int patch, double at_least) const {
    double top = at_least;
    for (int edge : topology_.patches[patch].border) {
      const int across = patch_across(topology_, patch, edge);
      if (across < 0 || topology_.edges[edge].convexity == Convexity::kConvex) continue;
      if (is_wall(across))
        top = std::max(top, patch_levels(topology_, topology_.patches[across], axis_).second);
    }
    return top;
  }

  Corner round_corner(int index) const {
    const Patch& patch = topology_.patches[index];
    Corner corner;
    corner.kind = CornerKind::kWallRound;
    corner.radius_mm = corner.largest_radius_mm = patch.surface.radius_mm;
    corner.angle_rad = angular_coverage(topology_, patch);
    std::tie(corner.bottom_mm, corner.top_mm) = patch_levels(topology_, patch, axis_);
    stand_on_rounding(corner, index);
    corner.position = at_level(patch.surface.axis(), axis_, corner.bottom_mm);
    corner.depth_mm = wall_top(index, corner.top_mm) - corner.bottom_mm;
    corner.faces = patch.faces;
    return corner;
  }

  // The corner goes down to the floor, through the rounding at its foot.
  void stand_on_rounding(Corner& corner, int index) const {
    for (const int edge : topology_.patches[index].border) {
      const int across = patch_across(topology_, index, edge);
      if (across < 0 || roles_[across] != Role::kFloorFillet ||
          topology_.edges[edge].convexity != Convexity::kSmooth)
        continue;
      corner.bottom_mm =
          std::min(corner.bottom_mm, patch_levels(topology_, topology_.patches[across], axis_).first);
      corner.floor_radius_mm = fillet_radius(across);
    }
  }

  void free_form(int index) {
    const Patch& patch = topology_.patches[index];
    Corner corner;
    for (const int face : patch.faces) {
      const auto turn = tightest_turn(topology_.faces[face].face, axis_, extent_mm_ / 2);
      if (!turn || (corner.radius_mm > 0 && turn->radius_mm >= corner.radius_mm)) continue;
      corner.radius_mm = corner.largest_radius_mm = turn->radius_mm;
      corner.position = turn->centre;
    }
    if (corner.radius_mm <= 0) return;
    corner.kind = CornerKind::kFreeForm;
    corner.leans = roles_[index] == Role::kFreeWall;
    std::tie(corner.bottom_mm, corner.top_mm) = patch_levels(topology_, patch, axis_);
    stand_on_rounding(corner, index);
    const double level = corner.position.XYZ().Dot(axis_.XYZ());
    corner.position.Translate(gp_Vec(axis_) * (corner.bottom_mm - level));
    corner.depth_mm = wall_top(index, corner.top_mm) - corner.bottom_mm;
    corner.faces = patch.faces;
    corners_.push_back(std::move(corner));
  }

  Corner taper(int index) const {
    Corner corner = round_corner(index);
    corner.kind = CornerKind::kTaper;
    const Surface& s = topology_.patches[index].surface;
    const double base = s.position.Location().XYZ().Dot(axis_.XYZ());
    const double slope = std::tan(s.semi_angle_rad) * (s.position.Direction().Dot(axis_) > 0 ? 1 : -1);
    const double a = s.radius_mm + (corner.bottom_mm - base) * slope,
                 b = s.radius_mm + (corner.top_mm - base) * slope;
    corner.radius_mm = std::min(std::abs(a), std::abs(b));
    corner.largest_radius_mm = std::max(std::abs(a), std::abs(b));
    return corner;
  }

  // From the level at its foot upward rather than across.
  bool rises(const EdgeInfo& edge, double bottom, double top) const {
    return top - bottom > std::cos(kMostLean_rad) * length_of(edge.edge);
  }

  void sharp_wall_corners() {
    std::multimap<std::pair<int, int>, Corner> by_walls;
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.is_open() || edge.convexity != Convexity::kConcave) continue;
      const int a = topology_.faces[edge.face_a].patch, b = topology_.faces[edge.face_b].patch;
      if (!is_wall(a) || !is_wall(b)) continue;
      const auto [bottom, top] = level_range(edge.edge, axis_);
      if (!rises(edge, bottom, top)) continue;
      add_sharp(by_walls, static_cast<int>(i), std::minmax(a, b), bottom, top);
    }
    for (auto& [walls, corner] : by_walls) {
      const double highest = std::max(patch_levels(topology_, topology_.patches[walls.first], axis_).second,
                                      patch_levels(topology_, topology_.patches[walls.second], axis_).second);
      corner.depth_mm = highest - corner.bottom_mm;
      corners_.push_back(std::move(corner));
    }
  }

  // Pieces of one edge are one corner; two walls that meet twice have two.
  void add_sharp(std::multimap<std::pair<int, int>, Corner>& by_walls, int index, std::pair<int, int> walls,
                 double bottom, double top) const {
    const EdgeInfo& edge = topology_.edges[index];
    const BRepAdaptor_Curve curve(edge.edge);
    const gp_Pnt first = curve.Value(curve.FirstParameter()), last = curve.Value(curve.LastParameter());
    const gp_Pnt foot = first.XYZ().Dot(axis_.XYZ()) < last.XYZ().Dot(axis_.XYZ()) ? first : last;
    const gp_Ax1 line(foot, gp_Dir(gp_Vec(first, last)));
    auto at = std::find_if(by_walls.lower_bound(walls), by_walls.upper_bound(walls), [&](const auto& known) {
      return distance(line, known.second.position) < kOneLine_mm;
    });
    if (at == by_walls.upper_bound(walls)) {
      at = by_walls.emplace(walls, Corner{});
      at->second.kind = CornerKind::kWallSharp;
      at->second.bottom_mm = 1e300;
      at->second.top_mm = -1e300;
      at->second.angle_rad = kPi;
    }
    Corner& corner = at->second;
    corner.angle_rad = std::min(corner.angle_rad, void_angle(edge.edge, topology_.faces[edge.face_a].face,
                                                             topology_.faces[edge.face_b].face));
    if (bottom < corner.bottom_mm) corner.position = foot;
    corner.leans = corner.leans || !parallel(line.Direction(), axis_, kWall_rad);
    corner.bottom_mm = std::min(corner.bottom_mm, bottom);
    corner.top_mm = std::max(corner.top_mm, top);
    corner.edges.push_back(index);
  }

  // One corner for each run of fillets of one radius around a floor.
  void floor_fillets() {
    std::vector<int> run(topology_.patches.size(), -1);
    for (size_t i = 0; i < topology_.patches.size(); ++i) {
      if (roles_[i] != Role::kFloorFillet || run[i] >= 0) continue;
      Corner corner;
      corner.kind = CornerKind::kFloorRound;
      corner.radius_mm = corner.largest_radius_mm = fillet_radius(static_cast<int>(i));
      corner.angle_rad = kPi / 2;
      corner.bottom_mm = 1e300;
      corner.top_mm = -1e300;
      double highest = -1e300;
      std::vector<int> open{static_cast<int>(i)};
      run[i] = static_cast<int>(corners_.size());
      while (!open.empty()) {
        const int patch = open.back();
        open.pop_back();
        highest = std::max(highest, take_fillet(corner, patch));
        for (int edge : topology_.patches[patch].border) {
          const int across = patch_across(topology_, patch, edge);
          if (across < 0 || run[across] >= 0 || roles_[across] != Role::kFloorFillet ||
              std::abs(fillet_radius(across) - corner.radius_mm) > 1e-4)
            continue;
          run[across] = run[i];
          open.push_back(across);
        }
      }
      corner.depth_mm = highest - corner.bottom_mm;
      corners_.push_back(std::move(corner));
    }
  }

  double fillet_radius(int patch) const {
    const Surface& s = topology_.patches[patch].surface;
    return s.kind == SurfaceKind::kTorus ? s.minor_mm : s.radius_mm;
  }

  // The highest level of the walls it leads to.
  double take_fillet(Corner& corner, int patch) const {
    const auto [bottom, top] = patch_levels(topology_, topology_.patches[patch], axis_);
    if (bottom < corner.bottom_mm) {
      const BRepAdaptor_Curve curve(topology_.edges[topology_.patches[patch].border.front()].edge);
      corner.position = middle_of(curve);
    }
    corner.bottom_mm = std::min(corner.bottom_mm, bottom);
    corner.top_mm = std::max(corner.top_mm, top);
    for (int face : topology_.patches[patch].faces) corner.faces.push_back(face);
    return wall_top(patch, top);
  }

  // One corner for each floor that meets walls without a rounding.
  void sharp_floors() {
    std::map<int, Corner> by_floor;
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.is_open() || edge.convexity != Convexity::kConcave) continue;
      int floor = topology_.faces[edge.face_a].patch, wall = topology_.faces[edge.face_b].patch;
      if (roles_[floor] != Role::kFloor) std::swap(floor, wall);
      if (roles_[floor] != Role::kFloor || !is_wall(wall)) continue;
      const auto [at, is_new] = by_floor.try_emplace(floor);
      Corner& corner = at->second;
      if (is_new) {
        corner.kind = CornerKind::kFloorSharp;
        corner.angle_rad = kPi / 2;
        corner.bottom_mm = corner.top_mm = level_range(edge.edge, axis_).first;
        const BRepAdaptor_Curve curve(edge.edge);
        corner.position = middle_of(curve);
      }
      corner.depth_mm = std::max(
          corner.depth_mm, patch_levels(topology_, topology_.patches[wall], axis_).second - corner.bottom_mm);
      corner.edges.push_back(static_cast<int>(i));
    }
    for (auto& [floor, corner] : by_floor) corners_.push_back(std::move(corner));
  }

  const TopologyIndex& topology_;
  gp_Dir axis_;
  std::vector<Role> roles_;
  double extent_mm_;
  std::vector<Corner> corners_;
};

void order_and_name(std::vector<Corner>& corners) {
  const auto rank = [](const Corner& c) {
    return std::make_tuple(c.undercut, !c.is_wall(), std::lround(c.radius_mm * 1e4),
                           static_cast<int>(c.kind));
  };
  const auto place = [](const gp_Pnt& p) {
    return std::make_tuple(std::lround(p.X() * 1e3), std::lround(p.Y() * 1e3), std::lround(p.Z() * 1e3));
  };
  std::stable_sort(corners.begin(), corners.end(), [&](const Corner& a, const Corner& b) {
    return rank(a) != rank(b) ? rank(a) < rank(b) : place(a.position) < place(b.position);
  });
  for (size_t i = 0; i < corners.size(); ++i) corners[i].name = "C" + fmt::format("{}", i + 1);
}

void keep_smaller(std::optional<double>& smallest, std::optional<double> value) {
  if (value && (!smallest || *value < *smallest)) smallest = value;
}

}  // namespace

const char* corner_name(CornerKind kind) {
  switch (kind) {
    case CornerKind::kWallRound:
      return "wall-round";
    case CornerKind::kWallSharp:
      return "wall-sharp";
    case CornerKind::kTaper:
      return "taper";
    case CornerKind::kFreeForm:
      return "free-form";
    case CornerKind::kFloorRound:
      return "floor-round";
    case CornerKind::kFloorSharp:
      return "floor-sharp";
  }
  return "wall-round";
}

namespace {

CutterFit fit_within(std::optional<double> limit_mm, double cutter_mm) {
  if (!limit_mm) return CutterFit::kFits;
  if (cutter_mm > *limit_mm + 1e-9) return CutterFit::kDoesNot;
  constexpr double kDwells = 0.9;
  return cutter_mm > kDwells * *limit_mm ? CutterFit::kTight : CutterFit::kFits;
}

}  // namespace

CutterFit fit_in(const CornerReport& report, const Corner& corner, double cutter_mm) {
  if (corner.kind == CornerKind::kWallSharp) return CutterFit::kDoesNot;
  std::optional<double> limit = 2 * corner.radius_mm * report.options.margin;
  if (!corner.is_wall()) limit.reset();
  if (corner.pocket >= 0 && report.pockets[corner.pocket].narrowest)
    keep_smaller(limit, report.pockets[corner.pocket].narrowest->width_mm);
  return fit_within(limit, cutter_mm);
}

std::vector<std::pair<const Corner*, CutterFit>> judged_walls(const CornerReport& report, double cutter_mm) {
  std::vector<std::pair<const Corner*, CutterFit>> judged;
  for (const Corner& corner : report.corners)
    if (corner.is_wall() && !corner.undercut) judged.emplace_back(&corner, fit_in(report, corner, cutter_mm));
  return judged;
}

CutterFit fit_in(const CornerReport& report, const Pocket& pocket, double cutter_mm) {
  const bool sharp = std::any_of(pocket.corners.begin(), pocket.corners.end(), [&](int corner) {
    return report.corners[corner].kind == CornerKind::kWallSharp && !report.corners[corner].undercut;
  });
  return sharp ? CutterFit::kDoesNot : fit_within(pocket.largest_cutter_mm, cutter_mm);
}

std::string not_judged_text(size_t not_judged, size_t faces) {
  return not_judged == 0 ? std::string() : fmt::format("{} of {} faces not judged", not_judged, faces);
}

std::string reservations_text(const CornerReport& report, size_t faces) {
  std::string text = not_judged_text(report.not_judged.size(), faces);
  const auto before = [&](const std::string& more) { text = more + (text.empty() ? "" : ", " + text); };
  if (report.unexplained) before("a cutter leaves material that no corner or passage tells");
  if (report.has_passages_not_looked_at) before("passages not looked at everywhere");
  return text;
}

Result<CornerReport> find_corners(const Part& part, const CornerOptions& options, const Progress& progress,
                                  const HoleReport* known_holes) {
  return guarded("looking for corners", [&]() -> Result<CornerReport> {
    CornerReport report;
    report.options = options;
    progress.say("corners", 0.1);
    CornerFinder finder(part, options);
    report.corners = finder.run();
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("reach", 0.4);
    measure_reach(part, options, report.corners);
    order_and_name(report.corners);
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("sections", 0.5);
    std::optional<HoleReport> looked_for;
    if (!known_holes) {
      auto found = find_holes(part);
      if (!found) return refuse(found);
      looked_for = std::move(*found);
    }
    const HoleReport& holes = known_holes ? *known_holes : *looked_for;
    if (options.with_sections && !is_all_mesh(part)) {  // triangles alone have no walls
      auto sections =
          sections_along(part, options.axis, drilled_faces(part, finder.roles(), holes), progress);
      if (!sections) return refuse(sections);
      report.sections = std::make_shared<const SectionStack>(std::move(*sections));
    }
    progress.say("pockets", 0.8);
    find_pockets(part, finder.roles(), report, progress);
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    report.not_judged = not_judged_faces(part, finder.roles(), holes);
    sum_up(report, is_all_mesh(part));
    report.unexplained = unexplained_by(part, report, progress);
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    return report;
  });
}

}  // namespace anvil
