// Planes between picks, through several, or fitting them best.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Solutions midway(const Inputs& in) {
  const gp_Pln &a = *in[0].plane, &b = *in[1].plane;
  const double angle = acute_angle(a.Axis().Direction(), b.Axis().Direction());
  if (angle > in.tolerance.angular_rad)
    return refused(
        fmt::format("{{1}} and {{2}} are not parallel: they stand at {}", format_angle(angle, in.display)),
        {{"angle_rad", angle}}, "plane.bisector");
  const double gap = height_over(a, b.Location());
  if (std::abs(gap) < in.tolerance.linear_mm)
    return refused("{1} and {2} lie in the same plane: there is nothing midway", {}, "plane.on-face");
  const gp_Pln plane = a.Translated(gp_Vec(a.Axis().Direction()) * (gap / 2));
  return one(drawn_plane(plane, extents(in)),
             fmt::format("{} from each", format_length(std::abs(gap) / 2, in.display)));
}

// Points at one signed height over both lie in one bisector, at opposite heights in the other.
Solutions bisectors(const Inputs& in) {
  const gp_Pln &a = *in[0].plane, &b = *in[1].plane;
  const std::vector<gp_Pnt> around = extents(in);
  auto line = crossing(a, b, around.empty() ? a.Location() : average_of(around), in.tolerance.angular_rad);
  if (!line) {
    Refusal refusal = line.error();
    refusal.instead = "plane.midway";
    return refuse(refusal);
  }
  const gp_Vec na(a.Axis().Direction()), nb(b.Axis().Direction());
  const auto solution = [&](const gp_Vec& normal, const char* key) {
    const double half = std::asin(std::clamp(std::abs(normal.Normalized().Dot(na)), 0.0, 1.0));
    return Solution{drawn_plane(plane_at(line->Location(), gp_Dir(normal), line->Direction()), around), key,
                    format_angle(half, in.display) + " to each"};
  };
  return std::vector<Solution>{solution(na - nb, "same-side"), solution(na + nb, "other-side")};
}

Solutions between_axes(const Inputs& in) {
  const Bridge between = bridge(*in[0].axis, *in[1].axis, in.tolerance.angular_rad);
  if (!between.parallel)
    return refused(
        fmt::format("{{1}} and {{2}} are not parallel: they stand at {}",
                    format_angle(acute_angle(in[0].axis->Direction(), in[1].axis->Direction()), in.display)),
        {{"angle_rad", acute_angle(in[0].axis->Direction(), in[1].axis->Direction())}}, "axis.midway");
  if (between.gap_mm < in.tolerance.linear_mm)
    return refused("{1} and {2} lie in one line: there is nothing midway");
  const gp_Dir across(gp_Vec(between.on_a, between.on_b));
  return one(drawn_plane(plane_at(midpoint(between.on_a, between.on_b), across, in[0].axis->Direction()),
                         extents(in)),
             format_length(between.gap_mm / 2, in.display) + " from each");
}

// How far the third point stands off the line through the other two that are farthest apart.
double off_line(const gp_Pnt& a, const gp_Pnt& b, const gp_Pnt& c) {
  const gp_Pnt* p[3] = {&a, &b, &c};
  double least = 1e300;
  for (int i = 0; i < 3; ++i) {
    const gp_Vec along(*p[(i + 1) % 3], *p[(i + 2) % 3]);
    if (along.Magnitude() < kExact.linear_mm) return 0;
    least = std::min(least, along.Crossed(gp_Vec(*p[(i + 1) % 3], *p[i])).Magnitude() / along.Magnitude());
  }
  return least;
}

Solutions through_three(const Inputs& in) {
  const gp_Pnt a = spot_of(in[0]), b = spot_of(in[1]), c = spot_of(in[2]);
  const double off = off_line(a, b, c);
  if (off < in.tolerance.linear_mm)
    return refused(
        fmt::format("the three points lie in one line (within {:.6f} mm): they determine no plane", off),
        {{"off_line_mm", off}}, "axis.best-line");
  const gp_Dir normal(gp_Vec(a, b).Crossed(gp_Vec(a, c)));
  return one(drawn_plane(gp_Pln(gp_Ax3(a, normal, gp_Dir(gp_Vec(a, b)))), {a, b, c}));
}

// A flat face counts with the points of its outline; residuals are told for picks.
bool as_face(const Given& pick) {
  return !pick.point && !pick.hole;
}

std::vector<gp_Pnt> fitted_points(const Inputs& in, std::vector<size_t>* pick_of = nullptr) {
  std::vector<gp_Pnt> points;
  for (size_t i = 0; i < in.picks.size(); ++i) {
    const std::vector<gp_Pnt> here = as_face(in[i]) ? in[i].extent : std::vector{spot_of(in[i])};
    points.insert(points.end(), here.begin(), here.end());
    if (pick_of) pick_of->insert(pick_of->end(), here.size(), i);
  }
  return points;
}

