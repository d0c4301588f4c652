// Edges that were drawn on purpose between two faces of one surface: those faces are picked and moved apart,
// where what an exporter split is taken as one.
#pragma once

#include <TopoDS_Edge.hxx>

namespace anvil {

// Kept in the edge itself, in a flag that shapes carry into files and copies and that nothing in the kernel
// reads: so whatever shares the edge, in any state of the part, knows.
void keep_as_border(const TopoDS_Edge& edge);
bool is_kept_border(const TopoDS_Edge& edge);

}  // namespace anvil
