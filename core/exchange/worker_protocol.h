// What `true-anvil-import` says on its standard output, one JSON object a line:
//   {"phase":"reading","share":0.05}      where it is
//   {"refusal":"…","code":"unreadable"}   it cannot; it ends after this
//   {"done":true}                         the result lies where it was asked for
#pragma once

#include <optional>
#include <string>

#include "base/refusal.h"

namespace anvil {

struct WorkerMessage {
  std::string phase;
  double share = -1;
  std::optional<Refusal> refusal;
  bool done = false;
};

std::string encode(const WorkerMessage& message);              // without the newline
std::optional<WorkerMessage> decode(const std::string& line);  // nothing for noise from libraries

}  // namespace anvil
