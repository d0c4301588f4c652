#include "exchange/mesh_ahead.h"

#include "geom/guard.h"

namespace anvil {

MeshAhead::MeshAhead(const MeshQuality& quality) : quality_(quality), thread_([this] { run(); }) {}

MeshAhead::~MeshAhead() {
  finish();
}

void MeshAhead::add(const TopoDS_Shape& solid) {
  {
    const std::lock_guard lock(mutex_);
    waiting_.push_back(solid);
  }
  changed_.notify_one();
}

void MeshAhead::finish() {
  {
    const std::lock_guard lock(mutex_);
    ending_ = true;
  }
  changed_.notify_one();
  if (thread_.joinable()) thread_.join();
}

void MeshAhead::run() {
  for (;;) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return ending_ || !waiting_.empty(); });
    if (ending_) return;
    const TopoDS_Shape solid = waiting_.front();
    waiting_.pop_front();
    lock.unlock();
    static_cast<void>(guarded(
        "meshing", [&]() -> Result<int> { return mesh_shape(solid, quality_, MeshThreads::kThisOne); }));
  }
}

}  // namespace anvil
