// What a control answers (docs/control-protocol.md), read as a stranger's text: whatever does not follow the
// protocol is no answer.
#pragma once

#include <gp_Pnt.hxx>
#include <optional>
#include <string_view>

namespace anvil {

// "… X1.5 Y2 Z-3" -> (1.5, 2, -3), mm; nothing where one of the three is no finite number.
std::optional<gp_Pnt> point_in_answer(std::string_view line);

}  // namespace anvil
