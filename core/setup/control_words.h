// What a control is asked (docs/control-protocol.md), with what its answer is compared with
// (control_answers.h).
#pragma once

#include <string>
#include <vector>

#include "setup/control_answers.h"
#include "setup/indexed_offsets.h"

namespace anvil {

struct RotaryCommand {
  std::string words;                 // "PLANE G55 A-30.000000 C90.000000"
  std::vector<RotaryPosition> sent;  // for check_position()
};

// To stand at a tool plane: its offset, and the angles on the machine's rotary axes.
RotaryCommand plane_command(const Machine& machine, const IndexedOffset& plane);
// All rotary axes to zero.
RotaryCommand home_command(const Machine& machine);
// One touch: from where, along which way, how far.
std::string probe_words(const ProbeMove& move);

}  // namespace anvil
