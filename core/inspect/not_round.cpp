#include "inspect/not_round.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <Eigen/Dense>
#include <map>

#include "base/tolerance.h"
#include "base/union_find.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/hole_form.h"

namespace anvil {
namespace {

constexpr int kAround = 24;
constexpr double kEllipse_mm = 2e-3;  // how far samples may lie off it

struct Sample {
  gp_Pnt at;
  gp_Dir normal;  // out of the material
};

std::vector<Sample> samples_of(const TopoDS_Face& face) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const BRepAdaptor_Surface surface(face, false);
  std::vector<Sample> samples;
  for (int i = 0; i < kAround; ++i)
    for (int j = 0; j < kAround; ++j) {
      if (i % 8 != 0 && j % 8 != 0) continue;  // lines both ways: which one runs round is not known
      const double u = u0 + (u1 - u0) * (i + 0.5) / kAround, v = v0 + (v1 - v0) * (j + 0.5) / kAround;
      Sample sample{surface.Value(u, v), gp_Dir(0, 0, 1)};
      if (outward_normal(face, u, v, sample.normal)) samples.push_back(sample);
    }
  return samples;
}

struct Ellipse {
  Eigen::Vector2d centre;
  Eigen::Vector2d long_direction;
  double semi_long = 0, semi_short = 0;
};

// Least squares of a x^2 + b xy + c y^2 + d x + e y = 1 about the mean of the points, in units of their
// spread.
std::optional<Ellipse> fit_ellipse(std::vector<Eigen::Vector2d> points) {
  Eigen::Vector2d mean = Eigen::Vector2d::Zero();
  for (const auto& p : points) mean += p / static_cast<double>(points.size());
  double spread = 0;
  for (const auto& p : points) spread = std::max(spread, (p - mean).norm());
  if (points.size() < 8 || spread < 1e-9) return std::nullopt;
  Eigen::MatrixXd rows(points.size(), 5);
  for (size_t i = 0; i < points.size(); ++i) {
    const Eigen::Vector2d p = points[i] = (points[i] - mean) / spread;
    rows.row(static_cast<Eigen::Index>(i)) << p.x() * p.x(), p.x() * p.y(), p.y() * p.y(), p.x(), p.y();
  }
  const Eigen::VectorXd k = rows.colPivHouseholderQr().solve(Eigen::VectorXd::Ones(rows.rows()));
  Eigen::Matrix2d form;
  form << k(0), k(1) / 2, k(1) / 2, k(2);
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes(form);
  if (axes.eigenvalues()(0) <= 1e-9) return std::nullopt;  // no ellipse
  const Eigen::Vector2d centre = -0.5 * form.inverse() * Eigen::Vector2d(k(3), k(4));
  const double level = 1 + centre.dot(form * centre);
  Ellipse found;
  found.semi_long = std::sqrt(level / axes.eigenvalues()(0));
  found.semi_short = std::sqrt(level / axes.eigenvalues()(1));
  found.long_direction = axes.eigenvectors().col(0);
  for (const auto& p : points) {
    const Eigen::Vector2d from = axes.eigenvectors().transpose() * (p - centre);
    const double off = std::hypot(from.x() / found.semi_long, from.y() / found.semi_short) - 1;
    if (std::abs(off) * found.semi_short * spread > kEllipse_mm) return std::nullopt;
  }
  found.centre = mean + spread * centre;
  found.semi_long *= spread;
  found.semi_short *= spread;
  return found;
}

class EllipticHoles {
 public:
  explicit EllipticHoles(const TopologyIndex& topology)
      : topology_(topology), joined_(topology.patches.size()) {}

  std::vector<Hole> run() {
    for (size_t i = 0; i < topology_.faces.size(); ++i)
      if (topology_.faces[i].surface.kind == SurfaceKind::kFreeForm)
        if (const auto along = extruded_along(topology_.faces[i])) along_[topology_.faces[i].patch] = *along;
    std::map<int, std::vector<int>> rings;
    for (const auto& [patch, along] : along_) join_round(patch, along);
    for (const auto& [patch, along] : along_) rings[joined_.root(patch)].push_back(patch);
    std::vector<Hole> holes;
    for (const auto& [root, ring] : rings)
      if (auto hole = hole_of(ring)) holes.push_back(std::move(*hole));
    return holes;
  }

 private:
  [[nodiscard]] bool runs_along(const EdgeInfo& edge, const gp_Dir& along) const {
    return edge.straight_along && parallel(*edge.straight_along, along, kWall_rad);
  }

  void join_round(int patch, const gp_Dir& along) {
    for (const int index : topology_.patches[patch].border) {
      const int across = patch_across(topology_, patch, index);
      if (runs_along(topology_.edges[index], along) && along_.count(across) > 0 &&
          topology_.edges[index].convexity == Convexity::kSmooth)
        joined_.join(patch, across);
    }
  }

  [[nodiscard]] bool closes_round(const std::vector<int>& ring, const gp_Dir& along) {
    for (const int patch : ring)
      for (const int index : topology_.patches[patch].border) {
        const int across = patch_across(topology_, patch, index);
        if (runs_along(topology_.edges[index], along) &&
            (along_.count(across) == 0 || joined_.root(across) != joined_.root(patch)))
          return false;
      }
    return true;
  }

