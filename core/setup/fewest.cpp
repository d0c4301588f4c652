#include "setup/fewest.h"

#include <algorithm>

namespace anvil {
namespace {

class Search {
 public:
  Search(std::vector<std::vector<size_t>> things, size_t sets) : things_(std::move(things)), taken_(sets, 0) {
    // What few sets hold is decided first.
    std::stable_sort(things_.begin(), things_.end(),
                     [](const auto& a, const auto& b) { return a.size() < b.size(); });
    things_.erase(std::unique(things_.begin(), things_.end()), things_.end());
    counts_.assign(sets, 0);
    for (const auto& thing : things_)
      for (const size_t set : thing) ++counts_[set];
  }

  std::vector<size_t> run() {
    best_size_ = taken_.size() + 1;
    descend(0, 0);
    std::sort(best_.begin(), best_.end());
    return best_;
  }

 private:
  void descend(size_t thing, size_t size) {
    while (thing < things_.size() && is_covered(things_[thing])) ++thing;
    if (thing == things_.size()) {
      best_size_ = size;
      best_.clear();
      for (size_t set = 0; set < taken_.size(); ++set)
        if (taken_[set]) best_.push_back(set);
      return;
    }
    if (size + 1 >= best_size_ || ++steps_ > kMostSteps) return;
    std::vector<size_t> sets = things_[thing];
    std::stable_sort(sets.begin(), sets.end(), [&](size_t a, size_t b) { return counts_[a] > counts_[b]; });
    for (const size_t set : sets) {
      ++taken_[set];
      descend(thing + 1, size + 1);
      --taken_[set];
    }
  }

  [[nodiscard]] bool is_covered(const std::vector<size_t>& thing) const {
    return std::any_of(thing.begin(), thing.end(), [&](size_t set) { return taken_[set] > 0; });
  }

  static constexpr size_t kMostSteps = 1000000;
  std::vector<std::vector<size_t>> things_;
  std::vector<int> taken_, counts_;
  std::vector<size_t> best_;
  size_t best_size_ = 0, steps_ = 0;
};

}  // namespace

std::vector<size_t> fewest_covering(const std::vector<std::vector<size_t>>& covered_by, size_t sets) {
  std::vector<std::vector<size_t>> things;
  for (const std::vector<size_t>& thing : covered_by)
    if (!thing.empty()) things.push_back(thing);
  return Search(std::move(things), sets).run();
}

}  // namespace anvil
