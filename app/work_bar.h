// How far long work is, or that it goes on: drawn a few times a second at most. Every paint over the 3D view
// puts the whole window together anew, and where no graphics card does that, an animation takes a core from
// the work.
#pragma once

#include <QProgressBar>

namespace anvil::app {

class WorkBar : public QProgressBar {
 public:
  explicit WorkBar(QWidget* parent = nullptr);

  // Of the whole, 0 to 1; below 0 when nobody knows: then each call moves a mark on by one step.
  void set_share(double share);

  // How often to call that.
  static constexpr int kBetweenPaints_ms = 250;

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  int step_ = 0;
};

}  // namespace anvil::app
