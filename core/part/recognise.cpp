#include "part/recognise.h"

#include <BRepTools.hxx>
#include <Eigen/Dense>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>

#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

constexpr int kFit = 16, kCheck = 41;  // samples along u and v

struct Samples {
  Vector3d centre;
  std::vector<Vector3d> points;   // relative to the centre
  std::vector<Vector3d> normals;  // of the surface, unit; outward of the face
};

Vector3d vector(const gp_XYZ& p) {
  return {p.X(), p.Y(), p.Z()};
}
gp_XYZ xyz(const Vector3d& v) {
  return {v.x(), v.y(), v.z()};
}
gp_Dir dir(const Vector3d& v) {
  return gp_Dir(v.x(), v.y(), v.z());
}

Samples sample(const TopoDS_Face& face, int count) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const BRepAdaptor_Surface surface(face, false);
  Samples s;
  for (int i = 0; i < count; ++i) {
    for (int j = 0; j < count; ++j) {
      gp_Pnt p;
      gp_Vec du, dv;
      surface.D1(u0 + (u1 - u0) * (i + 0.5) / count, v0 + (v1 - v0) * (j + 0.5) / count, p, du, dv);
      gp_Vec n = du.Crossed(dv);
      if (n.Magnitude() < 1e-12 * (1 + du.SquareMagnitude())) continue;
      if (face.Orientation() == TopAbs_REVERSED) n.Reverse();
      s.points.push_back(vector(p.XYZ()));
      s.normals.push_back(vector(n.Normalized().XYZ()));
    }
  }
  s.centre = Vector3d::Zero();
  for (const Vector3d& p : s.points) s.centre += p / static_cast<double>(s.points.size());
  for (Vector3d& p : s.points) p -= s.centre;
  return s;
}

// The unit vector the given ones vary least along.
Vector3d least_direction(const std::vector<Vector3d>& vectors, const Vector3d& about) {
  Matrix3d m = Matrix3d::Zero();
  for (const Vector3d& v : vectors) m += (v - about) * (v - about).transpose();
  return Eigen::SelfAdjointEigenSolver<Matrix3d>(m).eigenvectors().col(0);
}

Vector3d mean(const std::vector<Vector3d>& vectors) {
  Vector3d sum = Vector3d::Zero();
  for (const Vector3d& v : vectors) sum += v;
  return sum / static_cast<double>(vectors.size());
}

struct Circle {
  double x, y, r;
};

// Algebraic least squares: x² + y² = 2 x0 x + 2 y0 y + (r² - x0² - y0²).
std::optional<Circle> circle_through(const std::vector<std::pair<double, double>>& points) {
  Eigen::MatrixXd a(points.size(), 3);
  Eigen::VectorXd b(points.size());
  for (size_t i = 0; i < points.size(); ++i) {
    const auto& [x, y] = points[i];
    a.row(static_cast<long>(i)) << x, y, 1;
    b(static_cast<long>(i)) = x * x + y * y;
  }
  const Vector3d k = a.colPivHouseholderQr().solve(b);
  const double r2 = k(2) + (k(0) * k(0) + k(1) * k(1)) / 4;
  if (!(r2 > 0)) return std::nullopt;
  return Circle{k(0) / 2, k(1) / 2, std::sqrt(r2)};
}

// Of the two senses of a line the one that looks up, or back, or right: what a spline is made of has none of
// its own.
Vector3d usual_sense(const Vector3d& z) {
  for (const double component : {z.z(), z.y(), z.x()})
    if (std::abs(component) > 1e-9) return component > 0 ? z : -z;
  return z;
}

gp_Ax3 position(const Samples& s, const Vector3d& at, const Vector3d& z) {
  return gp_Ax3(gp_Pnt(xyz(s.centre + at)), dir(z), square_to(dir(z), gp_Dir(1, 0, 0)));
}

std::optional<Surface> fit_plane(const Samples& s) {
  Surface r;
  r.kind = SurfaceKind::kPlane;
  Vector3d normal = least_direction(s.points, Vector3d::Zero());
  if (normal.dot(mean(s.normals)) < 0) normal = -normal;
  r.position = position(s, Vector3d::Zero(), normal);
  return r;
}

