#include "stand-ins/control/control.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>

#include "base/numbers.h"
#include "base/units.h"
#include "geom/coordinate.h"

namespace anvil::control {
namespace {

constexpr size_t kMostLines = 10000;
constexpr double kSlack_rad = 1e-6;

std::string ok(const std::string& text = {}) {
  return text.empty() ? "OK\n" : "OK " + text + "\n";
}
std::string refused(const std::string& why) {
  return "REFUSED " + why + "\n";
}

std::string point_words(const gp_Pnt& p) {
  return fmt::format("X{:.6f} Y{:.6f} Z{:.6f}", p.X() + 0.0, p.Y() + 0.0, p.Z() + 0.0);
}

std::string without_comments(const std::string& block) {
  std::string plain;
  bool inside = false;
  for (const char c : block) {
    if (c == '(') inside = true;
    if (!inside) plain += c;
    if (c == ')') inside = false;
  }
  return plain;
}

// "G10 L2 P1 X1.5" -> {G: 10, L: 2, P: 1, X: 1.5}; false for anything else.
bool words_of(const std::string& block, std::map<char, double>& words) {
  const std::string plain = without_comments(block);
  std::string_view rest(plain);
  const auto skip_blanks = [&] {
    while (!rest.empty() && std::isspace(static_cast<unsigned char>(rest.front()))) rest.remove_prefix(1);
  };
  for (skip_blanks(); !rest.empty(); skip_blanks()) {
    const char letter = rest.front();
    rest.remove_prefix(1);
    skip_blanks();
    const auto value = letter >= 'A' && letter <= 'Z' ? take_number(rest) : std::nullopt;
    if (!value) return false;
    // Several G words may stand in one block; all but G10 only set modes.
    if (letter != 'G' || !words.count('G') || *value == 10) words[letter] = *value;
    if (letter == 'G' && (*value == 20 || *value == 21)) words['u'] = *value;
  }
  return true;
}

}  // namespace

Control::Control(Machine machine, std::unique_ptr<Probe> probe)
    : machine_(std::move(machine)), probe_(std::move(probe)), angles_(machine_.rotary.size(), 0.0) {}

std::string Control::answer(const std::string& word, const std::string& rest) {
  if (word == "HELLO")
    return rest == "true-anvil 1" ? ok("control 1 " + machine_.name)
                                  : refused("only HELLO true-anvil 1 is known");
  if (word == "OFFSET") return tell_offset(rest);
  if (word == "OFFSETS") return tell_all_offsets();
  if (word == "ROTARY") return turn_to(rest, false);
  if (word == "PLANE") return turn_to(rest, true);
  if (word == "WHERE") return where();
  if (word == "PROBE") return touch(rest);
  return refused(word.empty() ? "an empty line" : "the word " + word.substr(0, 20) + " is not known");
}

std::string Conversation::answer(const std::string& raw) {
  std::string line = raw;
  while (!line.empty() && (line.back() == '\r' || line.back() == '\n')) line.pop_back();
  if (awaited_ > 0) {
    program_.push_back(line);
    return --awaited_ == 0 ? control_.take_program(program_) : std::string();
  }
  std::istringstream in(line);
  std::string word, rest;
  in >> word;
  std::getline(in >> std::ws, rest);
  if (word == "PROGRAM") return begin_program(rest);
  if (word != "BYE") return control_.answer(word, rest);
  leaving_ = true;
  return ok();
}

std::string Conversation::begin_program(const std::string& lines) {
  const auto count = whole_number_from(lines);
  program_.clear();
  if (!count || *count < 1 || *count > static_cast<long>(kMostLines))
    return refused(fmt::format("a program of 1 to {} lines is wanted", kMostLines));
  awaited_ = static_cast<size_t>(*count);
  return {};
}

// The table changes when every block was good.
std::string Control::take_program(const std::vector<std::string>& program) {
  std::map<std::string, gp_Pnt> offsets = offsets_;
  double mm = 1;
  for (size_t i = 0; i < program.size(); ++i)
    if (const std::string wrong = take_block(program[i], mm, offsets); !wrong.empty())
      return refused(fmt::format("line {}: {}", i + 1, wrong));
  offsets_ = std::move(offsets);
  return ok(fmt::format("{} lines", program.size()));
}

std::string Control::take_block(const std::string& block, double& mm,
                                std::map<std::string, gp_Pnt>& offsets) const {
  if (block.empty() || block == "%") return {};
  std::map<char, double> words;
  if (!words_of(block, words)) return "cannot be read: " + block.substr(0, 40);
  if (words.empty() || words.count('M')) return {};
  if (words.count('u')) mm = words['u'] == 20 ? 25.4 : 1;
  if (!words.count('G')) return "a G word is wanted";
  if (words['G'] == 20 || words['G'] == 21 || words['G'] == 90) return {};
  if (words['G'] != 10) return fmt::format("G{:g} is not taken by this control", words['G']);
  if (!words.count('P') || (words['L'] != 2 && words['L'] != 20)) return "G10 wants L2 or L20, and P";
  const int number = static_cast<int>(words['P']);
  const bool further = words['L'] == 20;
  if (number != words['P'] || number < 1 || number > (further ? 300 : 6))
    return fmt::format("P{:g} is none of 1 to {}", words['P'], further ? 300 : 6);
  const WorkOffset offset{further ? WorkOffset::Kind::kFurther : WorkOffset::Kind::kFirstSix, number};
  gp_Pnt& at = offsets[work_offset_text(offset)];
  for (const char axis : {'X', 'Y', 'Z'}) {
    if (!words.count(axis)) continue;
    const double value = words[axis] * mm;
    const Travel& travel = machine_.linear_mm.at(std::string(1, axis));
    if (value < travel.from || value > travel.to)
      return fmt::format("{} {} {:.3f} is beyond {:g}...{:g}", work_offset_text(offset), axis, value,
                         travel.from, travel.to);
    set_coordinate(at, axis - 'X', value);
  }
  return {};
}

std::string Control::tell_offset(const std::string& text) const {
  const auto offset = work_offset_from(text);
  if (!offset) return refused(offset.error().sentence);
  const auto at = offsets_.find(work_offset_text(*offset));
  return fmt::format("OFFSET {} {}\n", work_offset_text(*offset),
                     point_words(at == offsets_.end() ? gp_Pnt() : at->second));
}

std::string Control::tell_all_offsets() const {
  std::string text;
  for (const auto& [name, at] : offsets_) text += fmt::format("OFFSET {} {}\n", name, point_words(at));
  return text + "END\n";
}

// "A-30 C90", and for a tool plane its offset in front: "G55 A-30 C90".
std::string Control::turn_to(const std::string& text, bool with_offset) {
  std::istringstream in(text);
  std::string offset_text;
  if (with_offset) {
    in >> offset_text;
    if (offset_text == "G54.1") {
      std::string number;
      in >> number;
      offset_text += " " + number;
    }
    const auto offset = work_offset_from(offset_text);
    if (!offset) return refused(offset.error().sentence);
    offset_text = work_offset_text(*offset);
  }
  Angles next = angles_;
  for (std::string word; in >> word;) {
    const auto axis = std::find_if(machine_.rotary.begin(), machine_.rotary.end(),
                                   [&](const RotaryAxis& a) { return a.name == word.substr(0, 1); });
    const auto degree = number_from(std::string_view(word).substr(1));
    if (axis == machine_.rotary.end() || !degree)
      return refused(word.substr(0, 20) + " is no position of a rotary axis of this machine");
    const double angle = radians(*degree);
    if (axis->limits_rad &&
        (angle < axis->limits_rad->from - kSlack_rad || angle > axis->limits_rad->to + kSlack_rad))
      return refused(fmt::format("{} {:.3f} is beyond {:g}...{:g}", axis->name, *degree,
                                 degrees(axis->limits_rad->from), degrees(axis->limits_rad->to)));
    next[static_cast<size_t>(axis - machine_.rotary.begin())] = angle;
  }
  angles_ = next;
  if (with_offset) active_ = offset_text;
  return where();
}

std::string Control::where() const {
  std::string text = "AT " + active_;
  for (size_t i = 0; i < angles_.size(); ++i)
    text += fmt::format(" {}{:.6f}", machine_.rotary[i].name, degrees(angles_[i]) + 0.0);
  return text + "\n";
}

std::string Control::touch(const std::string& numbers) {
  if (!probe_) return refused("there is no part to touch");
  std::istringstream in(numbers);
  double v[7];
  for (double& n : v) {
    std::string word;
    in >> word;
    const auto number = number_from(word);
    if (!number) return refused("PROBE wants seven numbers: X Y Z I J K and the reach");
    n = *number;
  }
  const gp_XYZ along(v[3], v[4], v[5]);
  if (along.Modulus() < 1e-9 || v[6] <= 0) return refused("PROBE wants a direction, and a reach above zero");
  const auto at = probe_->touch(gp_Pnt(v[0], v[1], v[2]), gp_Dir(along), v[6]);
  return at ? "TOUCH " + point_words(*at) + "\n" : std::string("MISS\n");
}

}  // namespace anvil::control
