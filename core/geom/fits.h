// Lines, planes and circles that fit points best, by least squares of the distances, and how well they do.
#pragma once

#include <gp_Ax1.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>
#include <vector>

#include "base/refusal.h"

namespace anvil {

struct FitQuality {
  double rms_mm = 0;
  double largest_mm = 0;
  size_t worst = 0;  // place of the point that is farthest off
};
FitQuality quality_of(const std::vector<double>& residuals_mm);

template <class Shape>
struct Fit {
  Shape shape;
  FitQuality quality;
};

gp_Pnt average_of(const std::vector<gp_Pnt>& points);  // of at least one

// Through the average; the sense runs from the first point towards the last. Refuses (kGeometry) fewer than
// two points that lie apart by `least_mm`.
Result<Fit<gp_Ax1>> fit_line(const std::vector<gp_Pnt>& points, double least_mm = 1e-4);

// Refuses points that lie in one line, and tells by how much they leave it. The normal is that of the first
// three points that span a plane, turned right-handed.
Result<Fit<gp_Pln>> fit_plane(const std::vector<gp_Pnt>& points, double least_mm = 1e-4);

// The motion without scale that brings `from` nearest to `to`, point by point (Kabsch 1976, by singular
// values); residuals are the distances left. Refuses fewer than three pairs, and points in one line.
Result<Fit<gp_Trsf>> fit_motion(const std::vector<gp_Pnt>& from, const std::vector<gp_Pnt>& to,
                                double least_mm = 1e-4);

// In the best plane; refuses as fit_plane() does. Residuals are distances in space from the circle. Geometric
// fit: Gauss-Newton steps from the algebraic one.
Result<Fit<gp_Circ>> fit_circle(const std::vector<gp_Pnt>& points, double least_mm = 1e-4);

}  // namespace anvil
