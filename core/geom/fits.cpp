#include "geom/fits.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>

#include "geom/primitives.h"

namespace anvil {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

Vector3d vector(const gp_XYZ& p) {
  return {p.X(), p.Y(), p.Z()};
}
gp_Dir dir(const Vector3d& v) {
  return gp_Dir(v.x(), v.y(), v.z());
}

// How points spread about their average: root mean squares along the principal directions, smallest first.
struct Spread {
  gp_Pnt centre;
  Vector3d size_mm;
  Matrix3d directions;
};

Spread spread_of(const std::vector<gp_Pnt>& points) {
  Spread s;
  s.centre = average_of(points);
  Eigen::MatrixX3d m(points.size(), 3);
  for (size_t i = 0; i < points.size(); ++i)
    m.row(static_cast<long>(i)) = vector(points[i].XYZ() - s.centre.XYZ());
  // The singular values, not the eigenvalues of the product, which would lose half of the digits.
  const Eigen::JacobiSVD<Eigen::MatrixX3d> svd(m, Eigen::ComputeFullV);
  Vector3d values = Vector3d::Zero();
  values.head(svd.singularValues().size()) = svd.singularValues();
  s.size_mm = values.reverse() / std::sqrt(static_cast<double>(points.size()));
  s.directions = svd.matrixV().rowwise().reverse();
  return s;
}

Refusal not_enough(const std::vector<gp_Pnt>& points, size_t wanted) {
  return {RefusalCode::kGeometry, fmt::format("{} points are too few: it takes {}", points.size(), wanted)};
}

struct Circle2d {
  double x = 0, y = 0, r = 0;
};

// x² + y² = 2 x0 x + 2 y0 y + (r² - x0² - y0²), by least squares.
Circle2d algebraic_circle(const std::vector<gp_XY>& points) {
  Eigen::MatrixX3d a(points.size(), 3);
  Eigen::VectorXd b(points.size());
  for (size_t i = 0; i < points.size(); ++i) {
    a.row(static_cast<long>(i)) << points[i].X(), points[i].Y(), 1;
    b(static_cast<long>(i)) = points[i].SquareModulus();
  }
  const Vector3d k = a.colPivHouseholderQr().solve(b);
  const double x = k(0) / 2, y = k(1) / 2;
  return {x, y, std::sqrt(std::max(0.0, k(2) + x * x + y * y))};
}

Circle2d closer_circle(const std::vector<gp_XY>& points, const Circle2d& c) {
  Eigen::MatrixX3d jacobian(points.size(), 3);
  Eigen::VectorXd off(points.size());
  for (size_t i = 0; i < points.size(); ++i) {
    const double dx = points[i].X() - c.x, dy = points[i].Y() - c.y, d = std::max(1e-300, std::hypot(dx, dy));
    jacobian.row(static_cast<long>(i)) << -dx / d, -dy / d, -1;
    off(static_cast<long>(i)) = d - c.r;
  }
  const Vector3d step = jacobian.colPivHouseholderQr().solve(off);
  return {c.x - step(0), c.y - step(1), c.r - step(2)};
}

}  // namespace

FitQuality quality_of(const std::vector<double>& residuals_mm) {
  FitQuality q;
  for (size_t i = 0; i < residuals_mm.size(); ++i) {
    const double off = std::abs(residuals_mm[i]);
    q.rms_mm += off * off / static_cast<double>(residuals_mm.size());
    if (off <= q.largest_mm) continue;
    q.largest_mm = off;
    q.worst = i;
  }
  q.rms_mm = std::sqrt(q.rms_mm);
  return q;
}

gp_Pnt average_of(const std::vector<gp_Pnt>& points) {
  // About the first, so that far away ones keep their digits.
  gp_XYZ sum;
  for (const gp_Pnt& p : points) sum += p.XYZ() - points.front().XYZ();
  return gp_Pnt(points.front().XYZ() + sum / static_cast<double>(points.size()));
}

Result<Fit<gp_Ax1>> fit_line(const std::vector<gp_Pnt>& points, double least_mm) {
  if (points.size() < 2) return refuse(not_enough(points, 2));
  const Spread spread = spread_of(points);
  if (spread.size_mm(2) < least_mm)
    return refuse(RefusalCode::kGeometry, "the points lie in one place: they give no direction");
  gp_Dir along = dir(spread.directions.col(2));
  if (gp_Vec(points.front(), points.back()).Dot(gp_Vec(along)) < 0) along.Reverse();
  const gp_Ax1 axis(spread.centre, along);
  std::vector<double> off;
  off.reserve(points.size());
  for (const gp_Pnt& p : points) off.push_back(distance(axis, p));
  return Fit<gp_Ax1>{axis, quality_of(off)};
}

