#include "store/container.h"

#include <fmt/format.h>
#include <zip.h>

#include <algorithm>

#include "base/file.h"
#include "base/plain_text.h"

namespace anvil {
namespace {

constexpr zip_int64_t kFirstOf2026 = 1767225600;  // seconds; the same for every file

struct SourceCloser {
  void operator()(zip_source_t* source) const { zip_source_free(source); }
};
struct ArchiveDiscarder {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Archive = std::unique_ptr<zip_t, ArchiveDiscarder>;

tl::unexpected<Refusal> lacks(const std::string& name) {
  return refuse(RefusalCode::kUnreadable, fmt::format("the job file lacks {}", name));
}

bool add_file(zip_t* archive, const ContainedFile& file) {
  zip_source_t* source = zip_source_buffer(archive, file.bytes->data(), file.bytes->size(), 0);
  if (!source) return false;
  const zip_int64_t index = zip_file_add(archive, file.name.c_str(), source, ZIP_FL_ENC_UTF_8);
  if (index < 0) {
    zip_source_free(source);
    return false;
  }
  if (!file.squeeze) zip_set_file_compression(archive, static_cast<zip_uint64_t>(index), ZIP_CM_STORE, 0);
  zip_file_set_mtime(archive, static_cast<zip_uint64_t>(index), kFirstOf2026, 0);
  return true;
}

class ZipContainer : public Container {
 public:
  static Result<std::unique_ptr<Container>> open(const std::filesystem::path& path) {
    auto bytes = read_file(path);
    if (!bytes) return refuse(bytes);
    auto container = std::make_unique<ZipContainer>();
    container->bytes_ = std::move(*bytes);
    // Without its checks where it does not pass them: what is whole in it can still be read.
    for (const int how : {ZIP_RDONLY | ZIP_CHECKCONS, ZIP_RDONLY}) {
      zip_error_t error;
      zip_error_init(&error);
      zip_source_t* source =
          zip_source_buffer_create(container->bytes_.data(), container->bytes_.size(), 0, &error);
      container->archive_.reset(source ? zip_open_from_source(source, how, &error) : nullptr);
      if (container->archive_) return Result<std::unique_ptr<Container>>(std::move(container));
      if (source) zip_source_free(source);
    }
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is not a job file, or it is damaged; an earlier one of it may be whole.",
                              path.filename().string()));
  }

  [[nodiscard]] Result<std::string> read(const std::string& name) const override {
    zip_stat_t stat;
    const auto at = place_of(name);
    if (!at || zip_stat_index(archive_.get(), *at, 0, &stat) != 0) return lacks(name);
    // What says it is a thousand times as large as it lies in the file is no part: bytes are not made for it.
    constexpr zip_uint64_t kLargest = zip_uint64_t{2} << 30, kMostSqueezed = 1100, kSmall = 1 << 20;
    if (stat.size > kLargest || (stat.size > kSmall && stat.size / kMostSqueezed > stat.comp_size))
      return refuse(RefusalCode::kLimit, fmt::format("{} in the job file is larger than any part", name));
    zip_file_t* file = zip_fopen_index(archive_.get(), *at, 0);
    if (!file) return refuse(RefusalCode::kUnreadable, fmt::format("{} in the job file is damaged", name));
    std::string bytes(stat.size, '\0');
    const zip_int64_t read = zip_fread(file, bytes.data(), bytes.size());
    char beyond = 0;  // only whoever reads past the end is told that the checksum does not fit
    const bool ends = zip_fread(file, &beyond, 1) == 0;
    const bool whole = zip_fclose(file) == 0 && ends && read == static_cast<zip_int64_t>(bytes.size());
    return whole ? Result<std::string>(std::move(bytes))
                 : refuse(RefusalCode::kUnreadable, fmt::format("{} in the job file is damaged", name));
  }

 private:
  // job.json names files as plain_text() leaves their names; in the archive they may be written otherwise.
  [[nodiscard]] std::optional<zip_uint64_t> place_of(const std::string& name) const {
    if (const zip_int64_t at = zip_name_locate(archive_.get(), name.c_str(), 0); at >= 0)
      return static_cast<zip_uint64_t>(at);
    const zip_int64_t count = zip_get_num_entries(archive_.get(), 0);
    for (zip_uint64_t i = 0; i < static_cast<zip_uint64_t>(std::max<zip_int64_t>(count, 0)); ++i)
      if (const char* found = zip_get_name(archive_.get(), i, 0); found && plain_text(found) == name)
        return i;
    return std::nullopt;
  }

  std::string bytes_;
  Archive archive_;
};

class FolderContainer : public Container {
 public:
  explicit FolderContainer(std::filesystem::path folder) : folder_(std::move(folder)) {}
  [[nodiscard]] Result<std::string> read(const std::string& name) const override {
    const std::filesystem::path inside(name);
    const bool leads_out =
        inside.is_absolute() || std::find(inside.begin(), inside.end(), "..") != inside.end();
    return leads_out ? Result<std::string>(lacks(name)) : read_file(folder_ / inside);
  }

 private:
  std::filesystem::path folder_;
};

}  // namespace

Result<std::unique_ptr<Container>> Container::open(const std::filesystem::path& path) {
  std::error_code error;
  if (!std::filesystem::is_directory(path, error)) return ZipContainer::open(path);
  return Result<std::unique_ptr<Container>>(std::make_unique<FolderContainer>(path));
}

Result<std::string> zip_of(const std::vector<ContainedFile>& files) {
  const auto failed = [] { return refuse(RefusalCode::kInternal, "the job could not be packed"); };
  zip_error_t error;
  zip_error_init(&error);
  std::unique_ptr<zip_source_t, SourceCloser> memory(zip_source_buffer_create(nullptr, 0, 0, &error));
  if (!memory) return failed();
  zip_source_keep(memory.get());
  Archive archive(zip_open_from_source(memory.get(), ZIP_TRUNCATE, &error));
  if (!archive) return failed();
  for (const ContainedFile& file : files)
    if (!add_file(archive.get(), file)) return failed();
  if (zip_close(archive.get()) != 0) return failed();
  static_cast<void>(archive.release());  // closed above
  zip_stat_t stat;
  if (zip_source_stat(memory.get(), &stat) != 0 || zip_source_open(memory.get()) != 0) return failed();
  std::string bytes(stat.size, '\0');
  const zip_int64_t read = zip_source_read(memory.get(), bytes.data(), bytes.size());
  zip_source_close(memory.get());
  return read == static_cast<zip_int64_t>(bytes.size()) ? Result<std::string>(std::move(bytes)) : failed();
}

}  // namespace anvil
