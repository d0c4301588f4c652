// Healing: mends what soundness found, on request, and reports what it changed. The source stays as it came;
// what comes of it is a part of its own. Slow on large parts: run it through heal_part() of
// exchange/heal_worker.h.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"
#include "part/shape_map.h"

namespace anvil {

struct HealOptions {
  bool sew = true;             // loose faces and open borders joined; what closes becomes a solid
  bool fix = true;             // outlines, orientation, seams
  bool drop_slivers = true;    // sliver faces and tiny edges taken out
  bool unify = false;          // faces an exporter split, joined
  bool recognise = false;      // B-spline surfaces that are planes, cylinders, cones, spheres, tori
  double tolerance_mm = 0.02;  // gaps up to this are closed; deviations up to this are accepted
  double limit_mm = 0.1;       // refused when anything would move more
  bool operator==(const HealOptions&) const = default;
};

struct RecognisedFaces {
  SurfaceKind kind = SurfaceKind::kPlane;
  int faces = 0;
  double largest_deviation_mm = 0;
};

struct HealReport {
  double largest_movement_mm = 0;  // of any point of an old edge from the healed body
  int faces_before = 0, faces_after = 0;
  int open_edges_before = 0, open_edges_after = 0;
  int slivers_dropped = 0, faces_unified = 0;
  int solids_made = 0;
  std::vector<RecognisedFaces> recognised;
  std::vector<std::string> lines;  // the same, in sentences
};

struct HealedBodies {
  std::vector<Body> bodies;
  HealReport report;
  std::vector<BodyMap> maps;  // where what each body was made of went
};

// Refuses (kLimit) when something would move more than the limit, with how far and where, and (kGeometry)
// when there was nothing to change. Movement is measured: points along every old edge against the healed
// shape.
Result<HealedBodies> heal_bodies(const std::vector<Body>& bodies, const HealOptions& options,
                                 const Progress& progress);

}  // namespace anvil
