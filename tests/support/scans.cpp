#include "support/scans.h"

#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <random>

#include "part/mesh.h"

namespace anvil::test {
namespace {

void add_line(std::vector<gp_XY>& profile, const gp_XY& to, double step) {
  const gp_XY from = profile.back();
  const int count = std::max(1, static_cast<int>(std::lround((to - from).Modulus() / step)));
  for (int i = 1; i <= count; ++i) profile.push_back(from + (to - from) * (static_cast<double>(i) / count));
}

void add_arc(std::vector<gp_XY>& profile, const gp_XY& centre, const gp_XY& to, double step) {
  const gp_XY a = profile.back() - centre, b = to - centre;
  const double from = std::atan2(a.Y(), a.X()), turn = std::atan2(b.Y(), b.X()) - from, r = a.Modulus();
  const int count = std::max(1, static_cast<int>(std::lround(r * std::abs(turn) / step)));
  for (int i = 1; i < count; ++i) {
    const double at = from + turn * i / count;
    profile.push_back(centre + gp_XY(r * std::cos(at), r * std::sin(at)));
  }
  profile.push_back(to);
}

}  // namespace

void TestMesh::move(const gp_Trsf& motion) {
  for (gp_Pnt& node : nodes) node.Transform(motion);
  if (motion.IsNegative())
    for (auto& triangle : triangles) std::swap(triangle[1], triangle[2]);
}

void TestMesh::scatter(double sigma_mm, unsigned seed) {
  std::mt19937 generator(seed);
  std::normal_distribution<double> off(0, sigma_mm);
  for (gp_Pnt& node : nodes) {
    const double x = off(generator), y = off(generator), z = off(generator);
    node.Translate(gp_Vec(x, y, z));
  }
}

void TestMesh::remove_some(double share, unsigned seed) {
  std::mt19937 generator(seed);
  std::shuffle(triangles.begin(), triangles.end(), generator);
  triangles.resize(static_cast<size_t>(static_cast<double>(triangles.size()) * (1 - share)));
}

PartPtr TestMesh::part() const {
  Handle(Poly_Triangulation) mesh =
      new Poly_Triangulation(static_cast<int>(nodes.size()), static_cast<int>(triangles.size()), false);
  for (size_t i = 0; i < nodes.size(); ++i) mesh->SetNode(static_cast<int>(i) + 1, nodes[i]);
  for (size_t i = 0; i < triangles.size(); ++i) {
    const auto& [a, b, c] = triangles[i];
    mesh->SetTriangle(static_cast<int>(i) + 1, Poly_Triangle(a + 1, b + 1, c + 1));
  }
  Body body;
  body.name = "scan";
  body.kind = BodyKind::kMesh;
  body.shape = mesh_body({mesh});
  return std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{body});
}

TestMesh turned(const std::vector<gp_XY>& profile, bool closed, int segments) {
  TestMesh mesh;
  const auto rings = static_cast<int>(profile.size());
  for (const gp_XY& p : profile)
    for (int i = 0; i < segments; ++i) {
      const double at = 2 * kPi * i / segments;
      mesh.nodes.emplace_back(p.X() * std::cos(at), p.X() * std::sin(at), p.Y());
    }
  for (int ring = 0; ring < (closed ? rings : rings - 1); ++ring)
    for (int i = 0; i < segments; ++i) {
      const int a = ring * segments + i, b = ring * segments + (i + 1) % segments;
      const int above = (ring + 1) % rings * segments;
      const int c = above + (i + 1) % segments, d = above + i;
      mesh.triangles.push_back({a, b, c});
      mesh.triangles.push_back({a, c, d});
    }
  return mesh;
}

TestMesh counterweight() {
  const double top = 35 + std::sqrt(20.0 * 20 - 4 * 4);
  std::vector<gp_XY> profile{{4, 0}};
  add_line(profile, {30, 0}, 1);
  add_line(profile, {30, 20}, 1);
  add_line(profile, {20, 35}, 1);
  add_arc(profile, {0, 35}, {4, top}, 1);
  add_line(profile, {4, 0}, 1);
  profile.pop_back();
  return turned(profile, true, kSegments);
}

const std::vector<ScanPlace>& scan_places() {
  static const std::vector<ScanPlace> all{
      {"bottom", {15, 0, 0}, {0, 0, -1}, SurfaceKind::kPlane},
      {"outer", {30, 0, 10}, {1, 0, 0}, SurfaceKind::kCylinder},
      {"cone", {25, 0, 27.5}, {1, 0, 1}, SurfaceKind::kCone},
      {"dome", {12, 0, 51}, {1, 0, 1}, SurfaceKind::kSphere},
      {"bore", {4, 0, 20}, {-1, 0, 0}, SurfaceKind::kCylinder},
  };
  return all;
}

RegionWish wish_at(const std::string& name, const gp_Trsf& motion) {
  for (const ScanPlace& place : scan_places())
    if (name == place.name) return {place.at.Transformed(motion), place.seen_from.Transformed(motion)};
  throw std::runtime_error("no place " + name);
}

}  // namespace anvil::test
