// OpenCASCADE chats on standard output; programs whose output is a contract call this first. Every program
// does.
#pragma once

#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <OSD_Parallel.hxx>

#include "base/sanitizers.h"

namespace anvil {

inline void quiet_kernel() {
  Message::DefaultMessenger()->ChangePrinters().Clear();
  // The thread sanitizer follows the kernel's own pool better than TBB, which is built without it.
  if (TRUE_ANVIL_THREAD_SANITIZER) OSD_Parallel::SetUseOcctThreads(true);
}

}  // namespace anvil
