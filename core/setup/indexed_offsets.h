// Work offsets for machines that do not track the part themselves: where the zero of every tool plane lies in
// the machine once the rotary axes have turned it there.
//
// Tables: zero' = T(angles) · place · zero, T the turns about the tables' axes where they stand. Heads: the
// tip leaves its place by H(angles) · tip − tip, tip = (0, 0, −gauge) in coordinates whose zero is the
// spindle's gauge point; the linear axes take that back.
#pragma once

#include "setup/setup.h"

namespace anvil {

struct IndexedOffset {
  std::string plane;
  size_t plane_index = 0;  // in the planes of the setup's value
  WorkOffset offset;
  Angles angles;
  gp_Pnt in_setup;      // zero of the plane, work coordinates
  gp_Pnt at_zero;       // in the machine, all angles at zero
  gp_Pnt in_machine;    // in the machine, at these angles: what the offset holds
  double turn_rad = 0;  // from machine X to the plane's X, about the tool
  std::string remark;   // limits that are passed
};

// One for each plane that is reached, with an offset each: the plane's own, else the next free one after the
// setup's. Refuses what is wrong with the offsets as typed, and offsets that are given twice.
Result<std::vector<IndexedOffset>> indexed_offsets(const Machine& machine, const Setup& setup,
                                                   const SetupValue& value, const PlaceInMachine& place);

// What the program leaves unwritten, in a sentence: "G54.1 P12 of Boss A is not written: the machine file
// does not say how it is set."; empty when there is nothing.
std::string unwritten_text(const Machine& machine, const std::vector<IndexedOffset>& offsets);

// RS-274: G10 words as the machine file says, the rotary positions and the arithmetic in comments. Ends with
// M30.
std::string offsets_program(const std::string& setup_name, const Machine& machine,
                            const PlaceInMachine& place, const std::vector<IndexedOffset>& offsets,
                            Unit unit);

}  // namespace anvil
