#include "exchange/step_text.h"

#include <fmt/format.h>

#include <StepData_StepReaderData.hxx>
#include <StepData_StepReaderTool.hxx>
#include <algorithm>
#include <deque>
#include <vector>

#include "exchange/step_scanner.h"

namespace anvil {
namespace {

// What the kernel calls a list inside another.
constexpr const char* kListInside = "/* (SUB) */";

struct Argument {
  std::string_view text;
  Interface_ParamType type;
  int list = 0;  // number of a list inside, when `type` says so
};

// Where finished records go: counted in a first pass, because the kernel wants to know beforehand how many
// come, and handed over in a second.
class Records {
 public:
  int headers = 0, records = 0, arguments = 0;
  Handle(StepData_StepReaderData) target;

  void add(std::string_view ident, std::string_view type, const Argument* first, size_t count) {
    ++records;
    arguments += static_cast<int>(count);
    if (target.IsNull()) return;
    ident_.assign(ident);
    type_.assign(type);
    target->SetRecord(records, ident_.c_str(), type_.c_str(), static_cast<int>(count));
    for (size_t i = 0; i < count; ++i) {
      const bool is_list = first[i].type == Interface_ParamSub;
      target->AddStepParam(records, is_list ? list_name(first[i].list) : ended(first[i].text), first[i].type);
    }
    target->InitParams(records);
  }

  // The target keeps pointers to names and values.
  const char* list_name(int list) {
    while (static_cast<int>(list_names_.size()) <= list)
      list_names_.push_back("$" + fmt::format("{}", list_names_.size()));
    return list_names_[static_cast<size_t>(list)].c_str();
  }

 private:
  // What follows a value has been read by the time its record is complete.
  static const char* ended(std::string_view value) {
    char* const first = const_cast<char*>(value.data());
    first[value.size()] = '\0';
    return first;
  }

  std::string ident_, type_;
  std::deque<std::string> list_names_;
};

// What the counting pass found out of instances that are broken.
struct Broken {
  std::vector<size_t> begins;  // in order
  size_t first_line = 0;
};

// One pass over the text. The kernel wants the lists inside an instance before the instance, numbered in the
// order in which they open.
class Pass {
 public:
  Pass(std::string_view text, Records& records, Broken& broken, const Progress& progress)
      : text_(text), scanner_(text), records_(records), broken_(broken), progress_(progress) {}

  [[nodiscard]] bool run() {
    advance();
    if (!skip_to_semicolon() || !header()) return false;
    records_.headers = records_.records;
    bool has_data = false;
    while (is(StepTokenKind::kName) && token_.text != "END") {
      const bool is_data = token_.text == "DATA";
      if (!skip_to_semicolon()) return false;
      if (is_data ? !data() : !skip_section()) return false;
      has_data = has_data || is_data;
    }
    return has_data;
  }

  [[nodiscard]] size_t line() const { return scanner_.line(); }

 private:
  struct Open {
    std::string_view type;
    size_t first;
    int list;
  };

  void advance() { token_ = scanner_.next(); }
  [[nodiscard]] bool is(StepTokenKind kind) const { return token_.kind == kind; }
  [[nodiscard]] bool take(StepTokenKind kind) {
    if (!is(kind)) return false;
    advance();
    return true;
  }
  [[nodiscard]] bool take_name(std::string_view name) {
    if (!is(StepTokenKind::kName) || token_.text != name) return false;
    advance();
    return true;
  }

  bool skip_to_semicolon() {
    while (!is(StepTokenKind::kSemicolon) && !is(StepTokenKind::kEnd)) advance();
    return take(StepTokenKind::kSemicolon);
  }

  bool section_goes_on() const {
    return !is(StepTokenKind::kEnd) && !(is(StepTokenKind::kName) && token_.text == "ENDSEC");
  }

  bool section_end() {
    advance();
    return take(StepTokenKind::kSemicolon);
  }

  bool skip_section() {
    while (section_goes_on()) advance();
    return section_end();
  }

  bool header() {
    if (!take_name("HEADER") || !take(StepTokenKind::kSemicolon)) return false;
    while (section_goes_on())
      if (!simple("#0") || !take(StepTokenKind::kSemicolon)) return false;
    return section_end();
  }

  bool data() {
    while (section_goes_on()) {
      const size_t begin = scanner_.token_begin();
      const int records = records_.records, arguments = records_.arguments;
      if (is_known_broken(begin)) {
        skip_instance(begin);
      } else if (!instance()) {
        if (broken_.begins.empty()) broken_.first_line = scanner_.line();
        broken_.begins.push_back(begin);
        records_.records = records;
        records_.arguments = arguments;
        skip_instance(begin);
      }
    }
    return section_end();
  }

