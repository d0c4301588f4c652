// What reads a stranger's text in this program, each as a function that may be given anything. Each returns
// what is wrong with how it was read, or nothing: that it is refused is right.
#pragma once

#include <functional>
#include <string>
#include <vector>

namespace anvil::test {

struct FuzzTarget {
  const char* name;  // also of its folder in corpus/
  std::function<std::string(const std::string& bytes)> read;
  std::vector<std::string> words;  // of its language
  std::vector<std::string> seeds;  // good ones, beside those in its folder
};
const std::vector<FuzzTarget>& fuzz_targets();

}  // namespace anvil::test
