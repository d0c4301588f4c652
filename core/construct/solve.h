// Runs a construction on picks and parameter texts.
#pragma once

#include <gp_Ax2.hxx>

#include "construct/construction.h"

namespace anvil {

using ParameterTexts = std::map<std::string, std::string>;

// The initial texts of a construction's parameters.
ParameterTexts initial_parameters(const Construction& construction);
// The same, with the directions of a view: its Z towards the eye, its X to the right.
ParameterTexts initial_parameters(const Construction& construction, const gp_Ax2& seen);

// Evaluates the parameters and solves. `picks` has one entry per role (kBadInput else). Refuses with a
// sentence in which {1}, {2} stand for the roles; fill_numbers() puts the pick numbers in. Bare lengths are
// read in `typed_in`, else in the unit that is shown.
Solutions solve(const Construction& construction, const std::vector<const Given*>& picks,
                const ParameterTexts& parameters, const Display& display, const Names& names = {},
                const Tolerance& tolerance = kExact, std::optional<Unit> typed_in = {});

// The value of one parameter's text, in mm, radians or as a plain number. Choices are checked against their
// list.
Result<double> evaluate_parameter(const Parameter& parameter, const std::string& text, Unit typed_in,
                                  const Names& names);

// The index of the solution with the key, or 0 when there is none such.
size_t chosen(const std::vector<Solution>& solutions, const std::string& key);
bool has_solution(const std::vector<Solution>& solutions, const std::string& key);

// The solution nearest to where the user clicked: by the latest pick that tells them apart, else the first.
size_t preferred(const std::vector<Solution>& solutions, const std::vector<const Given*>& picks);

// Whether a construction works on so many picks, and what the role asks for: the last one may repeat.
bool takes(const Construction& construction, size_t picks);
Need need_of(const Construction& construction, size_t role);

// Of a construction that measures a point from another: the role of that other one; else -1.
int start_role(const Construction& construction);

// "Plane midway between {1} and {2}" with {2, 5} -> "Plane midway between ② and ⑤"; {all} lists every number,
// and 0 is the reading frame.
std::string fill_numbers(const std::string& sentence, const std::vector<int>& numbers);
std::string circled(int number);  // ① …

}  // namespace anvil
