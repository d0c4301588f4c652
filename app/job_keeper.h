// Where the job lives on disk: opening parts and jobs, saving, the safety copy and what is offered after a
// crash. Long work runs in the background; the window hears of it through signals.
#pragma once

#include <QObject>
#include <QTimer>
#include <deque>
#include <filesystem>
#include <mutex>

#include "app/background.h"
#include "app/state/session.h"
#include "exchange/heal_worker.h"
#include "store/job_file.h"
#include "store/safety_copy.h"

namespace anvil::app {

// A part file as it was read.
struct ReadPart {
  PartPtr part;
  std::shared_ptr<const std::string> bytes;
};

class JobKeeper : public QObject {
  Q_OBJECT
 public:
  explicit JobKeeper(Session& session, QObject* parent = nullptr);
  ~JobKeeper() override;

  void new_job();
  // Parts or a job; the present job stays until the new one is there. The first that can be read makes the
  // new job, the parts after it join that; of several jobs one is opened and the rest told.
  void open(const QStringList& paths);
  void open(const QString& path) { open(QStringList{path}); }
  void add_part(const QString& path);  // another file into the present job
  void recover(const LeftBehind& left);
  void discard_left(const LeftBehind& left);  // and what else was left behind is offered
  // One after the other, each the job as it is now. `then` runs when the job is saved as it is by then.
  void save_to(const QString& path, std::function<void()> then = {});
  void export_part(const ExportRequest& request);  // in the reading frame
  void heal(const HealOptions& options);
  void rescale(size_t file, double scale);  // reads one of the job's files again, resized
  [[nodiscard]] static QStringList recent_files();
  void discard_safety_copy();  // on a clean end

  // Offers what earlier runs left behind.
  void look_for_lost_jobs();

  [[nodiscard]] QString path() const { return path_; }
  [[nodiscard]] bool read_only() const { return !read_only_because_.isEmpty(); }
  [[nodiscard]] QString title() const;
  [[nodiscard]] Background& work() { return work_; }      // bringing in
  [[nodiscard]] Background& saving() { return saving_; }  // the job
  [[nodiscard]] Background& output() { return output_; }  // handing over
  [[nodiscard]] Background& healing() { return healing_; }
  [[nodiscard]] const SafetyCopy& safety_copy() const { return *copy_; }

 Q_SIGNALS:
  void changed();  // path or title
  void told(const QString& sentence);
  void confirmed(const QString& sentence);
  void resize_offered(const QString& sentence, size_t file, double scale);
  void recovery_offered(const QString& sentence, const LeftBehind& left);

 private:
  // The job's file as we last read or wrote it; also the thread that writes it says so.
  struct OnDisk {
    std::mutex mutex;
    std::optional<FileState> state;
  };
  struct Arrival {
    QString path;
    bool fresh = false;  // it makes a new job; when it cannot be read, the next one of its group does
    int group = 0;       // files that were opened together
  };
  struct Saving {
    Job job;
    Document::Ticket ticket;
    QString path;
    std::function<void()> then;
  };

  void open_job(const QString& path);
  void open_part(const Arrival& arrival);
  void show_part(const ReadPart& read, bool fresh);
  void take(Job job, const QString& path, const QString& read_only_because,
            std::shared_ptr<SafetyCopy> copy = {});
  void open_next();
  void pass_on_freshness(const Arrival& failed);
  void save_next();
  void take_saved(const Saving& saving, const std::shared_ptr<OnDisk>& disk, const Result<SavedJob>& saved);
  void keep_safety_copy();
  void offer(const std::vector<LeftBehind>& left);
  [[nodiscard]] bool is_of_this_job(const Document::Ticket& began, const QString& what);
  void remember(const QString& path);
  void look_at_unit(size_t file);

  Session& session_;
  Background work_, saving_, output_, healing_, copying_, looking_;
  QTimer copy_soon_;
  std::deque<Arrival> waiting_;  // files that come once the one before them is there
  int group_ = 0;
  std::deque<Saving> to_save_;
  QString path_;
  QString read_only_because_;
  bool copy_trouble_told_ = false;
  std::shared_ptr<OnDisk> on_disk_ = std::make_shared<OnDisk>();
  std::shared_ptr<SafetyCopy> copy_;
};

}  // namespace anvil::app
