#include "construct/solve.h"

#include <fmt/format.h>

#include "geom/guard.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

struct DistanceTo {
  gp_Pnt from;
  double operator()(const PointDatum& v) const { return v.point.Distance(from); }
  double operator()(const AxisDatum& v) const { return distance(v.axis, from); }
  double operator()(const PlaneDatum& v) const { return std::abs(height_over(v.plane, from)); }
  double operator()(const FrameDatum& v) const { return v.frame.Location().Distance(from); }
  double operator()(const Measurement& v) const { return midpoint(v.from, v.to).Distance(from); }
  double operator()(const PlacementStep&) const { return 0; }
  double operator()(const FigureDatum&) const { return 0; }
  double operator()(const PlannedCorrection&) const { return 0; }
};

}  // namespace

ParameterTexts initial_parameters(const Construction& construction) {
  ParameterTexts texts;
  for (const Parameter& p : construction.parameters) texts[p.id] = p.initial;
  return texts;
}

ParameterTexts initial_parameters(const Construction& construction, const gp_Ax2& seen) {
  ParameterTexts texts = initial_parameters(construction);
  for (const Parameter& p : construction.parameters)
    if (p.quantity == Quantity::kView)
      texts[p.id] = direction_numbers(p.id == "right" ? seen.XDirection() : seen.Direction());
  return texts;
}

Result<double> evaluate_parameter(const Parameter& parameter, const std::string& text, Unit typed_in,
                                  const Names& names) {
  switch (parameter.quantity) {
    case Quantity::kLength:
      return evaluate_length(text, typed_in, names);
    case Quantity::kAngle:
      return evaluate_angle(text, names);
    case Quantity::kRatio:
      return evaluate_number(text, names);
    case Quantity::kCount: {
      auto count = evaluate_number(text, names);
      if (!count) return count;
      constexpr double kMost = 200;
      if (*count != std::floor(*count) || *count < 1 || *count > kMost)
        return refuse(RefusalCode::kBadInput,
                      fmt::format("a whole number from 1 to {:.0f} is wanted", kMost));
      return count;
    }
    case Quantity::kView: {
      const auto direction = direction_from(text);
      if (!direction) return refuse(direction);
      return 0.0;
    }
    case Quantity::kChoice:
      if (std::find(parameter.choices.begin(), parameter.choices.end(), text) == parameter.choices.end())
        return refuse(RefusalCode::kBadInput,
                      fmt::format("\"{}\" is no choice for {}", text, parameter.label));
      return 0.0;
    case Quantity::kText:
      return 0.0;
  }
  return 0.0;
}

Solutions solve(const Construction& construction, const std::vector<const Given*>& picks,
                const ParameterTexts& parameters, const Display& display, const Names& names,
                const Tolerance& tolerance, std::optional<Unit> typed_in) {
  if (!takes(construction, picks.size()))
    return refuse(RefusalCode::kBadInput, "the entry lacks some of its picks");
  Inputs inputs;
  inputs.picks = picks;
  inputs.display = display;
  inputs.tolerance = tolerance;
  inputs.typed_in = typed_in.value_or(display.unit);
  for (const Parameter& parameter : construction.parameters) {
    const auto given = parameters.find(parameter.id);
    const std::string& text = given == parameters.end() ? parameter.initial : given->second;
    if (parameter.may_be_empty && text.find_first_not_of(' ') == std::string::npos) continue;
    auto value = evaluate_parameter(parameter, text, inputs.typed_in, names);
    if (!value) return refuse(RefusalCode::kBadInput, parameter.label + ": " + value.error().sentence);
    inputs.numbers[parameter.id] = *value;
    inputs.choices[parameter.id] = text;
  }
  return guarded("the construction", [&] { return construction.solve(inputs); });
}

size_t chosen(const std::vector<Solution>& solutions, const std::string& key) {
  for (size_t i = 0; i < solutions.size(); ++i)
    if (solutions[i].key == key) return i;
  return 0;
}

bool has_solution(const std::vector<Solution>& solutions, const std::string& key) {
  return std::any_of(solutions.begin(), solutions.end(), [&](const Solution& s) { return s.key == key; });
}

size_t preferred(const std::vector<Solution>& solutions, const std::vector<const Given*>& picks) {
  for (auto pick = picks.rbegin(); pick != picks.rend(); ++pick) {
    if (!(*pick)->clicked) continue;
    size_t nearest = 0;
    double least = 1e300, most = 0;
    for (size_t i = 0; i < solutions.size(); ++i) {
      const double here = std::visit(DistanceTo{*(*pick)->clicked}, solutions[i].value);
      most = std::max(most, here);
      if (here >= least - kExact.linear_mm) continue;
      least = here;
      nearest = i;
    }
    if (most > least + kExact.linear_mm) return nearest;
  }
  return 0;
}

bool takes(const Construction& construction, size_t picks) {
  return picks == construction.roles.size() || (construction.repeats && picks > construction.roles.size());
}

int start_role(const Construction& construction) {
  const auto at = std::find(construction.roles.begin(), construction.roles.end(), Need::kPoint);
  return at == construction.roles.end() ? -1 : static_cast<int>(at - construction.roles.begin());
}

Need need_of(const Construction& construction, size_t role) {
  return construction.roles[std::min(role, construction.roles.size() - 1)];
}

}  // namespace anvil
