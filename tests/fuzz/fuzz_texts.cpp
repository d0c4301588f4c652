// fuzz_texts [COUNT] [SEED] [TARGET]: breaks good texts of every kind and has them read, COUNT of each kind.
// Whatever is wrong, also that it takes longer than two seconds or ends the process, is told with the input,
// which is kept in the folder FUZZ_KEEP names; status 1 when anything was.
#include <unistd.h>

#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iostream>

#include "base/file.h"
#include "fuzz/mutator.h"
#include "fuzz/targets.h"
#include "geom/guard.h"

namespace {

using namespace anvil;
namespace fs = std::filesystem;

constexpr unsigned kLimit_s = 2;

std::string g_input, g_name;

void keep_input() {
  const char* folder = std::getenv("FUZZ_KEEP");
  if (!folder) return;
  std::ofstream(fs::path(folder) / (g_name + "-" + sha256_hex(g_input).substr(0, 12)), std::ios::binary)
      << g_input;
}

// The process is lost: what did it is told before it ends.
void tell_and_die(int signal) {
  std::cerr << g_name << ": " << (signal == SIGALRM ? "takes too long" : ::strsignal(signal)) << " on\n"
            << g_input << std::endl;
  keep_input();
  ::_exit(1);
}

std::vector<std::string> seeds_of(const test::FuzzTarget& target) {
  std::vector<std::string> seeds = target.seeds;
  std::error_code error;
  for (const auto& file : fs::directory_iterator(fs::path(ANVIL_CORPUS) / target.name, error))
    if (auto bytes = read_file(file.path())) seeds.push_back(*bytes);
  std::sort(seeds.begin(), seeds.end());
  return seeds;
}

std::string read(const test::FuzzTarget& target, const std::string& bytes) {
  g_input = bytes;
  ::alarm(kLimit_s);
  const auto wrong = guarded("reading", [&]() -> Result<std::string> { return target.read(bytes); });
  ::alarm(0);
  return wrong ? *wrong : "it threw: " + wrong.error().sentence;
}

// How many were read wrongly.
int fuzz(const test::FuzzTarget& target, int count, unsigned seed) {
  g_name = target.name;
  const std::vector<std::string> seeds = seeds_of(target);
  int wrong = 0;
  for (int i = -static_cast<int>(seeds.size()); i < count; ++i) {
    const std::string& good = seeds[static_cast<size_t>(i + static_cast<int>(seeds.size())) % seeds.size()];
    std::string bytes = good, how = "as it is";
    if (i >= 0) {
      test::Mutator mutator(seed + static_cast<unsigned>(i), target.words);
      bytes = mutator.mutate(good, how);
      if (i % 3 == 0) bytes = mutator.mutate(std::move(bytes), how);
    }
    const std::string what = read(target, bytes);
    if (what.empty()) continue;
    ++wrong;
    keep_input();
    std::cout << target.name << " " << i << " (" << how << "): " << what << "\n";
  }
  return wrong;
}

}  // namespace

int main(int argc, char** argv) {
  const int count = argc > 1 ? std::atoi(argv[1]) : 2000;
  const unsigned seed = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 20261127U;
  for (const int signal : {SIGSEGV, SIGABRT, SIGFPE, SIGBUS, SIGILL, SIGALRM})
    std::signal(signal, tell_and_die);
  std::cout << "seed " << seed << "\n";
  int wrong = 0;
  for (const test::FuzzTarget& target : test::fuzz_targets()) {
    if (argc > 3 && target.name != std::string(argv[3])) continue;
    const auto start = std::chrono::steady_clock::now();
    const int here = fuzz(target, count, seed);
    wrong += here;
    std::cout << target.name << ": " << count << " mutants, " << here << " wrong, "
              << std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() << " s\n";
  }
  return wrong == 0 ? 0 : 1;
}
