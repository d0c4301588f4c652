// Results by what they were made from, shared by whoever evaluates: the window, its ghosts, the command line.
// What was used longest ago goes first when the limit is reached. From any thread.
//
//   if (auto known = cache.find<Built>(key)) return known;
//   return cache.keep(key, build(), bytes);
#pragma once

#include <list>
#include <memory>
#include <mutex>
#include <typeindex>
#include <unordered_map>

#include "base/content_key.h"

namespace anvil {

inline constexpr size_t kCacheLimit_bytes = size_t{256} << 20;

class ResultCache {
 public:
  explicit ResultCache(size_t limit_bytes = kCacheLimit_bytes) : limit_(limit_bytes) {}

  // Null when it is not known. Results of different types never meet, whatever their keys.
  template <class Value>
  std::shared_ptr<const Value> find(const ContentKey& key) {
    return std::static_pointer_cast<const Value>(look_up(key, typeid(Value)));
  }

  // `bytes`: what it takes, roughly. Larger than the limit: it is not kept, only handed back.
  template <class Value>
  std::shared_ptr<const Value> keep(const ContentKey& key, Value value, size_t bytes) {
    auto shared = std::make_shared<const Value>(std::move(value));
    put(key, typeid(Value), shared, bytes);
    return shared;
  }

  [[nodiscard]] size_t bytes() const;
  [[nodiscard]] size_t count() const;

 private:
  struct Kept {
    ContentKey key;
    std::type_index type;
    std::shared_ptr<const void> value;
    size_t bytes;
  };
  struct Name {
    ContentKey key;
    std::type_index type;
    bool operator==(const Name&) const = default;
  };
  struct Hash {
    size_t operator()(const Name& name) const noexcept { return name.key.low ^ name.type.hash_code(); }
  };

  std::shared_ptr<const void> look_up(const ContentKey& key, std::type_index type);
  void put(const ContentKey& key, std::type_index type, std::shared_ptr<const void> value, size_t bytes);

  const size_t limit_;
  mutable std::mutex mutex_;
  size_t bytes_ = 0;
  std::list<Kept> used_;  // the latest first
  std::unordered_map<Name, std::list<Kept>::iterator, Hash> places_;
};

}  // namespace anvil
