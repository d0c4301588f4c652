#include "inspect/seats.h"

#include <fmt/format.h>

#include <GCPnts_AbscissaPoint.hxx>

#include "base/units.h"
#include "geom/primitives.h"
#include "part/measure.h"

namespace anvil {
namespace {

constexpr double kSame_rad = 1e-4, kStands_mm = 1e-3;

struct Candidate {
  gp_Pln plane;
  double area_mm2 = 0;
  int largest_face = -1;
  double largest_area_mm2 = 0;
};

// Flat patches joined where they lie in one plane: feet count together.
std::vector<Candidate> flat_sides(const TopologyIndex& topology) {
  std::vector<Candidate> sides;
  for (const Patch& patch : topology.patches) {
    if (patch.surface.kind != SurfaceKind::kPlane) continue;
    const gp_Pln plane = patch.surface.plane();
    auto same = std::find_if(sides.begin(), sides.end(), [&](const Candidate& c) {
      return c.plane.Axis().Direction().IsEqual(plane.Axis().Direction(), kSame_rad) &&
             std::abs(height_over(c.plane, plane.Location())) < kStands_mm;
    });
    if (same == sides.end()) same = sides.insert(same, Candidate{plane, 0, -1, 0});
    for (const int face : patch.faces) {
      const double area = area_properties(topology.faces[face].face).area_mm2;
      same->area_mm2 += area;
      if (area <= same->largest_area_mm2) continue;
      same->largest_area_mm2 = area;
      same->largest_face = face;
    }
  }
  return sides;
}

bool can_stand(const TopologyIndex& topology, const gp_Pln& plane) {
  const gp_Dir out = plane.Axis().Direction();
  const double level = plane.Location().XYZ().Dot(out.XYZ());
  for (const EdgeInfo& edge : topology.edges)
    if (level_range(edge.edge, out).second > level + kStands_mm) return false;
  return true;
}

// The longest straight edge square to the direction.
int longest_edge(const TopologyIndex& topology, const gp_Dir& up, double& length_mm) {
  int longest = -1;
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    if (!edge.straight_along || edge.is_seam() || !square(*edge.straight_along, up, kSame_rad)) continue;
    const double length = length_of(edge.edge);
    if (length <= length_mm + kStands_mm) continue;
    length_mm = length;
    longest = static_cast<int>(i);
  }
  return longest;
}

const Hole* main_bore(const HoleReport& holes) {
  const Hole* largest = nullptr;
  for (const Hole& hole : holes.holes)
    if (hole.full_turn && (!largest || hole.diameter_mm > largest->diameter_mm)) largest = &hole;
  return largest;
}

}  // namespace

std::vector<Seat> likely_seats(const Part& part, const HoleReport& holes, size_t most) {
  const TopologyIndex& topology = part.topology();
  const Hole* bore = main_bore(holes);
  std::vector<Candidate> sides = flat_sides(topology);
  std::erase_if(sides, [&](const Candidate& c) { return !can_stand(topology, c.plane); });
  double largest_mm2 = 0;
  for (const Candidate& c : sides) largest_mm2 = std::max(largest_mm2, c.area_mm2);
  std::vector<Seat> seats;
  for (const Candidate& side : sides) {
    const gp_Dir up = side.plane.Axis().Direction().Reversed();
    Seat seat;
    seat.down_face = side.largest_face;
    seat.face_area_mm2 = side.area_mm2;
    int from_above = 0;
    for (const Hole& hole : holes.holes) {
      if (!parallel(hole.axis, up, kSame_rad)) continue;
      ++seat.holes_upright;
      if (hole.through || hole.axis.Dot(up) > 0) ++from_above;
    }
    double length = 0;
    seat.along_x_edge = longest_edge(topology, up, length);
    const bool bore_upright = bore && parallel(bore->axis, up, kSame_rad);
    const double share =
        holes.holes.empty() ? 0 : static_cast<double>(from_above) / static_cast<double>(holes.holes.size());
    seat.score = side.area_mm2 / largest_mm2 + share + (bore_upright ? 0.5 : 0);
    seat.is_largest = side.area_mm2 >= largest_mm2 * (1 - 1e-9);
    if (bore_upright) seat.upright_bore_mm = bore->diameter_mm;
    seat.holes = holes.holes.size();
    seat.holes_from_above = from_above;
    if (seat.along_x_edge >= 0) seat.edge_mm = length;
    seats.push_back(seat);
  }
  std::stable_sort(seats.begin(), seats.end(),
                   [](const Seat& a, const Seat& b) { return a.score > b.score; });
  if (seats.size() > most) seats.resize(most);
  return seats;
}

std::string seat_text(const Seat& seat, const Display& display) {
  const double unit = mm_per(display.unit);
  std::string text = seat.is_largest
                         ? "On its largest flat side"
                         : fmt::format("On a flat side of {:.{}f} {}²", seat.face_area_mm2 / (unit * unit),
                                       display.unit == Unit::kInch ? 2 : 0, unit_name(display.unit));
  if (seat.upright_bore_mm > 0)
    text += fmt::format("; main bore Ø{} upright", format_length(seat.upright_bore_mm, display));
  if (seat.holes > 0) text += fmt::format("; {} of {} holes from above", seat.holes_from_above, seat.holes);
  if (seat.along_x_edge >= 0)
    text += fmt::format("; longest edge ({}) along X", format_length(seat.edge_mm, display));
  return text;
}

}  // namespace anvil
