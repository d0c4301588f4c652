// One of the simple surfaces fitted to triangles. Internal to core/scan.
#pragma once

#include "geom/fits_round.h"
#include "part/face_info.h"
#include "scan/mesh_graph.h"

namespace anvil {

// Of planes, cylinders, cones and spheres: signed, positive where Surface's normal (or the outside) is.
double distance_from(const Surface& surface, const gp_Pnt& point);
// The direction in which that distance grows; none on an axis or in a centre.
std::optional<gp_Dir> normal_of(const Surface& surface, const gp_Pnt& point);

// The corners of triangles, each once, in rising order.
std::vector<int> corners_of(const MeshGraph& graph, const std::vector<int>& triangles);

// At most so many of them, evenly taken.
template <class Value>
std::vector<Value> some_of(const std::vector<Value>& all, size_t most) {
  if (all.size() <= most) return all;
  std::vector<Value> some;
  for (size_t i = 0; i < most; ++i) some.push_back(all[i * all.size() / most]);
  return some;
}

// What triangles give to fit to.
struct FitData {
  std::vector<gp_Pnt> points;
  std::vector<gp_Dir> normals;  // of triangles, and
  std::vector<gp_Pnt> centres;  // where those stand
};
FitData fit_data(const MeshGraph& graph, const std::vector<int>& triangles, size_t most);

// The best axis to fit with is looked for among those the normals suggest.
Result<Fit<gp_Cylinder>> fit_cylinder(const FitData& data);
Result<Fit<gp_Cone>> fit_cone(const FitData& data);

// Turned as the triangles face. `quality` is over `data` alone. None where that kind does not fit at all.
Result<Fit<Surface>> fit_surface(SurfaceKind kind, const FitData& data);

// The mean angle by which the triangles lean from the surface.
double lean_of(const Surface& surface, const FitData& data);

}  // namespace anvil
