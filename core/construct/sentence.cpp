#include "construct/solve.h"

#include <fmt/format.h>

namespace anvil {
namespace {

void replace_all(std::string& text, const std::string& mark, const std::string& by) {
  for (size_t at = 0; (at = text.find(mark, at)) != std::string::npos; at += by.size())
    text.replace(at, mark.size(), by);
}

std::string named(int number) {
  return number == 0 ? "the reading frame" : circled(number);
}

// "①, ② and ⑤"
std::string listed(const std::vector<int>& numbers) {
  std::string text;
  for (size_t i = 0; i < numbers.size(); ++i)
    text += (i == 0 ? "" : i + 1 == numbers.size() ? " and " : ", ") + named(numbers[i]);
  return text;
}

}  // namespace

std::string circled(int number) {
  if (number < 1 || number > 20) return "(" + fmt::format("{}", number) + ")";
  // U+2460 is ①; its UTF-8 form ends in 0xA0.
  return {static_cast<char>(0xE2), static_cast<char>(0x91), static_cast<char>(0xA0 + number - 1)};
}

std::string fill_numbers(const std::string& sentence, const std::vector<int>& numbers) {
  std::string filled = sentence;
  size_t rest = 0;  // those after the last that is named alone
  for (size_t i = 0; i < numbers.size(); ++i) {
    const std::string mark = "{" + fmt::format("{}", i + 1) + "}";
    if (filled.find(mark) != std::string::npos) rest = i + 1;
    replace_all(filled, mark, named(numbers[i]));
  }
  replace_all(filled, "{all}", listed(numbers));
  replace_all(filled, "{rest}", listed({numbers.begin() + static_cast<long>(rest), numbers.end()}));
  return filled;
}

}  // namespace anvil
