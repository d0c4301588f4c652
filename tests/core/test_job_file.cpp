#include "store/job_file.h"

#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <csignal>
#include <cstdlib>
#include <random>
#include <thread>

#include "base/file.h"
#include "exchange/step_format.h"
#include "exchange/worker_client.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "store/container.h"
#include "store/job_json.h"
#include "store/safety_copy.h"
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
  Reference face{describe(*job.first_part()->part()->part(), job.first_part()->id, TopologyKind::kFace, 3),
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
  SourceInfo source = job.first_part()->part()->part()->source();
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
  }};
}

TEST(JobJson, EntriesInTheWrongOrderArePutInTheRightOne) {
  JobFixture f;
  const int a = f.midway();
  const int b = f.offset_from(a);
  const std::string good = job_to_json(f.job);
  f.job.entries.swap_places(1, 2);
  const auto loaded = job_from_json(job_to_json(f.job), loader_of(f));
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_EQ(job_to_json(*loaded), good);
  EXPECT_GT(b, a);
}

// What a stranger may write in a field, and what must be told of it. The rest of the job opens.
TEST(JobJson, AFieldBeyondSenseIsNamedAndItsEntryLeftOut) {
  JobFixture f;
  const int plane = f.midway();
  f.job = with_colour(f.job, plane, Colour{0.5, 0.5, 0.5});
  f.setup_on_top();
  const std::string good = job_to_json(f.job);
  const std::string id = "\"id\": " + std::to_string(plane) + ",";
  const struct {
    std::string from, to, told;
  } cases[] = {{"0.5,", "7.5,", "7.5"},
               {"\"name\": \"Plane 1\"", "\"name\": \"" + std::string(300000, 'x') + "\"", "name"},
               {"\"axis_at\": [", "\"axis_at\": [1e300, ", "axis_at"},
               {"\"kind\": \"face\"", "\"kind\": \"roof\"", "roof"},
               {"\"construction\": \"plane.midway\"", "\"construction\": 7", "construction"},
               {id, "\"id\": 1,", "number"}};
  for (const auto& each : cases) {
    std::string bad = good;
    const size_t at = bad.find(each.from);
    ASSERT_NE(at, std::string::npos) << each.from;
    bad.replace(at, each.from.size(), each.to);
    std::vector<std::string> told;
    JobLoader loader = loader_of(f);
    loader.left_out = [&](const std::string& sentence) { told.push_back(sentence); };
    const auto loaded = job_from_json(bad, loader);
    ASSERT_TRUE(loaded) << loaded.error().sentence;
    ASSERT_FALSE(told.empty()) << each.to.substr(0, 60);
    EXPECT_NE(told.front().find(each.told), std::string::npos) << told.front();
    EXPECT_LT(told.front().size(), 400u);
    EXPECT_NE(loaded->find(f.job.next_id - 1), nullptr) << "the setup is whole";
  }
  EXPECT_FALSE(job_from_json(std::string(100000, '[') + std::string(100000, ']'), loader_of(f)));
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
    const auto saved = save_job(job, path, {.with_shapes = false});
    ::_exit(!saved && saved.error().code == RefusalCode::kCannotWrite && !saved.error().sentence.empty() ? 0
                                                                                                         : 1);
  });
  EXPECT_EQ(status, 0);
  EXPECT_EQ(*read_file(path), before);
  EXPECT_EQ(files_in(folder.path()), files);
}

