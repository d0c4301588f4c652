// A tool plane told in the neutral forms other programs and controls take. Coordinates are read in the work
// coordinate system.
#pragma once

#include "setup/indexed_offsets.h"

namespace anvil {

// Euler angles in radians. Z-X′-Z″: about Z, then the new X, then the new Z. Fixed X-Y-Z: about X, then Y,
// then Z, each as it stood at first. Where the first and the last coincide, the last is zero.
struct EulerAngles {
  double zxz[3] = {};
  double fixed_xyz[3] = {};
};
EulerAngles euler_angles(const gp_Ax2& frame);

enum class OrientationForm { kMatrix, kVectors, kRotary, kOffset, kJson };
struct NamedForm {
  const char* id;    // "matrix"
  const char* name;  // "4×4 matrix"
  OrientationForm form;
};
const std::vector<NamedForm>& orientation_forms();

// The line that says whose text follows, as the form takes it: a comment of a program, or "# name".
std::string orientation_heading(OrientationForm form, const std::string& plane_name);
// Refuses what the form needs and the plane lacks: rotary words without a machine.
Result<std::string> orientation_text(OrientationForm form, const PlaneValue& plane, const Machine* machine,
                                     const IndexedOffset* offset, const Display& display);

}  // namespace anvil
