#include "app/job_keeper.h"

#include <QDateTime>
#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>

#include "app/dialogs/preferences.h"
#include "base/file.h"
#include "exchange/worker_client.h"
#include "geom/primitives.h"
#include "inspect/unit_suspicion.h"
#include "job/edits.h"
#include "job/job_file.h"

namespace anvil::app {
namespace {

constexpr int kCopyDelay_ms = 1500;

std::filesystem::path unsaved_folder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation).toStdString();
}

QString when(const std::filesystem::path& copy) {
  return QFileInfo(QString::fromStdString(copy.string()))
      .lastModified()
      .toString(QStringLiteral("yyyy-MM-dd HH:mm"));
}

using PartResult = Result<ReadPart>;

// Bodies in the colours the user gave them.
PartPtr in_chosen_colours(const PartPtr& part, const Job& job) {
  std::vector<Body> bodies = part->bodies();
  bool any = false;
  for (Body& body : bodies) {
    const BodySetting setting = job.body(body.delivered);
    if (!setting.colour) continue;
    any = true;
    body.colour = setting.colour;
    body.face_colours.clear();
  }
  return any ? std::make_shared<const Part>(part->sources(), std::move(bodies)) : part;
}

std::filesystem::file_time_type time_of(const QString& path) {
  std::error_code error;
  const auto time = std::filesystem::last_write_time(path.toStdString(), error);
  return error ? std::filesystem::file_time_type{} : time;
}

// Hands over the first picture as soon as it is there; the checked part is the result.
PartResult read_part(const std::string& path, double scale, const Progress& progress,
                     const std::function<void(ReadPart)>& first_picture) {
  auto file = read_file(path);
  std::shared_ptr<const std::string> bytes;
  if (file) bytes = std::make_shared<const std::string>(std::move(*file));
  const std::string checksum = bytes ? sha256_hex(*bytes) : std::string();
  ImportRequest request{path, scale};
  request.first_picture = [&](const PartPtr& part) {
    if (bytes && checksum == part->source().sha256) first_picture({part, bytes});
  };
  auto part = import_part(request, progress);
  if (!part) return refuse(part);
  if (!file) return refuse(file);
  // What is stored with the job must be what was read.
  if (checksum != (*part)->source().sha256)
    return refuse(RefusalCode::kUnreadable, "the file was changed while it was being read: open it again");
  return ReadPart{*part, bytes};
}

}  // namespace

JobKeeper::JobKeeper(Session& session, QObject* parent)
    : QObject(parent), session_(session), autosave_(std::make_unique<Autosave>("", unsaved_folder())) {
  // However the import ends: what is there now is what is checked, and a worker waits for the next file.
  connect(&work_, &Background::ended, this, [this] {
    QMetaObject::invokeMethod(
        this,
        [this] {
          session_.set_importing(work_.is_busy());
          if (!work_.is_busy()) keep_worker_ready();
        },
        Qt::QueuedConnection);
  });
  copy_soon_.setSingleShot(true);
  copy_soon_.setInterval(kCopyDelay_ms);
  connect(&copy_soon_, &QTimer::timeout, this, &JobKeeper::keep_safety_copy);
  connect(&session_, &Session::job_changed, this, [this] {
    if (!session_.history().is_saved() && !read_only_) copy_soon_.start();
    Q_EMIT changed();
  });
}

JobKeeper::~JobKeeper() = default;

QString JobKeeper::title() const {
  if (!path_.isEmpty()) return QFileInfo(path_).completeBaseName();
  const PartPtr part = session_.part();
  return part ? tr("%1 (not saved yet)").arg(QString::fromStdString(part->source().file_name))
              : tr("New job");
}

void JobKeeper::take(Job job, const QString& path, bool read_only) {
  discard_safety_copy();
  path_ = path;
  read_only_ = read_only;
  saved_time_ = path.isEmpty() ? std::filesystem::file_time_type{} : time_of(path);
  autosave_ = std::make_unique<Autosave>(path.toStdString(), unsaved_folder());
  session_.reset(std::move(job));
  Q_EMIT changed();
}

void JobKeeper::new_job() {
  take({}, {}, false);
}

void JobKeeper::open(const QString& path) {
  if (QFileInfo(path).suffix().compare(QStringLiteral("anvil"), Qt::CaseInsensitive) == 0)
    return open_job(path);
  waiting_.clear();
  open_part(path, 1.0, false);
}

void JobKeeper::add_part(const QString& path) {
  waiting_ << path;
  if (!work_.is_busy()) open_next();
}

void JobKeeper::open_next() {
  if (waiting_.isEmpty()) return;
  open_part(waiting_.takeFirst(), 1.0, session_.part() != nullptr);
}

