// What an entry's result depends on, as a key: the recipe's text, and of each pick what it comes down to: of
// a face its surface and border, of an entry what that was made from. Internal to core/job.
#pragma once

#include "job/evaluate.h"

namespace anvil {

// Adds what the solutions of a recipe depend on, its choice among them left out. False when one of its picks
// cannot be given: there is nothing to solve then, and the reason is told in words that no key holds.
bool add_recipe(KeyMaker& maker, const Job& job, const Evaluation& evaluation, const Recipe& recipe,
                const Names& names);

// What references are looked for on once a state has followed those whose key is `before`: its geometry, or
// the recipe it was made by, which delivered bodies it has and how they are arranged.
ContentKey key_after(const ContentKey& before, const PartState& state);

}  // namespace anvil
