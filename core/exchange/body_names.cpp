#include "exchange/body_names.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <string_view>

namespace anvil {

bool says_nothing(const std::string& name) {
  static constexpr std::array<std::string_view, 16> kWords{
      "",     "solid", "compound", "compsolid", "shell",   "face",   "body",    "none",
      "brep", "part",  "shape",    "assembly",  "no name", "noname", "unnamed", "untitled"};
  std::string word;
  for (const unsigned char c : name) word += static_cast<char>(std::tolower(c));
  while (!word.empty() && (std::isdigit(static_cast<unsigned char>(word.back())) ||
                           std::string_view(" _-.#:").find(word.back()) != std::string_view::npos))
    word.pop_back();
  return std::find(kWords.begin(), kWords.end(), word) != kWords.end();
}

}  // namespace anvil
