#include "construct/skipped_places.h"

#include <fmt/format.h>

#include <cmath>
#include <sstream>

#include "base/expression.h"

namespace anvil {

Result<std::set<int>> skipped_places(const std::string& text) {
  std::set<int> places;
  std::istringstream in(text);
  for (std::string part; std::getline(in, part, ',');) {
    if (part.find_first_not_of(' ') == std::string::npos) continue;
    const auto place = evaluate_number(part, {});
    if (!place || *place != std::floor(*place) || *place < 2)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("\"{}\" is no place of the pattern: whole numbers from 2", part));
    places.insert(static_cast<int>(*place));
  }
  return places;
}

}  // namespace anvil
