#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "base/json_limits.h"
#include "base/quoted.h"
#include "base/text_table.h"
#include "inspect/cutters.h"

namespace anvil {
namespace {

constexpr double kShortest_mm = 1e-5, kLongest_mm = 1e5;  // shorter ones would be written as nothing
constexpr size_t kMostCutters = 10000, kLongestName = 200;

// What no cutter can be; `where` begins the sentence.
Result<Cutter> sensible(Cutter cutter, const std::string& where) {
  const auto wrong = [&](const std::string& why) {
    return refuse(RefusalCode::kBadInput, where + ": " + why);
  };
  if (!(cutter.diameter_mm >= kShortest_mm) || cutter.diameter_mm > kLongest_mm)
    return wrong(fmt::format("a diameter of {} is none of a cutter", cutter.diameter_mm));
  if (cutter.corner_radius_mm < 0 || cutter.corner_radius_mm > cutter.diameter_mm / 2 + 1e-9)
    return wrong(fmt::format("a corner radius of {} does not fit a diameter of {}", cutter.corner_radius_mm,
                             cutter.diameter_mm));
  const std::pair<const char*, std::optional<double>> lengths[] = {
      {"flute length", cutter.flute_mm}, {"reach", cutter.reach_mm}, {"holder diameter", cutter.holder_mm}};
  for (const auto& [name, length] : lengths)
    if (length && (!(*length >= kShortest_mm) || *length > kLongest_mm))
      return wrong(fmt::format("a {} of {} is none of a cutter", name, *length));
  cutter.number = cut_short(cutter.number, kLongestName);
  cutter.name = cut_short(cutter.name, kLongestName);
  return cutter;
}

class TableOfCutters {
 public:
  TableOfCutters(const TextTable& table, Unit otherwise)
      : table_(table), mm_(mm_per(table.unit.value_or(otherwise))) {}

  Result<std::vector<Cutter>> run() const {
    const int diameter = table_.column({"diameter", "dia", "diam", "ø", "d"});
    if (diameter < 0) return refuse(RefusalCode::kBadInput, "the cutter list has no column \"diameter\"");
    const int number = table_.column({"number", "no", "nr", "t", "tool", "id"}),
              name = table_.column({"name", "description"});
    std::vector<Cutter> cutters;
    for (const TextTable::Row& row : table_.rows) {
      Cutter cutter{TextTable::cell(row, number), TextTable::cell(row, name)};
      auto size = table_.number(row, diameter);
      if (!size) return refuse(size);
      cutter.diameter_mm = *size * mm_;
      auto radius = length(row, {"corner_radius", "radius", "r"});
      if (!radius) return refuse(radius);
      cutter.corner_radius_mm = radius->value_or(0);
      auto flute = length(row, {"flute_length", "flutes", "flute"}),
           reach = length(row, {"reach", "stick_out"}), holder = length(row, {"holder_diameter", "holder"});
      for (const auto* read : {&flute, &reach, &holder})
        if (!*read) return refuse(*read);
      cutter.flute_mm = *flute;
      cutter.reach_mm = *reach;
      cutter.holder_mm = *holder;
      auto checked = sensible(std::move(cutter), fmt::format("line {} of the cutter list", row.line));
      if (!checked) return refuse(checked);
      cutters.push_back(std::move(*checked));
    }
    return cutters;
  }

 private:
  Result<std::optional<double>> length(const TextTable::Row& row,
                                       std::initializer_list<const char*> names) const {
    const int column = table_.column(names);
    if (column < 0 || TextTable::cell(row, column).empty()) return std::optional<double>();
    auto value = table_.number(row, column);
    if (!value) return refuse(value);
    return std::optional(*value * mm_);
  }

