#include "app/state/document.h"

#include <utility>

#include "job/edits.h"
#include "job/gate.h"

namespace anvil::app {

Document::Document(ChangeBus& bus) : bus_(bus) {
  connect(&evaluating_, &Background::cancelled, this, &Document::stop_evaluating);
  connect(&evaluating_, &Background::failed, &bus_, &ChangeBus::tell);
}

int Document::part_entry() const {
  const Entry* entry = job().first_part();
  return entry ? entry->id : 0;
}

void Document::reset(Job job) {
  const ChangeBus::Hold hold(bus_);
  history_ = History(std::move(job));
  ++job_number_;
  refining_ = false;
  when_evaluated_ = {};
  stopped_.clear();
  before_ = 0;
  evaluation_ = {};
  Q_EMIT opened();
  refresh_evaluation();
}

bool Document::act(const QString& name, Job next, const QString& field) {
  const ChangeBus::Hold hold(bus_);
  auto passed = through_gate(std::move(next));
  if (!passed) {
    bus_.tell(QString::fromStdString(passed.error().sentence));
    return false;
  }
  if (same_job(*passed, job())) {
    Q_EMIT set_out();
    look_before(0);
    return true;
  }
  before_ = 0;
  history_.act(name.toStdString(), std::move(*passed), field.toStdString());
  refresh_evaluation();
  return true;
}

void Document::exchange_part(const PartPtr& shown, const PartPtr& checked) {
  history_.amend([&](Job job) { return with_checked_part(std::move(job), shown, checked); });
  refining_ = true;
  refresh_evaluation();
}

void Document::look_before(int correction) {
  if (correction == before_) return;
  before_ = correction;
  refresh_evaluation();
}

void Document::undo() {
  const ChangeBus::Hold hold(bus_);
  before_ = 0;
  history_.undo();
  Q_EMIT stepped();
  refresh_evaluation();
}

void Document::redo() {
  const ChangeBus::Hold hold(bus_);
  before_ = 0;
  history_.redo();
  Q_EMIT stepped();
  refresh_evaluation();
}

void Document::mark_saved(int revision) {
  history_.mark_saved(revision);
  bus_.announce(Change::kJob);
}

void Document::mark_unsaved() {
  history_.mark_unsaved();
  bus_.announce(Change::kJob);
}

void Document::set_importing(bool importing) {
  if (importing == importing_) return;
  importing_ = importing;
  if (importing_) return;
  Q_EMIT imported();
}

Job Document::looked_at() const {
  return before_ ? before_correction(job(), before_) : job();
}

void Document::refresh_evaluation() {
  for (auto id = stopped_.begin(); id != stopped_.end();)
    id = job().find(*id) ? std::next(id) : stopped_.erase(id);
  const auto before = std::make_shared<const Evaluation>(evaluation_);
  evaluating_.start_patiently<Evaluation>(
      tr("Evaluating the job"), patience_,
      [now = looked_at(), before, stopped = stopped_, cache = cache_](const Progress& progress) {
        return evaluate(now, before.get(), {progress, stopped, false, cache});
      },
      [this](Evaluation done) { take_evaluation(std::move(done)); });
  if (evaluating_.is_busy()) Q_EMIT set_out();  // what was kept leaves the tray at once
}

// The user will not wait: what is known stands, the rest is left out until it is asked for again.
void Document::stop_evaluating() {
  Evaluation known = evaluate(looked_at(), &evaluation_, {{}, stopped_, true, cache_});
  for (const auto& [id, evaluated] : known.entries)
    if (evaluated.stopped) stopped_.insert(id);
  take_evaluation(std::move(known));
}

void Document::compute_stopped() {
  stopped_.clear();
  refresh_evaluation();
}

void Document::wait_for_again(int entry) {
  stopped_.erase(entry);
}

void Document::take_evaluation(Evaluation done) {
  const ChangeBus::Hold hold(bus_);
  evaluation_ = std::move(done);
  const bool placed_anew = !same_motion(seen_placement_, evaluation_.placement);
  const bool moved = !same_geometry(part(), seen_part_) || placed_anew;
  const bool refined = std::exchange(refining_, false) && !placed_anew;
  seen_part_ = part();
  seen_placement_ = evaluation_.placement;
  bus_.announce(Change::kJob | Change::kBodies);
  if (moved) bus_.announce(refined ? Change::kRefined : Change::kPart);
  Q_EMIT evaluated({moved});
  if (const auto then = std::exchange(when_evaluated_, {})) then();
}

void Document::isolate(std::set<int> bodies) {
  isolated_ = std::move(bodies);
  bus_.announce(Change::kBodies);
}

bool Document::is_shown(const Body& body) const {
  if (!isolated_.empty()) return isolated_.count(body.delivered) > 0;
  return job().body(body.delivered).visible;
}

}  // namespace anvil::app
