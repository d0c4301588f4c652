// The same targets for a fuzzer that is guided by coverage (configure with clang and
// TRUE_ANVIL_LIBFUZZER=ON): TRUE_ANVIL_FUZZ names the target, `coverage_guided CORPUS` runs it.
#include <cstdint>
#include <cstdio>
#include <cstdlib>

#include "fuzz/targets.h"

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* bytes, size_t size) {
  static const anvil::test::FuzzTarget* target = [] {
    const char* name = std::getenv("TRUE_ANVIL_FUZZ");
    for (const auto& each : anvil::test::fuzz_targets())
      if (name && std::string(name) == each.name) return &each;
    std::fputs("TRUE_ANVIL_FUZZ names no target\n", stderr);
    std::exit(2);
  }();
  const std::string wrong = target->read(std::string(reinterpret_cast<const char*>(bytes), size));
  if (wrong.empty()) return 0;
  std::fprintf(stderr, "%s\n", wrong.c_str());
  std::abort();
}
