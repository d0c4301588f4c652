#include "inspect/hole_ends.h"

#include "inspect/hole_chain.h"

namespace anvil {
namespace {

HoleEnds ends_of(const Chain& chain, bool from_high) {
  const gp_Pnt low = point_on(chain.axis, chain.low.level), high = point_on(chain.axis, chain.high.level);
  HoleEnds ends;
  ends.through = chain.low.open && chain.high.open;
  ends.opening = from_high ? high : low;
  ends.bottom = from_high ? low : high;
  ends.out = from_high ? chain.axis.Direction() : chain.axis.Direction().Reversed();
  return ends;
}

}  // namespace

std::optional<HoleEnds> hole_ends(const Part& part, int face) {
  const TopologyIndex& topology = part.topology();
  const int patch = topology.faces[face].patch;
  if (patch < 0 || !topology.patches[patch].surface.inside ||
      !topology.patches[patch].surface.is_revolution())
    return std::nullopt;
  const auto chain = chain_through(part, patch);
  if (!chain || (!chain->low.open && !chain->high.open)) return std::nullopt;
  if (chain->low.open != chain->high.open) return ends_of(*chain, chain->high.open);
  const ChainPiece &low = chain->pieces.front(), &high = chain->pieces.back();
  return ends_of(*chain, high.high_radius >= low.low_radius - 1e-6);
}

}  // namespace anvil
