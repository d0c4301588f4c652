// Fixes what a file brought in broken, body by body and only where the kernel's checker finds something: the
// quick counterpart of fixing everything. Runs after the first picture, in the import worker.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "part/part.h"

namespace anvil {

struct MendReport {
  std::vector<int> mended;             // bodies that were changed
  std::vector<std::string> sentences;  // one for each
};

// The part of mending that must come before anything measures or meshes: curves on surfaces the file left out
// (surface_curves.h), and outlines that do not close on their surface (an apex or a seam it left out). Where
// all is there it costs two curve ends an edge. Returns how many faces were closed.
int close_outlines(std::vector<Body>& bodies);

// The same without replacing any face: false when some outline cannot be closed so.
bool close_outlines_in_place(const TopoDS_Shape& shape);

// Changes bodies in place; face colours follow their faces. A body that fixing does not make better stays as
// it came. Also turns solids right that came inside out. Bodies say whether they are valid now (found_valid).
// Faces that were replaced have no mesh.
MendReport mend_bodies(std::vector<Body>& bodies, const Progress& progress);

// The part of it that checks of holes and corners cannot do without: which side of a face is out.
void turn_inside_out_ones(std::vector<Body>& bodies);

// Edges that belong to one face only; seams and the points of cones do not count.
int count_open_edges(const TopoDS_Shape& shape);

// Volume enclosed by the display mesh; negative when the faces point inward. Needs a mesh.
double mesh_volume_mm3(const TopoDS_Shape& shape);

}  // namespace anvil
