// What is drawn in place of a large part comes when it is wanted, and goes with the part it stands for.
#include <gtest/gtest.h>
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QThread>
#include <functional>

#include "app/view/stand_ins.h"
#include "demo/demo_part.h"
#include "part/coarsen.h"
#include "support/fixtures.h"

namespace anvil::app {
namespace {

PartPtr meshed_plate(int rows) {
  const TopoDS_Shape plate = demo::plate_of_holes(rows, rows);
  mesh_shape(plate);
  return test::part_of(plate);
}

// Whether it is so before that time is over; events go on meanwhile.
bool comes_within(qint64 limit_ms, const std::function<bool()>& done) {
  constexpr int kPause_ms = 20;
  QElapsedTimer clock;
  clock.start();
  while (!done()) {
    if (clock.elapsed() > limit_ms) return false;
    QCoreApplication::processEvents();
    QThread::msleep(kPause_ms);
  }
  return true;
}

TEST(StandIns, ComeForLargePartsAndTheLightOneOnlyWhereDrawingIsSlow) {
  constexpr int kSoon_ms = 60000;
  const PartPtr large = meshed_plate(20), small = meshed_plate(3);
  ASSERT_GT(large->topology().faces.size(), 1500U);
  StandIns stand_ins;
  stand_ins.show_part(large);
  stand_ins.drawing_is_slow();  // too soon: the part may be another in a moment
  ASSERT_TRUE(comes_within(kSoon_ms, [&] { return stand_ins.while_turning() != nullptr; }));
  EXPECT_FALSE(comes_within(3000, [&] { return stand_ins.from_afar() != nullptr; }));
  stand_ins.drawing_is_slow();
  ASSERT_TRUE(comes_within(kSoon_ms, [&] { return stand_ins.from_afar() != nullptr; }));
  const auto light = stand_ins.from_afar();
  ASSERT_EQ(light->size(), 1U);
  EXPECT_LT(triangle_count(light->front()), triangle_count(large->shape()));
  EXPECT_DOUBLE_EQ(stand_ins.deviation_mm(), deflection_mm(large->shape(), kLightMesh));

  Part named(*large);
  stand_ins.show_part(std::make_shared<const Part>(std::move(named)));
  EXPECT_EQ(stand_ins.from_afar(), light);

  stand_ins.show_part(small);
  EXPECT_FALSE(stand_ins.while_turning());
  EXPECT_FALSE(stand_ins.from_afar());
  EXPECT_FALSE(comes_within(3000, [&] {
    stand_ins.drawing_is_slow();
    return stand_ins.from_afar() != nullptr;
  }));
}

}  // namespace
}  // namespace anvil::app
