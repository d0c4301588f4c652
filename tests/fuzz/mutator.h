// Breaks good bytes in every way it knows, the same way for the same seed.
#pragma once

#include <fmt/format.h>

#include <algorithm>
#include <random>
#include <string>
#include <vector>

namespace anvil::test {

class Mutator {
 public:
  // `words` of the language that is broken: one of them may be put anywhere.
  explicit Mutator(unsigned seed, std::vector<std::string> words = {})
      : random_(seed), words_(std::move(words)) {}

  std::string mutate(std::string bytes, std::string& how) {
    static const char* const kNames[] = {
        "cut off",      "bits flipped",  "lines gone", "huge number", "references crossed",
        "deep nesting", "piece doubled", "zeros",      "words put in"};
    const int kind = number(0, words_.empty() ? 7 : 8);
    how = kNames[kind];
    const size_t size = bytes.size();
    switch (kind) {
      case 0:
        return bytes.substr(0, at(size));
      case 1:
        for (int i = number(1, 40); i > 0 && size > 0; --i)
          bytes[at(size)] ^= static_cast<char>(1 << number(0, 7));
        return bytes;
      case 2:
        for (int i = number(1, 5); i > 0; --i) {
          const size_t begin = bytes.find('\n', at(bytes.size()));
          if (begin == std::string::npos) continue;
          bytes.erase(begin, bytes.find('\n', begin + 1) - begin);
        }
        return bytes;
      case 3:
        return replace_numbers(std::move(bytes));
      case 4:
        return cross_references(std::move(bytes));
      case 5:
        return bytes.insert(at(size),
                            std::string(static_cast<size_t>(number(10, 200000)), number(0, 1) ? '(' : '['));
      case 6: {
        const size_t begin = at(size),
                     length = std::min<size_t>(size - begin, static_cast<size_t>(number(1, 4000)));
        return bytes.insert(at(size), bytes.substr(begin, length));
      }
      case 8:
        for (int i = number(1, 4); i > 0; --i)
          bytes.insert(at(bytes.size()),
                       words_[static_cast<size_t>(number(0, static_cast<int>(words_.size()) - 1))]);
        return bytes;
      default: {
        const size_t begin = at(size),
                     length = std::min<size_t>(size - begin, static_cast<size_t>(number(1, 400)));
        return bytes.replace(begin, length, length, '\0');
      }
    }
  }

 private:
  int number(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
  size_t at(size_t size) {
    return size == 0 ? 0 : std::uniform_int_distribution<size_t>(0, size - 1)(random_);
  }

  std::string replace_numbers(std::string bytes) {
    static const char* const kBad[] = {"1E308", "-1E308", "1E-320", "99999999999999999999",
                                       "NAN",   "-1",     "0."};
    for (int i = number(1, 6); i > 0; --i) {
      const size_t begin = bytes.find_first_of("0123456789", at(bytes.size()));
      if (begin == std::string::npos) continue;
      bytes.replace(begin, bytes.find_first_not_of("0123456789.E+-", begin) - begin, kBad[number(0, 6)]);
    }
    return bytes;
  }

  std::string cross_references(std::string bytes) {
    for (int i = number(1, 8); i > 0; --i) {
      const size_t begin = bytes.find('#', at(bytes.size()));
      if (begin == std::string::npos) continue;
      bytes.replace(begin, bytes.find_first_not_of("0123456789", begin + 1) - begin,
                    fmt::format("#{}", number(1, 400)));
    }
    return bytes;
  }

  std::mt19937 random_;
  std::vector<std::string> words_;
};

}  // namespace anvil::test
