// A light stand-in for a part while the view is turned: its largest faces, as many as a number of triangles
// allows, without edges. For machines that take too long for a whole frame of a large part.
#pragma once

#include <AIS_InteractiveObject.hxx>
#include <QColor>
#include <functional>
#include <vector>

#include "part/part.h"

namespace anvil::app {

// One object for each colour. `colour_of` gives nothing for bodies that are not shown.
std::vector<Handle(AIS_InteractiveObject)> make_sketch(
    const std::vector<Body>& bodies,
    const std::function<std::optional<Quantity_Color>(const Body&)>& colour_of, int most_triangles);

}  // namespace anvil::app
