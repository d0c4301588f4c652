// Undo without limit: the list of earlier values of the job, each with the name of the act that led on from
// it.
#pragma once

#include <functional>

#include "job/entry.h"

namespace anvil {

class History {
 public:
  explicit History(Job start = {}) : now_(std::move(start)) {}

  [[nodiscard]] const Job& now() const { return now_; }
  void act(std::string name, Job next);  // forgets what was undone
  [[nodiscard]] bool can_undo() const { return !past_.empty(); }
  [[nodiscard]] bool can_redo() const { return !future_.empty(); }
  [[nodiscard]] std::string undo_name() const { return past_.empty() ? "" : past_.back().act; }
  [[nodiscard]] std::string redo_name() const { return future_.empty() ? "" : future_.back().act; }
  void undo();
  void redo();

  // Changes every value, also the earlier ones: for what is no act of the user.
  void amend(const std::function<Job(Job)>& change);

  // Counts changes, so that "saved or not" survives undoing back to the saved state.
  void mark_saved() { saved_at_ = past_.size(); }
  void mark_unsaved() { saved_at_.reset(); }
  [[nodiscard]] bool is_saved() const { return saved_at_ && *saved_at_ == past_.size(); }

 private:
  struct Step {
    std::string act;
    Job job;
  };
  Job now_;
  std::vector<Step> past_, future_;
  std::optional<size_t> saved_at_ = 0;
};

}  // namespace anvil
