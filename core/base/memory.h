// Noticing that there was no more memory. Libraries take it for a fault of the file they read, or die of it;
// so whoever runs them watches the allocator itself, and tells that first.
//
//   watch_memory();                                    // once, before anything else, also before fork()
//   …
//   if (memory_ran_out()) return refuse(out_of_memory("reading", "plate.step"));
#pragma once

#include <string>

#include "base/refusal.h"

namespace anvil {

// From now on a request for memory that cannot be met is remembered, for this process and for copies of it
// made by fork(); `first`, when given, is called at the first one and may only do what a signal handler may.
void watch_memory(void (*first)() = nullptr);

// Whether that happened. What was worked out nevertheless cannot be trusted: a library may have left out what
// it had no memory for.
bool memory_ran_out();

// For whoever is told so by a library with memory of its own.
void note_no_memory();

// "There is not enough memory for reading plate.step: this process may use 200 MB. …"; kLimit.
Refusal out_of_memory(const std::string& doing, const std::string& what);

}  // namespace anvil
