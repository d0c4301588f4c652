#include "construct/limits.h"

#include <fmt/format.h>

namespace anvil {
namespace {

Result<double> number(const std::string& text, Measurement::Kind kind, Unit typed_in, const Names& names) {
  if (kind == Measurement::Kind::kAngle) return evaluate_angle(text, names);
  if (kind == Measurement::Kind::kDistance) return evaluate_length(text, typed_in, names);
  auto plain = evaluate_number(text, names);
  if (!plain) return plain;
  return *plain * std::pow(mm_per(typed_in), kind == Measurement::Kind::kArea ? 2 : 3);
}

// Where a sign that is no operator starts: after a blank, before a number.
size_t tolerance_sign(const std::string& text, char sign) {
  for (size_t at = text.find(sign); at != std::string::npos; at = text.find(sign, at + 1))
    if (at > 0 && text[at - 1] == ' ' && at + 1 < text.size() && text[at + 1] != ' ') return at;
  return std::string::npos;
}

using Reader = std::function<Result<double>(const std::string&)>;

Result<Limits> about(const std::string& nominal, const std::string& over, const std::string& under,
                     const Reader& read) {
  const auto middle = read(nominal), plus = read(over), minus = read(under);
  if (!middle) return refuse(middle);
  if (!plus) return refuse(plus);
  if (!minus) return refuse(minus);
  return Limits{*middle - *minus, *middle + *plus};
}

Result<Limits> read_limits(const std::string& text, const Reader& read) {
  for (const std::string sign : {"±", "+/-", "+-"})
    if (const size_t at = text.find(sign); at != std::string::npos) {
      const std::string rest = text.substr(at + sign.size());
      return about(text.substr(0, at), rest, rest, read);
    }
  if (const size_t at = text.find(".."); at != std::string::npos) {
    const auto least = read(text.substr(0, at)), most = read(text.substr(at + 2));
    if (!least) return refuse(least);
    if (!most) return refuse(most);
    return Limits{*least, *most};
  }
  for (const std::string sign : {"<=", "≤", ">=", "≥"}) {
    if (text.rfind(sign, 0) != 0) continue;
    const auto bound = read(text.substr(sign.size()));
    if (!bound) return refuse(bound);
    const bool is_most = sign == "<=" || sign == "≤";
    return is_most ? Limits{{}, *bound} : Limits{*bound, {}};
  }
  const size_t plus = tolerance_sign(text, '+'), minus = tolerance_sign(text, '-');
  if (plus == std::string::npos && minus == std::string::npos)
    return refuse(RefusalCode::kBadInput,
                  "write a limit as 12 ±0.05, 12 +0.1 -0.05, 11.95..12.05, <= 12 or >= 12");
  const auto part = [&](size_t at, size_t other) {
    return at == std::string::npos ? std::string("0")
                                   : text.substr(at + 1, other > at ? other - at - 1 : std::string::npos);
  };
  return about(text.substr(0, std::min(plus, minus)), part(plus, minus), part(minus, plus), read);
}

}  // namespace

Result<Limits> limits_from(const std::string& text, Measurement::Kind kind, Unit typed_in,
                           const Names& names) {
  const size_t first = text.find_first_not_of(' ');
  if (first == std::string::npos) return Limits{};
  auto limits =
      read_limits(text.substr(first), [&](const std::string& t) { return number(t, kind, typed_in, names); });
  if (limits && limits->least && limits->most && *limits->least > *limits->most)
    return refuse(RefusalCode::kBadInput, "the lower limit lies above the upper one: nothing keeps both");
  return limits;
}

std::string limits_broken(const Measurement& m, const Limits& limits, const Display& display) {
  const auto told = [&](double value) { return measurement_text({m.kind, value, {}, {}, {}}, display); };
  constexpr double kRounding = 1e-9;
  if (limits.most && m.value > *limits.most + kRounding)
    return fmt::format("{} is {} over {}", told(m.value), told(m.value - *limits.most), told(*limits.most));
  if (limits.least && m.value < *limits.least - kRounding)
    return fmt::format("{} is {} under {}", told(m.value), told(*limits.least - m.value),
                       told(*limits.least));
  return {};
}

}  // namespace anvil
