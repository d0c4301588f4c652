// Texts inside HTML and SVG. Internal to core/report.
#pragma once

#include <string>

namespace anvil {

inline std::string escaped(const std::string& text) {
  std::string result;
  for (char c : text) {
    if (c == '<')
      result += "&lt;";
    else if (c == '>')
      result += "&gt;";
    else if (c == '&')
      result += "&amp;";
    else if (c == '"')
      result += "&quot;";
    else
      result += c;
  }
  return result;
}

}  // namespace anvil
