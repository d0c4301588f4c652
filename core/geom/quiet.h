// OpenCASCADE chats on standard output; programs whose output is a contract call this first. Every program
// does.
#pragma once

#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <OSD_Parallel.hxx>

namespace anvil {

inline void quiet_kernel() {
  Message::DefaultMessenger()->ChangePrinters().Clear();
#ifdef __SANITIZE_THREAD__
  // The sanitizer sees how the kernel's own pool hands work from thread to thread; TBB is built without it.
  OSD_Parallel::SetUseOcctThreads(true);
#endif
}

}  // namespace anvil
