// Errors are values: a Result<T> holds a T or the Refusal that says why there is none.
//
//   Result<Axis> crossing(const Plane& a, const Plane& b);
//   auto axis = crossing(a, b);
//   if (!axis) return refuse(axis);
#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <tl/expected.hpp>

namespace anvil {

// What kind of "no" it is. Choose the first that fits, from top to bottom.
enum class RefusalCode {
  kCancelled,    // the user asked to stop; nothing to say
  kUnreadable,   // the bytes are not what they should be (a file, a message)
  kReaderDied,   // the library that reads them failed on them, or crashed; another way of reading may not
  kNoBody,       // readable, but holds no usable body
  kCannotWrite,  // the destination refuses
  kUnknownName,  // asked for something that is not there
  kBadInput,     // a typed value or argument makes no sense
  kGeometry,     // the inputs do not determine what was asked for
  kAmbiguous,    // several answers fit equally and none may be guessed
  kLimit,        // there was not enough time, memory or room
  kInternal,     // a library failed in a way we did not foresee
};

struct Refusal {
  RefusalCode code = RefusalCode::kInternal;
  std::string sentence;                             // complete, for the user, with the measured fact
  std::map<std::string, double> facts = {};         // the numbers in it; lengths in mm, angles in radians
  std::optional<std::array<double, 3>> place = {};  // where on the part, mm
  std::string instead = {};                         // id of a construction that would work
};

// Whether the same inputs would be refused again. What lacked time, memory, room on the disk or a worker may
// be tried again; it is never kept as a result.
bool is_lasting(RefusalCode code);

// The short name of a code, for logs and JSON.
const char* code_name(RefusalCode code);

template <class T>
class [[nodiscard]] Result : public tl::expected<T, Refusal> {
 public:
  using tl::expected<T, Refusal>::expected;
};

tl::unexpected<Refusal> refuse(RefusalCode code, std::string sentence);
tl::unexpected<Refusal> refuse(Refusal refusal);

// Passes the refusal of a failed result on to a caller of another type.
template <class T>
tl::unexpected<Refusal> refuse(const Result<T>& failed) {
  return tl::unexpected<Refusal>(failed.error());
}

}  // namespace anvil
