#include "job/job_file.h"

#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <unistd.h>
#include <chrono>
#include <csignal>
#include <random>
#include <thread>

#include "base/file.h"
#include "exchange/step_format.h"
#include "exchange/worker_client.h"
#include "job/autosave.h"
#include "job/job_json.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

// A job as the application makes it: the part imported from a file, its bytes kept.
Job imported_job(const std::filesystem::path& folder) {
  EXPECT_TRUE(write_step(test::plate().bodies, {}, folder / "plate.step"));
  auto part = import_part(folder / "plate.step", {});
  EXPECT_TRUE(part);
  return with_part({}, *part, std::make_shared<const std::string>(*read_file(folder / "plate.step")),
                   "plate");
}

Recipe quarter_turn() {
  return JobFixture::recipe("place.quarter-turn", {}, {{"about", "X"}, {"sense", "backward"}});
}

TEST(JobFile, SavedAndOpenedIsTheSameJob) {
  const TemporaryFolder folder;
  Job job = with_placement_step(imported_job(folder.path()), quarter_turn());
  int id = 0;
  Reference face{describe(*job.first_part()->part()->part, job.first_part()->id, TopologyKind::kFace, 3),
                 gp_Pnt(1, 2, 3)};
  Recipe recipe = JobFixture::recipe("plane.offset", {face}, {{"distance", "1/4in + 2"}});
  recipe.flipped = true;
  job = with_name(with_datum(job, recipe, &id), id, "Überstand");
  job.display.unit = Unit::kInch;
  ASSERT_TRUE(save_job(job, folder.path() / "a.anvil"));
  const auto loaded = load_job(folder.path() / "a.anvil", {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_EQ(job_to_json(loaded->job), job_to_json(job));
  EXPECT_EQ(*loaded->job.first_part()->part()->sources.front().bytes,
            *job.first_part()->part()->sources.front().bytes);
  EXPECT_EQ(evaluate(loaded->job).entries.at(id).state, EntryState::kCurrent);
}

// As a program without a window makes it.
TEST(JobFile, PartThatWasNeverMeshedComesMeshed) {
  const TemporaryFolder folder;
  const JobFixture f;
  Job job = imported_job(folder.path());
  auto bodies = f.part->bodies();
  SourceInfo source = job.first_part()->part()->part->source();
  ASSERT_TRUE(triangles_of(bodies.front().shape).empty());
  job = with_part({}, std::make_shared<const Part>(source, bodies),
                  job.first_part()->part()->sources.front().bytes, "block");
  ASSERT_TRUE(save_job(job, folder.path() / "a.anvil"));
  const auto loaded = load_job(folder.path() / "a.anvil", {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_FALSE(triangles_of(loaded->job.part()->shape()).empty());
}

TEST(JobFile, SameJobIsTheSameBytes) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  ASSERT_TRUE(save_job(job, folder.path() / "a.anvil"));
  ASSERT_TRUE(save_job(job, folder.path() / "b.anvil"));
  EXPECT_EQ(*read_file(folder.path() / "a.anvil"), *read_file(folder.path() / "b.anvil"));
}

TEST(JobFile, DamagedFilesAreRefusedWithASentence) {
  const TemporaryFolder folder;
  ASSERT_TRUE(save_job(imported_job(folder.path()), folder.path() / "a.anvil"));
  const std::string bytes = *read_file(folder.path() / "a.anvil");
  int number = 0;
  std::vector<std::string> damaged{"", "text", bytes.substr(0, bytes.size() / 2),
                                   bytes.substr(bytes.size() / 2)};
  for (const std::string& broken : damaged) {
    const auto path = folder.path() / ("broken" + std::to_string(number++) + ".anvil");
    ASSERT_TRUE(write_file_atomically(path, broken));
    const auto loaded = load_job(path, {});
    ASSERT_FALSE(loaded) << number;
    EXPECT_NE(loaded.error().sentence.find(path.filename().string()), std::string::npos);
  }
}

TEST(JobFile, SavingWhereNobodyMayKeepsTheOldFile) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto refused = save_job(job, folder.path() / "no-such-folder" / "a.anvil");
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().code, RefusalCode::kCannotWrite);
}

JobLoader loader_of(const JobFixture& f) {
  return {[&f](const std::string&, double scale) -> Result<SourceFile> {
            return SourceFile{f.part, std::make_shared<const std::string>(), scale};
          },
          [] { return PartPtr(); }};
}

TEST(JobJson, ReferencesMayOnlyPointBackward) {
  JobFixture f;
  const int a = f.midway();
  const int b = f.offset_from(a);
  std::swap(f.job.entries[1], f.job.entries[2]);
  const auto loaded = job_from_json(job_to_json(f.job), loader_of(f));
  ASSERT_FALSE(loaded);
  EXPECT_NE(loaded.error().sentence.find("refers to"), std::string::npos);
  EXPECT_GT(b, a);
}

TEST(JobJson, NonsenseIsRefusedNotCrashed) {
  JobFixture f;
  f.midway();
  const std::string good = job_to_json(f.job);
  const JobLoader loader = loader_of(f);
  ASSERT_TRUE(job_from_json(good, loader));
  // Every value replaced by one of another type, one at a time.
  for (size_t at = good.find(": "); at != std::string::npos; at = good.find(": ", at + 1)) {
    std::string bad = good;
    const size_t end = good.find_first_of(",\n", at);
    bad.replace(at + 2, end - at - 2, "[{}]");
    const auto loaded = job_from_json(bad, loader);
    if (!loaded) {
      EXPECT_FALSE(loaded.error().sentence.empty());
    }
  }
}

// A child process with `act`; its exit status, or 128 + the signal that ended it.
int in_a_child(const std::function<void()>& act, std::chrono::milliseconds kill_after = {}) {
  const pid_t child = ::fork();
  if (child == 0) {
    act();
    ::_exit(0);
  }
  if (kill_after.count() > 0) {
    std::this_thread::sleep_for(kill_after);
    ::kill(child, SIGKILL);
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

size_t files_in(const std::filesystem::path& folder) {
  return static_cast<size_t>(std::distance(std::filesystem::directory_iterator(folder), {}));
}

TEST(JobFile, FullDiskLeavesTheSavedJobWhole) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path));
  const std::string before = *read_file(path);
  const size_t files = files_in(folder.path());
  // No more than a kilobyte may be written: what a full disk does, at the same call.
  const int status = in_a_child([&] {
    ::signal(SIGXFSZ, SIG_IGN);
    const rlimit little{1024, 1024};
    ::setrlimit(RLIMIT_FSIZE, &little);
    const auto saved = save_job(job, path, false);
    ::_exit(!saved && saved.error().code == RefusalCode::kCannotWrite && !saved.error().sentence.empty() ? 0
                                                                                                         : 1);
  });
  EXPECT_EQ(status, 0);
  EXPECT_EQ(*read_file(path), before);
  EXPECT_EQ(files_in(folder.path()), files);
}

