// The chosen bodies of a job's files as one part: made when first asked for, kept as long as the job that
// has it is the open one, or somebody works with it. Earlier values of the job (history.h) keep none.
#pragma once

#include <functional>
#include <mutex>

#include "part/part.h"

namespace anvil {

class ComposedPart {
 public:
  // `like`: a geometry that this one may share, where it is still there when the part is made.
  explicit ComposedPart(GeometryPtr like = nullptr) : like_(std::move(like)), geometry_(like_) {}

  // From any thread; the first who asks waits for `make`, which gets the geometry that may be shared or null.
  PartPtr get(const std::function<PartPtr(const GeometryPtr&)>& make);
  // The geometry as far as it is known, without making it.
  [[nodiscard]] GeometryPtr geometry() const;
  // From now on it is kept by those who hold it.
  void let_go();

 private:
  mutable std::mutex mutex_;
  PartPtr part_;
  GeometryPtr like_;  // until the part is made
  std::weak_ptr<const Part> was_;
  std::weak_ptr<const PartGeometry> geometry_;
};

}  // namespace anvil
