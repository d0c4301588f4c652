#include "inspect/hole_comparison.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "base/union_find.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "inspect/assignment.h"

namespace anvil {
namespace {

constexpr double kSamePlace_mm = 0.5;  // of one listed hole and another: listed twice
constexpr double kSameAxis_rad = 0.5 * kPi / 180;

// Where a listed hole may be met: a through hole at both ends.
struct Mouth {
  int hole;
  gp_Pnt at;
};

class Comparison {
 public:
  Comparison(const std::vector<Hole>& found, const std::vector<ListedHole>& listed, double reach_mm)
      : found_(found), listed_(listed), reach_mm_(reach_mm) {}

  std::vector<ComparedHole> run() {
    pair_up();
    assign();
    std::vector<ComparedHole> rows;
    std::vector<bool> taken(found_.size(), false);
    for (size_t i = 0; i < listed_.size(); ++i) {
      rows.push_back(partner_[i] >= 0 ? compared(i, partner_[i]) : without_hole(i));
      if (partner_[i] >= 0) taken[partner_[i]] = true;
    }
    for (size_t j = 0; j < found_.size(); ++j) {
      if (taken[j]) continue;
      ComparedHole extra;
      extra.state = ComparedHole::State::kExtra;
      extra.found = found_[j].name;
      extra.found_index = static_cast<int>(j);
      rows.push_back(extra);
    }
    return rows;
  }

 private:
  using Cell = std::array<std::int64_t, 3>;
  [[nodiscard]] Cell cell_of(const gp_Pnt& p) const {
    return {static_cast<std::int64_t>(std::floor(p.X() / reach_mm_)),
            static_cast<std::int64_t>(std::floor(p.Y() / reach_mm_)),
            static_cast<std::int64_t>(std::floor(p.Z() / reach_mm_))};
  }

  // All that lie within reach of each other and are of about one size.
  void pair_up() {
    std::map<Cell, std::vector<Mouth>> mouths;
    for (size_t j = 0; j < found_.size(); ++j) {
      mouths[cell_of(found_[j].entry)].push_back({static_cast<int>(j), found_[j].entry});
      if (found_[j].exit) mouths[cell_of(*found_[j].exit)].push_back({static_cast<int>(j), *found_[j].exit});
    }
    for (size_t i = 0; i < listed_.size(); ++i) {
      const Cell own = cell_of(listed_[i].at);
      for (std::int64_t x = -1; x <= 1; ++x)
        for (std::int64_t y = -1; y <= 1; ++y)
          for (std::int64_t z = -1; z <= 1; ++z) {
            const auto cell = mouths.find({own[0] + x, own[1] + y, own[2] + z});
            if (cell == mouths.end()) continue;
            for (const Mouth& mouth : cell->second) consider(static_cast<int>(i), mouth);
          }
    }
  }

  void consider(int i, const Mouth& mouth) {
    const double apart = mouth.at.Distance(listed_[i].at),
                 size = std::abs(found_[mouth.hole].diameter_mm - listed_[i].diameter_mm);
    if (apart > reach_mm_ || size > reach_mm_) return;
    pairs_.push_back({i, mouth.hole, apart + size});
  }

  // Standing alone costs more than any pair, so that as many as possible are paired; sets that share no pair
  // are assigned each for itself.
  void assign() {
    partner_.assign(listed_.size(), -1);
    UnionFind together(listed_.size() + found_.size());
    const int first_found = static_cast<int>(listed_.size());
    for (const Pairing& p : pairs_) together.join(p.left, first_found + p.right);
    std::map<int, std::vector<Pairing>> sets;
    for (const Pairing& p : pairs_) sets[together.root(p.left)].push_back(p);
    for (const auto& [root, pairs] : sets) assign_set(pairs);
  }

  void assign_set(const std::vector<Pairing>& pairs) {
    std::map<int, int> left, right;
    std::vector<int> lefts, rights;
    std::map<std::pair<int, int>, double> cheapest;  // through holes may be met at both ends
    for (const Pairing& p : pairs) {
      if (left.try_emplace(p.left, static_cast<int>(lefts.size())).second) lefts.push_back(p.left);
      if (right.try_emplace(p.right, static_cast<int>(rights.size())).second) rights.push_back(p.right);
      const auto [at, is_new] = cheapest.try_emplace({left[p.left], right[p.right]}, p.cost);
      if (!is_new) at->second = std::min(at->second, p.cost);
    }
    std::vector<Pairing> own;
    own.reserve(cheapest.size());
    for (const auto& [pair, cost] : cheapest) own.push_back({pair.first, pair.second, cost});
    const double alone = 4 * reach_mm_ * static_cast<double>(lefts.size() + 1);
    const std::vector<int> result =
        least_assignment(static_cast<int>(lefts.size()), static_cast<int>(rights.size()), own, alone);
    for (size_t i = 0; i < lefts.size(); ++i)
      if (result[i] >= 0) partner_[lefts[i]] = rights[result[i]];
  }