TEST(JobFile, KilledWhileSavingLeavesTheOldJobOrTheNewOne) {
  const TemporaryFolder folder;
  const Job old_job = imported_job(folder.path());
  Job new_job = old_job;
  new_job.display.decimals = 5;
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(old_job, path));
  for (int i = 1; i <= 12; ++i) {
    const int status = in_a_child(
        [&] {
          for (;;) static_cast<void>(save_job(new_job, path, false));
        },
        std::chrono::milliseconds(3 * i));
    EXPECT_EQ(status, 128 + SIGKILL);
    const auto loaded = load_job(path, {});
    ASSERT_TRUE(loaded) << loaded.error().sentence;
    EXPECT_TRUE(loaded->job.display.decimals == 5 ||
                loaded->job.display.decimals == old_job.display.decimals);
  }
}

TEST(JobFile, DamagedShapesAreMadeAgainFromTheSource) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path));
  std::string bytes = *read_file(path);
  // The shapes are stored unpacked at the end; a flipped bit there fails their checksum.
  const size_t at = bytes.find("shape.bin");
  ASSERT_NE(at, std::string::npos);
  bytes[at + 2000] ^= 1;
  ASSERT_TRUE(write_file_atomically(path, bytes));
  const auto loaded = load_job(path, {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_EQ(loaded->job.part()->topology().faces.size(), job.part()->topology().faces.size());
}

// Wherever a bit is flipped: what opens is the job that was saved.
TEST(JobFile, AFlippedBitIsFoundOrDoesNotMatter) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path));
  const std::string whole = *read_file(path);
  const Box box = exact_box(job.part()->shape());
  const unsigned seed = 20261127;
  std::cout << "seed " << seed << '\n';
  std::mt19937 random(seed);
  int refused = 0;
  for (int i = 0; i < 40; ++i) {
    std::string bytes = whole;
    const size_t at = random() % bytes.size();
    bytes[at] ^= static_cast<char>(1 << (random() % 8));
    ASSERT_TRUE(write_file_atomically(path, bytes));
    const auto loaded = load_job(path, {});
    if (!loaded) {
      ++refused;
      EXPECT_FALSE(loaded.error().sentence.empty());
      continue;
    }
    EXPECT_EQ(job_to_json(loaded->job), job_to_json(job)) << "byte " << at;
    EXPECT_EQ(*loaded->job.first_part()->part()->sources.front().bytes,
              *job.first_part()->part()->sources.front().bytes)
        << "byte " << at;
    EXPECT_LT(exact_box(loaded->job.part()->shape()).min.Distance(box.min), 1e-9) << "byte " << at;
  }
  EXPECT_GT(refused, 0);
}

