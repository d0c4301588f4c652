// Points, axes, planes and frames over OpenCASCADE's gp types, and how they stand to each other.
//
// An axis is a gp_Ax1 (point and sense), a plane a gp_Pln (its Direction() is the normal we mean), a frame a
// gp_Ax2: zero, Z (Direction) and X (XDirection), right-handed and orthonormal to 1e-12 by construction.
// Lengths in mm, angles in radians.
#pragma once

#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>
#include <string>

#include "base/refusal.h"
#include "base/tolerance.h"

class Adaptor3d_Curve;

namespace anvil {

// The identity frame: zero at the origin, axes along X, Y, Z.
inline gp_Ax2 world_frame() {
  return gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0));
}

// The transformation that turns world coordinates into coordinates read in `frame`.
gp_Trsf into_frame(const gp_Ax2& frame);
gp_Pnt read_in(const gp_Ax2& frame, const gp_Pnt& point);
gp_Dir read_in(const gp_Ax2& frame, const gp_Dir& direction);

bool parallel(const gp_Dir& a, const gp_Dir& b, double angular_rad = kExact.angular_rad);  // either sense
bool square(const gp_Dir& a, const gp_Dir& b, double angular_rad = kExact.angular_rad);
// The angle between two undirected lines, 0..pi/2.
double acute_angle(const gp_Dir& a, const gp_Dir& b);

// Signed height of a point over a plane, along its normal.
double height_over(const gp_Pln& plane, const gp_Pnt& point);
gp_Pnt foot_on(const gp_Pln& plane, const gp_Pnt& point);
gp_Pnt foot_on(const gp_Ax1& axis, const gp_Pnt& point);
double distance(const gp_Ax1& axis, const gp_Pnt& point);
gp_Pnt midpoint(const gp_Pnt& a, const gp_Pnt& b);

// The shortest bridge between two lines. For parallel lines `on_b` is the foot of a's origin.
struct Bridge {
  gp_Pnt on_a, on_b;
  double gap_mm = 0;
  bool parallel = false;
};
Bridge bridge(const gp_Ax1& a, const gp_Ax1& b, double angular_rad = kExact.angular_rad);

// The line two planes share, through the point of it nearest to `near`. Refuses parallel planes with their
// distance.
Result<gp_Ax1> crossing(const gp_Pln& a, const gp_Pln& b, const gp_Pnt& near,
                        double angular_rad = kExact.angular_rad);

// A direction square to z: `wish` projected, or, when that vanishes, whichever of world X, Y is squarer to z.
gp_Dir square_to(const gp_Dir& z, const gp_Dir& wish);

// Frame with zero, Z, and X as near to `x_wish` as Z allows.
gp_Ax2 make_frame(const gp_Pnt& zero, const gp_Dir& z, const gp_Dir& x_wish);

// "+X", "-Z", or "0.5000, 0.8660, 0.0000".
std::string direction_text(const gp_Dir& direction);

// Of a curve, by its parameter: half-way between its ends.
gp_Pnt middle_of(const Adaptor3d_Curve& curve);

}  // namespace anvil
