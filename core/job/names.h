// What entries are called in expressions: "Plane 2" is Plane2, its numbers are Plane2.distance, a point's
// P1.x.
#pragma once

#include <set>

#include "job/evaluate.h"

namespace anvil {

// "distance", "angle", "area", "volume": in expressions and reports.
const char* measured_name(Measurement::Kind kind);

// A pick that is an entry, or an element of one: "Plane 2", "Rectangle 1 · start of edge 2".
std::string pick_name(const Job& job, const EntryReference& reference);

// The letters, digits and underscores of a name; in front of a digit an underscore.
std::string word_of(const std::string& entry_name);

// In expressions: the stock of the first setup that has one, as stock.x, stock.y, stock.z.
inline const std::string kStockWord = "stock";

// The words before the dot of every dotted name in the texts: "2*P1.x + 3" -> {"P1"}.
std::set<std::string> words_in(const ParameterTexts& texts);

// The text with one word before a dot exchanged for another, as after a rename.
std::string with_word(const std::string& text, const std::string& word, const std::string& by);

// The numbers of an entry by their short names: coordinates of points and zeros (placed, mm), what was
// measured, and the parameters it was made with, each with its kind.
Names numbers_of(const DatumValue& value, const Construction& construction, const ParameterTexts& texts,
                 Unit typed_in, const Names& names);

// The same of a setup: its zero, and the sizes of its stock as stock_x, stock_y, stock_z.
Names numbers_of(const SetupValue& value);

// The names that the texts use and that entries before `before` (0: all) have.
Names names_for(const Job& job, const Evaluation& evaluation, const ParameterTexts& texts, int before);

}  // namespace anvil
