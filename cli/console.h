// What this program says: answers on standard output, messages on standard error, and nothing of any library
// beside them. Texts lose on the way what would be an order to a terminal.
#pragma once

#include <string>

#include "base/progress.h"
#include "base/refusal.h"

namespace anvil::cli {

// Libraries print to standard output and standard error; from here on what they print goes nowhere.
void keep_libraries_quiet();

// To standard output; kDone, or (kCannotWrite) why not. A closed pipe ends the program at once and quietly,
// as it ends other tools.
Result<int> print(const std::string& text);

// A line on standard error.
void say(const std::string& message);

// Ends this process as a closed pipe ends a program that does not look for it.
[[noreturn]] void end_for_closed_pipe();

// On a terminal, shows the phase on standard error; what follows is said by say().
Progress terminal_progress();

}  // namespace anvil::cli
