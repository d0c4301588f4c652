#include "scan/region_face.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <algorithm>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Sphere.hxx>

#include "base/units.h"
#include "geom/fits.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

// Anticlockwise, by A. M. Andrew's monotone chain (1979).
std::vector<gp_XY> convex_outline(std::vector<gp_XY> points) {
  std::sort(points.begin(), points.end(),
            [](const gp_XY& a, const gp_XY& b) { return a.X() != b.X() ? a.X() < b.X() : a.Y() < b.Y(); });
  std::vector<gp_XY> outline;
  const auto half = [&](auto begin, auto end) {
    const size_t first = outline.size();
    for (auto p = begin; p != end; ++p) {
      while (outline.size() >= first + 2 &&
             (outline.back() - outline[outline.size() - 2]).Crossed(*p - outline.back()) <= 0)
        outline.pop_back();
      outline.push_back(*p);
    }
    outline.pop_back();
  };
  half(points.begin(), points.end());
  half(points.rbegin(), points.rend());
  return outline;
}

TopoDS_Face flat_face(const Surface& surface, const std::vector<gp_Pnt>& points) {
  const gp_Ax2 frame = surface.position.Ax2();
  std::vector<gp_XY> flat;
  for (const gp_Pnt& p : points) {
    const gp_Pnt read = read_in(frame, p);
    flat.emplace_back(read.X(), read.Y());
  }
  BRepBuilderAPI_MakePolygon outline;
  for (const gp_XY& p : convex_outline(std::move(flat)))
    outline.Add(
        frame.Location().Translated(gp_Vec(frame.XDirection()) * p.X() + gp_Vec(frame.YDirection()) * p.Y()));
  outline.Close();
  if (!outline.IsDone()) return {};
  return BRepBuilderAPI_MakeFace(surface.plane(), outline.Wire()).Face();
}

// From where to where the angles go, leaving out their widest gap; a full turn when there is none worth it.
std::pair<double, double> turn_of(std::vector<double> angles) {
  std::sort(angles.begin(), angles.end());
  constexpr double kWorthIt_rad = radians(45);
  double widest = angles.front() + 2 * kPi - angles.back(), from = angles.front(), to = angles.back();
  for (size_t i = 1; i < angles.size(); ++i) {
    if (angles[i] - angles[i - 1] <= widest) continue;
    widest = angles[i] - angles[i - 1];
    from = angles[i];
    to = angles[i - 1] + 2 * kPi;
  }
  return widest < kWorthIt_rad ? std::pair{0.0, 2 * kPi} : std::pair{from, to};
}

struct Reach {
  double turn_from, turn_to, low, high;  // along the axis
};

Reach reach_of(const gp_Ax3& position, const std::vector<gp_Pnt>& points) {
  std::vector<double> angles;
  Reach reach{0, 0, 1e300, -1e300};
  for (const gp_Pnt& p : points) {
    const gp_Vec v(position.Location(), p);
    angles.push_back(std::atan2(v.Dot(gp_Vec(position.YDirection())), v.Dot(gp_Vec(position.XDirection()))));
    const double along = v.Dot(gp_Vec(position.Direction()));
    reach.low = std::min(reach.low, along);
    reach.high = std::max(reach.high, along);
  }
  std::tie(reach.turn_from, reach.turn_to) = turn_of(std::move(angles));
  return reach;
}

TopoDS_Face round_face(const Surface& s, const std::vector<gp_Pnt>& points) {
  const Reach r = reach_of(s.position, points);
  if (s.kind == SurfaceKind::kCylinder)
    return BRepBuilderAPI_MakeFace(gp_Cylinder(s.position, s.radius_mm), r.turn_from, r.turn_to, r.low,
                                   r.high)
        .Face();
  const double tip = -s.radius_mm / std::tan(s.semi_angle_rad), slant = 1 / std::cos(s.semi_angle_rad);
  return BRepBuilderAPI_MakeFace(gp_Cone(s.position, s.semi_angle_rad, s.radius_mm), r.turn_from, r.turn_to,
                                 std::max(r.low, tip) * slant, r.high * slant)
      .Face();
}

TopoDS_Face cap(const Surface& s, const std::vector<gp_Pnt>& points) {
  const gp_Vec out(s.position.Location(), average_of(points));
  const bool all_round = out.Magnitude() < 0.05 * s.radius_mm;
  const gp_Ax3 position(s.position.Location(), all_round ? s.position.Direction() : gp_Dir(out));
  double lowest = kPi / 2;
  for (const gp_Pnt& p : points) {
    const gp_Vec v(position.Location(), p);
    lowest = std::min(lowest,
                      std::asin(std::clamp(v.Dot(gp_Vec(position.Direction())) / v.Magnitude(), -1.0, 1.0)));
  }
  return BRepBuilderAPI_MakeFace(gp_Sphere(position, s.radius_mm), 0, 2 * kPi, all_round ? -kPi / 2 : lowest,
                                 kPi / 2)
      .Face();
}

}  // namespace

TopoDS_Face face_of(const Surface& surface, const std::vector<gp_Pnt>& points) {
  if (surface.kind == SurfaceKind::kMesh || points.size() < 3) return {};
  if (surface.kind == SurfaceKind::kPlane) return flat_face(surface, points);
  TopoDS_Face face =
      surface.kind == SurfaceKind::kSphere ? cap(surface, points) : round_face(surface, points);
  if (surface.inside) face.Reverse();
  return face;
}

}  // namespace anvil
