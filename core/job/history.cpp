#include "job/history.h"

#include "job/gate.h"

namespace anvil {
namespace {

ComposedPart* composed(const Job& job) {
  const Entry* entry = job.first_part();
  return entry ? entry->part()->composed.get() : nullptr;
}

// Earlier and later values hold recipes; the part is made again when one of them comes back.
void let_go(const Job& job, const Job& now) {
  if (ComposedPart* part = composed(job); part && part != composed(now)) part->let_go();
}

}  // namespace

void History::act(std::string name, Job next, const std::string& field) {
  if (!field.empty() && field == field_ && !past_.empty()) return act_again(std::move(name), std::move(next));
  field_ = field;
  past_.push_back({std::move(name), std::move(now_), revision_});
  now_ = std::move(next);
  let_go(past_.back().job, now_);
  revision_ = ++last_revision_;
  future_.clear();
}

void History::act_again(std::string name, Job next) {
  Step& step = past_.back();
  if (same_job(step.job, next)) {
    now_ = std::move(step.job);
    revision_ = step.revision;
    past_.pop_back();
    field_.clear();
    return;
  }
  step.act = std::move(name);
  now_ = std::move(next);
  revision_ = ++last_revision_;
}

void History::step(std::vector<Step>& from, std::vector<Step>& to, Job& now, int& revision) {
  if (from.empty()) return;
  Step back = std::move(from.back());
  from.pop_back();
  to.push_back({std::move(back.act), std::move(now), revision});
  now = std::move(back.job);
  let_go(to.back().job, now);
  revision = back.revision;
}

void History::undo() {
  field_.clear();
  step(past_, future_, now_, revision_);
}

void History::redo() {
  field_.clear();
  step(future_, past_, now_, revision_);
}

void History::amend(const std::function<Job(Job)>& change) {
  now_ = change(std::move(now_));
  for (std::vector<Step>* steps : {&past_, &future_})
    for (Step& step : *steps) {
      step.job = change(std::move(step.job));
      let_go(step.job, now_);
    }
}

}  // namespace anvil
