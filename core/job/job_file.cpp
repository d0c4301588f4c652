#include "job/job_file.h"

#include <fmt/format.h>
#include <zip.h>

#include <cstring>
#include <fstream>
#include <set>

#include "base/file.h"
#include "exchange/part_file.h"
#include "exchange/worker_client.h"
#include "job/job_json.h"
#include "part/mesh.h"

namespace anvil {
namespace {

const char* const kHealedPath = "shapes/healed";

struct SourceCloser {
  void operator()(zip_source_t* source) const { zip_source_free(source); }
};
struct ArchiveDiscarder {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Archive = std::unique_ptr<zip_t, ArchiveDiscarder>;

bool add_file(zip_t* archive, const std::string& name, const std::string& bytes, bool squeeze = true) {
  zip_source_t* source = zip_source_buffer(archive, bytes.data(), bytes.size(), 0);
  if (!source) return false;
  const zip_int64_t index = zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8);
  if (index < 0) {
    zip_source_free(source);
    return false;
  }
  if (!squeeze) zip_set_file_compression(archive, static_cast<zip_uint64_t>(index), ZIP_CM_STORE, 0);
  zip_file_set_mtime(archive, static_cast<zip_uint64_t>(index), 1767225600,
                     0);  // the same bytes for the same job
  return true;
}

// Shapes are stored as they are: squeezing them would take longer than writing them.
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

// What opens quickly is a convenience: a part that cannot be stored so is imported again.
std::vector<Shapes> all_shapes(const Job& job) {
  std::vector<Shapes> all;
  const auto add = [&](const std::string& path, const Part& part) {
    const bool known = std::any_of(all.begin(), all.end(), [&](const Shapes& s) { return s.path == path; });
    if (known) return;
    if (auto shapes = shapes_of(path, part)) all.push_back(std::move(*shapes));
  };
  for (const Entry& entry : job.entries) {
    if (const PartEntry* part = entry.part())
      for (const SourceFile& file : part->sources) add(shapes_path(file), *file.part);
    if (const HealingEntry* healing = entry.healing(); healing && healing->part)
      add(kHealedPath, *healing->part);
  }
  return all;
}

Result<std::string> pack(const Job& job, bool with_shapes) {
  const auto failed = [] { return refuse(RefusalCode::kInternal, "the job could not be packed"); };
  zip_error_t error;
  zip_error_init(&error);
  std::unique_ptr<zip_source_t, SourceCloser> memory(zip_source_buffer_create(nullptr, 0, 0, &error));
  if (!memory) return failed();
  zip_source_keep(memory.get());
  Archive archive(zip_open_from_source(memory.get(), ZIP_TRUNCATE, &error));
  if (!archive) return failed();
  const std::string text = job_to_json(job);
  bool good = add_file(archive.get(), "job.json", text);
  std::set<std::string> written;
  for (const Entry& entry : job.entries) {
    if (const PartEntry* part = entry.part())
      for (const SourceFile& file : part->sources)
        if (written.insert(source_path(file)).second)
          good = good && add_file(archive.get(), source_path(file), *file.bytes);
  }
  const std::vector<Shapes> shapes = with_shapes ? all_shapes(job) : std::vector<Shapes>();
  for (const Shapes& s : shapes)
    good = good && add_file(archive.get(), s.path + "/part.json", s.text) &&
           add_file(archive.get(), s.path + "/shape.bin", s.bytes, false);
  if (!good || zip_close(archive.get()) != 0) return failed();
  static_cast<void>(archive.release());  // closed above
  zip_stat_t stat;
  if (zip_source_stat(memory.get(), &stat) != 0 || zip_source_open(memory.get()) != 0) return failed();
  std::string bytes(stat.size, '\0');
  const zip_int64_t read = zip_source_read(memory.get(), bytes.data(), bytes.size());
  zip_source_close(memory.get());
  return read == static_cast<zip_int64_t>(bytes.size()) ? Result<std::string>(std::move(bytes)) : failed();
}

class Container {
 public:
  static Result<Container> open(const std::filesystem::path& path) {
    auto bytes = read_file(path);
    if (!bytes) return refuse(bytes);
    Container container;
    container.bytes_ = std::make_shared<std::string>(std::move(*bytes));
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source =
        zip_source_buffer_create(container.bytes_->data(), container.bytes_->size(), 0, &error);
    container.archive_.reset(source ? zip_open_from_source(source, ZIP_RDONLY | ZIP_CHECKCONS, &error)
                                    : nullptr);
    if (container.archive_) return container;
    if (source) zip_source_free(source);
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is not a job file, or it is damaged; an autosave beside it may be whole.",
                              path.filename().string()));
  }

