#include "geom/fits_round.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <boost/math/distributions/fisher_f.hpp>
#include <unsupported/Eigen/NonLinearOptimization>
#include <unsupported/Eigen/NumericalDiff>

#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

using Eigen::Matrix3d;
using Eigen::Matrix3Xd;
using Eigen::MatrixXd;
using Eigen::Vector3d;
using Eigen::VectorXd;

// The points about their average, turned so that the guessed axis is Z, and scaled to a spread of one.
struct Scaled {
  gp_Ax3 frame;
  double scale = 1;
  Matrix3Xd points;

  Scaled(const std::vector<gp_Pnt>& from, const gp_Dir& z) : frame(average_of(from), z) {
    points.resize(3, static_cast<long>(from.size()));
    const gp_Vec x(frame.XDirection()), y(frame.YDirection()), up(z);
    for (size_t i = 0; i < from.size(); ++i) {
      const gp_Vec v(frame.Location(), from[i]);
      points.col(static_cast<long>(i)) << v.Dot(x), v.Dot(y), v.Dot(up);
    }
    scale = std::sqrt(points.squaredNorm() / static_cast<double>(from.size()));
    if (scale > 0) points /= scale;
  }
  [[nodiscard]] gp_Vec vector(const Vector3d& v) const {
    return gp_Vec(frame.XDirection()) * v.x() + gp_Vec(frame.YDirection()) * v.y() +
           gp_Vec(frame.Direction()) * v.z();
  }
  [[nodiscard]] gp_Pnt point(const Vector3d& p) const {
    return frame.Location().Translated(vector(p * scale));
  }
};

// Distances from the surface that `Shape::distance(parameters, point)` describes, as Eigen's solver asks.
template <class Shape>
struct Residuals {
  using Scalar = double;
  using InputType = VectorXd;
  using ValueType = VectorXd;
  using JacobianType = MatrixXd;
  enum { InputsAtCompileTime = Eigen::Dynamic, ValuesAtCompileTime = Eigen::Dynamic };

  const Matrix3Xd& points;
  [[nodiscard]] int inputs() const { return Shape::kParameters; }
  [[nodiscard]] int values() const { return static_cast<int>(points.cols()); }
  int operator()(const VectorXd& parameters, VectorXd& off) const {
    const Shape shape(parameters);
    for (long i = 0; i < points.cols(); ++i) off(i) = shape.distance(points.col(i));
    return 0;
  }
};

template <class Shape>
bool minimise(const Matrix3Xd& points, VectorXd& parameters) {
  Residuals<Shape> residuals{points};
  Eigen::NumericalDiff<Residuals<Shape>> differentiated(residuals);
  Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals<Shape>>> solver(differentiated);
  solver.parameters.ftol = 1e-13;
  solver.parameters.xtol = 1e-11;
  solver.parameters.maxfev = 200;
  solver.minimize(parameters);
  return parameters.allFinite();
}

struct SphereShape {  // centre, radius
  [[maybe_unused]] static constexpr int kParameters = 4;
  const VectorXd& k;
  explicit SphereShape(const VectorXd& parameters) : k(parameters) {}
  [[nodiscard]] double distance(const Vector3d& p) const { return (p - k.head<3>()).norm() - k(3); }
};

// Where the axis meets the XY plane, its lean along X and Y, and the radius there.
struct CylinderShape {
  [[maybe_unused]] static constexpr int kParameters = 5;
  const VectorXd& k;
  Vector3d axis;
  explicit CylinderShape(const VectorXd& parameters)
      : k(parameters), axis(Vector3d(k(2), k(3), 1).normalized()) {}
  [[nodiscard]] Vector3d from_axis(const Vector3d& p) const { return p - Vector3d(k(0), k(1), 0); }
  [[nodiscard]] double distance(const Vector3d& p) const { return from_axis(p).cross(axis).norm() - k(4); }
};

struct ConeShape : CylinderShape {  // besides, half its angle
  [[maybe_unused]] static constexpr int kParameters = 6;
  double cosine, sine;
  explicit ConeShape(const VectorXd& parameters)
      : CylinderShape(parameters), cosine(std::cos(k(5))), sine(std::sin(k(5))) {}
  [[nodiscard]] double distance(const Vector3d& p) const {
    const Vector3d v = from_axis(p);
    return (v.cross(axis).norm() - k(4)) * cosine - v.dot(axis) * sine;
  }
};