double farthest(const std::vector<gp_Pnt>& points) {
  double most = 0;
  for (const gp_Pnt& p : points) most = std::max(most, p.Distance(points.front()));
  return most;
}

Solutions best_fit(const Inputs& in) {
  std::vector<size_t> pick_of;
  const std::vector<gp_Pnt> points = fitted_points(in, &pick_of);
  auto fit = fit_plane(points);
  if (!fit) return refuse(fit);
  FitQuality quality = fit->quality;
  quality.worst = pick_of[quality.worst];
  Solution solution{drawn_plane(fit->shape, points), "only", quality_text(quality, in.display)};
  if (in.picks.size() > 3) solution.worst_role = static_cast<int>(quality.worst);
  solution.off_mm = quality.rms_mm;
  return std::vector<Solution>{solution};
}

Solutions through_two_lines(const Inputs& in) {
  const gp_Ax1 &a = *in[0].axis, &b = *in[1].axis;
  const Bridge between = bridge(a, b, in.tolerance.angular_rad);
  if (between.parallel) {
    if (between.gap_mm < in.tolerance.linear_mm)
      return refused("{1} and {2} lie in one line: every plane through it would do");
    const gp_Vec across(between.on_a, between.on_b);
    return one(drawn_plane(
        plane_at(between.on_a, gp_Dir(gp_Vec(a.Direction()).Crossed(across)), a.Direction()), extents(in)));
  }
  if (between.gap_mm > in.tolerance.linear_mm)
    return refused(fmt::format("{{1}} and {{2}} miss each other by {}: no plane holds both",
                               format_length(between.gap_mm, in.display)),
                   {{"gap_mm", between.gap_mm}}, "axis.common-perpendicular");
  return one(
      drawn_plane(plane_at(between.on_a, a.Direction().Crossed(b.Direction()), a.Direction()), extents(in)));
}

Solutions through_line_and_point(const Inputs& in) {
  const gp_Ax1& line = *in[0].axis;
  const gp_Pnt point = spot_of(in[1]);
  const double off = distance(line, point);
  if (off < in.tolerance.linear_mm)
    return refused(
        fmt::format("{{2}} lies on {{1}} (within {:.6f} mm): every plane through it would do", off),
        {{"distance_mm", off}}, "plane.square-to-line");
  const gp_Vec normal = gp_Vec(line.Direction()).Crossed(gp_Vec(foot_on(line, point), point));
  return one(drawn_plane(plane_at(line.Location(), gp_Dir(normal), line.Direction()), extents(in)));
}

}  // namespace

Construction plane_midway() {
  return described(Makes::kPlane, "plane.midway", "Plane midway between {1} and {2}",
                   {Need::kPlane, Need::kPlane}, 8, midway);
}

Construction plane_bisector() {
  return described(Makes::kPlane, "plane.bisector", "Plane halving the angle of {1} and {2}",
                   {Need::kPlane, Need::kPlane}, 16, bisectors);
}

Construction plane_between_axes() {
  return described(Makes::kPlane, "plane.between-axes", "Plane midway between axes {1} and {2}",
                   {Need::kAxis, Need::kAxis}, 16, between_axes);
}

Construction plane_through_three_points() {
  return described(Makes::kPlane, "plane.three-points", "Plane through {1}, {2} and {3}",
                   {Need::kSpot, Need::kSpot, Need::kSpot}, 8, through_three);
}

Construction plane_best_fit() {
  Construction c = described(Makes::kPlane, "plane.best-fit", "Plane that fits {all} best",
                             {Need::kFitted, Need::kFitted}, 15, best_fit);
  c.repeats = true;
  c.rank_for = [](const Inputs& in) {
    const bool has_face =
        std::any_of(in.picks.begin(), in.picks.end(), [](const Given* pick) { return as_face(*pick); });
    if (!has_face) return 15;
    const std::vector<gp_Pnt> points = fitted_points(in);
    const auto fit = fit_plane(points);
    return fit && fit->quality.largest_mm < 0.02 * farthest(points) ? 15 : 45;
  };
  return c;
}

Construction plane_through_two_lines() {
  return described(Makes::kPlane, "plane.two-lines", "Plane through {1} and {2}", {Need::kAxis, Need::kAxis},
                   13, through_two_lines);
}

Construction plane_through_line_and_point() {
  Construction c = described(Makes::kPlane, "plane.line-point", "Plane through {1} and {2}",
                             {Need::kAxis, Need::kSpot}, 13, through_line_and_point);
  // What has an axis of its own is seldom meant as a point.
  c.rank_for = [](const Inputs& in) { return in[1].axis ? 22 : 13; };
  return c;
}

}  // namespace anvil
