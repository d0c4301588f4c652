// A key over everything a result was made from: equal keys mean equal pieces in the same order. 128 bits of
// XXH3 (https://github.com/Cyan4973/xxHash, doc/xxhash_spec.md): two different contents meet with a chance of
// some 1e-27 among a million of them. Never of addresses, so that a key means the same in any run.
//
//   KeyMaker maker;
//   maker.add("plane.midway");
//   maker.add(40.0);
//   const ContentKey key = maker.key();
#pragma once

#include <concepts>
#include <cstdint>
#include <functional>
#include <map>
#include <string>
#include <string_view>

#include "base/expression.h"

namespace anvil {

struct ContentKey {
  std::uint64_t high = 0, low = 0;
  bool operator==(const ContentKey&) const = default;
  [[nodiscard]] std::string hex() const;  // 32 digits
};

class KeyMaker {
 public:
  void add(std::string_view text);
  void add(const char* text) { add(std::string_view(text)); }
  void add(double number);  // by its bits, but zero is zero
  template <std::integral Number>
  void add(Number number) {
    add_bytes(static_cast<std::int64_t>(number));
  }
  void add(const ContentKey& key) {
    add_bytes(key.high);
    add_bytes(key.low);
  }
  void add(const Named& named) {
    add(named.value);
    add(static_cast<int>(named.kind));
  }
  template <class Value>
  void add(const std::map<std::string, Value>& pieces) {
    add(pieces.size());
    for (const auto& [name, value] : pieces) {
      add(name);
      add(value);
    }
  }
  [[nodiscard]] ContentKey key() const;

 private:
  template <class Number>
  void add_bytes(Number number) {
    bytes_.append(reinterpret_cast<const char*>(&number), sizeof number);
  }
  std::string bytes_;
};

}  // namespace anvil

template <>
struct std::hash<anvil::ContentKey> {
  size_t operator()(const anvil::ContentKey& key) const noexcept { return key.low; }
};
