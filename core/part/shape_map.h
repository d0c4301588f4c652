// Where the faces, edges and vertices of a part went in the part that came of it: what lets a pick made on
// one state of a part be found on the next, whatever happened in between.
#pragma once

#include <BRepTools_History.hxx>
#include <array>
#include <optional>
#include <vector>

#include "base/content_key.h"
#include "part/part.h"

namespace anvil {

enum class TopologyKind { kFace, kEdge, kVertex };
inline constexpr TopologyKind kTopologyKinds[] = {TopologyKind::kFace, TopologyKind::kEdge,
                                                  TopologyKind::kVertex};

const char* topology_name(TopologyKind kind);  // "face", …

// The numbers an element has afterwards: several when it was split, none when it is gone. Nothing: the
// operation does not tell.
using Went = std::optional<std::vector<int>>;

// Of one body: by kind, then by the element's place in the body as the kernel lists them (TopExp::MapShapes),
// from 0; the same for what it went to.
using BodyMap = std::array<std::vector<Went>, 3>;

// What an operation's history says. Elements that are neither in it nor in `after` are not told.
BodyMap body_map(const TopoDS_Shape& before, const TopoDS_Shape& after, const BRepTools_History& history);

// Of a whole part, by the numbers of its topology index.
class ShapeMap {
 public:
  ShapeMap() = default;  // nothing changed: every element keeps its number
  // One map for each body; the parts have the same bodies in the same order.
  ShapeMap(const Part& before, const Part& after, const std::vector<BodyMap>& bodies);

  [[nodiscard]] Went after(TopologyKind kind, int index) const;

 private:
  bool is_same_ = true;
  BodyMap went_;
};

// A part in the chain that the job makes of what was brought in: as composed from its files, healed,
// arranged.
struct PartState {
  PartPtr part;
  int made_by = 0;                        // the entry
  ShapeMap from_before = {};              // from the state before it
  std::optional<ContentKey> recipe = {};  // what it was made by, where that tells it; else its geometry does
  bool only_moved = false;                // its bodies were moved against each other, and nothing else
};

}  // namespace anvil
