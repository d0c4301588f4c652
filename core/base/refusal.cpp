#include "base/refusal.h"

namespace anvil {

const char* code_name(RefusalCode code) {
  switch (code) {
    case RefusalCode::kCancelled:
      return "cancelled";
    case RefusalCode::kUnreadable:
      return "unreadable";
    case RefusalCode::kReaderDied:
      return "reader-died";
    case RefusalCode::kNoBody:
      return "no-body";
    case RefusalCode::kCannotWrite:
      return "cannot-write";
    case RefusalCode::kUnknownName:
      return "unknown-name";
    case RefusalCode::kBadInput:
      return "bad-input";
    case RefusalCode::kGeometry:
      return "geometry";
    case RefusalCode::kAmbiguous:
      return "ambiguous";
    case RefusalCode::kLimit:
      return "limit";
    case RefusalCode::kInternal:
      return "internal";
  }
  return "internal";
}

tl::unexpected<Refusal> refuse(RefusalCode code, std::string sentence) {
  return tl::unexpected<Refusal>(Refusal{code, std::move(sentence)});
}

tl::unexpected<Refusal> refuse(Refusal refusal) {
  return tl::unexpected<Refusal>(std::move(refusal));
}

}  // namespace anvil
