// OpenCASCADE chats on standard output; programs whose output is a contract call this first.
#pragma once

#include <Message.hxx>
#include <Message_Messenger.hxx>

namespace anvil {

inline void quiet_kernel() {
  Message::DefaultMessenger()->ChangePrinters().Clear();
}

}  // namespace anvil
