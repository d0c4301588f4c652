// Files put out of order on purpose, so that the kernel's own readers die on them.
#pragma once

#include <string>

namespace anvil::test {

// The direction of a vector becomes the shell: `nth` of the file's vectors.
inline std::string with_wrong_vector(std::string text, int nth) {
  const size_t shell = text.find("CLOSED_SHELL");
  const size_t number = text.rfind('#', shell);
  const std::string reference = text.substr(number, text.find_first_of(" =", number) - number);
  size_t at = 0;
  for (int i = 0; i < nth; ++i) at = text.find("VECTOR('',", at + 1);
  at = text.find('#', at);
  return text.replace(at, text.find(',', at) - at, reference);
}

}  // namespace anvil::test
