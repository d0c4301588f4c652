// What a set of picks determines: every construction they satisfy, most likely first, each as a plain
// sentence about the numbered picks; then those that fit but refuse, with the reason; then those that lack
// one more pick.
#pragma once

#include "construct/registry.h"
#include "construct/solve.h"
#include "geom/primitives.h"

namespace anvil {

struct Offer {
  enum class State { kReady, kRefused, kNeedsMore } state = State::kReady;
  const Construction* construction = nullptr;
  std::vector<int> picks;  // role -> index of the pick, or kReadingFrame
  std::string sentence;    // "Plane midway between ① and ②"
  std::string note;        // ready: "40.000 from each"; refused: the reason; else "needs a point as ②"
  std::vector<Solution> solutions;  // ready, for the initial parameters; none of what takes time
  size_t preferred = 0;             // of the solutions
  int rank = 0;                     // smaller is likelier

  // Its solution misses what was picked by more than a tenth of a millimetre, as best fits may.
  [[nodiscard]] bool misses() const;
};

// In the place of a pick: the frame the user reads in.
inline constexpr int kReadingFrame = -1;

// What offers depend on beside the picks.
struct Asking {
  Display display = {};
  gp_Ax2 reading_frame = world_frame();
  Tolerance tolerance = kExact;
  gp_Ax2 seen = world_frame();  // the view: Z towards the eye, X to the right
};

std::vector<Offer> offers_for(const std::vector<Given>& picks, const Asking& asking);

// For fill_numbers(): of the picks by role, from 1; 0 for the reading frame. Roles not picked yet count on.
std::vector<int> pick_numbers(const Construction& construction, const std::vector<int>& picks);

// What a frame gives.
Given given_by_frame(const gp_Ax2& frame);

// The picks a construction still wants, in words: "Pick a plane or flat face as ②."; empty when none.
std::string still_needed(const Construction& construction, const std::vector<Given>& picks);

// Assigns picks to roles: pick order first, then other orders; a role that is not picked may be the reading
// frame's. Nothing when no order fits.
std::optional<std::vector<int>> assign(const Construction& construction, const std::vector<Given>& picks);

}  // namespace anvil
