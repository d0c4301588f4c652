// Where the job lives on disk: opening parts and jobs, saving, the safety copy and what is offered after a
// crash. Long work runs in the background; the window hears of it through signals.
#pragma once

#include <QObject>
#include <QTimer>
#include <filesystem>

#include "app/background.h"
#include "app/session.h"
#include "exchange/heal_worker.h"
#include "job/autosave.h"

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
  void open(const QString& path);      // a part or a job; the present job stays until the new one is there
  void add_part(const QString& path);  // another file into the present job
  void recover(const std::filesystem::path& copy, const QString& job_path);
  void save_to(const QString& path, std::function<void()> then = {});
  void export_part(const ExportRequest& request);  // in the reading frame
  void heal(const HealOptions& options);
  void rescale(size_t file, double scale);  // reads one of the job's files again, resized
  [[nodiscard]] static QStringList recent_files();
  void discard_safety_copy();  // on a clean end

  // Offers what earlier runs left behind for jobs never saved.
  void look_for_lost_jobs();

  [[nodiscard]] QString path() const { return path_; }
  [[nodiscard]] bool read_only() const { return read_only_; }
  [[nodiscard]] QString title() const;
  [[nodiscard]] Background& work() { return work_; }      // bringing in
  [[nodiscard]] Background& output() { return output_; }  // saving and handing over

 Q_SIGNALS:
  void changed();  // path or title
  void told(const QString& sentence);
  void confirmed(const QString& sentence);
  void resize_offered(const QString& sentence, size_t file, double scale);
  void recovery_offered(const QString& sentence, const QString& copy, const QString& job_path);

 private:
  void open_job(const QString& path);
  void open_part(const QString& path, double scale, bool into_this_job);
  void show_part(const ReadPart& read, double scale, bool into_this_job);
  void take(Job job, const QString& path, bool read_only);
  void open_next();
  void keep_safety_copy();
  void remember(const QString& path);
  void look_at_unit(size_t file);

  Session& session_;
  Background work_, output_, copying_;
  QTimer copy_soon_;
  QStringList waiting_;  // files that join the job once the one before them is there
  QString path_;
  bool read_only_ = false;
  std::filesystem::file_time_type saved_time_{};  // of the job on disk, as we know it
  std::unique_ptr<Autosave> autosave_;
};

}  // namespace anvil::app
