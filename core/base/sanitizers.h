// Whether this is built with a sanitizer, and what the thread sanitizer cannot see by itself.
#pragma once

#ifndef __has_feature
#define __has_feature(what) 0
#endif

#if defined(__SANITIZE_THREAD__) || __has_feature(thread_sanitizer)
#define TRUE_ANVIL_THREAD_SANITIZER 1
#else
#define TRUE_ANVIL_THREAD_SANITIZER 0
#endif

#if defined(__SANITIZE_ADDRESS__) || __has_feature(address_sanitizer)
#define TRUE_ANVIL_ADDRESS_SANITIZER 1
#else
#define TRUE_ANVIL_ADDRESS_SANITIZER 0
#endif

#if TRUE_ANVIL_THREAD_SANITIZER
extern "C" void __tsan_acquire(void* at);
extern "C" void __tsan_release(void* at);
#endif

namespace anvil {

inline constexpr bool kHasSanitizer = TRUE_ANVIL_THREAD_SANITIZER || TRUE_ANVIL_ADDRESS_SANITIZER;

// A place where one thread hands on to another what it has written, inside a library that is not built with
// the sanitizer. Tells it that what was done before given() is seen after taken(); nothing in other builds.
class HandOver {
 public:
  void given() {
#if TRUE_ANVIL_THREAD_SANITIZER
    __tsan_release(this);
#endif
  }
  void taken() {
#if TRUE_ANVIL_THREAD_SANITIZER
    __tsan_acquire(this);
#endif
  }

 private:
  [[maybe_unused]] char at_ = 0;
};

}  // namespace anvil
