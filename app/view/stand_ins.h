// What is drawn in place of a large part: a coarse one while it is turned, and a light one where it is so
// small on the screen that nobody sees the difference. Made behind everything else, and only on machines that
// need it.
#pragma once

#include <QTimer>
#include <atomic>
#include <memory>
#include <vector>

#include "part/part.h"

namespace anvil::app {

class StandIns {
 public:
  StandIns();
  ~StandIns();
  StandIns(const StandIns&) = delete;
  StandIns& operator=(const StandIns&) = delete;

  // Begins with the coarse one if the part is large; what stands for the same geometry stays.
  void show_part(const PartPtr& part);
  // That a picture of the part takes long: begins with the light one once the part has stayed for a while.
  void drawing_is_slow();

  // One for each body of the part, in its order; null until they are made. Those for turning are triangles
  // only, and may be null each.
  using Shapes = std::shared_ptr<const std::vector<TopoDS_Shape>>;
  [[nodiscard]] Shapes while_turning() const;
  [[nodiscard]] Shapes from_afar() const;
  // How far the latter may be off.
  [[nodiscard]] double deviation_mm() const { return deviation_mm_; }

 private:
  struct Making {
    std::shared_ptr<std::vector<TopoDS_Shape>> shapes = std::make_shared<std::vector<TopoDS_Shape>>();
    std::atomic<bool> ready = false, stop = false;
  };
  PartPtr part_;
  std::shared_ptr<Making> coarse_, light_;
  double deviation_mm_ = 0;
  QTimer settled_;
};

}  // namespace anvil::app
