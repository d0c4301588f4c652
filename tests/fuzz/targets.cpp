#include "fuzz/targets.h"

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

#include "base/expression.h"
#include "base/file.h"
#include "inspect/cutters.h"
#include "inspect/hole_comparison.h"
#include "job/names.h"
#include "setup/control_answers.h"
#include "setup/machine.h"
#include "setup/shipped_machines.h"
#include "stand-ins/control/control.h"
#include "store/container.h"
#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil::test {
namespace {

// A sentence for the user: there, in one line, and not the input itself.
std::string wrong_with(const Refusal& refusal) {
  constexpr size_t kLongest = 1500;
  if (refusal.sentence.empty()) return "no sentence";
  if (refusal.sentence.find('\n') != std::string::npos) return "more than one line";
  return refusal.sentence.size() > kLongest ? "a sentence as long as a page" : std::string();
}

template <class T>
std::string told(const Result<T>& result) {
  return result ? std::string() : wrong_with(result.error());
}

// The same but for the last digits of numbers: directions are made one long again when they are read.
bool same_json(const nlohmann::json& a, const nlohmann::json& b) {
  if (a.is_number() && b.is_number())
    return std::abs(a.get<double>() - b.get<double>()) <= 1e-9 * std::max(1.0, std::abs(a.get<double>()));
  if (a.type() != b.type() || a.size() != b.size()) return false;
  if (!a.is_structured()) return a == b;
  return std::equal(a.items().begin(), a.items().end(), b.items().begin(), [](const auto& x, const auto& y) {
    return x.key() == y.key() && same_json(x.value(), y.value());
  });
}

bool same_text(const std::string& a, const std::string& b) {
  return same_json(nlohmann::json::parse(a), nlohmann::json::parse(b));
}

std::string read_expression(const std::string& bytes) {
  const Names names{{"P1.x", 3.0}, {"Plane2.angle", Named(30, Named::Kind::kAngle)}};
  const auto length = evaluate_length(bytes, Unit::kInch, names);
  const ParameterTexts texts{{"distance", bytes}};
  for (const std::string& word : words_in(texts))
    if (word.empty() || word_of(word) != word) return "\"" + word + "\" is no word";
  if (with_word(with_word(bytes, "P1", "Qqqq1"), "Qqqq1", "P1") != bytes &&
      bytes.find("Qqqq1") == std::string::npos)
    return "a word exchanged there and back is another text";
  if (length && !std::isfinite(*length)) return "not finite";
  const std::string first = told(length);
  return first.empty() ? told(evaluate_angle(bytes, names)) : first;
}

std::string read_machine_file(const std::string& bytes) {
  const auto machine = machine_from_json(bytes, "fuzzed");
  if (!machine) return wrong_with(machine.error());
  const auto again = machine_from_json(machine_to_json(*machine), "fuzzed");
  return again && same_text(machine_to_json(*again), machine_to_json(*machine))
             ? ""
             : "what was read is not read again";
}

std::string read_hole_list(const std::string& bytes) {
  return told(parse_hole_list(bytes));
}

std::string read_cutter_list(const std::string& bytes) {
  const auto cutters = read_cutters(bytes);
  if (!cutters) return wrong_with(cutters.error());
  const auto again = read_cutters(cutters_csv(*cutters, Unit::kMillimetre));
  if (!again) return "what was read does not read again: " + again.error().sentence;
  return again->size() == cutters->size() ? "" : "what was read is another list the second time";
}

// Line by line, to a control that goes on answering.
std::string read_control_lines(const std::string& bytes) {
  static const std::vector<Machine> machines = shipped_machines();
  control::Control machine(machines.front());
  control::Conversation said(machine), other(machine);
  std::istringstream in(bytes);
  for (std::string line; std::getline(in, line);) {
    const std::string answer = said.answer(line);
    if (!answer.empty() && answer.back() != '\n') return "an answer without an end";
  }
  const std::string after = other.answer("OFFSET G54");
  return offset_in_answer(after.substr(0, after.size() - 1), *work_offset_from("G54")) ? ""
                                                                                       : "it answers no more";
}

std::string read_answer(const std::string& bytes) {
  const std::string line = bytes.substr(0, bytes.find('\n'));
  const auto offset = offset_in_answer(line, *work_offset_from("G54"));
  if (offset && !(offset->Distance(gp_Pnt()) < 1e6)) return "an offset out of the world";
  const ProbeMove move{gp_Pnt(10, 0, 5), gp_Dir(1, 0, 0), 10, gp_Pnt(15, 0, 5), 3};
  const auto touch = touch_in_answer(line, move);
  if (touch && *touch && (*touch)->Distance(move.start) > move.reach_mm + 1) return "a touch off the line";
  const std::string first = told(offset);
  return first.empty() ? told(check_position(line, std::nullopt, {{"A", 0}})) : first;
}

const JobFixture& fixture() {
  static const JobFixture f = [] {
    JobFixture made;
    made.offset_from(made.midway(), "Plane1.x + 3");
    made.setup_on_top();
    made.face_down();
    return made;
  }();
  return f;
}

// What opens is computed, told again and opened again as the same.
std::string open_job(const std::string& text, const JobLoader& loader) {
  const auto job = job_from_json(text, loader);
  if (!job) return wrong_with(job.error());
  const Evaluation evaluation = evaluate(*job);
  for (const auto& [id, evaluated] : evaluation.entries)
    if (evaluated.state == EntryState::kRefused && evaluated.reason.empty())
      return "an entry without a reason";
  const std::string once = job_to_json(*job);
  const auto again = job_from_json(once, loader);
  if (!again) return "what opened does not open again: " + again.error().sentence;
  return same_text(job_to_json(*again), once) ? "" : "what opened is another job the second time";
}

std::string read_job_text(const std::string& bytes) {
  return open_job(bytes, {[](const std::string&, double scale) {
                    return SourceFile{fixture().part, std::make_shared<const std::string>("source"), scale};
                  }});
}

std::string read_job_archive(const std::string& bytes) {
  static const TemporaryFolder folder;
  const auto path = folder.path() / "job.anvil";
  std::ofstream(path, std::ios::binary) << bytes;
  const auto container = Container::open(path);
  if (!container) return wrong_with(container.error());
  const auto text = (*container)->read("job.json");
  if (!text) return wrong_with(text.error());
  return open_job(*text, {[&](const std::string& inside, double scale) -> Result<SourceFile> {
    auto source = (*container)->read(inside);
    if (!source) return refuse(source);
    return SourceFile{fixture().part, std::make_shared<const std::string>(*source), scale};
  }});
}

std::string good_archive() {
  const std::string text = job_to_json(fixture().job), source = "source";
  return zip_of({{"job.json", &text},
                 {source_path(fixture().job.first_part()->part()->sources.front()), &source}})
      .value_or("");
}

}  // namespace

