#include "setup/control_answers.h"

#include "base/numbers.h"

namespace anvil {
namespace {

// The number behind the first `letter` that begins a word, up to the next blank.
std::optional<double> word_number(std::string_view line, char letter) {
  for (size_t at = line.find(letter); at != std::string_view::npos; at = line.find(letter, at + 1)) {
    if (at > 0 && line[at - 1] != ' ') continue;
    std::string_view number = line.substr(at + 1);
    number = number.substr(0, number.find(' '));
    return number_from(number);
  }
  return std::nullopt;
}

}  // namespace

std::optional<gp_Pnt> point_in_answer(std::string_view line) {
  const auto x = word_number(line, 'X'), y = word_number(line, 'Y'), z = word_number(line, 'Z');
  if (!x || !y || !z) return std::nullopt;
  return gp_Pnt(*x, *y, *z);
}

}  // namespace anvil
