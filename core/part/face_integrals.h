// What a face adds to the area and volume of a body: integrals over its exact surface, all at once.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <optional>

namespace anvil {

// Of the face itself, and of the cone from `about` to it (positive where the face looks away from it), which
// add up to the volume of a closed body. Moments are about `about`: divided by area or volume they give the
// centroid.
struct FaceIntegrals {
  double area_mm2 = 0, volume_mm3 = 0;
  gp_XYZ area_moment, volume_moment;
};

// Within 1e-8 of the face's area (of its volume: of area times distance) for smooth surfaces. By Green's
// theorem: along the outline, and for every point of it across the surface, split where the surface's pieces
// meet, with Gauss's rule; an outline's piece is halved until two rules agree. Nothing for a face that is
// bounded by no edges, or has one without a curve on its surface.
std::optional<FaceIntegrals> integrals_over(const TopoDS_Face& face, const gp_Pnt& about);

}  // namespace anvil
