#include "store/job_file.h"

#include <fmt/format.h>
#include <sys/stat.h>

#include <algorithm>
#include <chrono>
#include <ctime>
#include <nlohmann/json.hpp>
#include <set>

#include "base/file.h"
#include "exchange/part_file.h"
#include "exchange/worker_client.h"
#include "geom/guard.h"
#include "job/correcting.h"
#include "job/healing.h"
#include "store/container.h"
#include "store/job_json.h"

namespace anvil {
namespace fs = std::filesystem;
namespace {

const char* const kHealedPath = "shapes/healed";
const char* const kCorrectedPath = "shapes/corrected";

struct Shapes {
  std::string path, text, bytes;
};

Result<Shapes> shapes_of(const std::string& path, const Part& part) {
  const TemporaryFolder folder;
  if (auto written = write_part_folder({part.source(), part.bodies()}, folder.path()); !written)
    return refuse(written);
  auto text = read_file(folder.path() / "part.json");
  auto bytes = read_file(folder.path() / "shape.bin");
  if (!text) return refuse(text);
  if (!bytes) return refuse(bytes);
  return Shapes{path, std::move(*text), std::move(*bytes)};
}

// What opens quickly is a convenience: a part that cannot be stored so is made again.
void add_shapes(std::vector<Shapes>& all, const std::string& path, const Part& part) {
  if (std::any_of(all.begin(), all.end(), [&](const Shapes& s) { return s.path == path; })) return;
  auto shapes = guarded("storing shapes", [&] { return shapes_of(path, part); });
  if (shapes) all.push_back(std::move(*shapes));
}

// The healed part, if it is known, with what was done and the key it is known by.
struct Finished {
  std::string key, report, maps;
};
std::optional<Finished> add_healed(std::vector<Shapes>& all, const Job& job, ResultCache* cache) {
  const Entry* entry = job.healing();
  const PartPtr part = job.part();
  if (!entry || !part || !cache) return std::nullopt;
  const HealOptions& options = entry->healing()->options;
  const auto healed = known_healing(*cache, *part, options);
  if (!healed || !*healed) return std::nullopt;
  add_shapes(all, kHealedPath, *(*healed)->part);
  return Finished{healing_key(*part, options).hex(), to_json_text((*healed)->report),
                  to_json_text((*healed)->maps)};
}

// What came of corrections, as far as it is known, in one part: three bodies each.
std::optional<std::string> add_corrected(std::vector<Shapes>& all, const Job& job,
                                         const std::shared_ptr<ResultCache>& cache) {
  const bool any = std::any_of(job.entries.begin(), job.entries.end(),
                               [](const Entry& entry) { return entry.is_correction(); });
  if (!any || !cache || !job.part()) return std::nullopt;
  nlohmann::json told = nlohmann::json::array();
  std::vector<Body> bodies;
  for (const KnownCorrection& known : known_corrections(job, cache)) {
    if (!*known.done) continue;
    told.push_back({{"key", known.key}, {"report", to_json_text(**known.done)}});
    for (Body& body : bodies_of(**known.done)) bodies.push_back(std::move(body));
  }
  if (bodies.empty()) return std::nullopt;
  add_shapes(all, kCorrectedPath, Part(job.part()->source(), std::move(bodies)));
  return told.dump();
}

Result<std::string> pack(const Job& job, const SaveOptions& options) {
  const std::string text = job_to_json(job);
  std::vector<Shapes> shapes;
  std::vector<ContainedFile> files{{"job.json", &text}};
  std::set<std::string> written;
  for (const Entry& entry : job.entries)
    if (const PartEntry* part = entry.part())
      for (const SourceFile& file : part->sources) {
        if (options.with_shapes) add_shapes(shapes, shapes_path(file), *file.part);
        if (written.insert(source_path(file)).second) files.push_back({source_path(file), file.bytes.get()});
      }
  const auto finished = options.with_shapes ? add_healed(shapes, job, options.cache.get()) : std::nullopt;
  const auto corrected = options.with_shapes ? add_corrected(shapes, job, options.cache) : std::nullopt;
  for (const Shapes& s : shapes) {
    files.push_back({s.path + "/part.json", &s.text});
    files.push_back({s.path + "/shape.bin", &s.bytes, false});
  }
  if (finished) {
    const std::string path = kHealedPath;
    files.push_back({path + "/key", &finished->key});
    files.push_back({path + "/report.json", &finished->report});
    files.push_back({path + "/maps.json", &finished->maps});
  }
  if (corrected) files.push_back({std::string(kCorrectedPath) + "/corrections.json", &*corrected});
  return zip_of(files);
}

// The shapes stored at `path`, or nothing: not there, damaged, or made from another source.
Result<PartPtr> stored_shapes(const Container& container, const std::string& path, const std::string& sha256,
                              const Progress& progress) {
  auto text = container.read(path + "/part.json");
  auto bytes = container.read(path + "/shape.bin");
  if (!text) return refuse(text);
  if (!bytes) return refuse(bytes);
  const TemporaryFolder folder;
  if (auto written = write_file_atomically(folder.path() / "part.json", *text); !written)
    return refuse(written);
  if (auto written = write_file_atomically(folder.path() / "shape.bin", *bytes); !written)
    return refuse(written);
  auto part = read_stored_part(folder.path(), path, progress);
  if (!part) return part;
  const bool fits = !(*part)->bodies().empty() && (sha256.empty() || (*part)->source().sha256 == sha256);
  if (!fits) return refuse(RefusalCode::kUnreadable, path + " in the job file belongs to another file");
  return part;
}

Result<SourceFile> load_source(const Container& container, const std::string& inside, double scale,
                               const Progress& progress) {
  auto bytes = container.read(inside);
  if (!bytes) return refuse(bytes);
  progress.say("opening", 0.1);
  auto part = stored_shapes(container, shapes_path(inside, scale), sha256_hex(*bytes), progress);
  if (!part && part.error().code != RefusalCode::kCancelled) {
    const TemporaryFolder folder;
    ImportRequest request{folder.path() / safe_file_name(inside), scale};
    if (auto written = write_file_atomically(request.file, *bytes); !written) return refuse(written);
    part = import_part(request, progress);
  }
  if (!part) return refuse(part);
  return SourceFile{*part, std::make_shared<const std::string>(std::move(*bytes)), scale};
}

// A free name beside the file: "saddle.anvil.other-20260104-101500", with a number where that is taken.
fs::path name_for_theirs(const fs::path& path) {
  const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
  std::tm local{};
  ::localtime_r(&now, &local);
  char when[32];
  std::strftime(when, sizeof when, "%Y%m%d-%H%M%S", &local);
  const std::string name = fmt::format("{}.other-{}", path.string(), when);
  std::error_code error;
  fs::path beside = name;
  for (int n = 2; fs::exists(beside, error); ++n) beside = fmt::format("{}-{}", name, n);
  return beside;
}

struct Notes {
  std::vector<std::string> left_out;
  bool newer = false;
};

std::string notice_of(const Notes& notes, const std::string& name) {
  std::string text;
  if (notes.newer)
    text = fmt::format(
        "{} was written by a newer version. It is open to read; saving here is off so that nothing in it is "
        "lost. ",
        name);
  if (notes.left_out.empty()) return text.empty() ? text : text.substr(0, text.size() - 1);
  constexpr size_t kMostTold = 3;
  if (!notes.newer)
    text += fmt::format("{} is damaged. What is whole is open to read; saving here is off. ", name);
  text += "Found: ";
  for (size_t i = 0; i < std::min(kMostTold, notes.left_out.size()); ++i)
    text += (i ? "; " : "") + notes.left_out[i];
  if (notes.left_out.size() > kMostTold)
    text += fmt::format("; and {} more", notes.left_out.size() - kMostTold);
  return text + ".";
}

// What was healed before comes along, where it was made from what is there now; else it is healed again.
void take_finished(const Container& container, const Job& job, ResultCache& cache, const Progress& progress) {
  const Entry* entry = job.healing();
  const PartPtr from = job.part();
  if (!entry || !from) return;
  const ContentKey key = healing_key(*from, entry->healing()->options);
  const std::string path = kHealedPath;
  const auto known = container.read(path + "/key"), report_text = container.read(path + "/report.json"),
             maps_text = container.read(path + "/maps.json");
  if (!known || *known != key.hex() || !report_text || !maps_text) return;
  auto report = heal_report_from(*report_text);
  auto maps = body_maps_from(*maps_text);
  if (!report || !maps) return;
  auto part = stored_shapes(container, path, {}, progress);
  if (!part || (*part)->bodies().size() != from->bodies().size()) return;
  keep_healing(cache, key, HealedPart{std::move(*part), std::move(*report), std::move(*maps)});
}

// The same of corrections: what is no longer what the job says stays unasked for in the cache.
void take_corrected(const Container& container, ResultCache& cache, const Progress& progress) {
  const std::string path = kCorrectedPath;
  const auto text = container.read(path + "/corrections.json");
  if (!text) return;
  const auto told = nlohmann::json::parse(*text, nullptr, false);
  if (!told.is_array()) return;
  const auto part = stored_shapes(container, path, {}, progress);
  if (!part) return;
  for (size_t i = 0; i < told.size(); ++i) {
    const auto& one = told[i];
    if (!one.is_object() || !one.contains("key") || !one["key"].is_string() || !one.contains("report") ||
        !one["report"].is_string())
      continue;
    auto corrected = corrected_from((*part)->bodies(), 3 * i, one["report"]);
    if (corrected) keep_correction(cache, one["key"], std::move(*corrected));
  }
}

Result<LoadedJob> load(const fs::path& path, const Progress& progress,
                       const std::shared_ptr<ResultCache>& cache) {
  auto container = Container::open(path);
  if (!container) return refuse(container);
  const Container& from = **container;
  auto text = from.read("job.json");
  if (!text) return refuse(text);
  Notes notes;
  notes.newer = job_version(*text).value_or(0) > kJobFormatVersion;
  const JobLoader loader{
      [&](const std::string& inside, double scale) { return load_source(from, inside, scale, progress); },
      [&](const std::string& sentence) { notes.left_out.push_back(sentence); },
      [&](const std::string& inside, double scale, const std::string& sha256) {
        return sha256.empty()
                   ? nullptr
                   : stored_shapes(from, shapes_path(inside, scale), sha256, progress).value_or(nullptr);
      }};
  auto job = job_from_json(*text, loader);
  if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
  if (!job) return refuse(job);
  if (job->entries.empty() && !notes.left_out.empty())
    return refuse(RefusalCode::kUnreadable, "nothing in it is whole: " + notes.left_out.front());
  if (cache) take_finished(from, *job, *cache, progress);
  if (cache) take_corrected(from, *cache, progress);
  return LoadedJob{std::move(*job), !notes.newer && !notes.left_out.empty(),
                   notes.newer || !notes.left_out.empty(), notice_of(notes, path.filename().string())};
}

}  // namespace

std::optional<FileState> state_of(const fs::path& path) {
  struct stat is {};
  if (::stat(path.c_str(), &is) != 0) return std::nullopt;
  return FileState{is.st_dev, is.st_ino, is.st_size,
                   std::int64_t{is.st_mtim.tv_sec} * 1000000000 + is.st_mtim.tv_nsec};
}

Result<SavedJob> save_job(const Job& job, const fs::path& path, const SaveOptions& options) {
  return guarded("saving", [&]() -> Result<SavedJob> {
    auto bytes = pack(job, options);
    if (!bytes) return refuse(bytes);
    SavedJob saved;
    std::string not_kept;
    // Looked at last of all: packing takes long enough for somebody else to save.
    const auto wanted = [&] {
      if (options.wanted && !options.wanted()) return false;
      const auto there = state_of(path);
      if (!options.expected || !there || *there == *options.expected) return true;
      const fs::path theirs = name_for_theirs(path);
      std::error_code error;
      fs::copy_file(path, theirs, error);
      if (error) not_kept = error.message();
      saved.kept_beside = theirs.filename().string();
      return !error;
    };
    auto written = write_file_atomically(path, *bytes, wanted);
    if (!not_kept.empty())
      return refuse(RefusalCode::kCannotWrite,
                    fmt::format("{} was changed by someone else, and their version cannot be kept beside it "
                                "({}): save under another name.",
                                path.filename().string(), not_kept));
    if (!written) return refuse(written);
    saved.state = state_of(path).value_or(FileState());
    return saved;
  });
}

Result<LoadedJob> load_job(const fs::path& path, const Progress& progress,
                           const std::shared_ptr<ResultCache>& cache) {
  auto loaded = guarded("opening the job", [&] { return load(path, progress, cache); });
  if (loaded || loaded.error().code == RefusalCode::kCancelled) return loaded;
  Refusal why = loaded.error();
  const std::string name = path.filename().string();
  if (why.sentence.find(name) == std::string::npos) why.sentence = name + ": " + why.sentence;
  return refuse(std::move(why));
}

}  // namespace anvil
