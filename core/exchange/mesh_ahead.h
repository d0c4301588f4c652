// Meshes solids on a thread of its own while the kernel still builds the ones that follow in the file.
#pragma once

#include <TopoDS_Shape.hxx>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

#include "part/mesh.h"

namespace anvil {

// One at a time, in the order they come. A solid the kernel fails on is left without a mesh; so are those
// still waiting at finish().
class MeshAhead {
 public:
  explicit MeshAhead(const MeshQuality& quality);
  ~MeshAhead();
  MeshAhead(const MeshAhead&) = delete;
  MeshAhead& operator=(const MeshAhead&) = delete;

  // The solid must be complete, its outlines closed: nothing but reading may happen to it until finish().
  void add(const TopoDS_Shape& solid);
  // Ends with the solid that is being meshed.
  void finish();

 private:
  void run();

  MeshQuality quality_;
  std::mutex mutex_;
  std::condition_variable changed_;
  std::deque<TopoDS_Shape> waiting_;
  bool ending_ = false;
  std::thread thread_;
};

}  // namespace anvil
