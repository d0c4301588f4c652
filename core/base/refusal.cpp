#include "base/refusal.h"

#include "base/plain_text.h"

namespace anvil {

bool is_lasting(RefusalCode code) {
  switch (code) {
    case RefusalCode::kReaderDied:
    case RefusalCode::kNoBody:
    case RefusalCode::kUnknownName:
    case RefusalCode::kBadInput:
    case RefusalCode::kGeometry:
    case RefusalCode::kAmbiguous:
      return true;
    case RefusalCode::kCancelled:
    case RefusalCode::kUnreadable:
    case RefusalCode::kCannotWrite:
    case RefusalCode::kLimit:
    case RefusalCode::kInternal:
      return false;
  }
  return false;
}

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
  return refuse(Refusal{code, std::move(sentence)});
}

tl::unexpected<Refusal> refuse(Refusal refusal) {
  // Sentences hold names of files, of entries, and what libraries say.
  refusal.sentence = plain_text(refusal.sentence);
  return tl::unexpected<Refusal>(std::move(refusal));
}

}  // namespace anvil
