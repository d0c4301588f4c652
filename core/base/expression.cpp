#include "base/expression.h"

#include <fmt/format.h>
#include <muParser.h>

#include <cmath>

#include "base/expression_text.h"
#include "base/numbers.h"
#include "base/quoted.h"

namespace anvil {
namespace {

// Angles are degrees wherever people type them.
void define_functions(mu::Parser& parser) {
  parser.ClearFun();
  parser.ClearConst();
  parser.ClearPostfixOprt();
  parser.DefineFun("sin", [](double v) { return std::sin(radians(v)); });
  parser.DefineFun("cos", [](double v) { return std::cos(radians(v)); });
  parser.DefineFun("tan", [](double v) { return std::tan(radians(v)); });
  parser.DefineFun("asin", [](double v) { return degrees(std::asin(v)); });
  parser.DefineFun("acos", [](double v) { return degrees(std::acos(v)); });
  parser.DefineFun("atan", [](double v) { return degrees(std::atan(v)); });
  parser.DefineFun("sqrt", [](double v) { return std::sqrt(v); });
  parser.DefineFun("abs", [](double v) { return std::abs(v); });
  parser.DefineFun("min", [](double a, double b) { return std::min(a, b); });
  parser.DefineFun("max", [](double a, double b) { return std::max(a, b); });
  parser.DefineConst("pi", kPi);
}

// What a name counts in an expression whose bare lengths are in `mm_per_unit`.
double in_unit(const Named& name, double mm_per_unit) {
  switch (name.kind) {
    case Named::Kind::kLength:
      return name.value / mm_per_unit;
    case Named::Kind::kArea:
      return name.value / (mm_per_unit * mm_per_unit);
    case Named::Kind::kVolume:
      return name.value / (mm_per_unit * mm_per_unit * mm_per_unit);
    case Named::Kind::kAngle:
    case Named::Kind::kNumber:
      break;
  }
  return name.value;
}

Result<double> run(const std::string& text, const UnitFactors& units, const Names& names,
                   double mm_per_unit) {
  if (text.find_first_not_of(" \t") == std::string::npos)
    return refuse(RefusalCode::kBadInput, "a number is missing");
  if (const auto plain = number_from(text)) return *plain;  // most are: no parser for them
  const auto arithmetic = arithmetic_of(text, units);
  if (!arithmetic) return refuse(arithmetic);
  std::map<std::string, double> values;
  for (const auto& [name, named] : names) values[name] = in_unit(named, mm_per_unit);
  mu::Parser parser;
  define_functions(parser);
  try {
    parser.DefineNameChars("0123456789_.abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ");
    for (auto& [name, value] : values) parser.DefineVar(name, &value);
    parser.SetExpr(*arithmetic);
    const double value = parser.Eval();
    if (!std::isfinite(value))
      return refuse(RefusalCode::kBadInput, in_quotes(text) + " has no finite value");
    return value;
  } catch (const mu::Parser::exception_type& error) {
    const std::string& token = error.GetToken();
    if (token.empty())
      return refuse(RefusalCode::kBadInput, in_quotes(text) + " is not a complete expression");
    return refuse(RefusalCode::kBadInput,
                  fmt::format("{} in {} is not understood", in_quotes(token), in_quotes(text)));
  }
}

// What was finite may be so no more in another unit.
Result<double> in_base_unit(const Result<double>& value, double factor, const std::string& text) {
  if (!value) return value;
  if (!std::isfinite(*value * factor))
    return refuse(RefusalCode::kBadInput, in_quotes(text) + " has no finite value");
  return *value * factor;
}

}  // namespace

Result<double> evaluate_length(const std::string& text, Unit bare_unit, const Names& names) {
  const double mm = mm_per(bare_unit);
  const auto value =
      run(text, {{"mm", 1 / mm}, {"cm", 10 / mm}, {"in", 25.4 / mm}, {"inch", 25.4 / mm}, {"\"", 25.4 / mm}},
          names, mm);
  return in_base_unit(value, mm, text);
}

Result<double> evaluate_angle(const std::string& text, const Names& names) {
  const auto value = run(text, {{"deg", 1}, {"°", 1}, {"rad", degrees(1)}}, names, 1);
  return in_base_unit(value, radians(1), text);
}

Result<double> evaluate_number(const std::string& text, const Names& names) {
  return run(text, {}, names, 1);
}

}  // namespace anvil
