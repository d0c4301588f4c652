// Recipes and what they are made of as JSON: the part of the job file that every kind of entry uses. Internal
// to core/store. What is not understood is thrown as std::runtime_error (or Standard_Failure) naming it;
// caught where an entry is read.
#pragma once

#include <fmt/format.h>

#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>

#include "job/entry.h"

namespace anvil {

nlohmann::json triple(const gp_XYZ& p);
gp_XYZ triple_from(const nlohmann::json& j);
Colour colour_from(const nlohmann::json& j);  // three shares from 0 to 1

nlohmann::json to_json(const Reference& reference);
Reference reference_from(const nlohmann::json& j);

nlohmann::json to_json(const Recipe& recipe);
// `shown`: the unit the job is shown in; before version 5 bare lengths were in it.
Recipe recipe_from(const nlohmann::json& j, Unit shown);
Unit unit_of(const nlohmann::json& j, Unit shown);

template <size_t N>
int index_of(const char* const (&names)[N], const std::string& name, const char* what) {
  for (size_t i = 0; i < N; ++i)
    if (name == names[i]) return static_cast<int>(i);
  throw std::runtime_error(fmt::format("{} \"{}\" is not known", what, name));
}

}  // namespace anvil
