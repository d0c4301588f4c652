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
#include "part/shape_map.h"
#include "scan/scan.h"

namespace anvil {

// Which point of an edge is meant; kWhole is the face, edge or vertex itself. Starts and ends are asked of
// figures only: those of a part's edges are vertices.
// Quadrants of a circle are where it is farthest along the placed part's axes: the first towards X (of a
// circle that looks along X towards Y), then on by quarter turns.
enum class Snap { kWhole, kMiddle, kCentre, kStart, kEnd, kQuadrant1, kQuadrant2, kQuadrant3, kQuadrant4 };
inline constexpr Snap kQuadrants[] = {Snap::kQuadrant1, Snap::kQuadrant2, Snap::kQuadrant3, Snap::kQuadrant4};

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
  gp_Pnt axis_at;             // faces of revolution: the place of the axis beside `where`
  int made_on = 0;            // the entry that made the state of the part it was picked on; 0: not known

  bool operator==(const TopologyReference& other) const;
};

struct EntryReference {
  int entry = 0;
  int element = 0;  // of a figure: which of its edges, from 1; 0: all of it
  Snap snap = Snap::kWhole;
  bool operator==(const EntryReference&) const = default;
};

// A region of a scan, by where it begins to grow: in the coordinates of its body as delivered.
struct RegionReference {
  int part_entry = 0;
  int body = 0;  // among all that were delivered
  RegionWish wish;
  bool operator==(const RegionReference& other) const {
    return part_entry == other.part_entry && body == other.body && wish == other.wish;
  }
};

struct Reference {
  std::variant<TopologyReference, EntryReference, RegionReference> target;
  std::optional<gp_Pnt> clicked;  // where the user pointed, in part coordinates; chooses among solutions

  bool operator==(const Reference& other) const { return target == other.target; }
  // True when both mean the same thing, wherever it was clicked.
  [[nodiscard]] bool same_target(const Reference& other) const { return target == other.target; }
};

// The entry it needs: of a piece of the part, the part's.
int entry_of(const Reference& reference);
// The delivered body it lies on; none of entries.
std::optional<int> body_of(const Reference& reference);

TopologyReference describe(const Part& part, int part_entry, TopologyKind kind, int index,
                           Snap snap = Snap::kWhole);

// A region that begins on a body (by its place in the part), wished in part coordinates.
RegionReference describe_region(const Part& part, int part_entry, int body, RegionWish wish);
// Grown, or taken from what was grown before, in part coordinates. Refuses as region_at().
Result<RegionPtr> region_of(const Part& part, const RegionReference& reference,
                            const Progress& progress = {});
bool is_region_known(const Part& part, const RegionReference& reference);
// A place on its body, from part coordinates to those of the body as delivered.
gp_Pnt as_delivered(const Part& part, const RegionReference& reference, const gp_Pnt& in_part);

// Where a reference is found, and how sure that is.
struct Located {
  enum class How {
    kAsDescribed,  // within 1e-3 mm, or 0.03 mm on parts that were healed
    kSameSurface,  // a piece of it, or what it was joined with: on the same surface or curve, where it was
    kOfPieces,     // the piece nearest to where it was clicked, of several it was split into (follow.h)
    kByIntent      // the one of its kind, direction and size that lies nearest; it has moved
  } how = How::kAsDescribed;
  int index = -1;                    // in the part's topology
  double moved_mm = 0;               // by intent: how far
  std::vector<int> candidates = {};  // the pieces, where there are several
};

// The hint is tried first, then the ways above in turn. By intent only where one candidate lies within a
// tenth of its body's diagonal and no other within twice its distance. Refuses when it is gone (kUnknownName)
// or when several fit (kAmbiguous): nothing is guessed.
Result<Located> locate(const Part& part, const TopologyReference& reference);
// The same of what is picked, whatever it is: entries are as described; a region has moved when the scan is
// farther off than the region was allowed to scatter.
Result<Located> locate(const Part& part, const Reference& reference);
Result<int> resolve(const Part& part, const TopologyReference& reference);  // the index alone

}  // namespace anvil