  std::optional<Hole> hole_of(const std::vector<int>& ring) {
    const gp_Dir along = along_.at(ring.front());
    if (!closes_round(ring, along)) return std::nullopt;
    const gp_Ax2 frame(topology_.vertices.front().point, along);
    std::vector<Eigen::Vector2d> points;
    std::vector<std::pair<Eigen::Vector2d, Eigen::Vector2d>> normals;
    for (const int patch : ring)
      for (const int face : topology_.patches[patch].faces)
        for (const Sample& sample : samples_of(topology_.faces[face].face)) {
          const gp_Pnt p = read_in(frame, sample.at);
          const gp_Dir n = read_in(frame, sample.normal);
          points.emplace_back(p.X(), p.Y());
          normals.emplace_back(points.back(), Eigen::Vector2d(n.X(), n.Y()));
        }
    const auto ellipse = fit_ellipse(points);
    if (!ellipse || ellipse->semi_long - ellipse->semi_short < kRecognised_mm) return std::nullopt;
    for (const auto& [at, normal] : normals)
      if (normal.dot(ellipse->centre - at) <= 0) return std::nullopt;  // a boss
    const gp_Pnt centre = frame.Location().Translated(gp_Vec(frame.XDirection()) * ellipse->centre.x() +
                                                      gp_Vec(frame.YDirection()) * ellipse->centre.y());
    return finished(ring, gp_Ax1(centre, along), *ellipse, frame);
  }

  std::optional<Hole> finished(const std::vector<int>& ring, const gp_Ax1& axis, const Ellipse& ellipse,
                               const gp_Ax2& frame) const {
    const auto levels = patch_levels(topology_, topology_.patches[ring.front()], axis.Direction());
    const double origin = axis.Location().XYZ().Dot(axis.Direction().XYZ());
    const ChainPiece piece{ring.front(),       levels.first - origin, levels.second - origin,
                           ellipse.semi_short, ellipse.semi_short,    2 * kPi};
    const ChainEnd low = measure_end(topology_, axis, piece, -1),
                   high = measure_end(topology_, axis, piece, +1);
    if (!low.open && !high.open) return std::nullopt;
    const bool from_high = high.open && (!low.open || axis.Direction().Z() >= 0);
    const ChainEnd &entry = from_high ? high : low, &end = from_high ? low : high;
    Hole hole;
    hole.body = topology_.patches[ring.front()].body;
    set_ends(hole, axis, entry, end, from_high);
    hole.round = false;
    hole.long_mm = 2 * ellipse.semi_long;
    hole.diameter_mm = hole.short_mm = 2 * ellipse.semi_short;
    hole.long_direction = gp_Dir(gp_Vec(frame.XDirection()) * ellipse.long_direction.x() +
                                 gp_Vec(frame.YDirection()) * ellipse.long_direction.y());
    hole.depth_mm = std::abs(entry.level - end.level);
    hole.steps.push_back({StepKind::kBore, hole.short_mm, hole.short_mm, hole.depth_mm, 0});
    if (end.flat_bottom) hole.steps.push_back({StepKind::kFlat, hole.short_mm, hole.short_mm, 0, 0});
    for (const int patch : ring)
      for (const int face : topology_.patches[patch].faces) hole.faces.push_back(face);
    return hole;
  }

  const TopologyIndex& topology_;
  UnionFind joined_;
  std::map<int, gp_Dir> along_;
};

}  // namespace

std::optional<gp_Dir> extruded_along(const FaceInfo& face) {
  const std::vector<Sample> samples = samples_of(face.face);
  if (samples.size() < kAround) return std::nullopt;
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Sample& s : samples) {
    const Eigen::Vector3d n(s.normal.X(), s.normal.Y(), s.normal.Z());
    spread += n * n.transpose();
  }
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(spread);
  const Eigen::Vector3d d = solver.eigenvectors().col(0);
  const gp_Dir along(d.x(), d.y(), d.z());
  for (const Sample& s : samples)
    if (!square(s.normal, along, kWall_rad)) return std::nullopt;
  return along;
}

std::vector<Hole> find_elliptic_holes(const TopologyIndex& topology) {
  return EllipticHoles(topology).run();
}

ApparentShape seen_along(const Hole& hole, const gp_Dir& view) {
  // The half axes of the outline of an ellipse with half axes p and q, seen along a direction: the singular
  // values of both laid into the picture plane.
  const gp_Dir long_way = hole.round ? square_to(hole.axis, gp_Dir(1, 0, 0)) : hole.long_direction;
  const gp_Vec p = gp_Vec(long_way) * (hole.long_mm / 2),
               q = gp_Vec(hole.axis).Crossed(gp_Vec(long_way)) * (hole.short_mm / 2);
  const gp_Ax2 picture(gp_Pnt(0, 0, 0), view);
  Eigen::Matrix2d laid;
  laid << p.Dot(gp_Vec(picture.XDirection())), q.Dot(gp_Vec(picture.XDirection())),
      p.Dot(gp_Vec(picture.YDirection())), q.Dot(gp_Vec(picture.YDirection()));
  const Eigen::Vector2d values = Eigen::JacobiSVD<Eigen::Matrix2d>(laid).singularValues();
  return {2 * values(0), 2 * values(1)};
}

}  // namespace anvil
