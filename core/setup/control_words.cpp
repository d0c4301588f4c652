#include "setup/control_words.h"

#include <fmt/format.h>

#include "geom/primitives.h"

namespace anvil {

RotaryCommand plane_command(const Machine& machine, const IndexedOffset& plane) {
  RotaryCommand command{"PLANE " + work_offset_text(plane.offset), {}};
  for (size_t i = 0; i < plane.angles.size(); ++i) {
    command.sent.push_back({machine.rotary[i].name, plane.angles[i]});
    // + 0.0: no minus before a zero.
    command.words += fmt::format(" {}{:.6f}", command.sent.back().axis, degrees(plane.angles[i]) + 0.0);
  }
  return command;
}

RotaryCommand home_command(const Machine& machine) {
  RotaryCommand command{"ROTARY", {}};
  for (const RotaryAxis& axis : machine.rotary) {
    command.words += " " + axis.name + "0";
    command.sent.push_back({axis.name, 0});
  }
  return command;
}

std::string probe_words(const ProbeMove& move) {
  return fmt::format("PROBE {:.6f} {:.6f} {:.6f} {:.9f} {:.9f} {:.9f} {:.6f}", move.start.X(), move.start.Y(),
                     move.start.Z(), move.along.X(), move.along.Y(), move.along.Z(), move.reach_mm);
}

}  // namespace anvil
