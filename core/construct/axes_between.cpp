// Axes between axes, and those that fit many picks best.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Solutions between_parallel(const Inputs& in, const Bridge& between) {
  if (between.gap_mm < in.tolerance.linear_mm)
    return refused("{1} and {2} lie in one line: there is nothing between them", {}, "axis.of");
  return one(drawn_axis(gp_Ax1(midpoint(between.on_a, between.on_b), in[0].axis->Direction()), extents(in)),
             format_length(between.gap_mm / 2, in.display) + " from each");
}

// Crossing: both bisectors; passing: the same directions through the middle of the gap.
Solutions midway(const Inputs& in) {
  const Bridge between = bridge(*in[0].axis, *in[1].axis, in.tolerance.angular_rad);
  if (between.parallel) return between_parallel(in, between);
  const gp_Vec a(in[0].axis->Direction()), b(in[1].axis->Direction());
  const double angle = std::acos(std::clamp(a.Dot(b), -1.0, 1.0));
  const gp_Pnt middle = midpoint(between.on_a, between.on_b);
  const std::string gap = between.gap_mm > in.tolerance.linear_mm
                              ? ", gap " + format_length(between.gap_mm, in.display)
                              : std::string();
  const auto solution = [&](const gp_Vec& along, const char* key, double half) {
    return Solution{drawn_axis(gp_Ax1(middle, gp_Dir(along)), extents(in)), key,
                    format_angle(half, in.display) + " to each" + gap};
  };
  return std::vector<Solution>{solution(a + b, "with-both", angle / 2),
                               solution(a - b, "across", (kPi - angle) / 2)};
}

Solutions common_perpendicular(const Inputs& in) {
  const Bridge between = bridge(*in[0].axis, *in[1].axis, in.tolerance.angular_rad);
  if (between.parallel)
    return refused(
        fmt::format("{{1}} and {{2}} are parallel, {} apart: they have endless common perpendiculars",
                    format_length(between.gap_mm, in.display)),
        {{"distance_mm", between.gap_mm}}, "plane.two-lines");
  const gp_Dir along = in[0].axis->Direction().Crossed(in[1].axis->Direction());
  const bool meet = between.gap_mm < in.tolerance.linear_mm;
  const gp_Dir sense = meet ? along : gp_Dir(gp_Vec(between.on_a, between.on_b));
  return one(drawn_axis(gp_Ax1(between.on_a, sense), {between.on_a, between.on_b}),
             meet ? std::string("they cross") : format_length(between.gap_mm, in.display) + " long");
}

// The mean of directions and of the places nearest to where the axes were picked.
Solutions average(const Inputs& in) {
  const gp_Pnt middle = average_of(extents(in));
  gp_Vec along;
  std::vector<gp_Pnt> feet;
  for (const Given* pick : in.picks) {
    const gp_Vec d(pick->axis->Direction());
    along += along.Dot(d) < 0 ? d.Reversed() : d;
    feet.push_back(foot_on(*pick->axis, middle));
  }
  if (along.Magnitude() < in.tolerance.angular_rad)
    return refused("the axes point against each other: no mean");
  const gp_Ax1 axis(average_of(feet), gp_Dir(along));
  double largest_angle = 0;
  std::vector<double> off;
  for (size_t i = 0; i < feet.size(); ++i) {
    off.push_back(distance(axis, feet[i]));
    largest_angle = std::max(largest_angle, acute_angle(axis.Direction(), in[i].axis->Direction()));
  }
  const FitQuality quality = quality_of(off);
  Solution solution{drawn_axis(axis, extents(in)), "only",
                    fmt::format("largest distance {} to {{{}}}, largest angle {}",
                                format_length(quality.largest_mm, in.display), quality.worst + 1,
                                format_angle(largest_angle, in.display))};
  if (feet.size() > 2) solution.worst_role = static_cast<int>(quality.worst);
  return std::vector<Solution>{solution};
}

Solutions best_line(const Inputs& in) {
  const std::vector<gp_Pnt> points = spots_of(in);
  auto fit = fit_line(points);
  if (!fit) return refuse(fit);
  Solution solution{drawn_axis(fit->shape, points), "only", quality_text(fit->quality, in.display)};
  solution.worst_role = static_cast<int>(fit->quality.worst);
  solution.off_mm = fit->quality.rms_mm;
  return std::vector<Solution>{solution};
}

Solutions through_circle(const Inputs& in) {
  const std::vector<gp_Pnt> points = spots_of(in);
  auto fit = fit_circle(points);
  if (!fit) return refuse(fit);
  const std::string size = "Ø" + format_length(2 * fit->shape.Radius(), in.display);
  Solution solution{drawn_axis(fit->shape.Axis(), points), "only",
                    points.size() > 3 ? size + ", " + quality_text(fit->quality, in.display) : size};
  if (points.size() > 3) solution.worst_role = static_cast<int>(fit->quality.worst);
  solution.off_mm = fit->quality.rms_mm;
  return std::vector<Solution>{solution};
}

}  // namespace

Construction axis_midway() {
  Construction c = described(Makes::kAxis, "axis.midway", "Axis midway between {1} and {2}",
                             {Need::kAxis, Need::kAxis}, 19, midway);
  return c;
}

Construction axis_common_perpendicular() {
  Construction c = described(Makes::kAxis, "axis.common-perpendicular", "Axis square to both {1} and {2}",
                             {Need::kAxis, Need::kAxis}, 23, common_perpendicular);
  return c;
}

Construction axis_average() {
  Construction c = described(Makes::kAxis, "axis.average", "Mean axis of {all}",
                             {Need::kAxis, Need::kAxis, Need::kAxis}, 14, average);
  c.repeats = true;
  return c;
}

Construction axis_best_line() {
  Construction c = described(Makes::kAxis, "axis.best-line", "Line that fits {all} best",
                             {Need::kSpot, Need::kSpot, Need::kSpot}, 7, best_line);
  c.repeats = true;
  // Likely where the picks stand nearly in a row.
  c.rank_for = [](const Inputs& in) {
    const std::vector<gp_Pnt> points = spots_of(in);
    const auto fit = fit_line(points);
    return fit && fit->quality.largest_mm < 0.05 * points.front().Distance(points.back()) ? 7 : 40;
  };
  return c;
}

Construction axis_of_circle_through() {
  Construction c = described(Makes::kAxis, "axis.of-circle-through", "Axis of the circle through {all}",
                             {Need::kSpot, Need::kSpot, Need::kSpot}, 9, through_circle);
  c.repeats = true;
  // Three points always lie on one; more that do were meant to.
  c.rank_for = [](const Inputs& in) {
    const auto fit = fit_circle(spots_of(in));
    if (!fit || fit->quality.largest_mm > 0.02 * fit->shape.Radius()) return 41;
    return in.picks.size() > 3 ? 9 : 18;
  };
  return c;
}

}  // namespace anvil
