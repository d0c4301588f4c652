#include "inspect/hole_comparison.h"

#include <fmt/format.h>

#include <sstream>

#include "base/numbers.h"
#include "base/quoted.h"

namespace anvil {
namespace {

std::string trimmed(const std::string& text) {
  const size_t a = text.find_first_not_of(" \t\r\""), b = text.find_last_not_of(" \t\r\"");
  return a == std::string::npos ? "" : text.substr(a, b - a + 1);
}

std::vector<std::string> split(const std::string& line) {
  std::vector<std::string> cells;
  std::stringstream stream(line);
  for (std::string cell; std::getline(stream, cell, ',');) cells.push_back(trimmed(cell));
  return cells;
}

class ListParser {
 public:
  Result<std::vector<ListedHole>> parse(const std::string& csv) {
    std::stringstream stream(csv);
    for (std::string line; std::getline(stream, line);) {
      ++line_number_;
      line = trimmed(line);
      if (line.empty()) continue;
      if (line.front() == '#') {
        if (line.find("unit") != std::string::npos && line.find("inch") != std::string::npos) scale_ = 25.4;
        continue;
      }
      if (columns_.empty()) {
        columns_ = split(line);
        for (const char* needed : {"x", "y", "z", "diameter"})
          if (column(needed) < 0)
            return refuse(RefusalCode::kBadInput, fmt::format("the hole list has no column \"{}\"", needed));
        continue;
      }
      if (auto hole = row(split(line)); hole)
        holes_.push_back(*hole);
      else
        return refuse(hole);
    }
    if (columns_.empty())
      return refuse(RefusalCode::kBadInput,
                    "the hole list is empty: its first line names the columns name,x,y,z,diameter,depth");
    return holes_;
  }

 private:
  int column(const std::string& name) const {
    const auto at = std::find(columns_.begin(), columns_.end(), name);
    return at == columns_.end() ? -1 : static_cast<int>(at - columns_.begin());
  }

  std::string cell(const std::vector<std::string>& cells, const std::string& name) const {
    const int at = column(name);
    return at >= 0 && at < static_cast<int>(cells.size()) ? cells[at] : "";
  }

  Result<double> number(const std::vector<std::string>& cells, const std::string& name) const {
    const std::string text = cell(cells, name);
    const auto value = number_from(text);
    constexpr double kFarthest_mm = 1e6;
    if (!value || std::abs(*value) > kFarthest_mm)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("line {} of the hole list: {} {} is {}", line_number_, name, in_quotes(text),
                                value ? "farther than any part reaches" : "not a number"));
    return *value * scale_;
  }

  static constexpr size_t kLongestName = 200;

  Result<ListedHole> row(const std::vector<std::string>& cells) const {
    ListedHole hole;
    hole.name = cell(cells, "name").empty() ? fmt::format("line {}", line_number_)
                                            : cut_short(cell(cells, "name"), kLongestName);
    double coordinates[3], *next = coordinates;
    for (const char* name : {"x", "y", "z"}) {
      auto value = number(cells, name);
      if (!value) return refuse(value);
      *next++ = *value;
    }
    hole.at.SetCoord(coordinates[0], coordinates[1], coordinates[2]);
    const std::pair<const char*, double*> numbers[] = {{"diameter", &hole.diameter_mm},
                                                       {"tolerance", &hole.position_tolerance_mm},
                                                       {"diameter_tolerance", &hole.diameter_tolerance_mm}};
    for (const auto& [name, target] : numbers) {
      if (target != &hole.diameter_mm && cell(cells, name).empty()) continue;
      auto value = number(cells, name);
      if (!value) return refuse(value);
      *target = *value;
    }
    if (cell(cells, "depth").empty()) return hole;
    auto depth = number(cells, "depth");
    if (!depth) return refuse(depth);
    hole.depth_mm = *depth;
    return hole;
  }

  std::vector<std::string> columns_;
  std::vector<ListedHole> holes_;
  double scale_ = 1.0;
  int line_number_ = 0;
};

double size_penalty(const Hole& hole, const ListedHole& listed) {
  return std::abs(hole.diameter_mm - listed.diameter_mm);
}

ComparedHole compare(const Hole& hole, const ListedHole& listed) {
  ComparedHole row;
  row.listed = listed.name;
  row.found = hole.name;
  row.deviation = gp_Vec(listed.at, hole.entry);
  const gp_Vec across = row.deviation - gp_Vec(hole.axis) * row.deviation.Dot(gp_Vec(hole.axis));
  row.true_position_mm = 2 * across.Magnitude();
  row.diameter_deviation_mm = hole.diameter_mm - listed.diameter_mm;
  if (listed.depth_mm) row.depth_deviation_mm = hole.depth_mm - *listed.depth_mm;
  const bool good = row.true_position_mm <= listed.position_tolerance_mm &&
                    std::abs(row.diameter_deviation_mm) <= listed.diameter_tolerance_mm;
  row.state = good ? ComparedHole::State::kPass : ComparedHole::State::kFail;
  return row;
}

}  // namespace

const char* state_name(ComparedHole::State state) {
  switch (state) {
    case ComparedHole::State::kPass:
      return "pass";
    case ComparedHole::State::kFail:
      return "fail";
    case ComparedHole::State::kMissing:
      return "missing";
    case ComparedHole::State::kExtra:
      return "extra";
  }
  return "fail";
}

Result<std::vector<ListedHole>> parse_hole_list(const std::string& csv) {
  return ListParser().parse(csv);
}

std::vector<ComparedHole> compare_holes(const std::vector<Hole>& found, const std::vector<ListedHole>& listed,
                                        double reach_mm) {
  // All close pairs, best first, so that no hole is taken by a worse partner.
  std::vector<std::tuple<double, size_t, size_t>> pairs;
  for (size_t i = 0; i < listed.size(); ++i) {
    for (size_t j = 0; j < found.size(); ++j) {
      const double apart = found[j].entry.Distance(listed[i].at);
      if (apart <= reach_mm && size_penalty(found[j], listed[i]) <= reach_mm)
        pairs.emplace_back(apart + size_penalty(found[j], listed[i]), i, j);
    }
  }
  std::sort(pairs.begin(), pairs.end());
  std::vector<int> partner(listed.size(), -1);
  std::vector<bool> taken(found.size(), false);
  for (const auto& [cost, i, j] : pairs) {
    if (partner[i] >= 0 || taken[j]) continue;
    partner[i] = static_cast<int>(j);
    taken[j] = true;
  }
  std::vector<ComparedHole> rows;
  for (size_t i = 0; i < listed.size(); ++i) {
    if (partner[i] >= 0) {
      rows.push_back(compare(found[partner[i]], listed[i]));
      continue;
    }
    ComparedHole missing;
    missing.state = ComparedHole::State::kMissing;
    missing.listed = listed[i].name;
    rows.push_back(missing);
  }
  for (size_t j = 0; j < found.size(); ++j) {
    if (taken[j]) continue;
    ComparedHole extra;
    extra.state = ComparedHole::State::kExtra;
    extra.found = found[j].name;
    rows.push_back(extra);
  }
  return rows;
}

}  // namespace anvil
