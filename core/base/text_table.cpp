#include "base/text_table.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/numbers.h"
#include "base/plain_text.h"
#include "base/quoted.h"

namespace anvil {
namespace {

// Before a text that a spreadsheet would take for a formula, as spreadsheets write it themselves.
constexpr char kTextMark = '\'';

constexpr size_t kMostRows = 200000, kMostCells = 200;

// A spreadsheet would work it out instead of showing it.
bool is_formula(const std::string& text) {
  const bool begins_so =
      text.size() > 1 && std::string_view("=+-@").find(text.front()) != std::string_view::npos;
  return begins_so && !number_from(text);
}

std::string trimmed(const std::string& text) {
  const size_t a = text.find_first_not_of(" \t\r\n"), b = text.find_last_not_of(" \t\r\n");
  return a == std::string::npos ? "" : text.substr(a, b - a + 1);
}

std::string small_letters(std::string text) {
  for (char& c : text)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  for (const char* large : {"Ø", "⌀"})
    for (size_t at; (at = text.find(large)) != std::string::npos;)
      text.replace(at, std::string(large).size(), "ø");
  return text;
}

// Records and cells of separated text; a quoted cell may hold separators and line breaks.
class Splitter {
 public:
  Splitter(const std::string& text, char separator) : text_(text), separator_(separator) {}

  // The next line with its cells; nothing at the end.
  std::optional<TextTable::Row> next() {
    if (at_ >= text_.size()) return std::nullopt;
    TextTable::Row row{line_, {}};
    const size_t first = text_.find_first_not_of(' ', at_);
    if (first != std::string::npos && text_[first] == '#') {  // a comment: its commas separate nothing
      const size_t end = std::min(text_.find_first_of("\r\n", first), text_.size());
      row.cells.push_back(trimmed(plain_text(text_.substr(first, end - first))));
      at_ = end;
      if (at_ < text_.size()) end_line();
      return row;
    }
    while (true) {
      row.cells.push_back(cell());
      if (at_ < text_.size() && text_[at_] == separator_) {
        ++at_;
        continue;
      }
      if (at_ < text_.size()) end_line();
      return row;
    }
  }

 private:
  void end_line() {
    if (text_[at_] == '\r' && at_ + 1 < text_.size() && text_[at_ + 1] == '\n') ++at_;
    ++at_;
    ++line_;
  }

  std::string cell() {
    size_t start = at_;
    while (start < text_.size() && text_[start] == ' ') ++start;
    std::string value = start < text_.size() && text_[start] == '"' ? quoted(start + 1) : plain();
    const bool is_marked = value.size() > 1 && value.front() == kTextMark && is_formula(value.substr(1));
    return is_marked ? value.substr(1) : value;
  }

  std::string plain() {
    const size_t from = at_;
    while (at_ < text_.size() && text_[at_] != separator_ && text_[at_] != '\n' && text_[at_] != '\r') ++at_;
    return trimmed(plain_text(text_.substr(from, at_ - from)));
  }

  std::string quoted(size_t from) {
    std::string value;
    for (at_ = from; at_ < text_.size(); ++at_) {
      if (text_[at_] == '"') {
        if (at_ + 1 >= text_.size() || text_[at_ + 1] != '"') break;
        ++at_;
      }
      if (text_[at_] == '\n') ++line_;
      value += text_[at_];
    }
    if (at_ < text_.size()) ++at_;
    plain();  // whatever follows the quotes is none of it
    return trimmed(plain_text(value));
  }

