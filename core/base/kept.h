// Beside something immutable and shared: what was worked out from it on demand, one of each type.
//
//   Neighbours& n = kept.get<Neighbours>([] { return std::make_shared<Neighbours>(); });
#pragma once

#include <map>
#include <memory>
#include <mutex>
#include <typeindex>

namespace anvil {

class Kept {
 public:
  // Made by the first who asks, at most once; `make` must be quick, for whoever else asks waits for it. What
  // is kept guards itself against being used by several threads.
  template <class Value, class Make>
  Value& get(Make make) {
    const std::lock_guard lock(mutex_);
    std::shared_ptr<void>& slot = slots_[typeid(Value)];
    if (!slot) slot = std::shared_ptr<Value>(make());
    return *static_cast<Value*>(slot.get());
  }

 private:
  std::mutex mutex_;
  std::map<std::type_index, std::shared_ptr<void>> slots_;
};

}  // namespace anvil
