// The open job: its history and what it evaluates to. The only one that acts; everything else of the window
// asks it and hears when it has changed.
#pragma once

#include <QObject>
#include <functional>
#include <set>

#include "app/background.h"
#include "app/state/change_bus.h"
#include "geom/primitives.h"
#include "job/evaluate.h"
#include "job/history.h"
#include "job/result_cache.h"

namespace anvil::app {

class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(ChangeBus& bus);

  [[nodiscard]] const Job& job() const { return history_.now(); }
  [[nodiscard]] const Evaluation& evaluation() const { return evaluation_; }
  [[nodiscard]] const History& history() const { return history_; }
  [[nodiscard]] const PartPtr& part() const { return evaluation_.part; }
  [[nodiscard]] const std::shared_ptr<ResultCache>& cache() const { return cache_; }
  [[nodiscard]] int part_entry() const;
  // A pick of the part as it is now.
  [[nodiscard]] TopologyReference describe(TopologyKind kind, int index, Snap snap = Snap::kWhole) const {
    return describe_now(evaluation_, part_entry(), kind, index, snap);
  }
  [[nodiscard]] gp_Ax2 frame() const { return reading_frame(job(), evaluation_); }
  [[nodiscard]] gp_Trsf part_to_reading() const { return anvil::part_to_reading(job(), evaluation_); }

  void reset(Job job);
  // One act of the user, through the gate that every edit goes through; one that changes nothing is none.
  // False, and told, when it is refused. Repeated acts on one `field` ("name 7") are one step to undo.
  bool act(const QString& name, Job next, const QString& field = {});
  // Which job and which of its values: for whoever works on it for long and comes back with a result.
  struct Ticket {
    int job = 0, revision = 0;
    bool operator==(const Ticket&) const = default;
  };
  [[nodiscard]] Ticket ticket() const { return {job_number_, history_.revision()}; }
  // Another part under the same references, everywhere in the history: what import checked and mended after
  // the first picture.
  void exchange_part(const PartPtr& shown, const PartPtr& checked);
  // While a correction is being edited the part is shown as it stands before it (0: as it is). An act, undo
  // and another job end it.
  void look_before(int correction);
  [[nodiscard]] int looks_before() const { return before_; }
  void undo();
  void redo();
  void mark_saved(int revision);
  void mark_unsaved();  // what is open is nowhere on disk

  // While a part is still being brought in nothing is checked: the checks would take the cores from the
  // import, and would be done again for the part that comes of it.
  void set_importing(bool importing);
  [[nodiscard]] bool is_importing() const { return importing_; }

  [[nodiscard]] Background& evaluating() { return evaluating_; }
  // How long an act waits for its evaluation before that goes on behind it, with progress.
  void set_patience(std::chrono::milliseconds patience) { patience_ = patience; }
  [[nodiscard]] std::chrono::milliseconds patience() const { return patience_; }
  void compute_stopped();          // what was not computed because the user cancelled
  void wait_for_again(int entry);  // the same of one entry, when it is evaluated next
  // What waits for the entries it leans on: once the evaluation under way is there.
  void when_evaluated(std::function<void()> then) { when_evaluated_ = std::move(then); }

  // Bodies looked at alone (delivered numbers); empty: all. A way of looking, not part of the job.
  [[nodiscard]] const std::set<int>& isolated() const { return isolated_; }
  void isolate(std::set<int> bodies);
  [[nodiscard]] bool is_shown(const Body& body) const;

  struct Evaluated {
    bool moved = false;  // another part, or placed otherwise
  };

 Q_SIGNALS:
  // For the other holders of state, before anybody who shows it hears of it.
  void opened();    // another job
  void stepped();   // undone or redone: what was being made is not any more
  void set_out();   // an act changed nothing, or its evaluation goes on behind the window
  void imported();  // the part is as it stays
  void evaluated(const anvil::app::Document::Evaluated& what);

 private:
  [[nodiscard]] Job looked_at() const;  // the job, or as it is before the correction that is edited
  void refresh_evaluation();
  void take_evaluation(Evaluation done);
  void stop_evaluating();

  ChangeBus& bus_;
  bool importing_ = false;
  bool refining_ = false;  // the evaluation under way is of an exchanged part
  int job_number_ = 0;     // counts the jobs that were opened
  History history_;
  const std::shared_ptr<ResultCache> cache_ = std::make_shared<ResultCache>();
  Evaluation evaluation_;
  int before_ = 0;
  std::set<int> stopped_;  // entries the user would not wait for
  std::function<void()> when_evaluated_;
  std::chrono::milliseconds patience_{250};
  std::set<int> isolated_;
  PartPtr seen_part_;
  gp_Trsf seen_placement_;
  Background evaluating_;
};

}  // namespace anvil::app
