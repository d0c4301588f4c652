#include "inspect/unit_suspicion.h"

#include <fmt/format.h>

#include "part/measure.h"
#include "part/mesh.h"

#include "part/part_box.h"

namespace anvil {
namespace {

constexpr double kLarge_mm = 1500, kSmall_mm = 8, kRound = 2e-4;
constexpr double kInch_mm = 25.4;

std::vector<double> lengths_of(const TopologyIndex& topology) {
  std::vector<double> lengths;
  for (const FaceInfo& face : topology.faces)
    if (face.surface.kind == SurfaceKind::kCylinder) lengths.push_back(2 * face.surface.radius_mm);
  for (const EdgeInfo& edge : topology.edges) {
    if (edge.straight_along && !edge.is_seam()) lengths.push_back(length_of(edge.edge));
  }
  return lengths;
}

bool is_multiple(double value, double of) {
  const double ratio = value / of;
  return std::abs(ratio - std::round(ratio)) * of < kRound * std::max(1.0, value) && std::round(ratio) > 0;
}

double share_of_round(const std::vector<double>& lengths, double scale) {
  size_t round = 0;
  for (const double length : lengths)
    round += is_multiple(length * scale, 0.1) || is_multiple(length * scale, kInch_mm / 16) ? 1 : 0;
  return lengths.empty() ? 0 : static_cast<double>(round) / static_cast<double>(lengths.size());
}

double largest_extent(const Part& part) {
  const Box box = vertex_box(part);
  const gp_XYZ size = box.size();
  return box.is_empty() ? 0 : std::max({size.X(), size.Y(), size.Z()});
}

}  // namespace

std::optional<UnitSuspicion> suspect_unit(const Part& part) {
  const double extent = largest_extent(part);
  if (extent <= 0 || (extent > kSmall_mm && extent < kLarge_mm)) return std::nullopt;
  const std::vector<double> lengths = lengths_of(part.topology());
  // A length of whole tenths stays one when multiplied by 25.4 and five, so only small parts are judged by
  // how they came.
  if (lengths.size() < 4 || (extent < kSmall_mm && share_of_round(lengths, 1.0) >= 0.5)) return std::nullopt;
  for (const double scale :
       extent > kLarge_mm ? std::vector<double>{1 / kInch_mm} : std::vector<double>{kInch_mm, 1000.0}) {
    const double now = extent * scale;
    if (now < kSmall_mm / 4 || now > kLarge_mm || share_of_round(lengths, scale) < 0.6) continue;
    return UnitSuspicion{scale, fmt::format("The part is {:.3f} mm long; {} it would be {:.3f} mm with sizes "
                                            "in round numbers. The file may name the wrong "
                                            "unit.",
                                            extent,
                                            scale < 1     ? "25.4 times smaller"
                                            : scale > 100 ? "1000 times larger"
                                                          : "25.4 times larger",
                                            now)};
  }
  return std::nullopt;
}

}  // namespace anvil
