// The display mesh. It serves pictures, and rays where a check only asks what is visible; no measure is read
// from it.
#pragma once

#include <Poly_Triangulation.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>
#include <vector>

namespace anvil {

struct MeshQuality {
  double relative_deflection = 0.001;  // of the box diagonal of the largest body of much the same size
  double angle_rad = 0.35;
};

enum class MeshThreads { kAll, kThisOne };

// Meshes every face that has no mesh yet; of a compound body by body. Uses the quick triangulation first and
// OpenCASCADE's default one for each face the quick one leaves empty. Returns the number of faces that stayed
// without triangles.
int mesh_shape(const TopoDS_Shape& shape, const MeshQuality& quality = {},
               MeshThreads threads = MeshThreads::kAll);

// Enough to recognise and pick a large part by, in two thirds of the time; the usual mesh follows.
constexpr MeshQuality kCoarseMesh{0.004, 0.6};

// A body of triangles only: one face without a surface for each triangulation. Transformed for good by
// moved_mesh().
TopoDS_Shape mesh_body(const std::vector<Handle(Poly_Triangulation)>& meshes);
TopoDS_Shape moved_mesh(const TopoDS_Shape& mesh, const gp_Trsf& motion);

// The deflection in mm that `quality` means for this shape.
double deflection_mm(const TopoDS_Shape& shape, const MeshQuality& quality);
double deflection_mm(double diagonal_mm,
                     const MeshQuality& quality);  // of a shape whose box has this diagonal

size_t triangle_count(const TopoDS_Shape& shape);

struct Triangle {
  gp_Pnt a, b, c;  // anticlockwise seen from outside the material
  int face = -1;   // place of the face in the exploration order
};
std::vector<Triangle> triangles_of(const TopoDS_Shape& shape);

}  // namespace anvil