  const std::string& text_;
  char separator_;
  size_t at_ = 0;
  int line_ = 1;
};

// The one that occurs most in the first line that is neither empty nor a comment.
char separator_of(const std::string& text) {
  size_t at = 0;
  while (at < text.size()) {
    const size_t end = std::min(text.find('\n', at), text.size());
    const std::string line = trimmed(text.substr(at, end - at));
    at = end + 1;
    if (line.empty() || line.front() == '#') continue;
    char best = ',';
    long most = 0;
    for (const char candidate : {'\t', ';', ','}) {
      const long count = std::count(line.begin(), line.end(), candidate);
      if (count > most) {
        most = count;
        best = candidate;
      }
    }
    return best;
  }
  return ',';
}

// "Position tolerance [mm]" -> "position_tolerance"; the unit is kept apart.
std::string column_name(const std::string& heading, std::optional<Unit>& unit) {
  std::string name = small_letters(heading);
  for (const auto& [open, close] : {std::pair('[', ']'), std::pair('(', ')')}) {
    const size_t from = name.find(open), to = name.find(close);
    if (from == std::string::npos || to == std::string::npos || to < from) continue;
    if (const auto named = unit_from_name(trimmed(name.substr(from + 1, to - from - 1)))) unit = named;
    name.erase(from, to - from + 1);
  }
  name = trimmed(name);
  std::replace(name.begin(), name.end(), ' ', '_');
  std::replace(name.begin(), name.end(), '-', '_');
  return name;
}

}  // namespace

int TextTable::column(std::initializer_list<const char*> names) const {
  for (const char* name : names) {
    const auto at = std::find(columns.begin(), columns.end(), name);
    if (at != columns.end()) return static_cast<int>(at - columns.begin());
  }
  return -1;
}

std::string TextTable::cell(const Row& row, int column) {
  return column >= 0 && column < static_cast<int>(row.cells.size()) ? row.cells[static_cast<size_t>(column)]
                                                                    : "";
}

Refusal TextTable::wrong(const Row& row, int column, const std::string& why) const {
  return {RefusalCode::kBadInput, fmt::format("line {} of the {}, column {}: {}", row.line, what,
                                              in_quotes(headings[static_cast<size_t>(column)], 40), why)};
}

Result<double> TextTable::number(const Row& row, int column) const {
  std::string text = cell(row, column);
  if (separator != ',' && text.find('.') == std::string::npos)
    std::replace(text.begin(), text.end(), ',', '.');
  if (const auto value = number_from(text)) return *value;
  return refuse(
      wrong(row, column, text.empty() ? "empty" : in_quotes(cell(row, column)) + " is not a number"));
}

std::string TextTable::comment(const std::string& key) const {
  for (const std::string& text : comments) {
    const size_t colon = text.find_first_of(":=");
    if (colon != std::string::npos && small_letters(trimmed(text.substr(0, colon))) == key)
      return trimmed(text.substr(colon + 1));
  }
  return "";
}

Result<TextTable> read_table(const std::string& text, const std::string& what) {
  if (text.find('\0') != std::string::npos)
    return refuse(RefusalCode::kBadInput, "the " + what + " is no text: save it as CSV");
  const size_t start = text.rfind("\xEF\xBB\xBF", 0) == 0 ? 3 : 0;
  const std::string body = text.substr(start);
  TextTable table;
  table.what = what;
  table.separator = separator_of(body);
  Splitter splitter(body, table.separator);
  while (auto row = splitter.next()) {
    const bool empty =
        std::all_of(row->cells.begin(), row->cells.end(), [](const auto& c) { return c.empty(); });
    if (empty) continue;
    if (row->cells.front().rfind('#', 0) == 0) {
      table.comments.push_back(trimmed(row->cells.front().substr(1)));
      continue;
    }
    if (row->cells.size() > kMostCells)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("line {} of the {} has {} columns", row->line, what, row->cells.size()));
    if (table.columns.empty()) {
      table.headings = row->cells;
      for (const std::string& heading : row->cells) table.columns.push_back(column_name(heading, table.unit));
      continue;
    }
    if (table.rows.size() == kMostRows)
      return refuse(RefusalCode::kBadInput, fmt::format("the {} has more than {} rows", what, kMostRows));
    table.rows.push_back(std::move(*row));
  }
  if (table.columns.empty())
    return refuse(RefusalCode::kBadInput, "the " + what + " is empty: its first line names the columns");
  if (const auto named = unit_from_name(small_letters(table.comment("unit")))) table.unit = named;
  return table;
}

std::string cell_text(const std::string& told) {
  std::string text = plain_text(told);
  if (is_formula(text)) text.insert(0, 1, kTextMark);
  return text;
}

std::string written_cell(const std::string& told) {
  std::string text = cell_text(told);
  if (text.find_first_of(",;\t\"\r\n") == std::string::npos) return text;
  std::string quoted = "\"";
  for (const char c : text) quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
  return quoted + "\"";
}

}  // namespace anvil
