// Is the body a closed, valid solid? Told at import, so that nobody finds out when a later operation fails.
//
// Each finding has its place and says how bad it is in a number: the width of a gap, the size of a tolerance,
// the length of an edge, the mean width of a sliver (2 × area / perimeter).
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class FindingKind {
  kNotASolid,         // a shell or loose faces: nothing encloses a volume
  kOpenEdge,          // an edge of one face only
  kNonManifoldEdge,   // more than two faces meet in an edge
  kGap,               // an edge lies off the surface of a face it bounds
  kToleranceOutlier,  // an edge or vertex stands for more room than the tolerance
  kSelfIntersection,  // an outline crosses itself, or two faces that are no neighbours meet
  kInvalidFace,       // an outline does not close on its surface, or does not fit it otherwise
  kWrongOrientation,  // two neighbouring faces disagree which side is out
  kInverted,          // the solid is inside out
  kSliverFace,
  kTinyEdge,
  kDuplicateBody,
  kDegenerateTriangle,  // meshes: one without area
  kDuplicateTriangle,   // meshes: one where another lies
  kSeparateShell,       // meshes: triangles that hang together apart from the rest
};
const char* finding_name(FindingKind kind);  // "open-edge", …

struct Finding {
  FindingKind kind = FindingKind::kInvalidFace;
  int body = -1;
  std::optional<gp_Pnt> where;   // part coordinates
  std::string text;              // a sentence
  std::optional<double> amount;  // mm: how bad
  bool mendable = false;         // healing has something for it
  int face = -1, edge = -1;      // in the part's topology
  int count = 1;                 // of edges or triangles it stands for
};

inline constexpr double kSoundTolerance_mm = 0.02;

// Findings of one body; empty means sound. Meshes are judged by their triangles (mesh_soundness.h). Gaps,
// tolerances and edges are told from `tolerance_mm` on, slivers up to twice that mean width. The kernel's
// checker costs about as much as reading the file: run it in the background.
std::vector<Finding> check_soundness(const Part& part, int body, double tolerance_mm = kSoundTolerance_mm);

// Bodies that lie where another one of them lies.
std::vector<Finding> find_duplicates(const Part& part, double tolerance_mm = kSoundTolerance_mm);

// All bodies, and duplicates among them. Refuses when cancelled (asked between bodies). `of_body`: who tells
// what a body's check is, when it may be known.
using SoundnessOf = std::function<std::vector<Finding>(const Part& part, int body, double tolerance_mm)>;
Result<std::vector<Finding>> check_soundness_of_all(const Part& part, double tolerance_mm,
                                                    const Progress& progress,
                                                    const SoundnessOf& of_body = check_soundness);

}  // namespace anvil