  bool is_known_broken(size_t begin) {
    if (next_broken_ >= broken_.begins.size() || broken_.begins[next_broken_] != begin) return false;
    ++next_broken_;
    return true;
  }

  void skip_instance(size_t begin) {
    scanner_.skip_instance(begin);
    advance();
  }

  bool instance() {
    if (!is(StepTokenKind::kReference)) return false;
    const std::string_view ident = token_.text;
    advance();
    tell_progress();
    if (!take(StepTokenKind::kEquals)) return false;
    const bool whole = is(StepTokenKind::kOpen) ? complex(ident) : simple(ident);
    return whole && take(StepTokenKind::kSemicolon);
  }

  // (A(…) B(…)): every part but the first comes without a number.
  bool complex(std::string_view ident) {
    advance();
    if (!simple(ident)) return false;
    while (!is(StepTokenKind::kClose))
      if (!simple("#0")) return false;
    return take(StepTokenKind::kClose);
  }

  bool simple(std::string_view ident) {
    if (!is(StepTokenKind::kName)) return false;
    open_.assign(1, {token_.text, 0, 0});
    arguments_.clear();
    lists_ = 0;
    advance();
    if (!take(StepTokenKind::kOpen)) return false;
    bool value_may_come = true;
    while (!open_.empty())
      if (!argument(ident, value_may_come)) return false;
    return true;
  }

  // The next piece of the innermost list.
  bool argument(std::string_view ident, bool& value_may_come) {
    if (is(StepTokenKind::kClose)) {
      if (value_may_come && arguments_.size() > open_.back().first) return false;  // "(1,)"
      close(ident);
      value_may_come = false;
      advance();
      return true;
    }
    if (!value_may_come) {
      value_may_come = true;
      return take(StepTokenKind::kComma);
    }
    std::string_view type = kListInside;
    if (is(StepTokenKind::kName)) {
      type = token_.text;
      advance();
      if (!is(StepTokenKind::kOpen)) return false;
    }
    if (is(StepTokenKind::kOpen)) {
      open_.push_back({type, arguments_.size(), ++lists_});
    } else {
      if (!is(StepTokenKind::kValue) && !is(StepTokenKind::kReference)) return false;
      arguments_.push_back({token_.text, is(StepTokenKind::kReference) ? Interface_ParamIdent : token_.type});
      value_may_come = false;
    }
    advance();
    return true;
  }

  void close(std::string_view ident) {
    const Open list = open_.back();
    open_.pop_back();
    const bool outermost = open_.empty();
    records_.add(outermost ? ident : records_.list_name(list.list), list.type, arguments_.data() + list.first,
                 arguments_.size() - list.first);
    arguments_.resize(list.first, {});
    if (!outermost) arguments_.push_back({{}, Interface_ParamSub, list.list});
  }

  void tell_progress() {
    constexpr size_t kStep = 1 << 22;
    constexpr double kFirst = 0.05, kShare = 0.2;
    if (records_.target.IsNull() || scanner_.taken() < told_ + kStep) return;
    told_ = scanner_.taken();
    progress_.say("reading",
                  kFirst + kShare * static_cast<double>(told_) / static_cast<double>(text_.size()));
  }

  std::string_view text_;
  StepScanner scanner_;
  Records& records_;
  Broken& broken_;
  size_t next_broken_ = 0;
  const Progress& progress_;
  StepToken token_;
  std::vector<Open> open_;
  std::vector<Argument> arguments_;  // of all open lists, innermost last
  int lists_ = 0;
  size_t told_ = 0;
};

}  // namespace

Result<StepText> load_step_text(std::string& text, const Handle(StepData_Protocol) & protocol,
                                const Progress& progress) {
  std::replace(text.begin(), text.end(), '\0', ' ');
  Records records;
  Broken broken;
  Pass counting(text, records, broken, progress);
  if (!counting.run())
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("line {} does not follow the format", counting.line()));
  Handle(StepData_StepModel) model = new StepData_StepModel;
  records.target = new StepData_StepReaderData(records.headers, records.records, records.arguments,
                                               model->SourceCodePage());
  records.headers = records.records = records.arguments = 0;
  static_cast<void>(Pass(text, records, broken, progress).run());  // it has run before
  StepData_StepReaderTool tool(records.target, protocol);
  tool.SetErrorHandle(true);
  tool.PrepareHeader({});
  tool.Prepare({});
  tool.LoadModel(model);
  if (model->Protocol().IsNull()) model->SetProtocol(protocol);
  tool.Clear();
  return StepText{model, broken.begins.size(), broken.first_line};
}

}  // namespace anvil
