#include "app/job_keeper.h"

#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>

#include "app/dialogs/preferences.h"
#include "base/file.h"
#include "exchange/worker_client.h"
#include "geom/primitives.h"
#include "inspect/unit_suspicion.h"
#include "job/edits.h"
#include "job/healing.h"
#include "store/job_file.h"

namespace anvil::app {
namespace {

constexpr int kCopyDelay_ms = 1500;

std::filesystem::path state_folder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation).toStdString();
}

QString when(const LeftBehind& left) {
  return QFileInfo(QString::fromStdString((left.folder / "job.json").string()))
      .lastModified()
      .toString(QStringLiteral("yyyy-MM-dd HH:mm"));
}

bool is_job(const QString& path) {
  return QFileInfo(path).suffix().compare(QStringLiteral("anvil"), Qt::CaseInsensitive) == 0;
}

QString name_of(const QString& path) {
  return QFileInfo(path).fileName();
}

using PartResult = Result<ReadPart>;

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
    : QObject(parent), session_(session), copy_(std::make_shared<SafetyCopy>("", state_folder())) {
  // However the import ends: what is there now is what is checked, and a worker waits for the next file.
  connect(&work_, &Background::ended, this, [this] {
    QMetaObject::invokeMethod(
        this,
        [this] {
          session_.document().set_importing(work_.is_busy());
          if (!work_.is_busy()) keep_worker_ready();
        },
        Qt::QueuedConnection);
  });
  connect(&work_, &Background::cancelled, this, [this] { waiting_.clear(); });
  connect(&saving_, &Background::cancelled, this, &JobKeeper::save_next);
  for (Background* background : {&work_, &saving_, &output_, &healing_, &copying_, &looking_})
    connect(background, &Background::failed, this, &JobKeeper::told);
  copy_soon_.setSingleShot(true);
  copy_soon_.setInterval(kCopyDelay_ms);
  connect(&copy_soon_, &QTimer::timeout, this, &JobKeeper::keep_safety_copy);
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (!(what & Change::kJob)) return;
    // Not put off by what is done meanwhile: a copy is never older than that.
    if (!session_.document().history().is_saved() && !read_only() && !copy_soon_.isActive())
      copy_soon_.start();
  });
}

JobKeeper::~JobKeeper() = default;

QString JobKeeper::title() const {
  if (!path_.isEmpty()) return QFileInfo(path_).completeBaseName();
  const PartPtr part = session_.document().part();
  return part ? tr("%1 (not saved yet)").arg(QString::fromStdString(part->source().file_name))
              : tr("New job");
}

void JobKeeper::take(Job job, const QString& path, const QString& read_only_because,
                     std::shared_ptr<SafetyCopy> copy) {
  discard_safety_copy();
  healing_.cancel();
  path_ = path;
  read_only_because_ = read_only_because;
  on_disk_ = std::make_shared<OnDisk>();
  copy_ = copy ? std::move(copy) : std::make_shared<SafetyCopy>(path.toStdString(), state_folder());
  copy_trouble_told_ = false;
  session_.document().reset(std::move(job));
  Q_EMIT changed();
}

void JobKeeper::new_job() {
  waiting_.clear();
  work_.cancel();
  take({}, {}, {});
}

// --- opening

void JobKeeper::open(const QStringList& paths) {
  waiting_.clear();
  ++group_;
  bool has_job = false;
  QStringList jobs_left;
  for (const QString& path : paths) {
    if (is_job(path) && !std::exchange(has_job, true))
      waiting_.push_front({path, false, group_});  // the parts join it
    else if (is_job(path))
      jobs_left << name_of(path);
    else
      waiting_.push_back({path, false, group_});
  }
  if (!jobs_left.isEmpty())
    Q_EMIT told(
        tr("One job is open at a time: not opened were %1.").arg(jobs_left.join(QStringLiteral(", "))));
  if (waiting_.empty()) return;
  waiting_.front().fresh = true;
  open_next();
}

void JobKeeper::add_part(const QString& path) {
  if (is_job(path)) {
    Q_EMIT told(tr("%1 is a job: open it instead of adding it to this one.").arg(name_of(path)));
    return;
  }
  waiting_.push_back({path, false, ++group_});
  if (!work_.is_busy()) open_next();
}

void JobKeeper::open_next() {
  if (waiting_.empty()) return;
  const Arrival next = waiting_.front();
  waiting_.pop_front();
  if (is_job(next.path))
    open_job(next.path);
  else
    open_part(next);
}

