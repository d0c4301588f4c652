// The curves and surfaces of a BREP text, looked through before the kernel reads them: it uses a curve of a
// kind it does not know without asking whether it got one, and believes every count.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace anvil {

// What is wrong with them ("curve 5 of 17 is of no kind that is known"), if anything: kinds, counts and
// whether there are as many numbers as they say. Sections that are not there are no fault.
std::optional<std::string> fault_in_brep_geometry(std::string_view text);

}  // namespace anvil
