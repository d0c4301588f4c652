#include "correct/hole_wish.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace anvil {
namespace {

constexpr double kSame_mm = 1e-6;

double leg(double wide_mm, double narrow_mm, double angle_rad) {
  return (wide_mm - narrow_mm) / 2 / std::tan(angle_rad / 2);
}

bool is_tip(const HoleStep& step) {
  return step.kind == StepKind::kTip || step.kind == StepKind::kFlat || step.kind == StepKind::kBall;
}

bool is_head(const HoleStep& step) {
  return step.kind == StepKind::kCounterbore || step.kind == StepKind::kCountersink;
}

// The form in its pieces: what is above the main bore, the bore, what is below.
struct Pieces {
  std::vector<HoleStep> above, below;
  HoleStep bore;
  bool through = false;
};

// The narrowest cylinder; of equal ones the longer.
Result<Pieces> pieces_of(const HoleForm& form) {
  auto main = form.steps.end();
  for (auto step = form.steps.begin(); step != form.steps.end(); ++step) {
    if (step->kind != StepKind::kBore) continue;
    if (main == form.steps.end() || step->diameter_mm < main->diameter_mm - kSame_mm ||
        (step->diameter_mm < main->diameter_mm + kSame_mm && step->depth_mm > main->depth_mm))
      main = step;
  }
  if (main == form.steps.end())
    return refuse(RefusalCode::kGeometry, "the hole has no cylinder whose size could be changed");
  return Pieces{{form.steps.begin(), main}, {main + 1, form.steps.end()}, *main, form.through};
}

double depth_of(const std::vector<HoleStep>& steps) {
  return std::accumulate(steps.begin(), steps.end(), 0.0,
                         [](double sum, const HoleStep& step) { return sum + step.depth_mm; });
}

Result<void> check_angle(const std::optional<double>& angle_rad, const char* what) {
  constexpr double kStraight_rad = 3.14159265358979323846;
  if (!angle_rad || (*angle_rad > 1e-3 && *angle_rad < kStraight_rad - 1e-3)) return {};
  return refuse(RefusalCode::kBadInput, fmt::format("the {} lies between 0 and 180 degrees", what));
}

// Edges of cones follow the bore they open into, and keep their width.
void widen(Pieces& pieces, double to_mm) {
  const double from = pieces.bore.diameter_mm;
  const auto follow = [&](HoleStep& step) {
    if (std::abs(step.diameter_mm - from) < kSame_mm || std::abs(step.end_diameter_mm - from) < kSame_mm) {
      const double wide = std::max(step.diameter_mm, step.end_diameter_mm);
      const bool is_chamfer = step.kind == StepKind::kChamfer;
      const bool is_cone = step.kind == StepKind::kCountersink;
      if (is_chamfer) {
        step.diameter_mm += to_mm - from;
        step.end_diameter_mm += to_mm - from;
      } else if (is_cone) {
        (step.diameter_mm > step.end_diameter_mm ? step.end_diameter_mm : step.diameter_mm) = to_mm;
        step.depth_mm = leg(wide, to_mm, step.angle_rad);
      }
    }
  };
  for (auto* steps : {&pieces.above, &pieces.below})
    for (HoleStep& step : *steps) follow(step);
  pieces.bore.diameter_mm = pieces.bore.end_diameter_mm = to_mm;
}

void set_head(Pieces& pieces, const HoleWish& wish) {
  using Head = HoleWish::Head;
  const auto there = std::find_if(pieces.above.begin(), pieces.above.end(), is_head);
  const std::optional<HoleStep> old = there == pieces.above.end() ? std::nullopt : std::optional(*there);
  Head head = wish.head;
  if (head == Head::kAsItIs) {
    if (!old) return;
    head = old->kind == StepKind::kCounterbore ? Head::kCounterbore : Head::kCountersink;
  }
  // The level of the bore's end stays: the head takes from it or gives to it.
  const double before = depth_of(pieces.above);
  if (old && wish.head == Head::kAsItIs) {
    HoleStep& step = *there;
    if (wish.head_diameter_mm) step.diameter_mm = *wish.head_diameter_mm;
    if (step.kind == StepKind::kCounterbore) {
      step.end_diameter_mm = step.diameter_mm;
      if (wish.head_depth_mm) step.depth_mm = *wish.head_depth_mm;
    } else {
      if (wish.head_angle_rad) step.angle_rad = *wish.head_angle_rad;
      step.depth_mm = leg(step.diameter_mm, step.end_diameter_mm, step.angle_rad);
    }
  } else {
    const double bore = pieces.bore.diameter_mm;
    const double wide = wish.head_diameter_mm.value_or(old ? old->diameter_mm : 2 * bore);
    pieces.above.clear();
    if (head == Head::kCounterbore)
      pieces.above = {{StepKind::kCounterbore, wide, wide, wish.head_depth_mm.value_or(bore), 0}};
    if (head == Head::kCountersink) {
      const double angle = wish.head_angle_rad.value_or(kHeadAngle_rad);
      pieces.above = {{StepKind::kCountersink, wide, bore, leg(wide, bore, angle), angle}};
    }
  }
  pieces.bore.depth_mm -= depth_of(pieces.above) - before;
}

void set_tip(Pieces& pieces, const HoleWish& wish) {
  using Tip = HoleWish::Tip;
  if (pieces.through) {
    std::erase_if(pieces.below, is_tip);
    return;
  }
  const double bore = pieces.below.empty() || is_tip(pieces.below.front())
                          ? pieces.bore.end_diameter_mm
                          : pieces.below.back().end_diameter_mm;
  const auto there = std::find_if(pieces.below.begin(), pieces.below.end(), is_tip);
  const bool has_point = there != pieces.below.end() && there->kind == StepKind::kTip;
  const bool has_ball = there != pieces.below.end() && there->kind == StepKind::kBall;
  const double old_angle = has_point ? there->angle_rad : kDrillPoint_rad;
  if (wish.tip == Tip::kAsItIs && has_ball && !wish.tip_angle_rad) {
    there->diameter_mm = bore;
    there->depth_mm = std::min(there->depth_mm, bore / 2);
    return;
  }
  const bool pointed =
      wish.tip == Tip::kDrillPoint || (wish.tip == Tip::kAsItIs && (has_point || wish.tip_angle_rad));
  std::erase_if(pieces.below, is_tip);
  const double angle = wish.tip_angle_rad.value_or(old_angle);
  if (pointed)
    pieces.below.push_back({StepKind::kTip, bore, 0, leg(bore, 0, angle), angle});
  else
    pieces.below.push_back({StepKind::kFlat, bore, bore, 0, 0});
}

Result<HoleForm> put_together(const Pieces& pieces) {
  if (pieces.bore.depth_mm <= kSame_mm)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("the head of {:.3f} leaves no bore below it: the hole is not that deep",
                              depth_of(pieces.above)));
  double widest = pieces.bore.diameter_mm;
  for (const HoleStep& step : pieces.above)
    if (is_head(step) && step.diameter_mm <= widest + kSame_mm)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("the {} of Ø{:.3f} is not wider than the bore of Ø{:.3f}",
                                step_name(step.kind), step.diameter_mm, widest));
  HoleForm form{pieces.above, pieces.through};
  form.steps.push_back(pieces.bore);
  form.steps.insert(form.steps.end(), pieces.below.begin(), pieces.below.end());
  return form;
}

}  // namespace

Result<HoleForm> with_wish(const HoleForm& form, const HoleWish& wish, double through_mm) {
  if (auto good = check_angle(wish.head_angle_rad, "angle of the head"); !good) return refuse(good);
  if (auto good = check_angle(wish.tip_angle_rad, "angle of the point"); !good) return refuse(good);
  for (const auto& number : {wish.diameter_mm, wish.depth_mm, wish.head_diameter_mm, wish.head_depth_mm})
    if (number && *number <= kSame_mm)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("{:.3f} is no size of a hole: above zero is wanted", *number));
  auto pieces = pieces_of(form);
  if (!pieces) return refuse(pieces);
  if (wish.diameter_mm) widen(*pieces, *wish.diameter_mm);
  if (wish.end != HoleWish::End::kAsItIs) pieces->through = wish.end == HoleWish::End::kThrough;
  if (pieces->through && !form.through) pieces->bore.depth_mm = through_mm - depth_of(pieces->above);
  if (wish.depth_mm && !pieces->through) pieces->bore.depth_mm = *wish.depth_mm - depth_of(pieces->above);
  set_head(*pieces, wish);
  set_tip(*pieces, wish);
  return put_together(*pieces);
}

}  // namespace anvil
