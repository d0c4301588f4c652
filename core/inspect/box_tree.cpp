#include "inspect/box_tree.h"

#include <vector>

#include "part/ray_caster.h"

namespace anvil {
namespace {

struct TriangleTree {
  BoxTree tree;
};

}  // namespace

const BoxTree& triangles_in_tree(const Part& part) {
  const std::vector<Triangle>& triangles = rays_of(part).triangles();
  return part.kept()
      .get<TriangleTree>([&] {
        std::vector<std::pair<Box3, int>> boxes;
        for (size_t i = 0; i < triangles.size(); ++i)
          boxes.emplace_back(box_of(triangles[i]), static_cast<int>(i));
        return std::make_shared<TriangleTree>(TriangleTree{BoxTree(boxes)});
      })
      .tree;
}

}  // namespace anvil
