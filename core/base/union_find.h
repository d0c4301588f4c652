// Which of n things hang together: union-find with path halving.
//
//   UnionFind sets(3);
//   sets.join(0, 2);
//   sets.root(0) == sets.root(2)   -> true
#pragma once

#include <numeric>
#include <vector>

namespace anvil {

class UnionFind {
 public:
  explicit UnionFind(size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0); }

  int root(int i) {
    while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
    return i;
  }
  // The root of b becomes the root of both.
  void join(int a, int b) { parent_[root(a)] = root(b); }

 private:
  std::vector<int> parent_;
};

}  // namespace anvil
