#include "base/expression_text.h"

#include <fmt/format.h>

#include <optional>
#include <string_view>
#include <vector>

#include "base/expression.h"
#include "base/numbers.h"
#include "base/quoted.h"

namespace anvil {
namespace {

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}
bool is_blank(char c) {
  return c == ' ' || c == '\t';
}
bool starts_word(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
}
bool in_word(char c) {
  return starts_word(c) || is_digit(c) || c == '.';
}

class Translator {
 public:
  Translator(const std::string& typed, const UnitFactors& units)
      : typed_(typed), rest_(typed), units_(units) {}

  Result<std::string> run() {
    while (!rest_.empty()) {
      const char c = rest_.front();
      if (is_digit(c) || c == '.') {
        if (auto taken = take_number_group(); !taken) return refuse(taken);
      } else if (starts_word(c)) {
        take_word();
      } else if (auto taken = take_sign(); !taken) {
        return refuse(taken);
      }
    }
    return std::move(out_);
  }

 private:
  [[nodiscard]] tl::unexpected<Refusal> not_understood(std::string_view what) const {
    return refuse(RefusalCode::kBadInput,
                  fmt::format("{} in {} is not understood", in_quotes(what), in_quotes(typed_)));
  }

  static std::string_view after_blanks(std::string_view text) {
    while (!text.empty() && is_blank(text.front())) text.remove_prefix(1);
    return text;
  }

  // The factor of the unit the text begins with, which is cut off from it with the blanks before it.
  [[nodiscard]] std::optional<double> take_unit(std::string_view& text) const {
    const std::string_view from = after_blanks(text);
    for (const auto& [word, factor] : units_) {
      if (from.substr(0, word.size()) != word) continue;
      const std::string_view behind = from.substr(word.size());
      if (starts_word(word.back()) && !behind.empty() && in_word(behind.front())) continue;
      text = behind;
      return factor;
    }
    return std::nullopt;
  }

  static std::string_view digits_at(std::string_view text) {
    size_t count = 0;
    while (count < text.size() && is_digit(text[count])) ++count;
    return text.substr(0, count);
  }

  // Digits with at most one decimal sign and an exponent, as text with a point.
  Result<std::string> take_literal(std::string_view& text) const {
    std::string literal(digits_at(text));
    text.remove_prefix(literal.size());
    if (!text.empty() && text.front() == '.') {
      const std::string_view behind = digits_at(text.substr(1));
      literal.append(".").append(behind);
      text.remove_prefix(1 + behind.size());
    } else if (open_calls_ == 0 && text.size() > 1 && text.front() == ',' && is_digit(text[1])) {
      const std::string_view behind = digits_at(text.substr(1));
      const std::string_view next = text.substr(1 + behind.size());
      const bool may_be_thousands =
          behind.size() == 3 && literal.size() <= 3 && literal != "0" && !literal.empty();
      const bool goes_on = !next.empty() && (next.front() == ',' || next.front() == '.');
      if (may_be_thousands || goes_on)
        return refuse(
            RefusalCode::kBadInput,
            fmt::format("the comma in {} can be read in two ways: write a point for decimals, and nothing "
                        "between thousands",
                        in_quotes(typed_)));
      literal.append(".").append(behind);
      text = next;
    }
    const size_t sign = text.size() > 1 && (text[1] == '+' || text[1] == '-') ? 2 : 1;
    if (!text.empty() && (text.front() == 'e' || text.front() == 'E') &&
        !digits_at(text.substr(std::min(sign, text.size()))).empty()) {
      const std::string_view exponent = digits_at(text.substr(sign));
      literal.append(text.substr(0, sign)).append(exponent);
      text.remove_prefix(sign + exponent.size());
    }
    if (!number_from(literal) || (!text.empty() && text.front() == '.'))
      return not_understood(literal + std::string(text.substr(0, 1)));
    return literal;
  }

  static bool is_whole(std::string_view literal) { return digits_at(literal).size() == literal.size(); }

