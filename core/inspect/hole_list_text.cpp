#include <fmt/format.h>

#include "base/quoted.h"
#include "base/text_table.h"
#include "inspect/hole_comparison.h"

namespace anvil {
namespace {

constexpr double kFarthest_mm = 1e6;
constexpr size_t kLongestName = 200;

class ListReader {
 public:
  ListReader(const TextTable& table, Unit otherwise)
      : table_(table), mm_(mm_per(table.unit.value_or(otherwise))) {
    name_ = table.column({"name", "hole", "id", "no", "nr", "number"});
    place_ = {table.column({"x"}), table.column({"y"}), table.column({"z"})};
    diameter_ = table.column({"diameter", "dia", "diam", "ø", "d", "size"});
    depth_ = table.column({"depth", "deep"});
    through_ = table.column({"through", "thru"});
    axis_ = {table.column({"axis_x", "i"}), table.column({"axis_y", "j"}), table.column({"axis_z", "k"})};
    position_tolerance_ =
        table.column({"tolerance", "position_tolerance", "tolerance_position", "true_position", "tol"});
    diameter_tolerance_ =
        table.column({"diameter_tolerance", "tolerance_diameter", "dia_tolerance", "tol_diameter"});
    depth_tolerance_ = table.column({"depth_tolerance", "tolerance_depth", "tol_depth"});
  }

  Result<HoleList> run() {
    const std::pair<const char*, int> needed[] = {
        {"x", place_[0]}, {"y", place_[1]}, {"z", place_[2]}, {"diameter", diameter_}};
    for (const auto& [name, column] : needed)
      if (column < 0)
        return refuse(RefusalCode::kBadInput, fmt::format("the hole list has no column \"{}\"", name));
    HoleList list;
    list.unit = table_.unit;
    list.frame = cut_short(table_.comment("frame"), kLongestName);
    for (const TextTable::Row& row : table_.rows) {
      auto hole = read(row);
      if (!hole) return refuse(hole);
      list.holes.push_back(std::move(*hole));
    }
    return list;
  }

 private:
  // A length in the list's unit.
  Result<double> length(const TextTable::Row& row, int column) const {
    auto value = table_.number(row, column);
    if (!value) return value;
    if (std::abs(*value) > kFarthest_mm)
      return refuse(table_.wrong(row, column, "farther than any part reaches"));
    return *value * mm_;
  }

  Result<void> positive(const TextTable::Row& row, int column, double& target) const {
    if (column < 0 || TextTable::cell(row, column).empty()) return {};
    auto value = length(row, column);
    if (!value) return refuse(value);
    if (*value < 0) return refuse(table_.wrong(row, column, "below zero"));
    target = *value;
    return {};
  }

  Result<ListedHole> read(const TextTable::Row& row) const {
    ListedHole hole;
    hole.line = row.line;
    const std::string name = TextTable::cell(row, name_);
    hole.name = name.empty() ? fmt::format("line {}", row.line) : cut_short(name, kLongestName);
    double place[3];
    for (int i = 0; i < 3; ++i) {
      auto value = length(row, place_[i]);
      if (!value) return refuse(value);
      place[i] = *value;
    }
    hole.at.SetCoord(place[0], place[1], place[2]);
    auto diameter = length(row, diameter_);
    if (!diameter) return refuse(diameter);
    if (*diameter <= 0) return refuse(table_.wrong(row, diameter_, "not above zero"));
    hole.diameter_mm = *diameter;
    for (const auto& [column, target] : {std::pair(position_tolerance_, &hole.position_tolerance_mm),
                                         std::pair(diameter_tolerance_, &hole.diameter_tolerance_mm),
                                         std::pair(depth_tolerance_, &hole.depth_tolerance_mm)})
      if (const auto read = positive(row, column, *target); !read) return refuse(read);
    if (const auto read = read_depth(row, hole); !read) return refuse(read);
    if (const auto read = read_axis(row, hole); !read) return refuse(read);
    return hole;
  }

  static std::string small(std::string text) {
    for (char& c : text)
      if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    return text;
  }

  Result<void> read_depth(const TextTable::Row& row, ListedHole& hole) const {
    const std::string through = small(TextTable::cell(row, through_)),
                      depth = small(TextTable::cell(row, depth_));
    if (through == "yes" || through == "true" || through == "1" || through == "through") hole.through = true;
    if (through == "no" || through == "false" || through == "0" || through == "blind") hole.through = false;
    if (!through.empty() && !hole.through)
      return refuse(table_.wrong(row, through_, in_quotes(through) + " is neither yes nor no"));
    if (depth == "through" || depth == "thru") {
      hole.through = true;
      return {};
    }
    if (depth.empty()) return {};
    auto value = length(row, depth_);
    if (!value) return refuse(value);
    hole.depth_mm = *value;
    return {};
  }

  Result<void> read_axis(const TextTable::Row& row, ListedHole& hole) const {
    if (axis_[0] < 0 || axis_[1] < 0 || axis_[2] < 0) return {};
    double axis[3];
    int given = 0;
    for (int i = 0; i < 3; ++i) {
      axis[i] = 0;
      if (TextTable::cell(row, axis_[i]).empty()) continue;
      auto value = table_.number(row, axis_[i]);
      if (!value) return refuse(value);
      axis[i] = *value;
      ++given;
    }
    if (given == 0) return {};
    const gp_Vec direction(axis[0], axis[1], axis[2]);
    if (direction.Magnitude() < 1e-9)
      return refuse(table_.wrong(row, axis_[0], "an axis without a direction"));
    hole.axis = gp_Dir(direction);
    return {};
  }

  const TextTable& table_;
  double mm_;
  int name_, diameter_, depth_, through_, position_tolerance_, diameter_tolerance_, depth_tolerance_;
  std::array<int, 3> place_, axis_;
};

}  // namespace

Result<HoleList> parse_hole_list(const std::string& text, Unit otherwise) {
  auto table = read_table(text, "hole list");
  if (!table) return refuse(table);
  return ListReader(*table, otherwise).run();
}

}  // namespace anvil
