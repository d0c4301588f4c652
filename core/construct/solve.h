// Runs a construction on picks and parameter texts.
#pragma once

#include "construct/construction.h"

namespace anvil {

using ParameterTexts = std::map<std::string, std::string>;

// The initial texts of a construction's parameters.
ParameterTexts initial_parameters(const Construction& construction);

// Evaluates the parameters and solves. `picks` has one entry per role. Refuses with a sentence in which {1},
// {2} stand for the roles; fill_numbers() puts the pick numbers in.
Solutions solve(const Construction& construction, const std::vector<const Given*>& picks,
                const ParameterTexts& parameters, const Display& display, const Names& names = {});

// The value of one parameter's text, in mm, radians or as a plain number. Choices are checked against their
// list.
Result<double> evaluate_parameter(const Parameter& parameter, const std::string& text, const Display& display,
                                  const Names& names);

// The index of the solution with the key, or 0 (the preferred one) when there is none such.
size_t chosen(const std::vector<Solution>& solutions, const std::string& key);

// "Plane midway between {1} and {2}" with {2, 5} -> "Plane midway between ② and ⑤".
std::string fill_numbers(const std::string& sentence, const std::vector<int>& numbers);
std::string circled(int number);  // ① …

}  // namespace anvil
