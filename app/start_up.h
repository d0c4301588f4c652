// What must be settled before QApplication exists.
#pragma once

namespace anvil::app {

// Chooses X11 with GLX, which is what Debian's OpenCASCADE draws with (Wayland desktops run it through
// XWayland). Returns a sentence when there is no display, else null.
const char* prepare_display();

}  // namespace anvil::app
