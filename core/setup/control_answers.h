// What a control answers (docs/control-protocol.md), read as a stranger's text and compared with what was
// asked: whatever does not follow the protocol, or answers another question, is refused (kUnreadable) with
// what was said.
#pragma once

#include <gp_Pnt.hxx>
#include <optional>
#include <string_view>

#include "setup/machine.h"
#include "setup/probing.h"
#include "setup/work_offset.h"

namespace anvil {

// To "PROGRAM n …": "OK n lines".
Result<void> check_program_taken(std::string_view line, size_t lines);

// To "OFFSET G55": "OFFSET G55 X1.5 Y2 Z-3" -> (1.5, 2, -3), mm, of that offset and no other.
Result<gp_Pnt> offset_in_answer(std::string_view line, const WorkOffset& asked);

// To "ROTARY A0 C0" (without an offset) and "PLANE G55 A-30 C90": "AT G55 A-30 C90", every axis within a
// thousandth of a degree of where it was sent, whole turns aside.
struct RotaryPosition {
  std::string axis;  // "A"
  double angle_rad = 0;
};
Result<void> check_position(std::string_view line, const std::optional<WorkOffset>& offset,
                            const std::vector<RotaryPosition>& sent);

// To "PROBE …": the place of the touch, which lies on the probed line (within kProbeStray_mm beside it, and
// neither behind its start nor beyond its reach), or nothing for "MISS".
inline constexpr double kProbeStray_mm = 0.05;
Result<std::optional<gp_Pnt>> touch_in_answer(std::string_view line, const ProbeMove& asked);

}  // namespace anvil
