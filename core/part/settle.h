// Directions that stay as they are when a shape is written and read again.
//
// The kernel makes directions of unit length anew whenever it reads them, which moves the last digit of some,
// each time. Shapes are handed from process to process and kept in job files, and known by their numbers to
// the last digit; so every one of ours is brought to numbers that reading leaves alone.
#pragma once

#include <TopLoc_Location.hxx>
#include <TopoDS_Shape.hxx>

namespace anvil {

// Brings the geometry under a shape there, in place: directions move by a few units in the last digit. What
// is so already is not touched. Linear in faces and edges; B-splines hold no directions and cost nothing.
void settle(const TopoDS_Shape& shape);

// The same for how a shape lies: its location as one motion.
TopLoc_Location settled(const TopLoc_Location& location);

}  // namespace anvil
