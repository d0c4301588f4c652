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
  // Forgets what was undone. Acts one after the other on one `field` are one step; when the last of them
  // brings back what was there before the first, none.
  void act(std::string name, Job next, const std::string& field = {});
  [[nodiscard]] bool can_undo() const { return !past_.empty(); }
  [[nodiscard]] bool can_redo() const { return !future_.empty(); }
  [[nodiscard]] std::string undo_name() const { return past_.empty() ? "" : past_.back().act; }
  [[nodiscard]] std::string redo_name() const { return future_.empty() ? "" : future_.back().act; }
  void undo();
  void redo();

  // Changes every value, also the earlier ones: for what is no act of the user.
  void amend(const std::function<Job(Job)>& change);

  // Every value has a number of its own, also when it comes back by undo: what was saved is told by it,
  // whatever happened meanwhile.
  [[nodiscard]] int revision() const { return revision_; }
  void mark_saved(int revision) { saved_ = revision; }
  void mark_saved() { mark_saved(revision_); }
  void mark_unsaved() { saved_.reset(); }
  [[nodiscard]] bool is_saved() const { return saved_ == revision_; }

 private:
  struct Step {
    std::string act;
    Job job;
    int revision;
  };
  void act_again(std::string name, Job next);
  static void step(std::vector<Step>& from, std::vector<Step>& to, Job& now, int& revision);
  Job now_;
  int revision_ = 0, last_revision_ = 0;
  std::vector<Step> past_, future_;
  std::string field_;  // that the last act was on
  std::optional<int> saved_ = 0;
};

}  // namespace anvil
