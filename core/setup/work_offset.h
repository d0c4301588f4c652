// Work offsets: where the control keeps where a work coordinate system lies.
#pragma once

#include <optional>
#include <string>

#include "base/refusal.h"

namespace anvil {

// G54…G59 (first six), G54.1 P1…P300 (further ones), or a plain number, for controls that count their zeros.
struct WorkOffset {
  enum class Kind { kFirstSix, kFurther, kPlain } kind = Kind::kFirstSix;
  int number = 1;  // from 1: G54 is the first of six
  bool operator==(const WorkOffset&) const = default;
};

// "G54", "g54.1 p12", "7"; blanks and case do not matter. Refuses (kBadInput) others, with what is possible.
Result<WorkOffset> work_offset_from(const std::string& text);
std::string work_offset_text(const WorkOffset& offset);  // "G54", "G54.1 P12", "7"

// How a control is told offsets beyond G59. G10 L20 P1 sets G54.1 P1 to the numbers in some controls, and in
// others makes them the coordinates of where the machine stands: so nothing is written unless the machine
// file says what to.
enum class FurtherOffsets {
  kUnwritten,    // told in comments only
  kG10L20,       // G54.1 P1 is G10 L20 P1
  kG10L2OnFrom7  // G54.1 P1 is G10 L2 P7
};
const char* further_offsets_name(
    FurtherOffsets how);  // in machine files: "unwritten", "G10 L20", "G10 L2 from P7"
std::optional<FurtherOffsets> further_offsets_from(const std::string& name);

// The words that write it: "G10 L2 P1" (RS-274; plain numbers are written as L2). Nothing where the machine's
// file does not say how.
std::optional<std::string> work_offset_write(const WorkOffset& offset, FurtherOffsets further);

// Whether both are written to one place: G54 and 1, and G54.1 P1 and 7 where further ones go on from 7.
bool same_offset(const WorkOffset& a, const WorkOffset& b,
                 FurtherOffsets further = FurtherOffsets::kUnwritten);

// The one after it, of its kind; the last of six is followed by G54.1 P1. Nothing after the last.
std::optional<WorkOffset> next_work_offset(const WorkOffset& offset);

}  // namespace anvil
