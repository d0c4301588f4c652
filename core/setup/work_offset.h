// Work offsets: where the control keeps where a work coordinate system lies.
#pragma once

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

// The words that write it: "G10 L2 P1" or "G10 L20 P12" (RS-274; plain numbers are written as L2).
std::string work_offset_write(const WorkOffset& offset);

// The one after it, of its kind; the last of six is followed by G54.1 P1.
WorkOffset next_work_offset(const WorkOffset& offset);

}  // namespace anvil
