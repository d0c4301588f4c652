#include "job/names.h"

#include <fmt/format.h>

#include <cctype>

#include "job/evaluate_setup.h"

namespace anvil {
namespace {

bool starts_word(char c) {
  return std::isalpha(static_cast<unsigned char>(c)) != 0 || c == '_';
}
bool in_word(char c) {
  return starts_word(c) || std::isdigit(static_cast<unsigned char>(c)) != 0;
}

// Calls `see(from, length)` for each word that stands before a dot and another word.
template <class See>
void each_dotted(const std::string& text, See&& see) {
  for (size_t at = 0; at < text.size();) {
    size_t end = at;
    while (end < text.size() && in_word(text[end])) ++end;
    if (end == at) {
      ++at;
      continue;
    }
    if (starts_word(text[at]) && end + 1 < text.size() && text[end] == '.' && starts_word(text[end + 1]))
      see(at, end - at);
    at = end;
  }
}

void add_point(Names& names, const gp_Pnt& p) {
  names["x"] = p.X();
  names["y"] = p.Y();
  names["z"] = p.Z();
}

Named as_told(Measurement::Kind kind, double value) {
  switch (kind) {
    case Measurement::Kind::kAngle:
      return {degrees(value), Named::Kind::kAngle};
    case Measurement::Kind::kArea:
      return {value, Named::Kind::kArea};
    case Measurement::Kind::kVolume:
      return {value, Named::Kind::kVolume};
    case Measurement::Kind::kDistance:
      break;
  }
  return {value, Named::Kind::kLength};
}

Named as_typed(Quantity quantity, double value) {
  if (quantity == Quantity::kAngle) return {degrees(value), Named::Kind::kAngle};
  return {value, quantity == Quantity::kLength ? Named::Kind::kLength : Named::Kind::kNumber};
}

void add_measurement(Names& names, const Measurement& m) {
  names[measured_name(m.kind)] = as_told(m.kind, m.value);
  for (const Measurement::Detail& detail : m.details) names[detail.name] = as_told(detail.kind, detail.value);
}

}  // namespace

const char* measured_name(Measurement::Kind kind) {
  static const char* const kNames[] = {"distance", "angle", "area", "volume"};
  return kNames[static_cast<int>(kind)];
}

std::string pick_name(const Job& job, const EntryReference& reference) {
  const Entry* entry = job.find(reference.entry);
  std::string name = entry ? entry->name : reading_frame_name(job, reference.entry);
  if (reference.element == 0) return name;
  if (entry && entry->setup()) return name + " · " + stock_element_name(reference.element);
  static const char* const kWhere[] = {"",
                                       "middle of ",
                                       "centre of ",
                                       "start of ",
                                       "end of ",
                                       "quadrant 1 of ",
                                       "quadrant 2 of ",
                                       "quadrant 3 of ",
                                       "quadrant 4 of "};
  return fmt::format("{} · {}edge {}", name, kWhere[static_cast<int>(reference.snap)], reference.element);
}

std::string word_of(const std::string& entry_name) {
  std::string word;
  for (const char c : entry_name)
    if (std::isalnum(static_cast<unsigned char>(c)) || c == '_') word += c;
  if (!word.empty() && std::isdigit(static_cast<unsigned char>(word.front()))) word.insert(0, "_");
  return word;
}

std::set<std::string> words_in(const ParameterTexts& texts) {
  std::set<std::string> words;
  for (const auto& each : texts)
    each_dotted(each.second, [&](size_t at, size_t length) { words.insert(each.second.substr(at, length)); });
  return words;
}

std::string with_word(const std::string& text, const std::string& word, const std::string& by) {
  if (word.empty() || by.empty()) return text;
  std::string exchanged;
  size_t from = 0;
  each_dotted(text, [&](size_t at, size_t length) {
    if (text.compare(at, length, word) != 0) return;
    exchanged += text.substr(from, at - from) + by;
    from = at + length;
  });
  return exchanged + text.substr(from);
}

Names numbers_of(const DatumValue& value, const Construction& construction, const ParameterTexts& texts,
                 Unit typed_in, const Names& names) {
  Names numbers;
  for (const Parameter& parameter : construction.parameters) {
    const auto text = texts.find(parameter.id);
    if (parameter.quantity == Quantity::kChoice || parameter.quantity == Quantity::kText ||
        parameter.quantity == Quantity::kView)
      continue;
    const auto number = evaluate_parameter(parameter, text == texts.end() ? parameter.initial : text->second,
                                           typed_in, names);
    if (number) numbers[parameter.id] = as_typed(parameter.quantity, *number);
  }
  if (const auto* point = std::get_if<PointDatum>(&value)) add_point(numbers, point->point);
  if (const auto* frame = std::get_if<FrameDatum>(&value)) add_point(numbers, frame->frame.Location());
  if (const auto* measurement = std::get_if<Measurement>(&value)) add_measurement(numbers, *measurement);
  return numbers;
}

Names numbers_of(const SetupValue& value) {
  Names numbers;
  add_point(numbers, value.frame.Location());
  if (!value.stock) return numbers;
  const gp_XYZ size = value.stock->box.size();
  numbers["stock_x"] = size.X();
  numbers["stock_y"] = size.Y();
  numbers["stock_z"] = size.Z();
  return numbers;
}

Names names_for(const Job& job, const Evaluation& evaluation, const ParameterTexts& texts, int before) {
  Names names;
  const std::set<std::string> words = words_in(texts);
  if (words.empty()) return names;
  for (const Entry& entry : job.entries) {
    if (entry.id == before) break;
    const auto numbers = evaluation.numbers.find(entry.id);
    const std::string word = word_of(entry.name);
    if (entry.setup() && words.count(kStockWord) && numbers != evaluation.numbers.end())
      for (const char* axis : {"x", "y", "z"})
        if (const auto size = numbers->second->find(std::string("stock_") + axis);
            size != numbers->second->end())
          names.try_emplace(kStockWord + "." + axis, size->second);
    if (numbers == evaluation.numbers.end() || !words.count(word)) continue;
    const std::string before_name = word + ".";
    for (const auto& [name, number] : *numbers->second) names.try_emplace(before_name + name, number);
  }
  return names;
}

}  // namespace anvil