// |p|² = 2 c·p + (r² - |c|²), by least squares.
VectorXd algebraic_sphere(const Matrix3Xd& points) {
  MatrixXd a(points.cols(), 4);
  a << points.transpose(), VectorXd::Ones(points.cols());
  const VectorXd b = points.colwise().squaredNorm().transpose();
  const VectorXd s = a.colPivHouseholderQr().solve(b);
  VectorXd k(4);
  k << s.head<3>() / 2, std::sqrt(std::max(1e-12, s(3) + s.head<3>().squaredNorm() / 4));
  return k;
}

// x² + y² = 2 a x + 2 b y + (r² - a² - b²) + 2 r t z + t² z², t the tangent of the taper; without the last
// two for a cylinder.
VectorXd algebraic_round(const Matrix3Xd& points, bool tapered) {
  const long n = points.cols();
  MatrixXd a(n, tapered ? 5 : 3);
  a.leftCols(2) = points.topRows(2).transpose();
  a.col(2).setOnes();
  if (tapered) {
    a.col(3) = points.row(2).transpose();
    a.col(4) = points.row(2).transpose().array().square();
  }
  const VectorXd b = points.topRows(2).colwise().squaredNorm().transpose();
  const VectorXd s = a.colPivHouseholderQr().solve(b);
  const double x = s(0) / 2, y = s(1) / 2, r = std::sqrt(std::max(1e-6, s(2) + x * x + y * y));
  VectorXd k(tapered ? 6 : 5);
  k.head<5>() << x, y, 0, 0, r;
  if (tapered) k(5) = std::atan(s(3) / (2 * r));
  return k;
}

template <class Shape>
FitQuality quality(const Shape& shape, const std::vector<gp_Pnt>& points) {
  std::vector<double> off;
  off.reserve(points.size());
  for (const gp_Pnt& p : points) off.push_back(distance_from(shape, p));
  return quality_of(off);
}

tl::unexpected<Refusal> too_few(const char* what, size_t there, size_t wanted) {
  Refusal refusal{RefusalCode::kGeometry,
                  fmt::format("{} points are too few for a {}: it takes {}", there, what, wanted)};
  refusal.facts["points"] = static_cast<double>(there);
  return refuse(refusal);
}

// A bow that is less than the scatter of the points says nothing.
constexpr double kBowOverScatter = 2;
constexpr double kLeastBow = 1e-7;  // of the extent

// How many numbers each is given by.
constexpr int kSphereNumbers = 4, kCylinderNumbers = 5, kConeNumbers = 6;

tl::unexpected<Refusal> no_bow(const char* what, double bow_mm, double rms_mm) {
  Refusal refusal{RefusalCode::kGeometry,
                  fmt::format("the points bow by {:.4f} mm and scatter by {:.4f} mm: they determine no {}",
                              bow_mm, rms_mm, what)};
  refusal.facts["bow_mm"] = bow_mm;
  refusal.facts["rms_mm"] = rms_mm;
  return refuse(refusal);
}

bool stands_out(double bow_mm, double rms_mm, double extent_mm) {
  return bow_mm > kBowOverScatter * rms_mm && bow_mm > kLeastBow * extent_mm;
}

// Whether points lie so much better on a surface of `parameters` numbers than on one of `more` fewer that
// chance does it once in a hundred times only (F test: Seber and Wild, Nonlinear Regression, 1989, 5.3).
bool beats_chance(double rms_mm, double simpler_rms_mm, size_t points, int parameters, int more) {
  constexpr double kByChance = 0.01;
  const double free = static_cast<double>(points) - parameters;
  if (free <= 0 || rms_mm <= 0) return simpler_rms_mm > rms_mm;
  const double better = simpler_rms_mm / rms_mm;
  const boost::math::fisher_f_distribution<double> by_chance(more, free);
  return (better * better - 1) * free / more > quantile(complement(by_chance, kByChance));
}