  [[nodiscard]] ComparedHole compared(size_t i, int j) const {
    const Hole& hole = found_[j];
    const ListedHole& listed = listed_[i];
    ComparedHole row;
    row.listed = listed.name;
    row.found = hole.name;
    row.listed_index = static_cast<int>(i);
    row.found_index = j;
    const bool at_exit = hole.exit && hole.exit->Distance(listed.at) < hole.entry.Distance(listed.at);
    row.deviation = gp_Vec(listed.at, at_exit ? *hole.exit : hole.entry);
    const gp_Vec across = row.deviation - gp_Vec(hole.axis) * row.deviation.Dot(gp_Vec(hole.axis));
    row.true_position_mm = 2 * across.Magnitude();
    row.diameter_deviation_mm = hole.diameter_mm - listed.diameter_mm;
    if (listed.depth_mm) row.depth_deviation_mm = hole.depth_mm - *listed.depth_mm;
    // Rounding of what was written with four decimals is no fault.
    constexpr double kRounding_mm = 1e-9;
    row.position_fails = row.true_position_mm > listed.position_tolerance_mm + kRounding_mm;
    row.diameter_fails = std::abs(row.diameter_deviation_mm) > listed.diameter_tolerance_mm + kRounding_mm;
    row.depth_fails = row.depth_deviation_mm &&
                      std::abs(*row.depth_deviation_mm) > listed.depth_tolerance_mm + kRounding_mm;
    row.through_fails = listed.through && *listed.through != hole.through;
    row.axis_fails = listed.axis && !parallel(*listed.axis, hole.axis, kSameAxis_rad);
    const bool fails =
        row.position_fails || row.diameter_fails || row.depth_fails || row.through_fails || row.axis_fails;
    row.state = fails ? ComparedHole::State::kFail : ComparedHole::State::kPass;
    return row;
  }

  [[nodiscard]] ComparedHole without_hole(size_t i) const {
    ComparedHole row;
    row.listed = listed_[i].name;
    row.listed_index = static_cast<int>(i);
    row.state = ComparedHole::State::kMissing;
    for (const Pairing& p : pairs_) {
      if (p.left != static_cast<int>(i)) continue;
      const auto other = std::find(partner_.begin(), partner_.end(), p.right);
      if (other == partner_.end()) continue;
      const ListedHole& twin = listed_[static_cast<size_t>(other - partner_.begin())];
      if (!same_place(twin, listed_[i], found_[p.right])) continue;
      row.state = ComparedHole::State::kDouble;
      row.found = found_[p.right].name;
      row.found_index = p.right;
    }
    return row;
  }

  // Listed at one place, or at both ends of one through hole.
  [[nodiscard]] static bool same_place(const ListedHole& a, const ListedHole& b, const Hole& hole) {
    const gp_Vec apart(a.at, b.at);
    const gp_Vec across = apart - gp_Vec(hole.axis) * apart.Dot(gp_Vec(hole.axis));
    return across.Magnitude() <=
               std::max({kSamePlace_mm, a.position_tolerance_mm, b.position_tolerance_mm}) &&
           (apart.Magnitude() <= kSamePlace_mm + across.Magnitude() || hole.through);
  }

  const std::vector<Hole>& found_;
  const std::vector<ListedHole>& listed_;
  double reach_mm_;
  std::vector<Pairing> pairs_;
  std::vector<int> partner_;  // by listed hole
};

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
    case ComparedHole::State::kDouble:
      return "double";
  }
  return "fail";
}

std::string failure_text(const ComparedHole& row, const ListedHole& listed, const Display& display) {
  const auto length = [&](double mm) { return format_length(mm, display); };
  std::string text;
  const auto add = [&](const std::string& part) { text += (text.empty() ? "" : ", ") + part; };
  if (row.position_fails)
    add(fmt::format("true position {} of {}", length(row.true_position_mm),
                    length(listed.position_tolerance_mm)));
  if (row.diameter_fails)
    add(fmt::format("Ø{} instead of {}", length(listed.diameter_mm + row.diameter_deviation_mm),
                    length(listed.diameter_mm)));
  if (row.depth_fails)
    add(fmt::format("depth {} instead of {}", length(*listed.depth_mm + *row.depth_deviation_mm),
                    length(*listed.depth_mm)));
  if (row.through_fails) add(*listed.through ? "blind instead of through" : "through instead of blind");
  if (row.axis_fails) add("its axis leans");
  return text;
}

std::vector<ComparedHole> compare_holes(const std::vector<Hole>& found, const std::vector<ListedHole>& listed,
                                        double reach_mm) {
  return Comparison(found, listed, reach_mm).run();
}

std::optional<BestShift> best_shift(const std::vector<ComparedHole>& rows, const std::vector<Hole>& found) {
  // Only what leads across a hole's axis counts: least squares of |(I - a a') (d - s)|.
  gp_Mat sum(0, 0, 0, 0, 0, 0, 0, 0, 0);
  gp_XYZ right(0, 0, 0);
  std::vector<std::pair<gp_Vec, gp_Dir>> matched;
  for (const ComparedHole& row : rows) {
    if (row.listed_index < 0 || row.found_index < 0 || row.state == ComparedHole::State::kDouble) continue;
    const gp_Dir axis = found[row.found_index].axis;
    gp_Mat across;
    across.SetIdentity();
    for (int r = 1; r <= 3; ++r)
      for (int c = 1; c <= 3; ++c)
        across.SetValue(r, c, across.Value(r, c) - coordinate(axis, r - 1) * coordinate(axis, c - 1));
    sum.Add(across);
    right += across * row.deviation.XYZ();
    matched.emplace_back(row.deviation, axis);
  }
  if (matched.empty()) return std::nullopt;
  // Where all axes are parallel nothing is known along them: no shift there.
  gp_Mat ridge;
  ridge.SetIdentity();
  sum.Add(ridge * 1e-12);
  BestShift best;
  best.shift = gp_Vec(sum.Inverted() * right);
  for (const auto& [deviation, axis] : matched) {
    const gp_Vec rest = deviation - best.shift, across = rest - gp_Vec(axis) * rest.Dot(gp_Vec(axis));
    best.largest_true_position_mm = std::max(best.largest_true_position_mm, 2 * across.Magnitude());
  }
  return best;
}

}  // namespace anvil
