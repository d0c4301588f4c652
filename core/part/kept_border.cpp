#include "part/kept_border.h"

#include <TopoDS_TShape.hxx>

namespace anvil {

void keep_as_border(const TopoDS_Edge& edge) {
  edge.TShape()->Convex(true);
}

bool is_kept_border(const TopoDS_Edge& edge) {
  return edge.TShape()->Convex();
}

}  // namespace anvil
