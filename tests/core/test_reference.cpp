#include "pick/reference.h"

#include <gtest/gtest.h>

#include "demo/shapes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::part_of;

TEST(Reference, EveryElementOfTheDemoPartsIsFoundByItsHint) {
  for (const demo::DemoPart* demo : {&test::plate(), &test::housing()}) {
    const PartPtr part = part_of(*demo);
    for (size_t i = 0; i < part->topology().faces.size(); ++i)
      EXPECT_EQ(*resolve(*part, describe(*part, 1, TopologyKind::kFace, static_cast<int>(i))),
                static_cast<int>(i));
  }
}

TEST(Reference, IsFoundByDescriptionWhenTheNumberingChanged) {
  const PartPtr part = part_of(test::housing());
  for (const TopologyKind kind : {TopologyKind::kFace, TopologyKind::kEdge, TopologyKind::kVertex}) {
    for (int i = 0; i < 40; ++i) {
      TopologyReference reference = describe(*part, 1, kind, i);
      reference.index_hint = (i + 7) % 40;
      const auto found = resolve(*part, reference);
      ASSERT_TRUE(found) << found.error().sentence;
      EXPECT_EQ(*found, i);
    }
  }
}

TEST(Reference, WhatIsGoneIsSaidAndNotGuessed) {
  const PartPtr holed = part_of(demo::cut(demo::block({0, 0, 0}, {40, 40, 10}),
                                          {demo::rod(gp_Ax2(gp_Pnt(20, 20, 10), gp_Dir(0, 0, -1)), 8, 10)}));
  const PartPtr plain = part_of(demo::block({0, 0, 0}, {40, 40, 10}));
  int bore = -1;
  for (size_t i = 0; i < holed->topology().faces.size(); ++i)
    if (holed->topology().faces[i].surface.kind == SurfaceKind::kCylinder) bore = static_cast<int>(i);
  const auto gone = resolve(*plain, describe(*holed, 1, TopologyKind::kFace, bore));
  ASSERT_FALSE(gone);
  EXPECT_EQ(gone.error().code, RefusalCode::kUnknownName);
}

}  // namespace
}  // namespace anvil