// What could not be read makes no job: the next file that was opened with it does.
void JobKeeper::pass_on_freshness(const Arrival& failed) {
  if (failed.fresh && !waiting_.empty() && waiting_.front().group == failed.group)
    waiting_.front().fresh = true;
}

void JobKeeper::open_part(const Arrival& arrival) {
  const auto shown = std::make_shared<PartPtr>();
  work_.start_staged<PartResult, ReadPart>(
      tr("Opening %1").arg(name_of(arrival.path)),
      [path = arrival.path.toStdString()](const Progress& progress,
                                          const std::function<void(ReadPart)>& first_picture) {
        return read_part(path, 1.0, progress, first_picture);
      },
      [this, arrival, shown](const ReadPart& read) {
        *shown = read.part;
        session_.document().set_importing(true);
        show_part(read, arrival.fresh);
      },
      [this, arrival, shown](const PartResult& read) {
        if (!read) pass_on_freshness(arrival);
        if (!waiting_.empty()) QMetaObject::invokeMethod(this, &JobKeeper::open_next, Qt::QueuedConnection);
        if (!read) {
          Q_EMIT told(QString::fromStdString(read.error().sentence));
          return;
        }
        remember(arrival.path);
        if (!*shown) show_part(*read, arrival.fresh);
        if (*shown && *shown != read->part) session_.document().exchange_part(*shown, read->part);
        for (const std::string& warning : read->part->source().warnings)
          Q_EMIT told(QString::fromStdString(warning));
        if (const Entry* entry = session_.document().job().first_part())
          look_at_unit(entry->part()->sources.size() - 1);
      });
}

void JobKeeper::show_part(const ReadPart& read, bool fresh) {
  const SourceInfo& source = read.part->source();
  const std::string name = std::filesystem::path(source.file_name).stem().string();
  if (!fresh && !session_.document().job().entries.empty()) {
    session_.document().act(tr("Add %1").arg(QString::fromStdString(source.file_name)),
                            with_part(session_.document().job(), read.part, read.bytes, name));
    return;
  }
  Job job = with_part({}, read.part, read.bytes, name);
  const Preferences preferences = Preferences::load();
  const Unit of_the_file = source.unit_name == "inch" ? Unit::kInch : Unit::kMillimetre;
  job.display = {preferences.unit.value_or(of_the_file), preferences.decimals};
  take(std::move(job), {}, {});
}

void JobKeeper::open_job(const QString& path) {
  struct Opened {
    Result<LoadedJob> job;
    std::optional<FileState> state;
    std::vector<LeftBehind> left;
  };
  work_.start<std::shared_ptr<Opened>>(
      tr("Opening %1").arg(name_of(path)),
      [path = path.toStdString(), folder = state_folder(),
       cache = session_.document().cache()](const Progress& progress) {
        const auto state = state_of(path);  // before it is read: a later one is somebody else's
        auto job = load_job(path, progress, cache);
        return std::make_shared<Opened>(Opened{std::move(job), state, SafetyCopy::left_behind(folder, path)});
      },
      [this, path, group = group_](const std::shared_ptr<Opened>& opened) {
        if (!opened->job) {
          Q_EMIT told(QString::fromStdString(opened->job.error().sentence));
          pass_on_freshness({path, true, group});
        } else {
          remember(path);
          LoadedJob& loaded = *opened->job;
          const QString notice = QString::fromStdString(loaded.notice);
          take(std::move(loaded.job), path, loaded.read_only ? notice : QString());
          on_disk_->state = opened->state;
          copy_->set_based_on(opened->state);
          if (!notice.isEmpty()) Q_EMIT told(notice);
        }
        offer(opened->left);
        if (!waiting_.empty()) QMetaObject::invokeMethod(this, &JobKeeper::open_next, Qt::QueuedConnection);
      });
}

// --- what earlier runs left behind

void JobKeeper::offer(const std::vector<LeftBehind>& left) {
  if (left.empty()) return;
  const LeftBehind& newest = left.front();
  const QString path = QString::fromStdString(newest.job_path.string());
  Q_EMIT recovery_offered(
      path.isEmpty()
          ? tr("An earlier run ended without saving; its job from %1 is there.").arg(when(newest))
          : tr("%1 was not closed cleanly; a safety copy from %2 is there.").arg(name_of(path), when(newest)),
      newest);
}

