#include "part/part_box.h"

namespace anvil {

Box vertex_box(const Part& part) {
  Box box;
  for (const VertexInfo& vertex : part.topology().vertices) box.add(vertex.point);
  return box;
}

std::vector<Box> vertex_boxes(const Part& part) {
  std::vector<Box> boxes(part.bodies().size());
  for (const VertexInfo& vertex : part.topology().vertices) boxes[vertex.body].add(vertex.point);
  return boxes;
}

PlacedBox placed_box(const Part& part, const gp_Trsf& motion) {
  constexpr size_t kQuickFaces = 400;
  if (part.topology().faces.size() <= kQuickFaces) return {exact_box(part.shape(), motion), true};
  Box box;
  for (const VertexInfo& vertex : part.topology().vertices) box.add(vertex.point.Transformed(motion));
  return {box, false};
}

}  // namespace anvil
