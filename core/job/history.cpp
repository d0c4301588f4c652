#include "job/history.h"

namespace anvil {

void History::act(std::string name, Job next) {
  if (saved_at_ && *saved_at_ > past_.size()) saved_at_.reset();  // the saved value can no longer be reached
  past_.push_back({std::move(name), std::move(now_)});
  now_ = std::move(next);
  future_.clear();
}

void History::undo() {
  if (past_.empty()) return;
  future_.push_back({past_.back().act, std::move(now_)});
  now_ = std::move(past_.back().job);
  past_.pop_back();
}

void History::redo() {
  if (future_.empty()) return;
  past_.push_back({future_.back().act, std::move(now_)});
  now_ = std::move(future_.back().job);
  future_.pop_back();
}

void History::amend(const std::function<Job(Job)>& change) {
  now_ = change(std::move(now_));
  for (std::vector<Step>* steps : {&past_, &future_})
    for (Step& step : *steps) step.job = change(std::move(step.job));
}

}  // namespace anvil