  // "1/4" or "1.5/2" at the start of the text, which is cut off from it.
  std::optional<std::string> take_fraction(std::string_view& text, bool proper) const {
    std::string_view at = text;
    const auto over = take_literal(at);
    if (!over) return std::nullopt;
    at = after_blanks(at);
    if (at.empty() || at.front() != '/') return std::nullopt;
    at = after_blanks(at.substr(1));
    if (at.empty() || !(is_digit(at.front()) || at.front() == '.')) return std::nullopt;
    const auto under = take_literal(at);
    if (!under) return std::nullopt;
    if (proper && !(is_whole(*over) && is_whole(*under) && *number_from(*over) < *number_from(*under)))
      return std::nullopt;
    text = at;
    return *over + "/" + *under;
  }

  // A number with what belongs to it: the rest of a mixed number, a fraction's lower part, a unit.
  Result<void> take_number_group() {
    std::string_view at = rest_;
    if (auto fraction = take_fraction(at, false))
      if (const auto unit = take_unit(at)) return put("(" + *fraction + ")", unit, at);
    at = rest_;
    const auto number = take_literal(at);
    if (!number) return refuse(number);
    if (is_whole(*number) && !at.empty()) {
      std::string_view mixed = after_blanks(at);
      const bool apart = mixed.size() < at.size();
      const bool dashed = !apart && at.size() > 1 && at.front() == '-' && is_digit(at[1]);
      if (dashed) mixed = at.substr(1);
      if ((apart || dashed) && !mixed.empty() && is_digit(mixed.front()))
        if (const auto fraction = take_fraction(mixed, true)) {
          const auto unit = take_unit(mixed);
          if (apart || unit) return put("(" + *number + "+" + *fraction + ")", unit, mixed);
        }
    }
    const auto unit = take_unit(at);
    return put(*number, unit, at);
  }

  Result<void> put(const std::string& value, const std::optional<double>& unit, std::string_view rest) {
    out_ += unit ? fmt::format("({}*{})", value, *unit) : value;
    rest_ = rest;
    return {};
  }

  void take_word() {
    size_t length = 1;
    while (length < rest_.size() && in_word(rest_[length])) ++length;
    word_at_ = out_.size();
    out_ += rest_.substr(0, length);
    word_end_ = out_.size();
    rest_.remove_prefix(length);
  }

  Result<void> take_sign() {
    const char c = rest_.front();
    if (is_blank(c) || std::string_view("+-*/^").find(c) != std::string_view::npos) {
      out_ += c;
      rest_.remove_prefix(1);
    } else if (c == '(') {
      const bool call = word_end_ == out_.size() && !out_.empty();
      open_.push_back({call ? word_at_ : out_.size(), call});
      open_calls_ += call ? 1 : 0;
      out_ += c;
      rest_.remove_prefix(1);
    } else if (c == ')') {
      close();
    } else if ((c == ',' || c == ';') && open_calls_ > 0) {
      out_ += ',';
      rest_.remove_prefix(1);
    } else {
      return not_understood(c == ',' ? "," : first_character());
    }
    return {};
  }

  // A unit behind a bracket is one of all that is in it.
  void close() {
    rest_.remove_prefix(1);
    out_ += ')';
    if (open_.empty()) return;  // told by whoever computes it
    const Open from = open_.back();
    open_.pop_back();
    open_calls_ -= from.call ? 1 : 0;
    const auto unit = take_unit(rest_);
    if (!unit) return;
    out_.insert(from.at, "(");
    out_ += fmt::format("*{})", *unit);
  }

  [[nodiscard]] std::string_view first_character() const {
    size_t length = 1;
    while (length < rest_.size() && (static_cast<unsigned char>(rest_[length]) & 0xC0) == 0x80) ++length;
    return rest_.substr(0, length);
  }

  struct Open {
    size_t at;
    bool call;
  };

  const std::string& typed_;
  std::string_view rest_;
  const UnitFactors& units_;
  std::string out_;
  std::vector<Open> open_;
  int open_calls_ = 0;
  size_t word_at_ = 0, word_end_ = std::string::npos;
};

}  // namespace

Result<std::string> arithmetic_of(const std::string& typed, const UnitFactors& units) {
  if (typed.size() > kLongestExpression)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("an expression may be {} characters long; this one has {}", kLongestExpression,
                              typed.size()));
  return Translator(typed, units).run();
}

}  // namespace anvil
