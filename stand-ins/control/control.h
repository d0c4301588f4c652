// A simulated machine control: an offset table, rotary axes with limits, and a probe that touches a part. It
// answers lines; docs/control-protocol.md lists them. Knows nothing of networks.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "setup/kinematics.h"
#include "setup/work_offset.h"
#include "stand-ins/control/probe.h"

namespace anvil::control {

// The control itself: its table and where its axes stand. Several may talk to it at once.
class Control {
 public:
  explicit Control(Machine machine, std::unique_ptr<Probe> probe = nullptr);

  // What is said back to one whole line: lines with their ends.
  std::string answer(const std::string& word, const std::string& rest);
  // All of it or none.
  std::string take_program(const std::vector<std::string>& program);

 private:
  std::string take_block(const std::string& block, double& mm, std::map<std::string, gp_Pnt>& offsets) const;
  [[nodiscard]] std::string tell_offset(const std::string& text) const;
  [[nodiscard]] std::string tell_all_offsets() const;
  std::string turn_to(const std::string& words, bool with_offset);
  [[nodiscard]] std::string where() const;
  std::string touch(const std::string& numbers);

  Machine machine_;
  std::unique_ptr<Probe> probe_;
  std::map<std::string, gp_Pnt> offsets_;  // by work_offset_text()
  Angles angles_;
  std::string active_ = "G54";
};

// What one of those who talk to it has said so far.
class Conversation {
 public:
  explicit Conversation(Control& control) : control_(control) {}

  // What is said back: lines with their ends; nothing while a program is being received.
  std::string answer(const std::string& line);
  [[nodiscard]] bool is_leaving() const { return leaving_; }  // BYE was said

 private:
  std::string begin_program(const std::string& lines);

  Control& control_;
  std::vector<std::string> program_;
  size_t awaited_ = 0;
  bool leaving_ = false;
};

}  // namespace anvil::control
