// What an entry refers to. References are described, not numbered: a face keeps its body, kind, geometry and
// a hint of its index, all in the coordinates of its body as delivered, and is found again by matching the
// description.
#pragma once

#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <optional>
#include <string>
#include <variant>

#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class TopologyKind { kFace, kEdge, kVertex };
// Which point of an edge is meant; kWhole is the face, edge or vertex itself.
enum class Snap { kWhole, kMiddle, kCentre };

struct TopologyReference {
  int part_entry = 0;
  TopologyKind kind = TopologyKind::kFace;
  Snap snap = Snap::kWhole;
  int body = 0;               // among all that were delivered
  int index_hint = -1;        // in the part's topology
  std::string shape;          // "plane", "cylinder", "line", "circle", "vertex", …
  gp_Pnt where;               // mean of its vertices
  gp_Dir direction{0, 0, 1};  // normal, axis or tangent, where there is one
  double size_mm = 0;         // radius or length

  bool operator==(const TopologyReference& other) const;
};

struct EntryReference {
  int entry = 0;
  bool operator==(const EntryReference&) const = default;
};

struct Reference {
  std::variant<TopologyReference, EntryReference> target;
  std::optional<gp_Pnt> clicked;  // where the user pointed, in part coordinates; chooses among solutions

  bool operator==(const Reference& other) const { return target == other.target; }
  // True when both mean the same thing, wherever it was clicked.
  [[nodiscard]] bool same_target(const Reference& other) const { return target == other.target; }
};

TopologyReference describe(const Part& part, int part_entry, TopologyKind kind, int index,
                           Snap snap = Snap::kWhole);

// The index in the part's topology. The hint is tried first; else the one element that fits the description
// within 1e-3 mm, or else, for parts that were healed, within 0.03 mm. Refuses when it is gone (kUnknownName)
// or when several fit (kAmbiguous): nothing is guessed.
Result<int> resolve(const Part& part, const TopologyReference& reference);

}  // namespace anvil
