// What a stranger wrote, as it may stand in a sentence: short, in one line, in quotation marks.
//
//   in_quotes("7.5 mmm")           -> "\"7.5 mmm\""
//   in_quotes(300 KB of nonsense)  -> "\"xxxxxxxxxx…\"", 60 bytes of it
#pragma once

#include <algorithm>
#include <string>
#include <string_view>

#include "base/plain_text.h"

namespace anvil {

// The beginning of a text, in one line and not cut in the middle of a letter.
inline std::string one_line(std::string_view text, size_t most_bytes) {
  size_t end = std::min(text.size(), most_bytes);
  while (end < text.size() && end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80) --end;
  return plain_text(text.substr(0, end));
}

inline std::string cut_short(std::string_view text, size_t most_bytes = 60) {
  return one_line(text, most_bytes) + (text.size() > most_bytes ? "…" : "");
}

inline std::string in_quotes(std::string_view text, size_t most_bytes = 60) {
  return "\"" + cut_short(text, most_bytes) + "\"";
}

}  // namespace anvil