void JobKeeper::open_part(const QString& path, double scale, bool into_this_job) {
  const auto shown = std::make_shared<PartPtr>();
  work_.start_staged<PartResult, ReadPart>(
      tr("Opening %1").arg(QFileInfo(path).fileName()),
      [path = path.toStdString(), scale](const Progress& progress,
                                         const std::function<void(ReadPart)>& first_picture) {
        return read_part(path, scale, progress, first_picture);
      },
      [this, scale, into_this_job, shown](const ReadPart& read) {
        *shown = read.part;
        session_.set_importing(true);
        show_part(read, scale, into_this_job);
      },
      [this, path, scale, into_this_job, shown](const PartResult& read) {
        if (!waiting_.isEmpty()) QMetaObject::invokeMethod(this, &JobKeeper::open_next, Qt::QueuedConnection);
        if (!read) {
          Q_EMIT told(QString::fromStdString(read.error().sentence));
          return;
        }
        remember(path);
        if (!*shown) show_part(*read, scale, into_this_job);
        if (*shown && *shown != read->part) session_.exchange_part(*shown, read->part);
        for (const std::string& warning : read->part->source().warnings)
          Q_EMIT told(QString::fromStdString(warning));
        if (const Entry* entry = session_.job().first_part()) look_at_unit(entry->part()->sources.size() - 1);
      });
}

void JobKeeper::show_part(const ReadPart& read, double scale, bool into_this_job) {
  const SourceInfo& source = read.part->source();
  const std::string name = std::filesystem::path(source.file_name).stem().string();
  if (into_this_job && session_.part()) {
    session_.act(tr("Add %1").arg(QString::fromStdString(source.file_name)),
                 with_part(session_.job(), read.part, read.bytes, name, scale));
    return;
  }
  Job job = with_part({}, read.part, read.bytes, name, scale);
  const Preferences preferences = Preferences::load();
  const Unit of_the_file = source.unit_name == "inch" ? Unit::kInch : Unit::kMillimetre;
  job.display = {preferences.unit.value_or(of_the_file), preferences.decimals};
  take(std::move(job), {}, false);
}

void JobKeeper::open_job(const QString& path) {
  const QFileInfo file(path);
  work_.start<Result<LoadedJob>>(
      tr("Opening %1").arg(file.fileName()),
      [path = path.toStdString()](const Progress& progress) { return load_job(path, progress); },
      [this, path](Result<LoadedJob> loaded) {
        if (!loaded) {
          Q_EMIT told(QString::fromStdString(loaded.error().sentence));
        } else {
          remember(path);
          take(std::move(loaded->job), path, loaded->read_only);
          if (!loaded->notice.empty()) Q_EMIT told(QString::fromStdString(loaded->notice));
        }
        if (const auto copy = Autosave::left_behind(path.toStdString()))
          Q_EMIT recovery_offered(tr("%1 was not closed cleanly; a safety copy from %2 is there.")
                                      .arg(QFileInfo(path).fileName(), when(*copy)),
                                  QString::fromStdString(copy->string()), path);
      });
}

void JobKeeper::recover(const std::filesystem::path& copy, const QString& job_path) {
  work_.start<Result<LoadedJob>>(
      tr("Recovering"), [copy](const Progress& progress) { return load_job(copy, progress); },
      [this, copy, job_path](Result<LoadedJob> loaded) {
        if (!loaded) {
          Q_EMIT told(QString::fromStdString(loaded.error().sentence));
          return;
        }
        take(std::move(loaded->job), job_path, loaded->read_only);
        session_.mark_unsaved();
        std::error_code ignored;
        keep_safety_copy();
        std::filesystem::remove(copy, ignored);
        Q_EMIT told(tr("Recovered. It is not saved yet."));
      });
}

void JobKeeper::look_for_lost_jobs() {
  const auto lost = Autosave::left_in(unsaved_folder());
  if (lost.empty()) return;
  Q_EMIT recovery_offered(
      tr("An earlier run ended without saving; its job from %1 is there.").arg(when(lost.front())),
      QString::fromStdString(lost.front().string()), {});
}

void JobKeeper::save_to(const QString& path, std::function<void()> then) {
  if (read_only_) {
    Q_EMIT told(tr("This job was written by a newer version and is open to read only."));
    return;
  }
  // Someone else may have written the file since we read it: theirs is kept beside, ours is saved.
  if (path == path_ && saved_time_ != std::filesystem::file_time_type{} &&
      time_of(path) != std::filesystem::file_time_type{} && time_of(path) != saved_time_) {
    const QString beside =
        QStringLiteral("%1.other-%2")
            .arg(path, QDateTime::currentDateTime().toString(QStringLiteral("yyyyMMdd-HHmmss")));
    if (!QFile::copy(path, beside)) {
      Q_EMIT told(tr("%1 was changed by someone else, and their version cannot be kept beside it: save under "
                     "another name.")
                      .arg(QFileInfo(path).fileName()));
      return;
    }
    Q_EMIT told(tr("%1 was changed by someone else meanwhile; their version is kept as %2.")
                    .arg(QFileInfo(path).fileName(), QFileInfo(beside).fileName()));
  }
  output_.start<Result<void>>(
      tr("Saving %1").arg(QFileInfo(path).fileName()),
      [job = session_.job(), path = path.toStdString()](const Progress&) { return save_job(job, path); },
      [this, path, then = std::move(then)](const Result<void>& saved) {
        if (!saved) {
          Q_EMIT told(QString::fromStdString(saved.error().sentence));
          return;
        }
        discard_safety_copy();
        path_ = path;
        saved_time_ = time_of(path);
        remember(path);
        autosave_ = std::make_unique<Autosave>(path.toStdString(), unsaved_folder());
        session_.mark_saved();
        Q_EMIT changed();
        if (then) then();
      });
}