const std::vector<FuzzTarget>& fuzz_targets() {
  static const std::vector<FuzzTarget> targets{
      {"expression", read_expression, {"P1.x", "1/4in", "sin(", "^", "1,5", "°", "\"", "-1/2"}, {}},
      {"machine", read_machine_file, {"\"axis\":", "1e300", "null", "[", "{", "\"endless\": true,"}, {}},
      {"hole-list", read_hole_list, {",", "\"", "\n", "# ", "Ø", "inch", "1e300"}, {}},
      {"cutter-list",
       read_cutter_list,
       {",", ";", "\"", "\n", "diameter", "reach [inch]", "{\"unit\":", "\"cutters\": [", "1e300", "-1"},
       {}},
      {"control", read_control_lines, {"PROGRAM 3\n", "G10 L2 P1 X", "PROBE ", "BYE\n", "\r"}, {}},
      {"answer", read_answer, {"OFFSET G54 ", "X1", "TOUCH ", "AT ", "1e999", "nan"}, {}},
      {"job-json",
       read_job_text,
       {"null", "[{}]", "-1", "1e300", "\"entry\": 2", "\"suppressed\": true,", "\"where\": [0,0,0],"},
       {job_to_json(fixture().job)}},
      {"job-archive", read_job_archive, {"PK\x03\x04", "PK\x01\x02", "job.json"}, {good_archive()}}};
  return targets;
}

}  // namespace anvil::test
