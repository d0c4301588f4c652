// Which few of the offers are shown before anybody has said more: by what the job lacks, by what was made of
// such picks before, and by how likely they are in themselves.
#pragma once

#include "construct/offers.h"

namespace anvil {

struct Leaning {
  bool wants_seat = false;  // the part does not stand as it could
  bool wants_zero = false;  // there is no frame yet
  // Constructions that were kept of such picks, the latest first; one may come twice.
  std::vector<std::string> used = {};
};

// Places among the offers, the likeliest first; none that is not ready, and no construction twice.
std::vector<size_t> likely_offers(const std::vector<Offer>& offers, const Leaning& leaning, size_t most = 7);

// What the picks are, in any order, as a key to remember by: "cylinder+plane".
std::string kinds_of(const std::vector<Given>& picks);

}  // namespace anvil
