// A small picture of a machine's rotary axes: the bed, the tables with the part's block on them, the head
// with the tool, as they stand at a pose. A change of pose is shown as the way there.
#pragma once

#include <QTimer>
#include <QWidget>
#include <optional>

#include "setup/kinematics.h"

namespace anvil::app {

class MachinePicture : public QWidget {
  Q_OBJECT
 public:
  explicit MachinePicture(QWidget* parent = nullptr);

  // zero.
  void show_pose(const Machine& machine, const Angles& angles);
  [[nodiscard]] const Angles& shown_angles() const { return now_; }
  [[nodiscard]] bool is_moving() const { return moving_.isActive(); }

  [[nodiscard]] QSize sizeHint() const override { return {240, 150}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void step();

  std::optional<Machine> machine_;
  Angles from_, to_, now_;
  int frame_ = 0;
  QTimer moving_;
};

}  // namespace anvil::app
