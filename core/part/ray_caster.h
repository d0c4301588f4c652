// Rays against the display mesh, for questions of visibility only ("is there material above this corner?").
// Distances are as good as the mesh and single precision; no measure told to a user is read from them.
#pragma once

#include <embree3/rtcore.h>

#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <optional>

#include "part/mesh.h"
#include "part/part.h"

namespace anvil {

class RayCaster {
 public:
  // Meshes the part where it has no mesh yet. Linear in triangles.
  explicit RayCaster(const Part& part);  // that has a mesh (mesh_once)
  ~RayCaster();
  RayCaster(const RayCaster&) = delete;
  RayCaster& operator=(const RayCaster&) = delete;

  struct Hit {
    double distance_mm = 0;
    int face = -1;  // index in the part's topology
  };
  // First triangle met between `start_mm` and `end_mm` along the ray.
  [[nodiscard]] std::optional<Hit> first_hit(const gp_Pnt& from, const gp_Dir& along, double start_mm = 1e-3,
                                             double end_mm = 1e12) const;
  [[nodiscard]] const std::vector<Triangle>& triangles() const;
  // How far the triangles may lie off the surfaces.
  [[nodiscard]] double deviation_mm() const;

 private:
  struct Data;
  std::unique_ptr<Data> data_;
};

// Made once a part and kept with it; may be asked from any thread.
const RayCaster& rays_of(const Part& part);

}  // namespace anvil
