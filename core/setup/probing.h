// Probing: where to touch, and from what was touched, where the part really lies.
//
// A touch tells one number: how far the surface lies from where it should, along its normal. The motion that
// brings the nominal surfaces onto all touches is found by Gauss-Newton over the six freedoms of a solid;
// freedoms that no touch fixes (sliding along a plane) stay as they are.
#pragma once

#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>
#include <vector>

#include "geom/fits.h"
#include "part/part.h"

namespace anvil {

// In machine coordinates: from `start` along `along` until it touches, at most `reach_mm`.
struct ProbeMove {
  gp_Pnt start;
  gp_Dir along;
  double reach_mm = 0;
  gp_Pnt target;  // where it should touch
  int face = -1;  // of the part's topology
};

struct ProbeOptions {
  double clearance_mm = 5;  // it starts so far off
  double overshoot_mm = 5;  // and looks so far beyond
  double inset = 0.15;      // from the face's edges, as a share of its size
};

// Touches for a face: of a flat one `count` points spread over it, of a round one as many round its axis at
// two levels. `lies` brings part coordinates to machine ones. Refuses (kBadInput) other faces, and those
// that are too small to be touched so often.
Result<std::vector<ProbeMove>> probe_moves(const Part& part, int face, const gp_Trsf& lies, int count,
                                           const ProbeOptions& options = {});

struct Touch {
  int face = -1;
  gp_Pnt at;  // machine coordinates
};

struct ProbedPlace {
  gp_Trsf motion;                // in the machine: from where the part should lie to where it does
  std::vector<gp_Pnt> contacts;  // each touch, in part coordinates, on the part as it lies
  std::vector<double> residuals_mm;
  FitQuality quality;
  int freedoms_fixed = 0;  // of six
};
// Refuses without touches, and where they cannot be brought together (within ten steps).
Result<ProbedPlace> probed_place(const Part& part, const gp_Trsf& lies, const std::vector<Touch>& touches);

}  // namespace anvil
