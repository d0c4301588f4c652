#include "setup/program_text.h"

#include <algorithm>

#include "base/plain_text.h"

namespace anvil {
namespace {

// Some controls end a comment, a block or the program at these, also inside brackets.
bool ends_something(char c) {
  return std::string_view("()[]{};%\\").find(c) != std::string_view::npos;
}

char capital(char c) {
  return c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c;
}

}  // namespace

void ProgramText::comment(const char* what, std::string_view told) {
  constexpr size_t kLongest = 200;
  std::string text = ascii_text(std::string(what) + std::string(told));
  if (text.size() > kLongest) text.resize(kLongest);
  for (char& c : text) c = ends_something(c) ? ' ' : capital(c);
  while (!text.empty() && text.back() == ' ') text.pop_back();
  written_ += "(" + text + ")\n";
}

void ProgramText::block(const std::string& code,
                        const std::vector<std::pair<std::string, std::string>>& words) {
  written_ += code;
  for (const auto& [address, number] : words) written_.append(" ").append(address).append(number);
  written_ += "\n";
}

}  // namespace anvil
