// Clang's thread sanitizer stands between a program and clone(), by which the toolkit starts others, and ends
// the program there: its own check of the thread's state fails. These tests start xdotool with every click,
// so the call goes past it.
#include "base/sanitizers.h"

#if TRUE_ANVIL_THREAD_SANITIZER && defined(__clang__)
#include <sys/types.h>
#include <cstdarg>

extern "C" {
int __clone(int (*run)(void*), void* stack, int flags, void* given, ...);  // the C library's own

int clone(int (*run)(void*), void* stack, int flags, void* given, ...) {
  va_list rest;
  va_start(rest, given);
  pid_t* const parent = va_arg(rest, pid_t*);
  void* const locals = va_arg(rest, void*);
  pid_t* const child = va_arg(rest, pid_t*);
  va_end(rest);
  return __clone(run, stack, flags, given, parent, locals, child);
}
}
#endif
