#include "app/draft_handles.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "app/session.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

std::vector<gp_Pnt> places_of(const DatumValue& value) {
  if (const auto* point = std::get_if<PointDatum>(&value)) return {point->point};
  if (const auto* plane = std::get_if<PlaneDatum>(&value)) {
    const gp_Vec x = gp_Vec(plane->plane.XAxis().Direction()) * plane->half_x_mm,
                 y = gp_Vec(plane->plane.YAxis().Direction()) * plane->half_y_mm;
    return {plane->centre, plane->centre.Translated(x), plane->centre.Translated(-x),
            plane->centre.Translated(y), plane->centre.Translated(-y)};
  }
  if (const auto* axis = std::get_if<AxisDatum>(&value)) {
    const gp_Vec along(axis->axis.Direction());
    return {axis->axis.Location().Translated(along * axis->from_mm),
            axis->axis.Location().Translated(along * axis->to_mm)};
  }
  if (const auto* frame = std::get_if<FrameDatum>(&value)) {
    // Its zero, and the tips of its axes as far out as they turn well.
    constexpr double kArm_mm = 25;
    const gp_Pnt zero = frame->frame.Location();
    std::vector<gp_Pnt> places{zero};
    for (const gp_Dir& arm : {frame->frame.XDirection(), frame->frame.YDirection(), frame->frame.Direction()})
      places.push_back(zero.Translated(gp_Vec(arm) * kArm_mm));
    return places;
  }
  if (const auto* figure = std::get_if<FigureDatum>(&value)) {
    std::vector<gp_Pnt> places;
    for (const Snap snap : {Snap::kMiddle, Snap::kStart})
      for (const TopoDS_Edge& edge : figure->edges) places.push_back(*given_by_curve(edge, snap).point);
    return places;
  }
  return {};
}

}  // namespace

std::optional<std::pair<gp_Pnt, gp_Vec>> moving_place(const DatumValue& before, const DatumValue& after) {
  const std::vector<gp_Pnt> from = places_of(before), to = places_of(after);
  if (from.empty() || from.size() != to.size()) return std::nullopt;
  size_t most = 0;
  for (size_t i = 1; i < from.size(); ++i)
    if (from[i].Distance(to[i]) > from[most].Distance(to[most]) * (1 + 1e-6)) most = i;
  const gp_Vec moved(from[most], to[most]);
  if (moved.Magnitude() < 1e-12) return std::nullopt;
  return std::pair{from[most], moved};
}

double rounded_to_step(double value, double step) {
  double round = std::pow(10, std::ceil(std::log10(step)));
  for (const double finer : {round / 10, round / 5, round / 2})
    if (finer >= step) {
      round = finer;
      break;
    }
  return std::round(value / round) * round;
}

double snapped_degrees(double value, double step, const std::vector<double>& special) {
  constexpr double kSpecialSteps = 3, kQuarterSteps = 4, kFifteenSteps = 2;
  for (const double wanted : special)
    if (std::abs(value - wanted) <= kSpecialSteps * step) return wanted;
  for (const auto& [round, steps] : {std::pair{90.0, kQuarterSteps}, {15.0, kFifteenSteps}})
    if (const double wanted = std::round(value / round) * round; std::abs(value - wanted) <= steps * step)
      return wanted;
  return step <= 1 ? std::round(value) : rounded_to_step(value, step);
}

std::string handle_text(const DraftHandle& handle, double value, const Display& display) {
  if (handle.quantity == Quantity::kAngle) return fmt::format("{:.6g}", degrees(value));
  if (handle.quantity == Quantity::kRatio) return fmt::format("{:.6g}", value);
  return fmt::format("{:.6g}{}", value / mm_per(display.unit), display.unit == Unit::kInch ? "in" : "mm");
}

// One for each number that moves something; the places are those of the chosen solution.
void Session::refresh_handles() {
  handles_.clear();
  if (!draft_ || draft_->solution >= draft_->solutions.size() || draft_->construction->takes_time) return;
  const Solution& now = draft_->solutions[draft_->solution];
  for (const Parameter& parameter : draft_->construction->parameters) {
    if (parameter.aside && !draft_->asides_open) continue;
    if (parameter.quantity != Quantity::kLength && parameter.quantity != Quantity::kAngle &&
        parameter.quantity != Quantity::kRatio)
      continue;
    const auto value =
        evaluate_parameter(parameter, draft_->parameters.at(parameter.id), draft_->unit, draft_names());
    if (!value) continue;
    // Ratios end at 1: the step goes the other way there.
    const double step = parameter.quantity == Quantity::kLength ? 1e-3 : *value > 0.5 ? -1e-5 : 1e-5;
    DraftHandle handle{parameter.id, parameter.quantity, *value, {}, {}};
    Draft stepped = *draft_;
    stepped.parameters[parameter.id] =
        fmt::format("({}) + {:.9f}", handle_text(handle, *value, {Unit::kMillimetre, 3, 3}),
                    parameter.quantity == Quantity::kAngle ? degrees(step) : step) +
        (parameter.quantity == Quantity::kLength ? "mm" : "");
    const Solutions solutions = solve_draft(stepped);
    if (!solutions || !has_solution(*solutions, now.key)) continue;
    const auto place = moving_place(now.value, (*solutions)[chosen(*solutions, now.key)].value);
    if (!place) continue;
    handle.at = place->first;
    handle.per_unit = place->second / step;
    handles_.push_back(handle);
  }
  for (DraftHandle& handle : handles_)
    handle.shares_place = std::count_if(handles_.begin(), handles_.end(), [&](const DraftHandle& other) {
                            return other.at.IsEqual(handle.at, 1e-9);
                          }) > 1;
}

}  // namespace anvil::app
