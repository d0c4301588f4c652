// Loops whose turns run beside each other, on the kernel's threads.
#pragma once

#include <OSD_Parallel.hxx>

#include "base/sanitizers.h"

namespace anvil {

// Calls turn(0) to turn(count - 1) in any order, on this and other threads; returns when all are done. Each
// turn writes only to a place of its own.
template <class Turn>
void in_parallel(int count, const Turn& turn) {
  HandOver begun, done;
  begun.given();
  OSD_Parallel::For(0, count, [&](int i) {
    begun.taken();
    turn(i);
    done.given();
  });
  done.taken();
}

}  // namespace anvil