void JobKeeper::keep_safety_copy() {
  copying_.start<Result<void>>(
      tr("Safety copy"),
      [job = session_.job(), copy = *autosave_](const Progress&) { return copy.write(job); },
      [this](const Result<void>& written) {
        if (!written)
          Q_EMIT told(
              tr("No safety copy can be kept: %1").arg(QString::fromStdString(written.error().sentence)));
      });
}

void JobKeeper::discard_safety_copy() {
  copy_soon_.stop();
  copying_.cancel();
  autosave_->discard();
}

void JobKeeper::export_part(const ExportRequest& wanted) {
  const PartPtr part = session_.part();
  if (!part) return;
  ExportRequest request = wanted;
  request.placement = into_frame(session_.frame()) * session_.evaluation().placement;
  const QString path = QString::fromStdString(request.file.string());
  const Job job = session_.job();
  output_.start<Result<ExportReport>>(
      tr("Writing %1").arg(QFileInfo(path).fileName()),
      [part, request, job](const Progress& progress) {
        return anvil::export_part(*in_chosen_colours(part, job), request, progress);
      },
      [this, path](const Result<ExportReport>& written) {
        if (!written) {
          Q_EMIT told(QString::fromStdString(written.error().sentence));
          return;
        }
        Q_EMIT confirmed(
            tr("Written: %1, in %2; read back: %3 faces, box off by %4 mm.")
                .arg(QFileInfo(path).fileName(),
                     QString::fromStdString(reading_frame_name(session_.job(), session_.job().reading_frame)))
                .arg(written->faces)
                .arg(written->box_difference_mm, 0, 'f', 6));
      });
}

void JobKeeper::heal(const HealOptions& options) {
  const Entry* entry = session_.job().first_part();
  if (!entry) return;
  const PartPtr part = entry->part()->part;
  output_.start<Result<HealedPart>>(
      tr("Healing"),
      [part, options](const Progress& progress) { return heal_part(*part, options, progress); },
      [this, part, options](const Result<HealedPart>& healed) {
        if (!healed) {
          Q_EMIT told(QString::fromStdString(healed.error().sentence));
          return;
        }
        session_.act(tr("Heal the part"),
                     with_healing(session_.job(), {options, healed->report, healed->part, part}));
        QStringList lines;
        for (const std::string& line : healed->report.lines) lines << QString::fromStdString(line);
        Q_EMIT confirmed(tr("Healed: %1.").arg(lines.join(QStringLiteral("; "))));
      });
}

void JobKeeper::rescale(size_t index, double scale) {
  const Entry* entry = session_.job().first_part();
  if (!entry || index >= entry->part()->sources.size()) return;
  const SourceFile file = entry->part()->sources[index];
  const std::string name = file.part->source().file_name;
  work_.start<PartResult>(
      tr("Resizing %1").arg(QString::fromStdString(name)),
      [file, name, scale](const Progress& progress) -> PartResult {
        const TemporaryFolder folder;
        ImportRequest request{folder.path() / name, scale};
        if (auto written = write_file_atomically(request.file, *file.bytes); !written) return refuse(written);
        auto part = import_part(request, progress);
        if (!part) return refuse(part);
        return ReadPart{*part, file.bytes};
      },
      [this, index, scale](const PartResult& read) {
        if (!read) {
          Q_EMIT told(QString::fromStdString(read.error().sentence));
          return;
        }
        session_.act(tr("Resize by %1").arg(scale),
                     with_source(session_.job(), index, {read->part, read->bytes, scale}));
      });
}

void JobKeeper::look_at_unit(size_t index) {
  const Entry* entry = session_.job().first_part();
  if (!entry || index >= entry->part()->sources.size()) return;
  const auto suspicion = suspect_unit(*entry->part()->sources[index].part);
  if (suspicion) Q_EMIT resize_offered(QString::fromStdString(suspicion->sentence), index, suspicion->scale);
}

// --- recent files

QStringList JobKeeper::recent_files() {
  return QSettings().value(QStringLiteral("recent")).toStringList();
}

void JobKeeper::remember(const QString& path) {
  constexpr qsizetype kMost = 8;
  QStringList files = recent_files();
  const QString whole = QFileInfo(path).absoluteFilePath();
  files.removeAll(whole);
  files.prepend(whole);
  while (files.size() > kMost) files.removeLast();
  QSettings().setValue(QStringLiteral("recent"), files);
}

}  // namespace anvil::app