std::optional<Surface> fit_sphere(const Samples& s) {
  Eigen::MatrixXd a(s.points.size(), 4);
  Eigen::VectorXd b(s.points.size());
  for (size_t i = 0; i < s.points.size(); ++i) {
    a.row(static_cast<long>(i)) << 2 * s.points[i].transpose(), 1;
    b(static_cast<long>(i)) = s.points[i].squaredNorm();
  }
  const Eigen::Vector4d k = a.colPivHouseholderQr().solve(b);
  const Vector3d centre = k.head<3>();
  const double r2 = k(3) + centre.squaredNorm();
  if (!(r2 > 0)) return std::nullopt;
  Surface r;
  r.kind = SurfaceKind::kSphere;
  r.position = position(s, centre, Vector3d::UnitZ());
  r.radius_mm = std::sqrt(r2);
  return r;
}

// Distances from, and levels along, an axis.
std::pair<Vector3d, Vector3d> square_pair(const Vector3d& z) {
  const Vector3d x = vector(square_to(dir(z), gp_Dir(1, 0, 0)).XYZ());
  return {x, z.cross(x)};
}

std::optional<Surface> fit_cylinder(const Samples& s) {
  const Vector3d z = usual_sense(least_direction(s.normals, Vector3d::Zero()));
  const auto [x, y] = square_pair(z);
  std::vector<std::pair<double, double>> flat;
  for (const Vector3d& p : s.points) flat.emplace_back(p.dot(x), p.dot(y));
  const auto circle = circle_through(flat);
  if (!circle) return std::nullopt;
  Surface r;
  r.kind = SurfaceKind::kCylinder;
  r.position = position(s, x * circle->x + y * circle->y, z);
  r.radius_mm = circle->r;
  return r;
}

// Every tangent plane of a cone goes through its apex, and every normal makes the same angle with its axis.
std::optional<Surface> fit_cone(const Samples& s) {
  Matrix3d a = Matrix3d::Zero();
  Vector3d b = Vector3d::Zero();
  for (size_t i = 0; i < s.points.size(); ++i) {
    a += s.normals[i] * s.normals[i].transpose();
    b += s.normals[i] * s.normals[i].dot(s.points[i]);
  }
  const Eigen::ColPivHouseholderQR<Matrix3d> solver(a);
  if (solver.rank() < 3) return std::nullopt;
  const Vector3d apex = solver.solve(b);
  Vector3d z = least_direction(s.normals, mean(s.normals));
  const Vector3d middle = mean(s.points);
  if ((middle - apex).dot(z) < 0) z = -z;  // the radius grows along +Z
  double angle = 0;
  for (const Vector3d& p : s.points) {
    const double level = (p - apex).dot(z);
    angle += std::atan2(((p - apex) - z * level).norm(), level) / static_cast<double>(s.points.size());
  }
  if (!(angle > 1e-4) || angle > kPi / 2 - 1e-4) return std::nullopt;
  Surface r;
  r.kind = SurfaceKind::kCone;
  const double level = (middle - apex).dot(z);
  r.position = position(s, apex + z * level, z);
  r.radius_mm = level * std::tan(angle);
  r.semi_angle_rad = angle;
  return r;
}

// All normals of a surface of revolution meet its axis: (p × n)·d + n·m = 0 with the axis's direction d and
// moment m.
std::optional<Surface> fit_torus(const Samples& s) {
  Matrix3d dd = Matrix3d::Zero(), dm = Matrix3d::Zero(), mm = Matrix3d::Zero();
  for (size_t i = 0; i < s.points.size(); ++i) {
    const Vector3d k = s.points[i].cross(s.normals[i]), n = s.normals[i];
    dd += k * k.transpose();
    dm += k * n.transpose();
    mm += n * n.transpose();
  }
  const Eigen::ColPivHouseholderQR<Matrix3d> solver(mm);
  if (solver.rank() < 3) return std::nullopt;
  const Matrix3d reduced = dd - dm * solver.solve(dm.transpose());
  const Vector3d z = usual_sense(
      Eigen::SelfAdjointEigenSolver<Matrix3d>((reduced + reduced.transpose()) / 2).eigenvectors().col(0));
  const Vector3d moment = -solver.solve(dm.transpose() * z);
  const Vector3d foot = z.cross(moment);
  std::vector<std::pair<double, double>> profile;
  for (const Vector3d& p : s.points) {
    const Vector3d q = p - foot;
    const double level = q.dot(z);
    profile.emplace_back((q - z * level).norm(), level);
  }
  const auto circle = circle_through(profile);
  if (!circle || circle->x < 1e-6) return std::nullopt;
  Surface r;
  r.kind = SurfaceKind::kTorus;
  r.position = position(s, foot + z * circle->y, z);
  r.radius_mm = circle->x;
  r.minor_mm = circle->r;
  return r;
}

