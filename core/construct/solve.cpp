#include "construct/solve.h"

#include "geom/guard.h"

namespace anvil {

ParameterTexts initial_parameters(const Construction& construction) {
  ParameterTexts texts;
  for (const Parameter& p : construction.parameters) texts[p.id] = p.initial;
  return texts;
}

Result<double> evaluate_parameter(const Parameter& parameter, const std::string& text, const Display& display,
                                  const Names& names) {
  switch (parameter.quantity) {
    case Quantity::kLength:
      return evaluate_length(text, display.unit, names);
    case Quantity::kAngle:
      return evaluate_angle(text, names);
    case Quantity::kRatio:
      return evaluate_number(text, names);
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
                const ParameterTexts& parameters, const Display& display, const Names& names) {
  Inputs inputs;
  inputs.picks = picks;
  inputs.display = display;
  for (const Parameter& parameter : construction.parameters) {
    const auto given = parameters.find(parameter.id);
    const std::string& text = given == parameters.end() ? parameter.initial : given->second;
    auto value = evaluate_parameter(parameter, text, display, names);
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

}  // namespace anvil
