// Scans made for trying regions on: a turned piece as a mesh, exact, or with noise and missing triangles.
#pragma once

#include <gp_Trsf.hxx>
#include <string>

#include "pick/given.h"

namespace anvil::test {

// A body of triangles. Corners as one list, three numbers of it a triangle.
struct TestMesh {
  std::vector<gp_Pnt> nodes;
  std::vector<std::array<int, 3>> triangles;

  void move(const gp_Trsf& motion);               // mirror images are turned inside out again
  void scatter(double sigma_mm, unsigned seed);   // every node, normally distributed in each direction
  void remove_some(double share, unsigned seed);  // of the triangles
  [[nodiscard]] PartPtr part() const;
};

// Turned about Z from its profile (radius, height), closed or not, outside to the left of the way along it.
TestMesh turned(const std::vector<gp_XY>& profile, bool closed, int segments);

// Turned about Z, edges about 1 long, bored through with diameter 8: a flat bottom at Z 0 out to radius 30, a
// cylinder of radius 30 up to 20, a cone to radius 20 at 35 (tip at 65), and a ball of radius 25 about (0, 0,
// 20).
TestMesh counterweight();
inline constexpr int kSegments = 96;

// A place on it by name: "bottom", "outer", "cone", "dome", "bore"; from where it is seen, and how far it
// goes along Z.
struct ScanPlace {
  const char* name;
  gp_Pnt at;
  gp_Dir seen_from;
  SurfaceKind kind;
};
const std::vector<ScanPlace>& scan_places();
RegionWish wish_at(const std::string& place, const gp_Trsf& motion = {});

}  // namespace anvil::test