double deviation(const Surface& r, const gp_Pnt& p) {
  if (r.kind == SurfaceKind::kPlane) return std::abs(height_over(r.plane(), p));
  if (r.kind == SurfaceKind::kSphere) return std::abs(p.Distance(r.position.Location()) - r.radius_mm);
  const double level = gp_Vec(r.position.Location(), p).Dot(gp_Vec(r.position.Direction()));
  const double out = distance(r.axis(), p);
  if (r.kind == SurfaceKind::kCylinder) return std::abs(out - r.radius_mm);
  if (r.kind == SurfaceKind::kCone)
    return std::abs(out - r.radius_mm - level * std::tan(r.semi_angle_rad)) * std::cos(r.semi_angle_rad);
  return std::abs(std::hypot(out - r.radius_mm, level) - r.minor_mm);
}

Handle(Geom_Surface) exact_surface(const Surface& r) {
  switch (r.kind) {
    case SurfaceKind::kPlane:
      return new Geom_Plane(r.position);
    case SurfaceKind::kCylinder:
      return new Geom_CylindricalSurface(r.position, r.radius_mm);
    case SurfaceKind::kCone:
      return new Geom_ConicalSurface(r.position, r.semi_angle_rad, r.radius_mm);
    case SurfaceKind::kSphere:
      return new Geom_SphericalSurface(r.position, r.radius_mm);
    case SurfaceKind::kTorus:
      return new Geom_ToroidalSurface(r.position, r.radius_mm, r.minor_mm);
    default:
      return {};
  }
}

// Does the outward normal point towards the axis, the centre, or the middle of the ring?
bool points_inward(const Surface& r, const gp_Pnt& p, const gp_Vec& normal) {
  if (r.kind == SurfaceKind::kSphere) return normal.Dot(gp_Vec(r.position.Location(), p)) < 0;
  if (r.kind == SurfaceKind::kTorus) {
    const gp_Vec out(r.position.Location(), foot_on(r.plane(), p));
    return normal.Dot(gp_Vec(r.position.Location().Translated(out.Normalized() * r.radius_mm), p)) < 0;
  }
  return normal.Dot(gp_Vec(foot_on(r.axis(), p), p)) < 0;
}

double largest_deviation(const Surface& r, const Samples& s) {
  double worst = 0;
  for (const Vector3d& p : s.points) worst = std::max(worst, deviation(r, gp_Pnt(xyz(s.centre + p))));
  return worst;
}

bool is_stored_exactly(const TopoDS_Face& face) {
  switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Plane:
    case GeomAbs_Cylinder:
    case GeomAbs_Cone:
    case GeomAbs_Sphere:
    case GeomAbs_Torus:
      return true;
    default:
      return false;
  }
}

}  // namespace

std::optional<Recognised> recognise_spline(const TopoDS_Face& face, double tolerance_mm) {
  if (is_stored_exactly(face)) return std::nullopt;
  const Samples fit = sample(face, kFit);
  if (fit.points.size() < 16) return std::nullopt;
  std::optional<Samples> dense;
  for (const auto& make : {fit_plane, fit_cylinder, fit_sphere, fit_cone, fit_torus}) {
    auto surface = make(fit);
    if (!surface || !(surface->radius_mm < 1e6) || !(largest_deviation(*surface, fit) <= tolerance_mm))
      continue;
    if (!dense) dense = sample(face, kCheck);
    const double worst = largest_deviation(*surface, *dense);
    if (!(worst <= tolerance_mm)) continue;
    if (surface->kind != SurfaceKind::kPlane)
      surface->inside = points_inward(*surface, gp_Pnt(xyz(fit.centre + fit.points.front())),
                                      gp_Vec(xyz(fit.normals.front())));
    surface->recognised = true;
    surface->deviation_mm = worst;
    return Recognised{*surface, exact_surface(*surface)};
  }
  return std::nullopt;
}

}  // namespace anvil
