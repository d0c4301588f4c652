#include "setup/probing.h"

#include <fmt/format.h>

#include <BRepClass_FaceClassifier.hxx>
#include <BRepTools.hxx>
#include <Eigen/Dense>
#include <TopoDS.hxx>
#include <gp_Quaternion.hxx>

#include "base/units.h"
#include "geom/primitives.h"
#include "part/recognise.h"

namespace anvil {
namespace {

// A point of the face at parameters, with the normal out of the material.
struct OnFace {
  gp_Pnt at;
  gp_Dir out;
};

std::vector<OnFace> spread_over(const TopoDS_Face& face, int count, double inset, bool round) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  // A grid fine enough that enough of it lies on the face, holes and all; then every so-manieth.
  std::vector<OnFace> all;
  constexpr int kGrid = 12;
  const int levels = round ? 2 : kGrid;
  for (int i = 0; i < kGrid; ++i)
    for (int j = 0; j < levels; ++j) {
      const double su = round ? (i + 0.5) / kGrid : inset + (1 - 2 * inset) * i / (kGrid - 1),
                   sv = inset + (1 - 2 * inset) * j / (levels - 1);
      const double u = u0 + (u1 - u0) * su, v = v0 + (v1 - v0) * sv;
      const BRepClass_FaceClassifier where(face, gp_Pnt2d(u, v), 1e-6);
      gp_Dir out;
      if (where.State() != TopAbs_IN || !outward_normal(face, u, v, out)) continue;
      all.push_back({BRep_Tool::Surface(face)->Value(u, v), out});
    }
  std::vector<OnFace> chosen;
  // The farthest from those chosen so far, one after the other: spread whatever the outline.
  while (!all.empty() && static_cast<int>(chosen.size()) < count) {
    size_t best = 0;
    double most = -1;
    for (size_t i = 0; i < all.size(); ++i) {
      double nearest = 1e300;
      for (const OnFace& c : chosen) nearest = std::min(nearest, c.at.Distance(all[i].at));
      if (nearest <= most) continue;
      most = nearest;
      best = i;
    }
    chosen.push_back(all[best]);
    all.erase(all.begin() + static_cast<long>(best));
  }
  return chosen;
}

// How far a point lies off a surface, positive out of it, and the direction in which that grows.
struct Off {
  double distance_mm = 0;
  gp_Dir grows;
};
Off off_surface(const Surface& s, const gp_Pnt& p) {
  if (s.kind == SurfaceKind::kPlane) return {height_over(s.plane(), p), s.position.Direction()};
  const gp_Pnt foot = foot_on(s.axis(), p);
  const gp_Vec out(foot, p);
  return {out.Magnitude() - s.radius_mm, gp_Dir(out)};
}

gp_Trsf small_motion(const Eigen::VectorXd& step, const gp_Pnt& about) {
  gp_Trsf turn, shift;
  const gp_Vec turning(step(3), step(4), step(5));
  if (turning.Magnitude() > 1e-15) turn.SetRotation(gp_Ax1(about, gp_Dir(turning)), turning.Magnitude());
  shift.SetTranslation(gp_Vec(step(0), step(1), step(2)));
  return shift * turn;
}

}  // namespace

Result<std::vector<ProbeMove>> probe_moves(const Part& part, int index, const gp_Trsf& lies, int count,
                                           const ProbeOptions& options) {
  const FaceInfo& face = part.topology().faces[static_cast<size_t>(index)];
  const bool flat = face.surface.kind == SurfaceKind::kPlane,
             round = face.surface.kind == SurfaceKind::kCylinder;
  if (!flat && !round) return refuse(RefusalCode::kBadInput, "only flat and cylindrical faces can be probed");
  const std::vector<OnFace> places = spread_over(face.face, count, options.inset, round);
  if (static_cast<int>(places.size()) < std::min(count, 3))
    return refuse(
        RefusalCode::kBadInput,
        fmt::format("only {} points of the face can be touched, {} were asked for", places.size(), count));
  std::vector<ProbeMove> moves;
  for (const OnFace& place : places) {
    ProbeMove move;
    move.target = place.at.Transformed(lies);
    const gp_Dir out = place.out.Transformed(lies);
    // Inside a bore the probe has no more room than to its middle.
    const double room = round && face.surface.inside ? 0.7 * face.surface.radius_mm : options.clearance_mm;
    const double clearance = std::min(options.clearance_mm, room);
    move.start = move.target.Translated(gp_Vec(out) * clearance);
    move.along = out.Reversed();
    move.reach_mm = clearance + options.overshoot_mm;
    move.face = index;
    moves.push_back(move);
  }
  return moves;
}

Result<ProbedPlace> probed_place(const Part& part, const gp_Trsf& lies, const std::vector<Touch>& touches) {
  if (touches.empty()) return refuse(RefusalCode::kBadInput, "nothing was touched");
  std::vector<gp_Pnt> points;
  points.reserve(touches.size());
  for (const Touch& touch : touches) points.push_back(touch.at);
  const gp_Pnt middle = average_of(points);
  double reach = 1;
  for (const gp_Pnt& p : points) reach = std::max(reach, p.Distance(middle));
  ProbedPlace place;
  constexpr int kSteps = 10;
  double last_step = 1e300;
  for (int step_number = 0; step_number < kSteps && last_step > 1e-10; ++step_number) {
    const gp_Trsf now = place.motion * lies;
    Eigen::MatrixXd jacobian(touches.size(), 6);
    Eigen::VectorXd off(touches.size());
    for (size_t i = 0; i < touches.size(); ++i) {
      Surface s = part.topology().faces[static_cast<size_t>(touches[i].face)].surface;
      s.position.Transform(now);
      const Off here = off_surface(s, touches[i].at);
      const gp_Vec n(here.grows), turn = gp_Vec(middle, touches[i].at).Crossed(n) / reach;
      const auto row = static_cast<long>(i);
      jacobian.row(row) << n.X(), n.Y(), n.Z(), turn.X(), turn.Y(), turn.Z();
      off(row) = here.distance_mm;
    }
    Eigen::JacobiSVD<Eigen::MatrixXd> svd(jacobian, Eigen::ComputeThinU | Eigen::ComputeThinV);
    svd.setThreshold(1e-6);  // freedoms that no touch fixes
    place.freedoms_fixed = static_cast<int>(svd.rank());
    Eigen::VectorXd step = svd.solve(off);
    last_step = step.norm();
    step.tail(3) /= reach;
    place.motion = small_motion(step, middle) * place.motion;
  }
  if (last_step > 1e-6)
    return refuse(RefusalCode::kGeometry, "the touches cannot be brought onto the faces they were meant for");
  const gp_Trsf now = place.motion * lies;
  for (const Touch& touch : touches) {
    Surface s = part.topology().faces[static_cast<size_t>(touch.face)].surface;
    s.position.Transform(now);
    const Off here = off_surface(s, touch.at);
    place.residuals_mm.push_back(here.distance_mm);
    place.contacts.push_back(
        touch.at.Translated(gp_Vec(here.grows) * -here.distance_mm).Transformed(now.Inverted()));
  }
  place.quality = quality_of(place.residuals_mm);
  return place;
}

}  // namespace anvil
