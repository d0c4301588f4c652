// Spheres, cylinders and cones that fit points best: least squares of the distances from the surface
// (orthogonal distance regression), by Levenberg-Marquardt in coordinates scaled to the points.
//
//   auto bore = fit_cylinder(points, gp_Dir(0, 0, 1));  // about there
//   if (bore) use(bore->shape.Axis(), bore->shape.Radius(), bore->quality.rms_mm);
#pragma once

#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Dir.hxx>
#include <gp_Sphere.hxx>
#include <vector>

#include "base/refusal.h"
#include "geom/fits.h"

namespace anvil {

// All refuse (kGeometry) too few points, and points whose bow does not stand out of their scatter: flat ones
// determine no sphere and no cylinder, untapered ones no cone. Of a few points that scatter about a plane one
// set in a hundred, or fewer, bows by chance and is taken. The guess of an axis may lean by as much as
// the points bow over half their length (normals give better ones). Residuals are distances from the surface;
// exact points are met to about 1e-9 of their extent.
Result<Fit<gp_Sphere>> fit_sphere(const std::vector<gp_Pnt>& points);
Result<Fit<gp_Cylinder>> fit_cylinder(const std::vector<gp_Pnt>& points, const gp_Dir& axis_guess);
// The radius grows along the axis: the half angle is positive. Points beyond the tip are refused.
Result<Fit<gp_Cone>> fit_cone(const std::vector<gp_Pnt>& points, const gp_Dir& axis_guess);

// Signed distance from the surface: positive outside.
double distance_from(const gp_Sphere& sphere, const gp_Pnt& point);
double distance_from(const gp_Cylinder& cylinder, const gp_Pnt& point);
double distance_from(const gp_Cone& cone, const gp_Pnt& point);  // of the half that opens along the axis

// As few points as a fit takes.
inline constexpr size_t kLeastForSphere = 4, kLeastForCylinder = 6, kLeastForCone = 8;

// From unit normals of a surface of revolution, where its axis may run, likeliest first for cylinders:
// square to all of them (cylinders), then at one angle to all of them (cones).
std::vector<gp_Dir> axis_guesses(const std::vector<gp_Dir>& normals);

}  // namespace anvil