// Every surface may be bent until a few points that scatter about a plane lie near it.
bool beats_plane(double rms_mm, const Result<Fit<gp_Pln>>& flat, size_t points, int parameters) {
  constexpr int kOfPlane = 3;
  return !flat || beats_chance(rms_mm, flat->quality.rms_mm, points, parameters, parameters - kOfPlane);
}

// How far points about their average reach, square to `axis` (or in all directions).
double reach_of(const std::vector<gp_Pnt>& points, const gp_Dir* axis) {
  const gp_Pnt middle = average_of(points);
  double reach = 0;
  for (const gp_Pnt& p : points) {
    const gp_Vec v(middle, p);
    reach = std::max(reach, axis ? v.Crossed(gp_Vec(*axis)).Magnitude() : v.Magnitude());
  }
  return reach;
}

// How much an arc of this radius bows over this half chord.
double bow_of(double half_chord, double radius) {
  if (half_chord >= radius) return radius;
  return half_chord * half_chord / (radius + std::sqrt(radius * radius - half_chord * half_chord));
}

// Fitted in a frame along the guess, then once more along what was found, where the lean is small.
template <class Shape>
std::optional<std::pair<Scaled, VectorXd>> fit_round(const std::vector<gp_Pnt>& points, gp_Dir guess,
                                                     bool tapered) {
  constexpr int kTimes = 2;
  for (int i = 0;; ++i) {
    Scaled scaled(points, guess);
    if (scaled.scale <= 0) return std::nullopt;
    VectorXd k = algebraic_round(scaled.points, tapered);
    if (!minimise<Shape>(scaled.points, k)) return std::nullopt;
    if (i == kTimes - 1) return std::pair{std::move(scaled), std::move(k)};
    guess = gp_Dir(scaled.vector(Shape(k).axis));
  }
}

gp_Cylinder cylinder_of(const Scaled& scaled, const VectorXd& k) {
  const gp_Dir axis(scaled.vector(CylinderShape(k).axis));
  return {gp_Ax3(scaled.point({k(0), k(1), 0}), axis), std::abs(k(4)) * scaled.scale};
}

// Of many points the bow alone tells.
bool beats_cylinder(double cone_rms_mm, const std::vector<gp_Pnt>& points, const gp_Dir& axis_guess) {
  constexpr size_t kMany = 200;
  if (points.size() >= kMany) return true;
  const auto fitted = fit_round<CylinderShape>(points, axis_guess, false);
  if (!fitted) return true;
  const FitQuality found = quality(cylinder_of(fitted->first, fitted->second), points);
  return beats_chance(cone_rms_mm, found.rms_mm, points.size(), kConeNumbers,
                      kConeNumbers - kCylinderNumbers);
}

}  // namespace

double distance_from(const gp_Sphere& sphere, const gp_Pnt& point) {
  return sphere.Location().Distance(point) - sphere.Radius();
}

double distance_from(const gp_Cylinder& cylinder, const gp_Pnt& point) {
  return distance(cylinder.Axis(), point) - cylinder.Radius();
}

double distance_from(const gp_Cone& cone, const gp_Pnt& point) {
  const double along = gp_Vec(cone.Location(), point).Dot(gp_Vec(cone.Axis().Direction()));
  return (distance(cone.Axis(), point) - cone.RefRadius()) * std::cos(cone.SemiAngle()) -
         along * std::sin(cone.SemiAngle());
}

Result<Fit<gp_Sphere>> fit_sphere(const std::vector<gp_Pnt>& points) {
  if (points.size() < kLeastForSphere) return too_few("sphere", points.size(), kLeastForSphere);
  const Scaled scaled(points, gp_Dir(0, 0, 1));
  if (scaled.scale <= 0) return no_bow("sphere", 0, 0);
  VectorXd k = algebraic_sphere(scaled.points);
  if (!minimise<SphereShape>(scaled.points, k)) return no_bow("sphere", 0, 0);
  const gp_Sphere sphere(gp_Ax3(scaled.point(k.head<3>()), gp_Dir(0, 0, 1)), std::abs(k(3)) * scaled.scale);
  const FitQuality found = quality(sphere, points);
  const double reach = reach_of(points, nullptr), bow = bow_of(reach, sphere.Radius());
  // Points of one circle lie on many spheres.
  const auto flat = fit_plane(points);
  const double off_plane_mm = flat ? flat->quality.largest_mm : 0;
  if (!stands_out(bow, found.rms_mm, reach) || !stands_out(off_plane_mm, found.rms_mm, reach) ||
      !beats_plane(found.rms_mm, flat, points.size(), kSphereNumbers))
    return no_bow("sphere", std::min(bow, off_plane_mm), found.rms_mm);
  return Fit<gp_Sphere>{sphere, found};
}