// At fifty random moments of saving and copying: the job is the old one or the new one, the copy is none or
// the new one, and the next save leaves nothing of the killed ones beside it.
TEST(JobFile, KilledAtAnyMomentLeavesTheOldJobTheNewOneOrTheCopy) {
  const TemporaryFolder folder, state;
  const Job old_job = imported_job(folder.path());
  Job new_job = old_job;
  new_job.display.decimals = 5;
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(old_job, path));
  const size_t files = files_in(folder.path());
  const SourceFile& file = old_job.first_part()->part()->sources.front();
  const char* given = std::getenv("ANVIL_SEED");
  const unsigned seed = given ? static_cast<unsigned>(std::atoi(given)) : 20261128;
  std::cout << "seed " << seed << '\n';
  std::mt19937 random(seed);
  const auto is_one_of_both = [&](const std::filesystem::path& at) {
    const auto container = Container::open(at);
    ASSERT_TRUE(container) << container.error().sentence;
    const auto text = (*container)->read("job.json"), source = (*container)->read(source_path(file));
    ASSERT_TRUE(text && source) << at;
    EXPECT_TRUE(*text == job_to_json(old_job) || *text == job_to_json(new_job));
    EXPECT_EQ(*source, *file.bytes);
  };
  for (int i = 0; i < 50; ++i) {
    const int status = in_a_child(
        [&] {
          for (;;) {
            SafetyCopy copy(path, state.path());
            static_cast<void>(copy.write(new_job));
            static_cast<void>(save_job(new_job, path, {.with_shapes = false}));
            copy.close();
          }
        },
        std::chrono::milliseconds(1 + random() % 40));
    ASSERT_EQ(status, 128 + SIGKILL);
    is_one_of_both(path);
    for (const LeftBehind& left : SafetyCopy::left_behind(state.path(), path)) {
      is_one_of_both(left.folder);
      SafetyCopy::remove(left);
    }
  }
  for (const auto& left : std::filesystem::directory_iterator(folder.path()))
    if (left.path() != path && left.path().filename() != "plate.step")
      std::filesystem::last_write_time(left.path(),
                                       std::filesystem::file_time_type::clock::now() - std::chrono::hours(1));
  ASSERT_TRUE(save_job(new_job, path));
  EXPECT_EQ(files_in(folder.path()), files);
  EXPECT_TRUE(SafetyCopy::left_behind(state.path()).empty());
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

// Wherever a bit is flipped: what opens is the job that was saved, or says that it is damaged.
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
  for (int i = 0; i < 25; ++i) {
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
    if (loaded->damaged) {
      ++refused;
      EXPECT_TRUE(loaded->read_only);
      EXPECT_FALSE(loaded->notice.empty());
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
                                                       {"a\nb.stp", "a b.stp"},
                                                       {"-x.stp", "-x.stp"}};
  for (const auto& [told, safe] : cases) EXPECT_EQ(safe_file_name(told), safe) << told;
  EXPECT_LE(safe_file_name(std::string(300000, 'x') + ".step").size(), 200u);
}

