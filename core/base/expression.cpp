#include "base/expression.h"

#include <fmt/format.h>
#include <muParser.h>

#include <cmath>
#include <regex>

namespace anvil {
namespace {

double times_25_4(double v) {
  return v * 25.4;
}
double over_25_4(double v) {
  return v / 25.4;
}
double same(double v) {
  return v;
}
double to_degrees(double v) {
  return degrees(v);
}

// muParser binds a unit to the number right before it; a fraction of whole numbers is one number to a
// machinist.
std::string bind_units_to_fractions(const std::string& text) {
  static const std::regex kFraction(R"((\d+)\s*/\s*(\d+)\s*(in|mm|deg)\b)");
  return std::regex_replace(text, kFraction, "(($1/$2)$3)");
}

Result<double> run(const std::string& text, mu::Parser& parser, std::map<std::string, double>& values) {
  if (text.find_first_not_of(" \t") == std::string::npos)
    return refuse(RefusalCode::kBadInput, "a number is missing");
  try {
    parser.DefineNameChars("0123456789_.abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ");
    for (auto& [name, value] : values) parser.DefineVar(name, &value);
    parser.SetExpr(bind_units_to_fractions(text));
    const double value = parser.Eval();
    if (!std::isfinite(value))
      return refuse(RefusalCode::kBadInput, fmt::format("\"{}\" has no finite value", text));
    return value;
  } catch (const mu::Parser::exception_type& error) {
    const std::string token = error.GetToken();
    if (token.empty())
      return refuse(RefusalCode::kBadInput, fmt::format("\"{}\" is not a complete expression", text));
    return refuse(RefusalCode::kBadInput, fmt::format("\"{}\" in \"{}\" is not understood", token, text));
  }
}

}  // namespace

Result<double> evaluate_length(const std::string& text, Unit bare_unit, const Names& names) {
  mu::Parser parser;
  const bool inch = bare_unit == Unit::kInch;
  parser.DefinePostfixOprt("in", inch ? same : times_25_4);
  parser.DefinePostfixOprt("mm", inch ? over_25_4 : same);
  Names values = names;
  for (auto& [name, value] : values) value /= mm_per(bare_unit);
  auto value = run(text, parser, values);
  if (!value) return refuse(value);
  return *value * mm_per(bare_unit);
}

Result<double> evaluate_angle(const std::string& text, const Names& names) {
  mu::Parser parser;
  parser.DefinePostfixOprt("deg", same);
  parser.DefinePostfixOprt("rad", to_degrees);
  Names values = names;
  auto value = run(text, parser, values);
  if (!value) return refuse(value);
  return radians(*value);
}

Result<double> evaluate_number(const std::string& text, const Names& names) {
  mu::Parser parser;
  Names values = names;
  return run(text, parser, values);
}

}  // namespace anvil
