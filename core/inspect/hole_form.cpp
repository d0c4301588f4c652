#include "inspect/hole_form.h"

#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

constexpr double kSame_mm = 1e-4;
// A cone seats a screw head when it opens to this many times the hole below it; less is a chamfer. So is what
// is small in itself: half a millimetre at 45 degrees breaks the edge of a hole of 3.
constexpr double kCountersinkOpening = 1.3;
constexpr double kChamferLeg_mm = 0.55, kChamferOpening = 1.6;
// Below a wider cylinder: heads have included angles from 60 degrees up, and what a drill's point leaves
// between two bores has 118 or more.
constexpr double kSharpestHead_rad = 59 * kPi / 180, kBluntestHead_rad = 110 * kPi / 180;

// A step while it is being read; levels count downward from the opening.
struct Raw {
  SurfaceKind kind;
  double top, bottom, diameter, end_diameter, semi_angle;
};

// Where both ends are open the entry is the wider one, then the one in a flat face, then the preferred one.
bool enter_at_high(const Chain& chain, const std::optional<gp_Dir>& prefer) {
  if (chain.high.open != chain.low.open) return chain.high.open;
  const double high = chain.pieces.back().high_radius, low = chain.pieces.front().low_radius;
  if (std::abs(high - low) > kSame_mm) return high > low;
  if (chain.high.on_plane != chain.low.on_plane) return chain.high.on_plane;
  const gp_Dir d = chain.axis.Direction();
  if (prefer) return d.Dot(*prefer) > 0;
  for (const double component : {d.Z(), d.Y(), d.X()})
    if (std::abs(component) > 1e-6) return component > 0;
  return true;
}

std::vector<Raw> raw_steps(const TopologyIndex& topology, const Chain& chain, bool high_entry,
                           double entry_level) {
  std::vector<Raw> steps;
  std::vector<ChainPiece> pieces = chain.pieces;
  if (high_entry) std::reverse(pieces.begin(), pieces.end());
  for (const ChainPiece& piece : pieces) {
    const Surface& s = topology.patches[piece.patch].surface;
    if (s.kind == SurfaceKind::kTorus) continue;  // roundings belong to the step beside them
    Raw raw;
    raw.kind = s.kind;
    raw.top = high_entry ? entry_level - piece.high : piece.low - entry_level;
    raw.bottom = high_entry ? entry_level - piece.low : piece.high - entry_level;
    raw.diameter = 2 * (high_entry ? piece.high_radius : piece.low_radius);
    raw.end_diameter = 2 * (high_entry ? piece.low_radius : piece.high_radius);
    raw.semi_angle = std::abs(s.semi_angle_rad);
    Raw* before = steps.empty() ? nullptr : &steps.back();
    const bool goes_on = before && before->kind == raw.kind && raw.kind == SurfaceKind::kCylinder &&
                         std::abs(before->diameter - raw.diameter) < kSame_mm;
    if (goes_on)
      before->bottom = std::max(before->bottom, raw.bottom);
    else
      steps.push_back(raw);
  }
  return steps;
}

double length_of(const Raw& step) {
  return step.bottom - step.top;
}

// A short narrow end of a wide blind hole is a pilot or a relief, not what the hole was drilled with.
bool is_pilot(const std::vector<Raw>& steps, size_t narrow, size_t wide) {
  return narrow > wide && length_of(steps[narrow]) <= steps[narrow].diameter &&
         length_of(steps[wide]) >= 2 * length_of(steps[narrow]);
}

// The narrowest cylinder that the rest opens into; of equal ones the longer.
size_t main_bore(const std::vector<Raw>& steps, bool through) {
  std::vector<size_t> cylinders;
  for (size_t i = 0; i < steps.size(); ++i)
    if (steps[i].kind == SurfaceKind::kCylinder) cylinders.push_back(i);
  if (cylinders.empty()) return steps.size();
  std::sort(cylinders.begin(), cylinders.end(), [&](size_t a, size_t b) {
    return std::abs(steps[a].diameter - steps[b].diameter) > kSame_mm
               ? steps[a].diameter < steps[b].diameter
               : length_of(steps[a]) > length_of(steps[b]);
  });
  size_t at = 0;
  while (!through && at + 1 < cylinders.size() && is_pilot(steps, cylinders[at], cylinders[at + 1])) ++at;
  return cylinders[at];
}

StepKind countersink_or_chamfer(double wide, double narrow) {
  const bool small = (wide - narrow) / 2 <= kChamferLeg_mm && wide < kChamferOpening * narrow;
  return wide >= kCountersinkOpening * narrow && !small ? StepKind::kCountersink : StepKind::kChamfer;
}

// The head of a screw let in below a counterbore.
bool seats_a_head(const Raw& above, const Raw& cone) {
  const double angle = 2 * cone.semi_angle;
  return above.kind == SurfaceKind::kCylinder && above.diameter >= cone.diameter - kSame_mm &&
         cone.diameter > cone.end_diameter && angle >= kSharpestHead_rad && angle <= kBluntestHead_rad &&
         length_of(above) <= above.diameter;
}

StepKind kind_of_cone(const std::vector<Raw>& steps, size_t i, size_t main) {
  const Raw& cone = steps[i];
  if (cone.end_diameter < kSame_mm) return StepKind::kTip;
  if (steps.size() == 1) return StepKind::kTaper;
  const bool at_entry = i == 0 && cone.diameter > cone.end_diameter,
             at_exit = i + 1 == steps.size() && cone.end_diameter > cone.diameter;
  const bool below_counterbore = i > 0 && i < main && main < steps.size() && seats_a_head(steps[i - 1], cone);
  if (!at_entry && !at_exit && !below_counterbore) return StepKind::kTaper;
  return countersink_or_chamfer(std::max(cone.diameter, cone.end_diameter),
                                std::min(cone.diameter, cone.end_diameter));
}

