// The text of a program for a control (RS-274, ISO 6983-1). Comments and blocks go separate ways, so that
// nothing that is told can become a block.
//
//   ProgramText program;
//   program.comment("plane ", plane.name);        // (PLANE BORE SIDE)
//   program.block("G0", {{"A", "-90.000"}});       // G0
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace anvil {

class ProgramText {
 public:
  // Begins with `what`, never with what is told: some controls take the first word of a comment for an order
  // (MSG, PROBEOPEN). Capital printable ASCII without brackets, at most 200 letters; signs are spelled.
  void comment(const char* what, std::string_view told = {});
  // `code` is ours; each word is an address and a number as it is to stand.
  void block(const std::string& code, const std::vector<std::pair<std::string, std::string>>& words = {});
  // "%", where a program begins and ends.
  void mark() { written_ += "%\n"; }

  [[nodiscard]] const std::string& written() const { return written_; }

 private:
  std::string written_;
};

}  // namespace anvil