Result<Fit<gp_Pln>> fit_plane(const std::vector<gp_Pnt>& points, double least_mm) {
  if (points.size() < 3) return refuse(not_enough(points, 3));
  const Spread spread = spread_of(points);
  if (spread.size_mm(1) < least_mm) {
    Refusal refusal{RefusalCode::kGeometry,
                    fmt::format("the points lie in one line (within {:.6f} mm): they determine no plane",
                                spread.size_mm(1))};
    refusal.facts["off_line_mm"] = spread.size_mm(1);
    return refuse(refusal);
  }
  gp_Dir normal = dir(spread.directions.col(0));
  for (size_t i = 2; i < points.size(); ++i) {
    const gp_Vec turn = gp_Vec(points[0], points[1]).Crossed(gp_Vec(points[0], points[i]));
    if (turn.Magnitude() < least_mm * least_mm) continue;
    if (turn.Dot(gp_Vec(normal)) < 0) normal.Reverse();
    break;
  }
  const gp_Pln plane(gp_Ax3(spread.centre, normal, dir(spread.directions.col(2))));
  std::vector<double> off;
  off.reserve(points.size());
  for (const gp_Pnt& p : points) off.push_back(height_over(plane, p));
  return Fit<gp_Pln>{plane, quality_of(off)};
}

Result<Fit<gp_Trsf>> fit_motion(const std::vector<gp_Pnt>& from, const std::vector<gp_Pnt>& to,
                                double least_mm) {
  for (const std::vector<gp_Pnt>* points : {&from, &to})
    if (const auto spans = fit_plane(*points, least_mm); !spans) return refuse(spans);
  const gp_Pnt a = average_of(from), b = average_of(to);
  Matrix3d spread = Matrix3d::Zero();
  for (size_t i = 0; i < from.size(); ++i) {
    const gp_XYZ u = from[i].XYZ() - a.XYZ(), v = to[i].XYZ() - b.XYZ();
    spread += vector(v) * vector(u).transpose();
  }
  const Eigen::JacobiSVD<Matrix3d> svd(spread, Eigen::ComputeFullU | Eigen::ComputeFullV);
  const double hand = svd.matrixU().determinant() * svd.matrixV().determinant() < 0 ? -1 : 1;
  const Matrix3d r = svd.matrixU() * Vector3d(1, 1, hand).asDiagonal() * svd.matrixV().transpose();
  gp_Trsf turn, motion;
  turn.SetValues(r(0, 0), r(0, 1), r(0, 2), 0, r(1, 0), r(1, 1), r(1, 2), 0, r(2, 0), r(2, 1), r(2, 2), 0);
  motion.SetTranslation(gp_Vec(b.XYZ() - a.Transformed(turn).XYZ()));
  motion.Multiply(turn);
  std::vector<double> off;
  for (size_t i = 0; i < from.size(); ++i) off.push_back(from[i].Transformed(motion).Distance(to[i]));
  return Fit<gp_Trsf>{motion, quality_of(off)};
}

Result<Fit<gp_Circ>> fit_circle(const std::vector<gp_Pnt>& points, double least_mm) {
  auto flat = fit_plane(points, least_mm);
  if (!flat) return refuse(flat);
  const gp_Ax2 frame(flat->shape.Location(), flat->shape.Axis().Direction(), flat->shape.XAxis().Direction());
  std::vector<gp_Pnt> read;
  std::vector<gp_XY> in_plane;
  for (const gp_Pnt& p : points) {
    read.push_back(read_in(frame, p));
    in_plane.emplace_back(read.back().X(), read.back().Y());
  }
  Circle2d c = algebraic_circle(in_plane);
  constexpr int kSteps = 8;
  for (int i = 0; i < kSteps; ++i) c = closer_circle(in_plane, c);
  if (!std::isfinite(c.r) || c.r <= 0)
    return refuse(RefusalCode::kGeometry, "the points lie on no circle of finite size");
  gp_Ax2 at = frame;
  at.SetLocation(
      frame.Location().Translated(gp_Vec(frame.XDirection()) * c.x + gp_Vec(frame.YDirection()) * c.y));
  std::vector<double> off;
  off.reserve(read.size());
  for (const gp_Pnt& p : read) off.push_back(std::hypot(std::hypot(p.X() - c.x, p.Y() - c.y) - c.r, p.Z()));
  return Fit<gp_Circ>{gp_Circ(at, c.r), quality_of(off)};
}

}  // namespace anvil
