#include "inspect/hole_ends.h"

#include "inspect/hole_chain.h"
#include "inspect/hole_form.h"
#include "part/mesh_once.h"

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

// Of an inside surface of revolution; else -1.
int patch_of_hole(const Part& part, int face) {
  const int patch = part.topology().faces[face].patch;
  if (patch < 0) return -1;
  const Surface& surface = part.topology().patches[patch].surface;
  return surface.inside && surface.is_revolution() ? patch : -1;
}

}  // namespace

std::optional<HoleEnds> hole_ends(const Part& part, int face) {
  const int patch = patch_of_hole(part, face);
  if (patch < 0) return std::nullopt;
  const auto chain = chain_through(part, patch);
  if (!chain || (!chain->low.open && !chain->high.open)) return std::nullopt;
  if (chain->low.open != chain->high.open) return ends_of(*chain, chain->high.open);
  const ChainPiece &low = chain->pieces.front(), &high = chain->pieces.back();
  return ends_of(*chain, high.high_radius >= low.low_radius - 1e-6);
}

std::optional<Hole> hole_of_face(const Part& part, int face) {
  const int patch = patch_of_hole(part, face);
  if (patch < 0) return std::nullopt;
  mesh_once(part);
  const auto chain = chain_through(part, patch, true);
  return chain ? hole_from(part.topology(), *chain) : std::nullopt;
}

}  // namespace anvil
