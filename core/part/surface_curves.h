// Curves on surfaces (PCURVEs in ISO 10303): where an edge runs in the parameters of a face's surface. Most
// files leave them out, and without them a cylinder has no finite bounds: nothing may measure, mesh or check
// a shape before they are there.
#pragma once

#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <vector>

namespace anvil {

// Planes need none: the kernel reads an edge in a plane from its curve in space.
bool lacks_surface_curves(const TopoDS_Face& face);

// Makes the missing ones of a face, in place, by projection; two for a seam; those of one outline follow each
// other also where the surface closes on itself. What cannot be projected stays without. The edges of the
// face must not be in use by another thread. Returns whether there is none missing now.
bool make_surface_curves(const TopoDS_Face& face);

// The same for many faces at once, on all cores: each works on a copy of its own, and what it made is given
// to the edges afterwards, in order, because faces share them.
void make_surface_curves(const std::vector<TopoDS_Face>& faces);

}  // namespace anvil
