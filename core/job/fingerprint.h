// A number that changes when anything a value is made from changes (FNV-1a over its pieces). Internal to
// core/job.
#pragma once

#include <functional>
#include <gp_Trsf.hxx>
#include <map>
#include <string>

#include "base/expression.h"

namespace anvil {

class Fingerprint {
 public:
  void add(size_t piece) { value_ = (value_ ^ piece) * 0x100000001b3ULL; }
  void add(const std::string& text) { add(std::hash<std::string>{}(text)); }
  void add(double number) { add(std::hash<double>{}(number)); }
  void add(const gp_Trsf& motion) {
    for (int row = 1; row <= 3; ++row)
      for (int column = 1; column <= 4; ++column) add(motion.Value(row, column));
  }
  void add(const Named& named) {
    add(named.value);
    add(static_cast<size_t>(named.kind));
  }
  template <class Value>
  void add(const std::map<std::string, Value>& pieces) {
    for (const auto& [name, value] : pieces) {
      add(name);
      add(value);
    }
  }
  [[nodiscard]] size_t value() const { return value_; }

 private:
  size_t value_ = 0xcbf29ce484222325ULL;
};

}  // namespace anvil
