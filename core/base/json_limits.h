// JSON that a stranger wrote: read within limits, so that nothing in it is deeper, longer or larger than
// anything we could mean.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>

#include "base/refusal.h"

namespace anvil {

struct JsonLimits {
  int depth = 60;
  size_t text_bytes = size_t{64} << 20;  // of the whole
  size_t string_bytes = 4096;            // of one string in it
  double number = 1e9;                   // of a number's magnitude: a thousand kilometres, in mm
  bool plain = true;  // strings and names go through plain_text(); not for paths of this machine
};

// Refuses (kUnreadable) what is no JSON, and (kLimit) what is too long or nested too deeply: before it is
// parsed, because parsing and destroying it are what fails. Every text in it has passed plain_text().
Result<nlohmann::json> json_from(const std::string& text, const JsonLimits& limits = {});

// The first field with a string, a name or a number beyond the limits, as a sentence with its path
// ("entries/3/name: …"); empty when there is none.
std::string beyond_limits(const nlohmann::json& value, const std::string& path,
                          const JsonLimits& limits = {});

}  // namespace anvil