Result<Fit<gp_Cylinder>> fit_cylinder(const std::vector<gp_Pnt>& points, const gp_Dir& axis_guess) {
  if (points.size() < kLeastForCylinder) return too_few("cylinder", points.size(), kLeastForCylinder);
  const auto fitted = fit_round<CylinderShape>(points, axis_guess, false);
  if (!fitted) return no_bow("cylinder", 0, 0);
  const auto& [scaled, k] = *fitted;
  const gp_Cylinder cylinder = cylinder_of(scaled, k);
  const gp_Dir axis = cylinder.Axis().Direction();
  const FitQuality found = quality(cylinder, points);
  const double reach = reach_of(points, &axis), bow = bow_of(reach, cylinder.Radius());
  if (!stands_out(bow, found.rms_mm, reach) ||
      !beats_plane(found.rms_mm, fit_plane(points), points.size(), kCylinderNumbers))
    return no_bow("cylinder", bow, found.rms_mm);
  return Fit<gp_Cylinder>{cylinder, found};
}

Result<Fit<gp_Cone>> fit_cone(const std::vector<gp_Pnt>& points, const gp_Dir& axis_guess) {
  if (points.size() < kLeastForCone) return too_few("cone", points.size(), kLeastForCone);
  const auto fitted = fit_round<ConeShape>(points, axis_guess, true);
  if (!fitted) return no_bow("cone", 0, 0);
  const auto& [scaled, k] = *fitted;
  gp_Dir axis(scaled.vector(ConeShape(k).axis));
  const double radius = k(4) * scaled.scale;
  const double angle = std::remainder(k(5), kPi);
  if (angle < 0) axis.Reverse();
  const double half = std::abs(angle), reach = reach_of(points, nullptr);
  const double taper_mm = half * reach;
  if (radius <= 0 || half > radians(89) || taper_mm < kLeastBow * reach) return no_bow("cone", taper_mm, 0);
  const gp_Cone cone(gp_Ax3(scaled.point({k(0), k(1), 0}), axis), half, radius);
  const FitQuality found = quality(cone, points);
  const double across = reach_of(points, &axis), bow = bow_of(across, radius / std::cos(half));
  if (!stands_out(taper_mm, found.rms_mm, reach) || !stands_out(bow, found.rms_mm, across) ||
      !beats_plane(found.rms_mm, fit_plane(points), points.size(), kConeNumbers) ||
      !beats_cylinder(found.rms_mm, points, axis_guess))
    return no_bow("cone", std::min(bow, taper_mm), found.rms_mm);
  return Fit<gp_Cone>{cone, found};
}

std::vector<gp_Dir> axis_guesses(const std::vector<gp_Dir>& normals) {
  Matrix3d about_zero = Matrix3d::Zero();
  Vector3d mean = Vector3d::Zero();
  for (const gp_Dir& n : normals) {
    const Vector3d v(n.X(), n.Y(), n.Z());
    about_zero += v * v.transpose();
    mean += v;
  }
  const double count = std::max<double>(1, static_cast<double>(normals.size()));
  mean /= count;
  const Matrix3d about_mean = about_zero / count - mean * mean.transpose();
  std::vector<gp_Dir> guesses;
  for (const Matrix3d& spread : {Matrix3d(about_zero / count), about_mean}) {
    const Eigen::SelfAdjointEigenSolver<Matrix3d> solver(spread);
    const Vector3d least = solver.eigenvectors().col(0);
    guesses.emplace_back(least.x(), least.y(), least.z());
  }
  return guesses;
}

}  // namespace anvil
