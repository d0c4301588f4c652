#include "part/mesh.h"

#include <BRepBndLib.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <IMeshTools_Parameters.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <cmath>
#include <map>

#include "part/mesh_faces.h"
#include "part/part_geometry.h"

namespace anvil {
namespace {

IMeshTools_Parameters parameters(double deflection, double angle, MeshThreads threads,
                                 IMeshTools_MeshAlgoType algorithm) {
  IMeshTools_Parameters p;
  p.Deflection = deflection;
  p.Angle = angle;
  p.InParallel = threads == MeshThreads::kAll;
  p.MeshAlgo = algorithm;
  return p;
}

bool is_meshed(const TopoDS_Shape& shape) {
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next())
    if (!has_triangles(TopoDS::Face(faces.Current()))) return false;
  return true;
}

int count_faces(const TopoDS_Shape& shape) {
  int count = 0;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) ++count;
  return count;
}

struct Batch {
  TopoDS_Shape shape;
  double diagonal_mm = 0;  // of the largest body in it
  int faces = 0;
};

double diagonal_of(const TopoDS_Shape& shape) {
  Bnd_Box box;
  BRepBndLib::Add(shape, box, false);
  return box.IsVoid() ? 0 : std::sqrt(box.SquareExtent());
}

// The shape, or of a compound what lies directly in it, as far as there are faces without triangles: in
// batches of bodies of much the same size, so that a screw is not meshed as coarsely as the machine it holds
// together, and of not much more than kBatch_faces. The mesher's own data takes several times the memory of
// the mesh. What came meshed from the worker is left alone: it may be on the screen while a check asks for
// its mesh.
std::vector<Batch> without_mesh(const TopoDS_Shape& shape) {
  constexpr int kBatch_faces = 2000;
  if (is_meshed(shape)) return {};
  if (shape.ShapeType() != TopAbs_COMPOUND) return {{shape, diagonal_of(shape)}};
  std::vector<Batch> batches;
  std::map<int, size_t> open;  // batch by size: the power of two below the diagonal
  for (TopoDS_Iterator parts(shape); parts.More(); parts.Next()) {
    if (is_meshed(parts.Value())) continue;
    const double diagonal = diagonal_of(parts.Value());
    const auto [at, is_new] = open.try_emplace(std::ilogb(std::max(diagonal, 1e-9)), batches.size());
    if (is_new || batches[at->second].faces >= kBatch_faces) {
      TopoDS_Compound next;
      BRep_Builder().MakeCompound(next);
      at->second = batches.size();
      batches.push_back({next});
    }
    Batch& batch = batches[at->second];
    BRep_Builder().Add(batch.shape, parts.Value());
    batch.faces += count_faces(parts.Value());
    batch.diagonal_mm = std::max(batch.diagonal_mm, diagonal);
  }
  return batches;
}

// The number of faces that stay empty.
int mesh_batch(const TopoDS_Shape& shape, double deflection_mm, double angle_rad, MeshThreads threads) {
  const BRepMesh_IncrementalMesh quick(
      shape, parameters(deflection_mm, angle_rad, threads, IMeshTools_MeshAlgoType_Delabella));
  int empty = 0;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face& face = TopoDS::Face(faces.Current());
    if (has_triangles(face)) continue;
    BRepTools::Clean(face);
    const BRepMesh_IncrementalMesh careful(
        face, parameters(deflection_mm, angle_rad, threads, IMeshTools_MeshAlgoType_DEFAULT));
    if (!has_triangles(face)) ++empty;
  }
  return empty;
}

}  // namespace

bool has_triangles(const TopoDS_Face& face) {
  TopLoc_Location location;
  const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location);
  return !mesh.IsNull() && mesh->NbTriangles() > 0;
}

double deflection_mm(const TopoDS_Shape& shape, const MeshQuality& quality) {
  const double diagonal = diagonal_of(shape);
  return diagonal > 0 ? deflection_mm(diagonal, quality) : 0.1;
}

double deflection_mm(double diagonal_mm, const MeshQuality& quality) {
  return std::clamp(diagonal_mm * quality.relative_deflection, 1e-4, 10.0);
}

int mesh_shape(const TopoDS_Shape& shape, const MeshQuality& quality, MeshThreads threads) {
  int empty = 0;
  for (const Batch& batch : without_mesh(shape))
    empty += mesh_batch(batch.shape, deflection_mm(batch.diagonal_mm, quality), quality.angle_rad, threads);
  return empty;
}

int mesh_faces(const std::vector<TopoDS_Face>& faces, const TopoDS_Shape& body) {
  const MeshQuality quality;
  const TopoDS_Shape all = compound_of(std::vector<TopoDS_Shape>(faces.begin(), faces.end()));
  return mesh_batch(all, deflection_mm(body, quality), quality.angle_rad, MeshThreads::kAll);
}

TopoDS_Shape mesh_body(const std::vector<Handle(Poly_Triangulation)>& meshes) {
  std::vector<TopoDS_Shape> faces;
  for (const Handle(Poly_Triangulation) & mesh : meshes) {
    TopoDS_Face face;
    BRep_Builder().MakeFace(face, mesh);
    faces.push_back(face);
  }
  return compound_of(faces);
}

TopoDS_Shape moved_mesh(const TopoDS_Shape& mesh, const gp_Trsf& motion) {
  std::vector<Handle(Poly_Triangulation)> moved;
  for (TopExp_Explorer faces(mesh, TopAbs_FACE); faces.More(); faces.Next()) {
    TopLoc_Location location;
    const Handle(Poly_Triangulation) from = BRep_Tool::Triangulation(TopoDS::Face(faces.Current()), location);
    if (from.IsNull()) continue;
    const gp_Trsf whole = motion * location.Transformation();
    const Handle(Poly_Triangulation) to = from->Copy();
    for (int i = 1; i <= to->NbNodes(); ++i) to->SetNode(i, to->Node(i).Transformed(whole));
    to->RemoveNormals();
    moved.push_back(to);
  }
  return mesh_body(moved);
}

size_t triangle_count(const TopoDS_Shape& shape) {
  size_t count = 0;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    TopLoc_Location location;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(TopoDS::Face(faces.Current()), location);
    if (!mesh.IsNull()) count += static_cast<size_t>(mesh->NbTriangles());
  }
  return count;
}

std::vector<Triangle> triangles_of(const TopoDS_Shape& shape) {
  std::vector<Triangle> triangles;
  int index = 0;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next(), ++index) {
    TopLoc_Location location;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(TopoDS::Face(faces.Current()), location);
    if (mesh.IsNull()) continue;
    const gp_Trsf& trsf = location.Transformation();
    const bool reversed = faces.Current().Orientation() == TopAbs_REVERSED;
    for (int i = 1; i <= mesh->NbTriangles(); ++i) {
      int a, b, c;
      mesh->Triangle(i).Get(a, b, c);
      if (reversed) std::swap(b, c);
      triangles.push_back({mesh->Node(a).Transformed(trsf), mesh->Node(b).Transformed(trsf),
                           mesh->Node(c).Transformed(trsf), index});
    }
  }
  return triangles;
}

}  // namespace anvil
