// Tokens of the text of a STEP file (ISO 10303-21, clause 6).
#pragma once

#include <Interface_ParamType.hxx>
#include <string_view>

namespace anvil {

enum class StepTokenKind {
  kReference,  // #12
  kValue,      // a number, text, enumeration, binary, $ or *
  kName,       // of an entity, a type or a section
  kOpen,
  kClose,
  kComma,
  kSemicolon,
  kEquals,
  kEnd,
  kUnknown,
};

struct StepToken {
  StepTokenKind kind = StepTokenKind::kEnd;
  std::string_view text;
  Interface_ParamType type = Interface_ParamMisc;  // of a value
};

inline bool is_step_digit(char c) {
  return c >= '0' && c <= '9';
}

class StepScanner {
 public:
  explicit StepScanner(std::string_view text) : text_(text) {}

  StepToken next();
  // Past the end of the instance that begins there: the next semicolon that an instance or the end of its
  // section follows.
  void skip_instance(size_t begin);
  // The bytes taken so far.
  [[nodiscard]] size_t taken() const { return at_; }
  // The line in which the last token begins (from 1).
  [[nodiscard]] size_t line() const;
  [[nodiscard]] size_t token_begin() const { return begin_; }

 private:
  void skip_blanks();
  StepToken token(StepTokenKind kind, size_t length, Interface_ParamType type = Interface_ParamMisc);
  StepToken number();
  [[nodiscard]] size_t single_quote(size_t from) const;
  StepToken quoted();
  StepToken enclosed(char end, Interface_ParamType type);
  StepToken name();
  StepToken reference();

  std::string_view text_;
  size_t at_ = 0, begin_ = 0;
};

}  // namespace anvil
