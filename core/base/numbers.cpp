#include "base/numbers.h"

#include <charconv>
#include <cmath>

namespace anvil {
namespace {

// from_chars takes no plus sign.
std::string_view without_plus(std::string_view text) {
  const bool plus = text.size() > 1 && text[0] == '+' && text[1] != '-' && text[1] != '+';
  return plus ? text.substr(1) : text;
}

template <class Number>
std::optional<Number> whole_text(std::string_view text) {
  if (text.size() > kMostDigits) return std::nullopt;
  text = without_plus(text);
  Number value{};
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc() || end != text.data() + text.size()) return std::nullopt;
  return value;
}

}  // namespace

std::optional<double> number_from(std::string_view text) {
  const auto value = whole_text<double>(text);
  return value && std::isfinite(*value) ? value : std::nullopt;
}

std::optional<long> whole_number_from(std::string_view text) {
  return whole_text<long>(text);
}

std::optional<double> take_number(std::string_view& text) {
  const std::string_view from = without_plus(text).substr(0, kMostDigits);
  double value = 0;
  const auto [end, error] = std::from_chars(from.data(), from.data() + from.size(), value);
  if (error != std::errc() || !std::isfinite(value)) return std::nullopt;
  text.remove_prefix(static_cast<std::size_t>(end - text.data()));
  return value;
}

}  // namespace anvil
