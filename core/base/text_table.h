// Tables as people and spreadsheets write them: a line of column names, then a line a row, separated by
// comma, semicolon or tab, with quotes (RFC 4180), a byte-order mark, lines that begin with # and empty lines
// passed over.
//
//   auto table = read_table("Name;X;Ø [mm]\nA;12,5;6\n", "hole list");
//   table->column({"diameter", "dia", "ø"})      -> 2
//   table->number(table->rows[0], 1)              -> 12.5: a comma is decimal where it does not separate
#pragma once

#include <initializer_list>
#include <optional>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "base/units.h"

namespace anvil {

struct TextTable {
  struct Row {
    int line = 0;  // of the text, from 1
    std::vector<std::string> cells;
  };
  std::string what;  // "hole list": for sentences
  char separator = ',';
  std::vector<std::string> columns;   // in small letters, without units, blanks and dashes as underscores
  std::vector<std::string> headings;  // as written
  std::vector<Row> rows;
  std::vector<std::string> comments;  // without the #, trimmed
  std::optional<Unit> unit;           // of lengths, where a comment or a heading names one

  // The first column with one of these names; -1 when there is none.
  [[nodiscard]] int column(std::initializer_list<const char*> names) const;
  // Trimmed; empty where the row is shorter.
  [[nodiscard]] static std::string cell(const Row& row, int column);
  // Refuses with line and column what is no number.
  [[nodiscard]] Result<double> number(const Row& row, int column) const;
  // What a comment "key: value" says; empty for none.
  [[nodiscard]] std::string comment(const std::string& key) const;
  [[nodiscard]] Refusal wrong(const Row& row, int column, const std::string& why) const;
};

// Refuses an empty text, one without rows, and what is no text; at most 200,000 rows.
Result<TextTable> read_table(const std::string& text, const std::string& what);

// What a cell holds, in one line: behind an apostrophe where a spreadsheet would take it for a formula. (Tabs
// are blanks in it, so that it may be copied as a cell of a table.)
std::string cell_text(const std::string& told);
// The same as it is written: in quotes where it holds a separator or a quote. read_table() takes quotes and
// apostrophe off again.
std::string written_cell(const std::string& told);

}  // namespace anvil
