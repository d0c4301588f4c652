// The setups at work: which one is open on its card, what is kept as a setup or a tool plane, and the axes
// that suggest themselves.
#pragma once

#include <QObject>

#include "app/state/checks.h"
#include "app/state/pick_tray.h"
#include "setup/proposals.h"

namespace anvil::app {

class SetupDesk : public QObject {
  Q_OBJECT
 public:
  SetupDesk(Document& document, PickTray& tray, Checks& checks, ChangeBus& bus);

  void open_setup(int id);  // on its card; 0 closes it
  [[nodiscard]] int opened_setup_id() const { return opened_setup() ? open_setup_ : 0; }
  [[nodiscard]] const Setup* opened_setup() const;
  [[nodiscard]] const SetupValue* opened_setup_value() const;  // null while there is none
  void change_setup(const QString& name, const Setup& setup);
  [[nodiscard]] int setup_in_use() const;  // read in, or open, or the only one; 0: none
  // The frame being made, or one that is picked.
  void keep_as_setup();
  void keep_as_tool_plane();
  [[nodiscard]] bool can_keep_as_setup() const;
  void activate_plane(int setup, int plane);  // 0: the setup's own
  // Tool axes that suggest themselves for the opened setup; null until they are asked for and found.
  void propose_planes();
  [[nodiscard]] const std::shared_ptr<const Proposals>& proposals() const { return proposals_; }
  void point_at_proposal(int axis);  // lights what it reaches; -1: none
  void keep_proposals(const std::vector<int>& axes);
  void drop_proposals();
  [[nodiscard]] int plane_along(const ProposedAxis& axis) const;

  [[nodiscard]] Background& proposing() { return proposing_; }

 private:
  [[nodiscard]] const Job& job() const { return document_.job(); }
  [[nodiscard]] const Evaluation& evaluation() const { return document_.evaluation(); }
  void forget_proposals();
  int frame_for_setup(Job& next) const;

  Document& document_;
  PickTray& tray_;
  Checks& checks_;
  ChangeBus& bus_;
  int open_setup_ = 0;
  bool look_when_evaluated_ = false;
  std::shared_ptr<const Proposals> proposals_;
  Background proposing_;
};

}  // namespace anvil::app
