// Solids joined to a body, cut from it, or kept in common with it.
#pragma once

#include <optional>

#include "correct/body_change.h"

namespace anvil {

enum class Combining { kJoin, kCut, kCommon };

// Faces that come to lie on one surface are made one, as far as the edges between them are new; all others
// stay as they were. Refuses as judged(), and (kGeometry) when tool and body do not meet.
Result<BodyChange> combined(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools, Combining how);

// With several tools at once, telling for each what became of its faces, by their place in it.
struct Combined {
  BodyChange change;
  std::vector<std::vector<std::vector<TopoDS_Shape>>> faces_of_tools;
};
Result<Combined> combined_telling(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools,
                                  Combining how);

// What one solid has and the other has not, mm³; nothing where the kernel cannot tell.
std::optional<double> volume_beyond(const TopoDS_Shape& solid, const TopoDS_Shape& other);
// What the solids of one list share with those of another.
std::optional<double> volume_in_common(const std::vector<TopoDS_Shape>& solids,
                                       const std::vector<TopoDS_Shape>& others);

}  // namespace anvil
