// The outline of a face that holds all its others.
#pragma once

#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>

namespace anvil {

// As the kernel's own BRepTools::OuterWire, which compares the outlines' bounds on the surface; of a flat
// face with many holes that takes its time, and the bounds in space tell the same in a tenth of it. Null for
// a face without outlines.
TopoDS_Wire outer_wire(const TopoDS_Face& face);

}  // namespace anvil