void JobKeeper::look_for_lost_jobs() {
  looking_.start<std::vector<LeftBehind>>(
      tr("Looking for lost jobs"),
      [folder = state_folder()](const Progress&) {
        remove_abandoned_folders();
        return SafetyCopy::left_behind(folder);
      },
      [this](const std::vector<LeftBehind>& left) { offer(left); });
}

void JobKeeper::recover(const LeftBehind& left) {
  auto copy = SafetyCopy::taken_over(left, state_folder());
  if (!copy) {
    Q_EMIT told(tr("Another window has taken this safety copy, or it is gone."));
    return;
  }
  work_.start<Result<LoadedJob>>(
      tr("Recovering"), [left](const Progress& progress) { return load_job(left.folder, progress); },
      [this, left, copy](Result<LoadedJob> loaded) {
        if (!loaded) {
          Q_EMIT told(QString::fromStdString(loaded.error().sentence));
          return;
        }
        // The copy that was left behind is ours from here on: it stays until the job is saved.
        take(std::move(loaded->job), QString::fromStdString(left.job_path.string()), {}, copy);
        on_disk_->state = left.based_on;
        session_.document().mark_unsaved();
        Q_EMIT told(loaded->notice.empty() ? tr("Recovered. It is not saved yet.")
                                           : QString::fromStdString(loaded->notice));
      });
}

void JobKeeper::discard_left(const LeftBehind& left) {
  SafetyCopy::remove(left);
  look_for_lost_jobs();
}

// --- saving

void JobKeeper::save_to(const QString& path, std::function<void()> then) {
  if (read_only()) {
    Q_EMIT told(read_only_because_);
    return;
  }
  to_save_.push_back({session_.document().job(), session_.document().ticket(), path, std::move(then)});
  if (!saving_.is_busy()) save_next();
}

void JobKeeper::save_next() {
  if (to_save_.empty()) return;
  const Saving saving = std::move(to_save_.front());
  to_save_.pop_front();
  const bool same_file = saving.ticket.job == session_.document().ticket().job && saving.path == path_;
  const auto disk = same_file ? on_disk_ : std::make_shared<OnDisk>();
  saving_.start<Result<SavedJob>>(
      tr("Saving %1").arg(name_of(saving.path)),
      [job = saving.job, path = saving.path.toStdString(), disk,
       cache = session_.document().cache()](const Progress& progress) {
        const std::lock_guard lock(disk->mutex);
        const SaveOptions options{true, disk->state, [&] { return !progress.stop(); }, cache};
        auto saved = save_job(job, path, options);
        if (saved) disk->state = saved->state;
        return saved;
      },
      [this, saving, disk](const Result<SavedJob>& saved) {
        take_saved(saving, disk, saved);
        if (!saving_.is_busy()) save_next();
      });
}

void JobKeeper::take_saved(const Saving& saving, const std::shared_ptr<OnDisk>& disk,
                           const Result<SavedJob>& saved) {
  if (!saved) {
    Q_EMIT told(QString::fromStdString(saved.error().sentence));
    return;
  }
  remember(saving.path);
  if (!saved->kept_beside.empty())
    Q_EMIT told(tr("%1 was changed by someone else meanwhile; their version is kept as %2.")
                    .arg(name_of(saving.path), QString::fromStdString(saved->kept_beside)));
  if (saving.ticket.job != session_.document().ticket().job)
    return;  // another job is open: that one was not saved
  if (saving.path != path_) {
    copy_->close();
    copy_ = std::make_shared<SafetyCopy>(saving.path.toStdString(), state_folder());
  }
  path_ = saving.path;
  on_disk_ = disk;
  copy_->set_based_on(saved->state);
  session_.document().mark_saved(saving.ticket.revision);
  Q_EMIT changed();
  if (!session_.document().history().is_saved()) {
    copy_soon_.start();
    if (saving.then)
      Q_EMIT told(tr("%1 is saved; what was changed meanwhile is not.").arg(name_of(saving.path)));
    return;
  }
  copy_soon_.stop();
  copy_->discard();
  if (saving.then) saving.then();
}

