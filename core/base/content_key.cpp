#include "base/content_key.h"

#include <fmt/format.h>

#define XXH_INLINE_ALL
#include <xxhash.h>

namespace anvil {

std::string ContentKey::hex() const {
  return fmt::format("{:016x}{:016x}", high, low);
}

void KeyMaker::add(std::string_view text) {
  add(text.size());
  bytes_.append(text);
}

void KeyMaker::add(double number) {
  add_bytes(number == 0 ? 0.0 : number);
}

ContentKey KeyMaker::key() const {
  const XXH128_hash_t hash = XXH3_128bits(bytes_.data(), bytes_.size());
  return {hash.high64, hash.low64};
}

}  // namespace anvil
