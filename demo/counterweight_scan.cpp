// The scan of the counterweight's casting. In the coordinates of its drawing: a cylinder of diameter 90 from
// Z 0 to 40, a cone from there to diameter 60 at Z 55, a ball of radius 26 about (0, 0, 50), a pad out to X
// 54, 40 wide, from Z 8 to 32, and a cored hole of diameter 24 along Z; all blended with about 3.
#include <TopoDS_Face.hxx>
#include <random>

#include "base/units.h"
#include "demo/demo_part.h"
#include "demo/surface_net.h"
#include "part/mesh.h"

namespace anvil::demo {
namespace {

constexpr double kBlend = 3;

// The larger of two, rounded where they are near (I. Quilez, Smooth minimum): the inside of both.
double both(double a, double b, double blend) {
  const double h = std::max(blend - std::abs(a - b), 0.0) / blend;
  return std::max(a, b) + h * h * blend / 4;
}
double either(double a, double b, double blend) {
  return -both(-a, -b, blend);
}

double counterweight(const gp_Pnt& p) {
  const double r = std::hypot(p.X(), p.Y()), z = p.Z();
  constexpr double kSharp = 0.6;
  const double turned = both(r - 45, (r - 45 + (z - 40)) * std::sqrt(0.5), kSharp);
  const double body = both(turned, std::abs(z - 27.5) - 27.5, kSharp);
  const double ball = std::sqrt(r * r + (z - 50) * (z - 50)) - 26;
  const double pad =
      both(both(std::abs(p.X() - 40) - 14, std::abs(p.Y()) - 20, kSharp), std::abs(z - 20) - 12, kSharp);
  const double whole = either(either(body, ball, kBlend), pad, kBlend);
  return both(whole, 12 - r, kSharp);
}

}  // namespace

DemoScan counterweight_scan(double triangle_mm) {
  SurfaceNet net = surface_net(counterweight, gp_Pnt(-52, -52, -7), gp_Pnt(62, 52, 85), triangle_mm);
  DemoScan scan;
  gp_Trsf turn, shift;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(2, -3, 5)), radians(67));
  shift.SetTranslation(gp_Vec(112.4, -83.1, 240.7));
  scan.placement = shift * turn;
  std::mt19937 generator(20260101);
  std::normal_distribution<double> noise(0, DemoScan::kNoise_mm);
  Handle(Poly_Triangulation) mesh = new Poly_Triangulation(static_cast<int>(net.nodes.size()),
                                                           static_cast<int>(net.triangles.size()), false);
  for (size_t i = 0; i < net.nodes.size(); ++i) {
    const double x = noise(generator), y = noise(generator), z = noise(generator);
    mesh->SetNode(static_cast<int>(i) + 1,
                  net.nodes[i].Translated(gp_Vec(x, y, z)).Transformed(scan.placement));
  }
  for (size_t i = 0; i < net.triangles.size(); ++i) {
    const auto& [a, b, c] = net.triangles[i];
    mesh->SetTriangle(static_cast<int>(i) + 1, Poly_Triangle(a + 1, b + 1, c + 1));
  }
  Body body;
  body.name = "counterweight scan";
  body.kind = BodyKind::kMesh;
  body.shape = mesh_body({mesh});
  scan.bodies = {body};
  return scan;
}

}  // namespace anvil::demo
