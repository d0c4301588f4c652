#include "construct/handles.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "geom/primitives.h"

namespace anvil {
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
  if (const auto* correction = std::get_if<PlannedCorrection>(&value)) return correction->places;
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

std::string handle_text(const NumberHandle& handle, double value, const Display& display) {
  if (handle.quantity == Quantity::kAngle) return fmt::format("{:.6g}", degrees(value));
  if (handle.quantity == Quantity::kRatio) return fmt::format("{:.6g}", value);
  return fmt::format("{:.6g}{}", value / mm_per(display.unit), display.unit == Unit::kInch ? "in" : "mm");
}

namespace {

bool is_dragged(const Parameter& parameter, bool asides) {
  return (!parameter.aside || asides) &&
         (parameter.quantity == Quantity::kLength || parameter.quantity == Quantity::kAngle ||
          parameter.quantity == Quantity::kRatio);
}

std::string stepped(const NumberHandle& handle, double step) {
  return fmt::format("({}) + {:.9f}", handle_text(handle, handle.value, {Unit::kMillimetre, 3, 3}),
                     handle.quantity == Quantity::kAngle ? degrees(step) : step) +
         (handle.quantity == Quantity::kLength ? "mm" : "");
}

}  // namespace

std::vector<NumberHandle> handles_of(const Dragging& what, const Solution& now,
                                     const std::function<Solutions(const ParameterTexts&)>& solve) {
  std::vector<NumberHandle> handles;
  for (const Parameter& parameter : what.construction.parameters) {
    if (!is_dragged(parameter, what.asides)) continue;
    const auto value = evaluate_parameter(parameter, what.parameters.at(parameter.id), what.unit, what.names);
    if (!value) continue;
    // Ratios end at 1: the step goes the other way there.
    const double step = parameter.quantity == Quantity::kLength ? 1e-3 : *value > 0.5 ? -1e-5 : 1e-5;
    NumberHandle handle{parameter.id, parameter.quantity, *value, {}, {}};
    ParameterTexts texts = what.parameters;
    texts[parameter.id] = stepped(handle, step);
    const Solutions solutions = solve(texts);
    if (!solutions || !has_solution(*solutions, now.key)) continue;
    const auto place = moving_place(now.value, (*solutions)[chosen(*solutions, now.key)].value);
    if (!place) continue;
    handle.at = place->first;
    handle.per_unit = place->second / step;
    handles.push_back(handle);
  }
  for (NumberHandle& handle : handles)
    handle.shares_place = std::count_if(handles.begin(), handles.end(), [&](const NumberHandle& other) {
                            return other.at.IsEqual(handle.at, 1e-9);
                          }) > 1;
  return handles;
}

}  // namespace anvil
