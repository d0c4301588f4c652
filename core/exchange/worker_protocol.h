// `true-anvil-import serve` takes its arguments on standard input, each ended by a zero byte (a file name may
// hold any other), until the input ends.
// What it says on its standard output, one JSON object a line:
//   {"phase":"reading","share":0.05}      where it is
//   {"refusal":"…","code":"unreadable"}   it cannot; it ends after this
//   {"picture":true}                      the part as it came lies in FOLDER/first, ready to be shown
//   {"no_memory":true}                    a request for memory could not be met: whatever follows, that is
//   why
//   {"done":true,"changed":true}          the result lies where it was asked for
//   {"done":true}                         the result lies where it was asked for
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/refusal.h"

namespace anvil {

struct WorkerMessage {
  std::string phase;
  double share = -1;
  std::optional<Refusal> refusal;
  bool done = false;
  bool no_memory = false;
  bool picture = false;
  bool changed = false;  // with done: the part in FOLDER/last differs from the one in FOLDER/first
};

// As encode() would write it, for where there is no memory to write it in.
inline constexpr std::string_view kNoMemoryLine = "{\"no_memory\":true}\n";

std::string encode(const WorkerMessage& message);  // without the newline
std::string encode_order(const std::vector<std::string>& arguments);
std::vector<std::string> decode_order(const std::string& order);
std::optional<WorkerMessage> decode(const std::string& line);  // nothing for noise from libraries

}  // namespace anvil