void JobKeeper::keep_safety_copy() {
  if (copying_.is_busy()) return copy_soon_.start();
  copying_.start<Result<void>>(
      tr("Safety copy"),
      [job = session_.document().job(), copy = copy_](const Progress&) { return copy->write(job); },
      [this](const Result<void>& written) {
        const bool in_trouble = !written && written.error().code != RefusalCode::kCancelled;
        if (in_trouble && !std::exchange(copy_trouble_told_, true))
          Q_EMIT told(
              tr("No safety copy can be kept: %1").arg(QString::fromStdString(written.error().sentence)));
        if (written) copy_trouble_told_ = false;
      });
}

void JobKeeper::discard_safety_copy() {
  copy_soon_.stop();
  copying_.cancel();
  copy_->close();
}

// --- handing over, and what takes long and ends in an act

bool JobKeeper::is_of_this_job(const Document::Ticket& began, const QString& what) {
  if (began.job == session_.document().ticket().job) return true;
  Q_EMIT told(tr("%1 ended after another job was opened; nothing was changed.").arg(what));
  return false;
}

void JobKeeper::export_part(const ExportRequest& wanted) {
  const PartPtr part = session_.document().part();
  if (!part) return;
  if (output_.is_busy()) {
    Q_EMIT told(tr("%1: wait for it, or cancel it first.").arg(output_.title()));
    return;
  }
  ExportRequest request = wanted;
  request.placement = session_.document().part_to_reading();
  const QString path = QString::fromStdString(request.file.string());
  const Job job = session_.document().job();
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
        Q_EMIT confirmed(tr("Written: %1, in %2; read back: %3 faces, box off by %4 mm.")
                             .arg(QFileInfo(path).fileName(),
                                  QString::fromStdString(reading_frame_name(
                                      session_.document().job(), session_.document().job().reading_frame)))
                             .arg(written->faces)
                             .arg(written->box_difference_mm, 0, 'f', 6));
      });
}

void JobKeeper::heal(const HealOptions& options) {
  const Entry* entry = session_.document().job().first_part();
  if (!entry) return;
  const PartPtr part = entry->part()->part();
  healing_.start<Result<HealedPart>>(
      tr("Healing"),
      [part, options, cache = session_.document().cache()](const Progress& progress) {
        return heal_once(*cache, *part, options, progress);
      },
      [this, options, began = session_.document().ticket()](const Result<HealedPart>& healed) {
        if (!healed) {
          Q_EMIT told(QString::fromStdString(healed.error().sentence));
          return;
        }
        if (!is_of_this_job(began, tr("Healing"))) return;
        session_.document().act(tr("Heal the part"), with_healing(session_.document().job(), options));
        QStringList lines;
        for (const std::string& line : healed->report.lines) lines << QString::fromStdString(line);
        Q_EMIT confirmed(tr("Healed: %1.").arg(lines.join(QStringLiteral("; "))));
      });
}

void JobKeeper::rescale(size_t index, double scale) {
  const Entry* entry = session_.document().job().first_part();
  if (!entry || index >= entry->part()->sources.size()) return;
  if (work_.is_busy()) {
    Q_EMIT told(tr("%1: wait for it, or cancel it first.").arg(work_.title()));
    return;
  }
  const SourceFile file = entry->part()->sources[index];
  const std::string name = file.part->source().file_name;
  work_.start<PartResult>(
      tr("Resizing %1").arg(QString::fromStdString(name)),
      [file, name, scale](const Progress& progress) -> PartResult {
        const TemporaryFolder folder;
        ImportRequest request{folder.path() / safe_file_name(name), scale};
        if (auto written = write_file_atomically(request.file, *file.bytes); !written) return refuse(written);
        auto part = import_part(request, progress);
        if (!part) return refuse(part);
        return ReadPart{*part, file.bytes};
      },
      [this, index, scale, name, began = session_.document().ticket()](const PartResult& read) {
        if (!read) {
          Q_EMIT told(QString::fromStdString(read.error().sentence));
          return;
        }
        if (!is_of_this_job(began, tr("Resizing %1").arg(QString::fromStdString(name)))) return;
        const Entry* now = session_.document().job().first_part();
        const bool same =
            now && index < now->part()->sources.size() && now->part()->sources[index].bytes == read->bytes;
        if (!same) {
          Q_EMIT told(tr("The files of the part were changed meanwhile; nothing was resized."));
          return;
        }
        session_.document().act(tr("Resize by %1").arg(scale), with_source(session_.document().job(), index,
                                                                           {read->part, read->bytes, scale}));
      });
}

void JobKeeper::look_at_unit(size_t index) {
  const Entry* entry = session_.document().job().first_part();
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
