// The triangles of a scan and which lie side by side.
#pragma once

#include <TopoDS_Shape.hxx>
#include <array>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>
#include <optional>
#include <vector>

#include "geom/nearest.h"

namespace anvil {

struct MeshGraph {
  std::vector<gp_Pnt> nodes;                  // in part coordinates
  std::vector<std::array<int, 3>> triangles;  // anticlockwise seen from outside
  std::vector<std::array<int, 3>> across;  // over the edge from corner i to i + 1; -1: an open border, or an
                                           // edge of more than two
  double diagonal_mm = 0;                  // of the box around it

  [[nodiscard]] gp_Pnt corner(int triangle, int i) const { return nodes[triangles[triangle][i]]; }
  [[nodiscard]] gp_Pnt centre(int triangle) const;
  [[nodiscard]] gp_Vec area_vector(int triangle) const;            // its normal, as long as twice its area
  [[nodiscard]] std::optional<gp_Dir> normal(int triangle) const;  // none where it has no area
};

// Of all triangles of a body, in time n log n.
MeshGraph mesh_graph(const TopoDS_Shape& mesh);

// The triangle nearest to a point, and how far off it is; -1 when there is none. Of a thin wall the side that
// faces `seen_from` (a direction towards the eye) is taken; where that would be more than a hundredth of the
// diagonal farther off, the mesh is looked at from behind, and the nearest is meant. Looks at every triangle.
struct NearestTriangle {
  int triangle = -1;
  double distance_mm = 0;
  gp_Pnt point;
};
NearestTriangle nearest_triangle(const MeshGraph& graph, const gp_Pnt& to, const gp_Dir& seen_from);

}  // namespace anvil