// A stranger's job: the name of its source leads out of every folder.
TEST(JobFile, TheNameOfASourceIsNoPath) {
  const TemporaryFolder folder;
  const Job honest = imported_job(folder.path());
  SourceInfo source = honest.part()->source();
  source.file_name = "../../../evil.step";
  const auto part = std::make_shared<const Part>(source, honest.part()->bodies());
  const Job prepared = with_part({}, part, honest.first_part()->part()->sources.front().bytes, "plate");
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(prepared, path));
  const auto loaded = load_job(path, {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  const SourceInfo& told = loaded->job.first_part()->part()->sources.front().part->source();
  EXPECT_EQ(told.file_name, "evil.step");
  ASSERT_FALSE(told.warnings.empty());
  EXPECT_NE(told.warnings.back().find("evil.step"), std::string::npos);
}

TEST(SafeFileName, IsOneNameInOneFolder) {
  const std::pair<const char*, const char*> cases[] = {{"plate.step", "plate.step"},
                                                       {"../../x.step", "x.step"},
                                                       {"/etc/passwd", "passwd"},
                                                       {"..", "part"},
                                                       {"", "part"},
                                                       {"a/", "part"},
                                                       {"C:\\jobs\\b.stp", "b.stp"},
                                                       {"a\nb.stp", "a_b.stp"},
                                                       {"-x.stp", "-x.stp"}};
  for (const auto& [told, safe] : cases) EXPECT_EQ(safe_file_name(told), safe) << told;
  EXPECT_LE(safe_file_name(std::string(300000, 'x') + ".step").size(), 200u);
}

TEST(Autosave, CopyOfARunThatIsGoneIsFoundAndThatOfALivingOneLeftAlone) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path));
  const Autosave own(path, folder.path());
  ASSERT_TRUE(own.write(job));
  EXPECT_FALSE(Autosave::left_behind(path));  // ours: this process lives
  const auto orphan = folder.path() / ".job.anvil.autosave-999999999";
  std::filesystem::copy_file(own.path(), orphan);
  EXPECT_EQ(Autosave::left_behind(path), orphan);
  own.discard();
  EXPECT_FALSE(std::filesystem::exists(own.path()));
  // Older than the job itself: the job was saved since.
  std::filesystem::last_write_time(orphan, std::filesystem::last_write_time(path) - std::chrono::hours(1));
  EXPECT_FALSE(Autosave::left_behind(path));
}

}  // namespace
}  // namespace anvil