  const TextTable& table_;
  double mm_;
};

using nlohmann::json;

Result<std::vector<Cutter>> cutters_from(const json& document, Unit otherwise) {
  const json* list = &document;
  double mm = mm_per(otherwise);
  if (document.is_object()) {
    if (!document.contains("cutters"))
      return refuse(RefusalCode::kBadInput, "the cutter list has no \"cutters\"");
    list = &document.at("cutters");
    if (document.contains("unit")) {
      const auto unit = unit_from_name(document.at("unit").get<std::string>());
      if (!unit) return refuse(RefusalCode::kBadInput, "the unit of the cutter list is neither mm nor inch");
      mm = mm_per(*unit);
    }
  }
  if (!list->is_array() || list->size() > kMostCutters)
    return refuse(RefusalCode::kBadInput, "the cutters of the cutter list are no list, or too many");
  std::vector<Cutter> cutters;
  for (const json& item : *list) {
    const auto text = [&](const char* key) {
      const auto at = item.find(key);
      return at == item.end() ? std::string() : at->is_string() ? at->get<std::string>() : at->dump();
    };
    const auto length = [&](const char* key) {
      const auto at = item.find(key);
      return at == item.end() || at->is_null() ? std::nullopt : std::optional(at->get<double>() * mm);
    };
    Cutter cutter{text("number"),
                  text("name"),
                  length("diameter").value_or(0),
                  length("corner_radius").value_or(0),
                  length("flute_length"),
                  length("reach"),
                  length("holder_diameter")};
    auto checked = sensible(std::move(cutter), fmt::format("cutter {} of the list", cutters.size() + 1));
    if (!checked) return refuse(checked);
    cutters.push_back(std::move(*checked));
  }
  return cutters;
}

}  // namespace

Result<std::vector<Cutter>> read_cutters(const std::string& text, Unit otherwise) {
  const size_t first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  if (first == std::string::npos || (text[first] != '{' && text[first] != '[')) {
    auto table = read_table(text, "cutter list");
    if (!table) return refuse(table);
    return TableOfCutters(*table, otherwise).run();
  }
  auto document = json_from(text);
  if (!document) return refuse(RefusalCode::kBadInput, "the cutter list: " + document.error().sentence);
  try {
    return cutters_from(*document, otherwise);
  } catch (const json::exception& error) {
    return refuse(RefusalCode::kBadInput, "the cutter list: " + cut_short(error.what(), 200));
  }
}

std::string cutters_csv(const std::vector<Cutter>& cutters, Unit unit) {
  const double mm = mm_per(unit);
  const auto length = [&](const std::optional<double>& v) {
    return v ? format_plain(*v / mm) : std::string();
  };
  std::string csv = "# unit: " + std::string(unit_name(unit)) +
                    "\nnumber,name,diameter,corner_radius,flute_length,reach,holder_diameter\n";
  for (const Cutter& c : cutters)
    csv += written_cell(c.number) + "," + written_cell(c.name) + "," + length(c.diameter_mm) + "," +
           length(c.corner_radius_mm) + "," + length(c.flute_mm) + "," + length(c.reach_mm) + "," +
           length(c.holder_mm) + "\n";
  return csv;
}

const Cutter* largest_within(const std::vector<Cutter>& cutters, double diameter_mm) {
  const Cutter* best = nullptr;
  for (const Cutter& cutter : cutters)
    if (cutter.diameter_mm <= diameter_mm + 1e-6 && (!best || cutter.diameter_mm > best->diameter_mm))
      best = &cutter;
  return best;
}

std::string cutter_text(const Cutter& cutter, const Display& display) {
  const double mm = mm_per(display.unit);
  std::string text = cutter.number;
  if (!cutter.name.empty()) text += (text.empty() ? "" : " ") + cutter.name;
  text += (text.empty() ? "Ø" : " Ø") + format_plain(std::round(cutter.diameter_mm / mm * 1e4) / 1e4);
  if (cutter.corner_radius_mm > 0)
    text += " r" + format_plain(std::round(cutter.corner_radius_mm / mm * 1e4) / 1e4);
  return text;
}

}  // namespace anvil
