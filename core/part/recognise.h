// B-spline surfaces, extrusions and revolutions that are really planes, cylinders, cones, spheres or tori.
#pragma once

#include <Geom_Surface.hxx>
#include <TopoDS_Face.hxx>
#include <optional>

#include "part/face_info.h"

namespace anvil {

struct Recognised {
  Surface surface;  // `inside` and the sense of a plane's normal follow the face; says how closely, on
                    // a dense sample of the face
  Handle(Geom_Surface) exact;  // the surface itself
};

// Samples the face, fits each kind (planes, spheres and cylinders by least squares; cones and tori from their
// axis of revolution), accepts the simplest that fits within `tolerance_mm` on a denser sample. Nothing for
// surfaces that are exact already, or that fit none.  A free-form face costs 256 points of its surface.
std::optional<Recognised> recognise_spline(const TopoDS_Face& face, double tolerance_mm);

}  // namespace anvil