// Its source is damaged and its shapes are, too: what does not need them opens, and nothing can be saved
// over.
TEST(JobFile, ADamagedSourceIsToldAndTheRestOpens) {
  const TemporaryFolder folder;
  Job job = imported_job(folder.path());
  const SourceFile first = job.first_part()->part()->sources.front();
  const auto other = test::part_of(demo::block({0, 0, 0}, {5, 5, 5}));
  const auto second = std::make_shared<const Part>(
      SourceInfo{"other.step", "step", "", "mm", 1, "feedfeedfeed", {}, 1}, other->bodies());
  job = with_part(job, second, std::make_shared<const std::string>("no part at all"), "other");
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path, {.with_shapes = false}));
  const auto loaded = load_job(path, {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_TRUE(loaded->damaged && loaded->read_only);
  EXPECT_NE(loaded->notice.find("other.step"), std::string::npos) << loaded->notice;
  ASSERT_NE(loaded->job.part(), nullptr);
  EXPECT_EQ(loaded->job.part()->bodies().size(), first.part->bodies().size());
}

// Its bytes are damaged and its shapes are not: the part is there to look at, and nothing is saved over it.
TEST(JobFile, OfADamagedSourceTheStoredShapesAreShown) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  ASSERT_TRUE(save_job(job, path));
  std::string bytes = *read_file(path);
  const std::string inside = source_path(job.first_part()->part()->sources.front());
  bytes[bytes.find(inside) + inside.size() + 500] ^= 4;
  ASSERT_TRUE(write_file_atomically(path, bytes));
  const auto loaded = load_job(path, {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_TRUE(loaded->damaged && loaded->read_only);
  EXPECT_NE(loaded->notice.find("as they were stored"), std::string::npos) << loaded->notice;
  EXPECT_EQ(loaded->job.part()->topology().faces.size(), job.part()->topology().faces.size());
}

TEST(JobFile, AJobOfANewerVersionOpensToReadWithWhatIsKnown) {
  const TemporaryFolder folder;
  Job job = imported_job(folder.path());
  int plane = 0;
  Reference face{describe(*job.part(), job.first_part()->id, TopologyKind::kFace, 3), {}};
  job = with_datum(job, JobFixture::recipe("plane.offset", {face}, {{"distance", "2"}}), &plane);
  std::string text = job_to_json(job);
  const std::string version = "\"version\": ";
  const std::string ours = version + std::to_string(kJobFormatVersion);
  text.replace(text.find(ours), ours.size(), version + std::to_string(kJobFormatVersion + 1));
  const size_t entries = text.find("\"entries\": [") + 12;
  text.insert(entries, R"({"id": 77, "name": "Probe 1", "visible": true, "touch": {"force": 3}},)");
  std::filesystem::create_directories(folder.path() / "copy");
  const SourceFile& file = job.first_part()->part()->sources.front();
  const auto inside = folder.path() / "copy" / source_path(file);
  std::filesystem::create_directories(inside.parent_path());
  ASSERT_TRUE(write_file_atomically(inside, *file.bytes));
  ASSERT_TRUE(write_file_atomically(folder.path() / "copy" / "job.json", text));
  const auto loaded = load_job(folder.path() / "copy", {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_TRUE(loaded->read_only && !loaded->damaged);
  EXPECT_NE(loaded->notice.find("newer version"), std::string::npos);
  EXPECT_NE(loaded->notice.find("Probe 1"), std::string::npos) << loaded->notice;
  EXPECT_NE(loaded->job.find(plane), nullptr);
}

// A save through which somebody else got: theirs is beside ours, and what was awaited is not a time but a
// file.
TEST(JobFile, WhatSomebodyElseSavedIsKeptBesideOurs) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  const auto ours = save_job(job, path);
  ASSERT_TRUE(ours);
  Job theirs = job;
  theirs.display.decimals = 1;
  ASSERT_TRUE(save_job(theirs, path));
  const auto again = save_job(job, path, {.expected = ours->state});
  ASSERT_TRUE(again);
  ASSERT_FALSE(again->kept_beside.empty());
  EXPECT_EQ(load_job(folder.path() / again->kept_beside, {})->job.display.decimals, 1);
  const auto third = save_job(job, path, {.expected = again->state});
  ASSERT_TRUE(third);
  EXPECT_TRUE(third->kept_beside.empty());
  const auto given_up = save_job(theirs, path, {.wanted = [] { return false; }});
  ASSERT_FALSE(given_up);
  EXPECT_EQ(given_up.error().code, RefusalCode::kCancelled);
  EXPECT_EQ(load_job(path, {})->job.display.decimals, job.display.decimals);
}

// Shapes that end whoever reads them: the job opens all the same, from its source.
TEST(JobFile, PoisonedShapesEndNobody) {
  const TemporaryFolder folder;
  const Job job = imported_job(folder.path());
  const auto path = folder.path() / "job.anvil";
  const SourceFile& file = job.first_part()->part()->sources.front();
  const std::string text = job_to_json(job), about = R"({"source":{},"bodies":[]})";
  std::string shapes =
      "\nOpen CASCADE Topology V4, (c) Open Cascade\n"
      "Locations 2147483647\n";
  shapes.append(4096, '\xff');
  const std::string inside = shapes_path(file);
  const auto bytes = zip_of({{"job.json", &text},
                             {source_path(file), file.bytes.get()},
                             {inside + "/part.json", &about},
                             {inside + "/shape.bin", &shapes}});
  ASSERT_TRUE(bytes);
  ASSERT_TRUE(write_file_atomically(path, *bytes));
  const auto loaded = load_job(path, {});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  EXPECT_FALSE(loaded->damaged);
  EXPECT_EQ(loaded->job.part()->topology().faces.size(), job.part()->topology().faces.size());
}

}  // namespace
}  // namespace anvil