StepKind kind_of(const std::vector<Raw>& steps, size_t i, size_t main, bool through) {
  if (steps[i].kind == SurfaceKind::kCone) return kind_of_cone(steps, i, main);
  if (main >= steps.size() || i == main || steps[i].diameter <= steps[main].diameter + kSame_mm)
    return StepKind::kBore;
  const bool narrower_before = i > 0 && steps[i - 1].end_diameter < steps[i].diameter - kSame_mm;
  const bool narrower_after = i + 1 < steps.size() && steps[i + 1].diameter < steps[i].diameter - kSame_mm;
  const bool at_the_bottom = !through && i + 1 == steps.size();
  return narrower_before && (narrower_after || at_the_bottom) ? StepKind::kGroove : StepKind::kCounterbore;
}

std::vector<HoleStep> steps_from(const std::vector<Raw>& raw, size_t main, double end_level,
                                 const ChainEnd& end) {
  std::vector<HoleStep> steps;
  double from = 0;
  for (size_t i = 0; i < raw.size(); ++i) {
    HoleStep step;
    step.kind = kind_of(raw, i, main, end.open);
    const bool last = i + 1 == raw.size();
    const double to = last && step.kind != StepKind::kTip ? end_level : raw[i].bottom;
    step.depth_mm = to - from;
    step.diameter_mm = raw[i].diameter;
    step.end_diameter_mm = step.kind == StepKind::kTip ? 0.0 : raw[i].end_diameter;
    if (raw[i].kind == SurfaceKind::kCone) step.angle_rad = 2 * raw[i].semi_angle;
    steps.push_back(step);
    from = to;
  }
  if (end.ball_mm > kSame_mm)
    steps.push_back({StepKind::kBall, steps.back().end_diameter_mm, 0, end.ball_mm, 0});
  else if (end.flat_bottom)
    steps.push_back({StepKind::kFlat, steps.back().end_diameter_mm, steps.back().end_diameter_mm, 0, 0});
  return steps;
}

}  // namespace

const char* step_name(StepKind kind) {
  switch (kind) {
    case StepKind::kBore:
      return "bore";
    case StepKind::kCounterbore:
      return "counterbore";
    case StepKind::kCountersink:
      return "countersink";
    case StepKind::kTaper:
      return "taper";
    case StepKind::kChamfer:
      return "chamfer";
    case StepKind::kGroove:
      return "groove";
    case StepKind::kTip:
      return "tip";
    case StepKind::kBall:
      return "ball";
    case StepKind::kFlat:
      return "flat";
  }
  return "bore";
}

bool looks_alike_from_both_ends(const Chain& chain) {
  return chain.high.open && chain.low.open && chain.high.on_plane == chain.low.on_plane &&
         std::abs(chain.pieces.back().high_radius - chain.pieces.front().low_radius) <= kSame_mm;
}

void set_ends(Hole& hole, const gp_Ax1& axis, const ChainEnd& entry, const ChainEnd& end, bool from_high) {
  hole.entry = point_on(axis, entry.level);
  hole.axis = from_high ? axis.Direction() : axis.Direction().Reversed();
  hole.through = end.open;
  if (entry.on_plane) hole.entry_slope_rad = entry.slope_rad;
  if (end.open) hole.exit = point_on(axis, end.level);
  if (end.open && end.on_plane) hole.exit_slope_rad = end.slope_rad;
}

std::optional<Hole> hole_from(const TopologyIndex& topology, const Chain& chain,
                              const std::optional<gp_Dir>& prefer) {
  if (!chain.low.open && !chain.high.open) return std::nullopt;
  const bool high_entry = enter_at_high(chain, prefer);
  const ChainEnd& entry = high_entry ? chain.high : chain.low;
  const ChainEnd& end = high_entry ? chain.low : chain.high;
  Hole hole;
  hole.body = chain.body;
  set_ends(hole, chain.axis, entry, end, high_entry);

  const std::vector<Raw> raw = raw_steps(topology, chain, high_entry, entry.level);
  if (raw.empty()) return std::nullopt;
  const double end_level = std::abs(entry.level - end.level);
  const size_t main = main_bore(raw, hole.through);
  hole.steps = steps_from(raw, main, end_level, end);
  hole.depth_mm = end_level;
  if (!hole.through && raw.back().kind == SurfaceKind::kCone && hole.steps.back().kind == StepKind::kTip)
    hole.depth_mm = raw.back().top;
  hole.diameter_mm =
      main < raw.size() ? raw[main].diameter : std::min(raw.front().diameter, raw.back().end_diameter);
  if (hole.diameter_mm < kSame_mm) hole.diameter_mm = raw.front().diameter;
  hole.long_mm = hole.short_mm = hole.diameter_mm;

  double turn = 0;
  for (const ChainPiece& piece : chain.pieces) {
    turn = std::max(turn, piece.coverage_rad);
    for (int face : topology.patches[piece.patch].faces) {
      hole.faces.push_back(face);
      hole.deviation_mm = std::max(hole.deviation_mm, topology.faces[face].surface.deviation_mm);
    }
  }
  for (int shoulder : chain.shoulders)
    for (int face : topology.patches[shoulder].faces) hole.faces.push_back(face);
  hole.full_turn = turn >= 2 * kPi - 1e-4;
  return hole;
}

}  // namespace anvil
