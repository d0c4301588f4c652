// Tool axes that suggest themselves: the fewest that reach every hole and every wall corner.
//
// A hole is reached along its axis from its opening, a through hole without counterbore or countersink from
// either end, where rays along its bore leave the part. A corner is reached from every axis that sees it as a
// wall or a floor corner and looks at it freely. Candidates are the axes of the holes and the normals of the
// larger flat faces.
#pragma once

#include <functional>

#include "inspect/corners.h"
#include "inspect/holes.h"

namespace anvil {

struct ToolFeature {
  enum class Kind { kHole, kSlot, kCorner } kind = Kind::kHole;
  std::string name;        // "h1.2", "corner of P1"
  std::vector<int> faces;  // of the part's topology
  std::vector<int> edges;  // sharp corners
};

struct ProposedAxis {
  gp_Dir towards_tool;          // in part coordinates
  std::vector<size_t> reaches;  // features, in order
  std::string summary;          // "8 holes, 12 corners"
  // What a frame on it can be made from: a hole that opens that way, else a flat face that looks there.
  int hole_face = -1, flat_face = -1;
};

struct Proposals {
  std::vector<ToolFeature> features;
  std::vector<ProposedAxis> axes;  // the fewest, the one that reaches most first
  std::vector<size_t> unreached;   // features that no axis reaches
  std::vector<std::string> why;    // one for each of them
  size_t candidates = 0;           // axes that were looked at
};

struct ProposalOptions {
  // Whether the machine can point its tool there (part coordinates); empty: any.
  std::function<bool(const gp_Dir& towards_tool)> machine_reaches = {};
  std::optional<gp_Dir> first = {};  // the setup's own axis: taken where it reaches as much as another
};

// Refuses only when cancelled.
Result<Proposals> propose_axes(const Part& part, const HoleReport& holes, const ProposalOptions& options = {},
                               const Progress& progress = {});

}  // namespace anvil
