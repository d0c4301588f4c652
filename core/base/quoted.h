// What a stranger wrote, as it may stand in a sentence: short, in one line, in quotation marks.
//
//   in_quotes("7.5 mmm")           -> "\"7.5 mmm\""
//   in_quotes(300 KB of nonsense)  -> "\"xxxxxxxxxx…\"", 60 bytes of it
#pragma once

#include <string>
#include <string_view>

namespace anvil {

inline std::string cut_short(std::string_view text, size_t most_bytes = 60) {
  std::string shown;
  for (const char c : text.substr(0, most_bytes)) shown += static_cast<unsigned char>(c) < 0x20 ? ' ' : c;
  if (text.size() <= most_bytes) return shown;
  // Not in the middle of a letter.
  while (!shown.empty() && (static_cast<unsigned char>(text[shown.size()]) & 0xC0) == 0x80) shown.pop_back();
  return shown + "…";
}

inline std::string in_quotes(std::string_view text, size_t most_bytes = 60) {
  return "\"" + cut_short(text, most_bytes) + "\"";
}

}  // namespace anvil
