#include "exchange/step_scanner.h"

#include <algorithm>

namespace anvil {
namespace {

bool is_name_start(char c) {
  return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || c == '_' || c == '!';
}
constexpr const char* kBlanks = " \n\r\t";

bool is_blank(char c) {
  return c == ' ' || c == '\n' || c == '\r' || c == '\t';
}

}  // namespace

size_t StepScanner::line() const {
  return 1 + static_cast<size_t>(std::count(text_.begin(), text_.begin() + static_cast<long>(begin_), '\n'));
}

void StepScanner::skip_blanks() {
  while (at_ < text_.size()) {
    if (is_blank(text_[at_])) {
      ++at_;
    } else if (text_.compare(at_, 2, "/*") == 0) {
      const size_t end = text_.find("*/", at_ + 2);
      at_ = end == std::string_view::npos ? text_.size() : end + 2;
    } else {
      return;
    }
  }
}

StepToken StepScanner::token(StepTokenKind kind, size_t length, Interface_ParamType type) {
  const StepToken found{kind, text_.substr(at_, length), type};
  at_ += length;
  return found;
}

StepToken StepScanner::number() {
  size_t end = at_;
  const auto at_end = [&](std::string_view any_of) {
    return end < text_.size() && any_of.find(text_[end]) != std::string_view::npos;
  };
  const auto digits = [&] {
    const size_t first = end;
    while (end < text_.size() && is_step_digit(text_[end])) ++end;
    return end > first;
  };
  if (at_end("+-")) ++end;
  bool whole = digits();
  const bool real = at_end(".");
  if (real) whole = (++end, digits()) || whole;
  const bool exponent = real && at_end("Ee");
  if (exponent) {
    ++end;
    if (at_end("+-")) ++end;
    whole = digits() && whole;
  }
  if (!whole) return token(StepTokenKind::kUnknown, end - at_);
  return token(StepTokenKind::kValue, end - at_, real ? Interface_ParamReal : Interface_ParamInteger);
}

// The next quote that is not one of two in a row, which stand for one in the text.
size_t StepScanner::single_quote(size_t from) const {
  while ((from = text_.find('\'', from)) != std::string_view::npos) {
    if (from + 1 == text_.size() || text_[from + 1] != '\'') return from;
    from += 2;
  }
  return from;
}

// A comma, a closing parenthesis or a comment follows a text. Some exporters forget to double a quote inside
// one; then it ends at a later quote of the same line.
StepToken StepScanner::quoted() {
  const size_t first = single_quote(at_ + 1);
  if (first == std::string_view::npos) return token(StepTokenKind::kUnknown, text_.size() - at_);
  const size_t line_end = text_.find('\n', first);
  for (size_t end = first; end < line_end; end = single_quote(end + 1)) {
    const size_t after = text_.find_first_not_of(kBlanks, end + 1);
    if (after == std::string_view::npos) break;
    if (text_[after] == ',' || text_[after] == ')' || text_.compare(after, 2, "/*") == 0)
      return token(StepTokenKind::kValue, end + 1 - at_, Interface_ParamText);
  }
  return token(StepTokenKind::kValue, first + 1 - at_, Interface_ParamText);
}

StepToken StepScanner::enclosed(char end, Interface_ParamType type) {
  size_t last = at_ + 1;
  while (last < text_.size() && (is_name_start(text_[last]) || is_step_digit(text_[last]))) ++last;
  if (last == at_ + 1 || last == text_.size() || text_[last] != end) return token(StepTokenKind::kUnknown, 1);
  return token(StepTokenKind::kValue, last + 1 - at_, type);
}

StepToken StepScanner::name() {
  size_t end = at_ + 1;
  while (end < text_.size() && (is_name_start(text_[end]) || is_step_digit(text_[end]))) ++end;
  return token(StepTokenKind::kName, end - at_);
}

StepToken StepScanner::reference() {
  size_t end = at_ + 1;
  while (end < text_.size() && is_step_digit(text_[end])) ++end;
  constexpr size_t kLongest = 10;  // "#" and nine digits fit the kernel's numbers
  const size_t length = end - at_;
  return token(length == 1 || length > kLongest ? StepTokenKind::kUnknown : StepTokenKind::kReference,
               length);
}

void StepScanner::skip_instance(size_t begin) {
  for (at_ = begin; (at_ = text_.find(';', at_)) != std::string_view::npos;) {
    const size_t after = text_.find_first_not_of(kBlanks, ++at_);
    if (after == std::string_view::npos || text_[after] == '#' || text_.compare(after, 6, "ENDSEC") == 0)
      return;
  }
  at_ = text_.size();
}

StepToken StepScanner::next() {
  skip_blanks();
  begin_ = at_;
  if (at_ >= text_.size()) return {};
  const char c = text_[at_];
  switch (c) {
    case '(':
      return token(StepTokenKind::kOpen, 1);
    case ')':
      return token(StepTokenKind::kClose, 1);
    case ',':
      return token(StepTokenKind::kComma, 1);
    case ';':
      return token(StepTokenKind::kSemicolon, 1);
    case '=':
      return token(StepTokenKind::kEquals, 1);
    case '$':
      return token(StepTokenKind::kValue, 1, Interface_ParamVoid);
    case '*':
      return token(StepTokenKind::kValue, 1, Interface_ParamMisc);
    case '#':
      return reference();
    case '\'':
      return quoted();
    case '"':
      return enclosed('"', Interface_ParamHexa);
    default:
      break;
  }
  if (c == '.' && at_ + 1 < text_.size() && is_name_start(text_[at_ + 1]))
    return enclosed('.', Interface_ParamEnum);
  if (is_step_digit(c) || c == '+' || c == '-' || c == '.') return number();
  return is_name_start(c) ? name() : token(StepTokenKind::kUnknown, 1);
}

}  // namespace anvil
