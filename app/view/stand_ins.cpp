#include "app/view/stand_ins.h"

#include <QThreadPool>
#include <algorithm>
#include <functional>

#include "geom/guard.h"
#include "part/coarsen.h"
#include "part/mesh.h"

namespace anvil::app {
namespace {

// Fewer are drawn in a moment on any machine; of more, a second mesh would take more memory than it is worth.
constexpr size_t kLargeFaces = 1500, kMostLightenedFaces = 20000;

void make_behind(const char* doing, const auto& making, const PartPtr& part,
                 const std::function<TopoDS_Shape(const Body&)>& shape_of) {
  // Without a stand-in the part itself is drawn.
  QThreadPool::globalInstance()->start([doing, making, part, shape_of] {
    static_cast<void>(guarded(doing, [&]() -> Result<void> {
      for (const Body& body : part->bodies()) {
        if (making->stop) return {};
        making->shapes->push_back(shape_of(body));
      }
      making->ready = true;
      return {};
    }));
  });
}

}  // namespace

StandIns::StandIns() {
  constexpr int kStays_ms = 2000;
  settled_.setSingleShot(true);
  settled_.setInterval(kStays_ms);
}

StandIns::~StandIns() {
  for (const auto& making : {coarse_, light_})
    if (making) making->stop = true;
}

void StandIns::show_part(const PartPtr& part) {
  const bool is_same = same_geometry(part_, part);
  part_ = part;
  if (is_same) return;
  for (auto* making : {&coarse_, &light_}) {
    if (*making) (*making)->stop = true;
    making->reset();
  }
  settled_.start();
  if (!part || part->topology().faces.size() < kLargeFaces) return;
  constexpr double kCells = 150;  // across the part
  coarse_ = std::make_shared<Making>();
  make_behind("making the coarse picture", coarse_, part,
              [cell_mm = deflection_mm(part->shape(), {1 / kCells, 0})](const Body& body) {
                return coarsened(body.shape, cell_mm);
              });
}

void StandIns::drawing_is_slow() {
  const size_t faces = part_ ? part_->topology().faces.size() : 0;
  if (light_ || settled_.isActive() || faces < kLargeFaces || faces > kMostLightenedFaces) return;
  deviation_mm_ = 0;
  for (const Body& body : part_->bodies())
    deviation_mm_ = std::max(deviation_mm_, deflection_mm(body.shape, kLightMesh));
  light_ = std::make_shared<Making>();
  make_behind("making the light picture", light_, part_, [](const Body& body) {
    return body.kind == BodyKind::kMesh ? body.shape : lightened(body.shape);
  });
}

StandIns::Shapes StandIns::while_turning() const {
  return coarse_ && coarse_->ready ? coarse_->shapes : nullptr;
}

StandIns::Shapes StandIns::from_afar() const {
  return light_ && light_->ready ? light_->shapes : nullptr;
}

}  // namespace anvil::app
