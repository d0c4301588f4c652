// Numbers out of text, the same under every locale: the one place that reads them.
//
//   number_from("1.5")   -> 1.5        number_from("+2e-3") -> 0.002
//   number_from("1,5")   -> nothing    number_from("1.5 mm"), number_from("nan"), number_from("") -> nothing
//
// How numbers are told is in units.h.
#pragma once

#include <optional>
#include <string_view>

namespace anvil {

// The whole text must be one finite decimal number; a sign may stand before it, blanks may not stand around
// it. At most kMostDigits characters: longer ones are no measure of anything.
std::optional<double> number_from(std::string_view text);
std::optional<long> whole_number_from(std::string_view text);

inline constexpr std::size_t kMostDigits = 64;

// The number at the start of the text, which is cut off from it; nothing (and nothing cut off) when there is
// none.
std::optional<double> take_number(std::string_view& text);

}  // namespace anvil
