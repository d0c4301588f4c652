// What a set of picks determines: every construction they satisfy, most likely first, each as a plain
// sentence about the numbered picks; then those that fit but refuse, with the reason; then those that lack
// one more pick.
#pragma once

#include "construct/registry.h"
#include "construct/solve.h"

namespace anvil {

struct Offer {
  enum class State { kReady, kRefused, kNeedsMore } state = State::kReady;
  const Construction* construction = nullptr;
  std::vector<int> picks;  // role -> index of the pick, -1: still needed
  std::string sentence;    // "Plane midway between ① and ②"
  std::string note;        // ready: "40.000 from each"; refused: the reason; else "needs a point as ②"
  std::vector<Solution> solutions;  // ready, for the initial parameters
};

std::vector<Offer> offers_for(const std::vector<Given>& picks, const Display& display);

// The picks a construction still wants, in words: "Pick a plane or flat face as ②."; empty when none.
std::string still_needed(const Construction& construction, const std::vector<Given>& picks);

// Assigns picks to roles: pick order first, then other orders. Nothing when no order fits.
std::optional<std::vector<int>> assign(const Construction& construction, const std::vector<Given>& picks);

}  // namespace anvil
