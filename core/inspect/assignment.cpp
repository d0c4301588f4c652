#include "inspect/assignment.h"

#include <limits>
#include <queue>

namespace anvil {
namespace {

constexpr double kFar = std::numeric_limits<double>::infinity();

class Assignment {
 public:
  Assignment(int lefts, int rights, const std::vector<Pairing>& pairs, double alone)
      : edges_(static_cast<size_t>(lefts)),
        right_of_(static_cast<size_t>(lefts), -1),
        // Each left one may also stand alone: a right place of its own behind the real ones.
        left_of_(static_cast<size_t>(rights + lefts), -1),
        price_(static_cast<size_t>(rights + lefts), 0.0),
        rights_(rights) {
    for (const Pairing& p : pairs) edges_[static_cast<size_t>(p.left)].push_back({p.right, p.cost});
    for (int i = 0; i < lefts; ++i) edges_[static_cast<size_t>(i)].push_back({rights + i, alone});
  }

  std::vector<int> run() {
    for (int i = 0; i < static_cast<int>(edges_.size()); ++i) place(i);
    for (int& right : right_of_)
      if (right >= rights_) right = -1;
    return right_of_;
  }

 private:
  struct Edge {
    int right;
    double cost;
  };

  // The cheapest way to find a place for one more, moving others on; prices keep every reduced cost above
  // zero.
  void place(int start) {
    std::vector<double> away(left_of_.size(), kFar);
    std::vector<int> from(left_of_.size(), -1);
    std::vector<int> settled;
    std::vector<bool> done(left_of_.size(), false);
    using Step = std::pair<double, int>;
    std::priority_queue<Step, std::vector<Step>, std::greater<>> open;
    const auto relax = [&](int left, double so_far) {
      for (const Edge& e : edges_[static_cast<size_t>(left)]) {
        if (done[static_cast<size_t>(e.right)]) continue;  // rounding must not reopen it
        const double next = so_far + e.cost - price_[static_cast<size_t>(e.right)] - base_of(left);
        if (next >= away[static_cast<size_t>(e.right)]) continue;
        away[static_cast<size_t>(e.right)] = next;
        from[static_cast<size_t>(e.right)] = left;
        open.emplace(next, e.right);
      }
    };
    relax(start, 0);
    int end = -1;
    while (!open.empty()) {
      const auto [so_far, right] = open.top();
      open.pop();
      if (done[static_cast<size_t>(right)]) continue;
      done[static_cast<size_t>(right)] = true;
      if (left_of_[static_cast<size_t>(right)] < 0) {
        end = right;
        break;
      }
      settled.push_back(right);
      relax(left_of_[static_cast<size_t>(right)], so_far);
    }
    if (end < 0) return;
    for (const int right : settled)
      price_[static_cast<size_t>(right)] += away[static_cast<size_t>(right)] - away[static_cast<size_t>(end)];
    for (int right = end; right >= 0;) {
      const int left = from[static_cast<size_t>(right)];
      const int before = right_of_[static_cast<size_t>(left)];
      right_of_[static_cast<size_t>(left)] = right;
      left_of_[static_cast<size_t>(right)] = left;
      right = left == start ? -1 : before;
    }
  }

  // What the pair of a placed left one costs beyond its price: its own reduced cost is zero.
  [[nodiscard]] double base_of(int left) const {
    const int right = right_of_[static_cast<size_t>(left)];
    if (right < 0) return 0;
    for (const Edge& e : edges_[static_cast<size_t>(left)])
      if (e.right == right) return e.cost - price_[static_cast<size_t>(right)];
    return 0;
  }

  std::vector<std::vector<Edge>> edges_;
  std::vector<int> right_of_, left_of_;
  std::vector<double> price_;
  int rights_;
};

}  // namespace

std::vector<int> least_assignment(int lefts, int rights, const std::vector<Pairing>& pairs, double alone) {
  return Assignment(lefts, rights, pairs, alone).run();
}

}  // namespace anvil
