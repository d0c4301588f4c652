#include "job/result_cache.h"

namespace anvil {

// What keeping one costs beside the value itself.
constexpr size_t kOverhead_bytes = 160;

size_t ResultCache::bytes() const {
  const std::lock_guard lock(mutex_);
  return bytes_;
}

size_t ResultCache::count() const {
  const std::lock_guard lock(mutex_);
  return used_.size();
}

std::shared_ptr<const void> ResultCache::look_up(const ContentKey& key, std::type_index type) {
  const std::lock_guard lock(mutex_);
  const auto at = places_.find({key, type});
  if (at == places_.end()) return nullptr;
  used_.splice(used_.begin(), used_, at->second);
  return at->second->value;
}

void ResultCache::put(const ContentKey& key, std::type_index type, std::shared_ptr<const void> value,
                      size_t bytes) {
  bytes += kOverhead_bytes;
  if (bytes > limit_) return;
  std::list<Kept> going;  // ends after the lock: what is let go may be large
  const std::lock_guard lock(mutex_);
  if (const auto known = places_.find({key, type}); known != places_.end()) {
    bytes_ -= known->second->bytes;
    going.splice(going.begin(), used_, known->second);
    places_.erase(known);
  }
  used_.push_front({key, type, std::move(value), bytes});
  places_[{key, type}] = used_.begin();
  bytes_ += bytes;
  while (bytes_ > limit_) {
    const auto last = std::prev(used_.end());
    bytes_ -= last->bytes;
    places_.erase({last->key, last->type});
    going.splice(going.begin(), used_, last);
  }
}

}  // namespace anvil
