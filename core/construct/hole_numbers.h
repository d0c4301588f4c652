// The numbers of a hole as parameters of a correction. Internal to core/construct.
#pragma once

#include "construct/construction.h"
#include "correct/hole_wish.h"

namespace anvil {

// Of a hole that is there: empty leaves a number as it is.
std::vector<Parameter> numbers_of_a_hole_there();
// Of one that is to be made.
std::vector<Parameter> numbers_of_a_new_hole();

// Refuses (kBadInput) a standard size that is in no table, with those that are.
Result<HoleWish> wish_from(const Inputs& in);

// "Ø6.600 through, counterbore Ø11.000 × 6.800".
std::string text_of(const HoleForm& form, Unit unit = Unit::kMillimetre);

// A number that may be left empty: nothing then.
std::optional<double> number_if_any(const Inputs& in, const char* id);

}  // namespace anvil