  Result<std::string> read(const std::string& name) const {
    constexpr zip_uint64_t kLargest = zip_uint64_t{4} << 30;
    zip_stat_t stat;
    const bool known = zip_stat(archive_.get(), name.c_str(), 0, &stat) == 0 && stat.size <= kLargest;
    zip_file_t* file = known ? zip_fopen(archive_.get(), name.c_str(), 0) : nullptr;
    if (!file) return refuse(RefusalCode::kUnreadable, fmt::format("the job file lacks {}", name));
    std::string bytes(stat.size, '\0');
    const zip_int64_t read = zip_fread(file, bytes.data(), bytes.size());
    char beyond = 0;  // only whoever reads past the end is told that the checksum does not fit
    const bool ends = zip_fread(file, &beyond, 1) == 0;
    const bool whole = zip_fclose(file) == 0 && ends && read == static_cast<zip_int64_t>(bytes.size());
    return whole ? Result<std::string>(std::move(bytes))
                 : refuse(RefusalCode::kUnreadable, fmt::format("{} in the job file is damaged", name));
  }

 private:
  std::shared_ptr<std::string> bytes_;
  Archive archive_;
};

// The shapes stored at `path`, or null: not there, damaged, or made from another source.
PartPtr stored_shapes(const Container& container, const std::string& path, const std::string& sha256) {
  auto text = container.read(path + "/part.json");
  auto bytes = container.read(path + "/shape.bin");
  const TemporaryFolder folder;
  if (!text || !bytes || !write_file_atomically(folder.path() / "part.json", *text) ||
      !write_file_atomically(folder.path() / "shape.bin", *bytes))
    return nullptr;
  auto bodies = read_part_folder(folder.path());
  if (!bodies || bodies->bodies.empty() || (!sha256.empty() && bodies->source.sha256 != sha256))
    return nullptr;
  mesh_shape(compound_of(bodies->bodies));  // a job that no window has seen comes without
  return std::make_shared<const Part>(std::move(bodies->source), std::move(bodies->bodies));
}

Result<SourceFile> load_source(const Container& container, const std::string& inside, double scale,
                               const Progress& progress) {
  auto bytes = container.read(inside);
  if (!bytes) return refuse(bytes);
  progress.say("opening", 0.1);
  PartPtr part = stored_shapes(container, shapes_path(inside, scale), sha256_hex(*bytes));
  if (!part) {
    const TemporaryFolder folder;
    ImportRequest request{folder.path() / safe_file_name(inside), scale};
    if (auto written = write_file_atomically(request.file, *bytes); !written) return refuse(written);
    auto imported = import_part(request, progress);
    if (!imported) return refuse(imported);
    part = *imported;
  }
  return SourceFile{std::move(part), std::make_shared<const std::string>(std::move(*bytes)), scale};
}

}  // namespace

Result<void> save_job(const Job& job, const std::filesystem::path& path, bool with_shapes) {
  auto bytes = pack(job, with_shapes);
  if (!bytes) return refuse(bytes);
  return write_file_atomically(path, *bytes);
}

Result<LoadedJob> load_job(const std::filesystem::path& path, const Progress& progress) {
  const auto named = [&](Refusal refusal) {
    const std::string name = path.filename().string();
    if (refusal.code != RefusalCode::kCancelled && refusal.sentence.find(name) == std::string::npos)
      refusal.sentence = name + ": " + refusal.sentence;
    return refuse(std::move(refusal));
  };
  auto container = Container::open(path);
  if (!container) return named(container.error());
  auto text = container->read("job.json");
  if (!text) return named(text.error());
  auto job = job_from_json(*text, {[&](const std::string& inside, double scale) {
                                     return load_source(*container, inside, scale, progress);
                                   },
                                   [&] { return stored_shapes(*container, kHealedPath, {}); }});
  if (!job) return named(job.error());
  LoadedJob loaded{std::move(*job), false, {}};
  if (job_version(*text).value_or(0) > kJobFormatVersion) {
    loaded.read_only = true;
    loaded.notice = fmt::format(
        "{} was written by a newer version. It is open to read; saving here is off so that nothing in it is "
        "lost.",
        path.filename().string());
  }
  return loaded;
}

}  // namespace anvil
