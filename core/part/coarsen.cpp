#include "part/coarsen.h"

#include <BRepTools.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Vec.hxx>
#include <unordered_map>
#include <utility>
#include <vector>

#include "geom/coordinate.h"
#include "part/shallow_copy.h"

namespace anvil {
namespace {

// Which of the six sides of a cube the triangle looks to most.
int side_of(const Triangle& t) {
  const gp_XYZ n = (t.b.XYZ() - t.a.XYZ()).Crossed(t.c.XYZ() - t.a.XYZ());
  int axis = 0;
  for (int i = 1; i < 3; ++i)
    if (std::abs(coordinate(n, i)) > std::abs(coordinate(n, axis))) axis = i;
  return 2 * axis + (coordinate(n, axis) < 0 ? 1 : 0);
}

class Grid {
 public:
  explicit Grid(double cell_mm) : cell_(cell_mm) {}

  void add(const Triangle& t) {
    const int side = side_of(t);
    const int a = corner(t.a, side), b = corner(t.b, side), c = corner(t.c, side);
    if (a != b && b != c && c != a) triangles_.emplace_back(a, b, c);
  }

  [[nodiscard]] TopoDS_Shape shape() const {
    if (triangles_.empty()) return {};
    const Handle(Poly_Triangulation) mesh =
        new Poly_Triangulation(static_cast<int>(points_.size()), static_cast<int>(triangles_.size()), false);
    for (size_t i = 0; i < points_.size(); ++i) mesh->SetNode(static_cast<int>(i) + 1, points_[i]);
    for (size_t i = 0; i < triangles_.size(); ++i) mesh->SetTriangle(static_cast<int>(i) + 1, triangles_[i]);
    return mesh_body({mesh});
  }

 private:
  int corner(const gp_Pnt& p, int side) {
    // 20 bits a coordinate: a million cells each way.
    uint64_t key = static_cast<uint64_t>(side);
    for (int axis = 0; axis < 3; ++axis)
      key = key << 20 | (static_cast<uint64_t>(std::llround(coordinate(p, axis) / cell_)) & 0xFFFFF);
    const auto [at, is_new] = known_.try_emplace(key, static_cast<int>(points_.size()) + 1);
    if (is_new) points_.push_back(p);
    return at->second;
  }

  double cell_;
  std::unordered_map<uint64_t, int> known_;
  std::vector<gp_Pnt> points_;
  std::vector<Poly_Triangle> triangles_;
};

}  // namespace

TopoDS_Shape coarsened(const TopoDS_Shape& shape, double cell_mm) {
  Grid grid(cell_mm);
  for (const Triangle& triangle : triangles_of(shape)) grid.add(triangle);
  return grid.shape();
}

TopoDS_Shape lightened(const TopoDS_Shape& shape) {
  const TopoDS_Shape light = shallow_copy(shape);
  BRepTools::Clean(light);
  mesh_shape(light, kLightMesh, MeshThreads::kThisOne);
  return light;
}

std::optional<Colour> colour_of_most(const Body& body) {
  if (body.face_colours.empty()) return body.colour;
  std::vector<std::pair<std::optional<Colour>, double>> worn;  // and on how much of it
  for (const Triangle& t : triangles_of(body.shape)) {
    const auto own = body.face_colours.find(t.face);
    const auto colour = own == body.face_colours.end() ? body.colour : own->second;
    auto known = std::find_if(worn.begin(), worn.end(), [&](const auto& one) { return one.first == colour; });
    if (known == worn.end()) known = worn.insert(worn.end(), {colour, 0});
    known->second += gp_Vec(t.a, t.b).Crossed(gp_Vec(t.a, t.c)).Magnitude() / 2;
  }
  const auto less = [](const auto& a, const auto& b) { return a.second < b.second; };
  return worn.empty() ? body.colour : std::max_element(worn.begin(), worn.end(), less)->first;
}

}  // namespace anvil
