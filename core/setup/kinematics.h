// Which rotary angles point the tool along a direction of the part, and where they bring the part.
//
//   for (const Pose& pose : poses_for(machine, part_in_machine, towards_tool, before)) …
//
// Directions run from the part back along the tool. With the angles at zero the tool lies along machine +Z.
// Two rotary axes of any direction: the direction v that the tool and the part meet in lies on a cone about
// the first axis and on a cone about the second; two circles on the unit sphere meet in at most two points
// (the second of Paden and Kahan's subproblems, see Murray, Li, Sastry: A Mathematical Introduction to
// Robotic Manipulation, 1994, chapter 3.2), found as spherical triangles.
#pragma once

#include <gp_Dir.hxx>
#include <gp_Trsf.hxx>

#include "setup/machine.h"

namespace anvil {

// Nothing a machine does tells directions nearer than this apart: 1 µm in 1 m.
inline constexpr double kPointing_rad = 1e-6;

using Angles = std::vector<double>;  // radians, one for each rotary axis of the machine, in its order

struct Pose {
  Angles angles;
  std::vector<bool> free;  // any angle does: the tool is parallel to this axis (singular)
  std::string key;  // which of the solutions: "only", "first-positive", "first-negative"; whatever it winds
  std::string out_of;     // empty when within all limits; else "A −42.000° is beyond −120…30"
  double travel_rad = 0;  // from the pose before, the larger of the axes'
  double off_rad = 0;     // what is left between the tool and the direction that was asked for
  [[nodiscard]] bool is_singular() const;
};

// All solutions, the preferred one first (within limits before beyond them; then as the machine prefers).
// Windings are chosen for the shortest way from `before` (empty: zero); a free angle stays where it was.
// `towards_tool` is in machine coordinates as the part lies with all angles at zero. Directions of real parts
// are off by 1e-9 to 1e-6: what comes within `within_rad` is taken, and told as `off_rad`. Refuses
// (kGeometry) when no angles do, with the angle that is missing. Where angles are exact, the forward check is
// kept to 1e-9.
Result<std::vector<Pose>> poses_for(const Machine& machine, const gp_Dir& towards_tool,
                                    const Angles& before = {}, double within_rad = kPointing_rad);

// Whether the preferred solution stays within the limits of every axis.
bool reaches(const Machine& machine, const gp_Dir& towards_tool, double within_rad = kPointing_rad);

// "12.500°", "1.1e-07°".
std::string small_angle_text(double rad);

// What the table's angles do to the part, in machine coordinates.
gp_Trsf table_motion(const Machine& machine, const Angles& angles);
// What the head's angles do to the tool.
gp_Trsf head_motion(const Machine& machine, const Angles& angles);

// The direction of the part that lies along the tool at these angles.
gp_Dir towards_tool_at(const Machine& machine, const Angles& angles);

// "A 30.000° C −15.000°"
std::string angles_text(const Machine& machine, const Angles& angles, int decimals = 3);

}  // namespace anvil
