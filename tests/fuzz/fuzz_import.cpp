// fuzz_import [COUNT] [SEED]: breaks good files in every way it knows and brings them in. Each mutant must
// give a part or one sentence, within the limits, and leave no worker and no temporary file behind; that
// every reader died is no answer. Prints what came of them; status 1 when anything was wrong. Those that were
// wrong are kept in the folder FUZZ_KEEP names.
#include <fmt/format.h>

#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <map>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/worker_client.h"
#include "fuzz/mutator.h"
#include "geom/quiet.h"
#include "job/edits.h"
#include "store/job_file.h"
#include "support/process.h"

namespace {

using namespace anvil;
using test::Mutator;
namespace fs = std::filesystem;

constexpr std::chrono::seconds kLimit{20};
constexpr double kSlack_s = 2;

struct Seed {
  std::string suffix, bytes;
};

std::vector<Seed> good_files(const fs::path& folder) {
  Body body;
  body.name = "block";
  body.shape = demo::cut(demo::block({0, 0, 0}, {60, 40, 20}),
                         {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20),
                          demo::taper(gp_Ax2(gp_Pnt(45, 20, 20), gp_Dir(0, 0, -1)), 12, 0, 6)});
  for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
  std::vector<Seed> seeds;
  const auto write = [&](const char* format, bool binary) {
    const fs::path path = folder / (std::string("good.") + format);
    WriteOptions options;
    options.binary = binary;
    if (write_part_file({body}, {}, *format_by_id(format), options, path))
      seeds.push_back({format, *read_file(path)});
  };
  for (const char* format : {"step", "iges", "brep"}) write(format, true);
  write("stl", true);
  write("stl", false);
  auto part = import_part(folder / "good.step", {});
  const Job job = with_part({}, *part, std::make_shared<const std::string>(seeds.front().bytes), "block");
  if (save_job(job, folder / "good.anvil")) seeds.push_back({"anvil", *read_file(folder / "good.anvil")});
  if (save_job(job, folder / "good.anvil", {.with_shapes = false}))
    seeds.push_back({"anvil", *read_file(folder / "good.anvil")});
  return seeds;
}

size_t files_in(const fs::path& folder) {
  size_t count = 0;
  for ([[maybe_unused]] const auto& item : fs::directory_iterator(folder)) ++count;
  return count;
}

}  // namespace

int main(int argc, char** argv) {
  const int count = argc > 1 ? std::atoi(argv[1]) : 200;
  const unsigned seed = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 20261125U;
  quiet_kernel();
  const TemporaryFolder folder;
  fs::create_directories(folder.path() / "tmp");
  const std::vector<Seed> seeds = good_files(folder.path());
  ::setenv("TMPDIR", (folder.path() / "tmp").c_str(), 1);
  std::cout << "seed " << seed << ", " << seeds.size() << " good files\n";
  std::map<std::string, int> outcomes;
  int wrong = 0;
  double slowest = 0;
  for (int i = 0; i < count; ++i) {
    const Seed& good = seeds[static_cast<size_t>(i) % seeds.size()];
    std::string how;
    const std::string bytes = Mutator(seed + static_cast<unsigned>(i)).mutate(good.bytes, how);
    const fs::path path = folder.path() / ("mutant." + good.suffix);
    std::ofstream(path, std::ios::binary) << bytes;
    const auto start = std::chrono::steady_clock::now();
    std::string sentence;
    bool part = false, reader_died = false;
    if (good.suffix == "anvil") {
      const auto loaded = load_job(path, {});
      part = loaded.has_value();
      if (!loaded) sentence = loaded.error().sentence;
    } else {
      const auto imported = import_part(path, {}, {kLimit, 4096});
      part = imported.has_value();
      if (!imported) sentence = imported.error().sentence;
      reader_died = !imported && imported.error().code == RefusalCode::kReaderDied;
    }
    const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    slowest = std::max(slowest, took);
    std::string what;
    if (!part && sentence.empty()) what = "no sentence";
    if (sentence.find('\n') != std::string::npos) what = "more than one line: " + sentence;
    if (took > static_cast<double>(kLimit.count()) + kSlack_s) what = fmt::format("took {:.1f} s", took);
    if (test::children() != 0) what = "a worker is left";
    if (files_in(folder.path() / "tmp") != 0) what = "temporary files are left";
    if (reader_died) what = "the reader died: " + sentence;
    const bool limit = sentence.find("was given up") != std::string::npos ||
                       sentence.find("computing time") != std::string::npos;
    ++outcomes[good.suffix + (part          ? ": part"
                              : reader_died ? ": message (the reader died)"
                              : limit       ? ": message (limit)"
                                            : ": message")];
    if (what.empty()) continue;
    if (const char* keep = std::getenv("FUZZ_KEEP"))
      fs::copy_file(path, fs::path(keep) / fmt::format("mutant-{}.{}", i, good.suffix),
                    fs::copy_options::overwrite_existing);
    ++wrong;
    std::cout << "mutant " << i << " (" << how << "): " << what << "\n";
  }
  for (const auto& [name, number] : outcomes) std::cout << "  " << name << " " << number << "\n";
  std::cout << count << " mutants, slowest " << fmt::format("{:.2f}", slowest) << " s, " << wrong
            << " wrong\n";
  return wrong == 0 ? 0 : 1;
}
