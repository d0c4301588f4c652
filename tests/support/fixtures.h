// Parts made by code for tests.
#pragma once

#include <TopoDS_Shape.hxx>
#include <string>

#include "demo/demo_part.h"
#include "part/part.h"

namespace anvil::test {

PartPtr part_of(const demo::DemoPart& demo);
PartPtr part_of(const TopoDS_Shape& shape, const std::string& name = "body");

// The demo parts, built once in a test program.
const demo::DemoPart& plate();
const demo::DemoPart& housing();

// A rigid motion far from simple, for checking that nothing depends on the axes of the file.
gp_Trsf odd_motion();

// The face of the part whose surface passes through the point with the given kind; -1 when none or several
// do.
int face_at(const Part& part, const gp_Pnt& point, SurfaceKind kind);
int edge_at(const Part& part, const gp_Pnt& point);
int vertex_at(const Part& part, const gp_Pnt& point);

}  // namespace anvil::test
