#include "construct/solve.h"

namespace anvil {

std::string circled(int number) {
  if (number < 1 || number > 20) return "(" + std::to_string(number) + ")";
  // U+2460 is ①; its UTF-8 form ends in 0xA0.
  return {static_cast<char>(0xE2), static_cast<char>(0x91), static_cast<char>(0xA0 + number - 1)};
}

std::string fill_numbers(const std::string& sentence, const std::vector<int>& numbers) {
  std::string filled = sentence;
  for (size_t i = 0; i < numbers.size(); ++i) {
    const std::string mark = "{" + std::to_string(i + 1) + "}";
    for (size_t at; (at = filled.find(mark)) != std::string::npos;)
      filled.replace(at, mark.size(), circled(numbers[i]));
  }
  return filled;
}

}  // namespace anvil
