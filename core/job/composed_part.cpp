#include "job/composed_part.h"

namespace anvil {

PartPtr ComposedPart::get(const std::function<PartPtr(const GeometryPtr&)>& make) {
  const std::lock_guard lock(mutex_);
  if (!part_) part_ = was_.lock();
  if (part_) return part_;
  part_ = make(geometry_.lock());
  was_ = part_;
  geometry_ = part_->geometry();
  like_.reset();
  return part_;
}

GeometryPtr ComposedPart::geometry() const {
  const std::lock_guard lock(mutex_);
  return geometry_.lock();
}

void ComposedPart::let_go() {
  const std::lock_guard lock(mutex_);
  part_.reset();
  like_.reset();
}

}  // namespace anvil
