// Coaxial chains of inside surfaces, before they are read as holes. Internal to core/inspect.
#pragma once

#include <optional>
#include <vector>

#include "part/part.h"
#include "part/ray_caster.h"

namespace anvil {

// One surface of a chain, measured along the chain's axis.
struct ChainPiece {
  int patch = -1;
  double low = 0, high = 0;  // levels along the chain's axis, from its origin
  double low_radius = 0, high_radius = 0;
  double coverage_rad = 0;
};

struct ChainEnd {
  bool open = false;
  double level = 0;          // where the axis meets the plane of the opening, or the most outward level
  bool on_plane = false;     // the mouth lies in one plane
  double slope_rad = 0;      // then: how far its normal leans from the axis
  bool flat_bottom = false;  // closed by a flat face
  double ball_mm = 0;        // closed by a ball: how deep that is below the level
};

struct Chain {
  int body = -1;
  gp_Ax1 axis;
  std::vector<ChainPiece> pieces;  // in order of level
  std::vector<int> shoulders;      // patches of the flat annuli between pieces, and of a ball at the bottom
  ChainEnd low, high;
};

// Revolved inside patches that reach half a turn. A half-turn cylinder that is a slot end is among them;
// `excluded` (by patch) leaves such out.
std::vector<Chain> find_chains(const Part& part, const std::vector<bool>& excluded);

// The chain one patch belongs to; found among what lies on its axis, and joined over voids where asked.
std::optional<Chain> chain_through(const Part& part, int patch, bool over_voids = false);

// Coaxial pieces of half a turn that hang together edge to edge, in order of level: one end of a slot with
// the chamfer of its mouth and the rounding of its floor.
Chain half_turn_chain(const TopologyIndex& topology, int patch);

// How the surface ends at one side of an axis: sense +1 for the high end, -1 for the low one.
ChainEnd measure_end(const TopologyIndex& topology, const gp_Ax1& axis, const ChainPiece& piece, int sense);
ChainPiece measure_piece(const TopologyIndex& topology, const gp_Ax1& axis, int patch);

inline double level_on(const gp_Ax1& axis, const gp_Pnt& p) {
  return gp_Vec(axis.Location(), p).Dot(gp_Vec(axis.Direction()));
}
inline gp_Pnt point_on(const gp_Ax1& axis, double level) {
  return axis.Location().Translated(gp_Vec(axis.Direction()) * level);
}

}  // namespace anvil
