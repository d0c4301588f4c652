#include "job/known_checks.h"

#include <gtest/gtest.h>
#include <BRepBuilderAPI_Copy.hxx>

#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::demo;

PartPtr part_with(const std::vector<Body>& bodies, const std::vector<GeometryPtr>& donors = {}) {
  std::vector<Body> numbered = bodies;
  for (size_t i = 0; i < numbered.size(); ++i) numbered[i].delivered = static_cast<int>(i);
  return std::make_shared<const Part>(std::vector<SourceInfo>{SourceInfo{}}, std::move(numbered), donors);
}

// Where and what, whatever the sentences call the bodies.
std::multiset<std::tuple<int, int, int, int>> told(const std::vector<Finding>& findings) {
  std::multiset<std::tuple<int, int, int, int>> all;
  for (const Finding& f : findings) all.insert({static_cast<int>(f.kind), f.body, f.face, f.edge});
  return all;
}

TEST(KnownChecks, SoundnessOfABodyIsFoundOnceWhateverPartItIsIn) {
  const Body torn = torn_bracket().bodies.front(), plate = test::plate().bodies.front();
  Body twin = torn;
  twin.shape = BRepBuilderAPI_Copy(torn.shape, true, true).Shape();
  ResultCache cache;
  const PartPtr both = part_with({plate, torn});
  const auto first = soundness_once(cache, *both, kSoundTolerance_mm, {});
  ASSERT_TRUE(first);
  EXPECT_GT(first->size(), 4u);
  const size_t known = cache.count();
  // Alone, behind another number, and twice: the same findings at the faces as they are numbered there.
  for (const std::vector<Body>& bodies :
       {std::vector<Body>{torn}, {torn, plate}, {plate, torn, twin}, {plate}}) {
    const PartPtr part = part_with(bodies, {both->geometry()});
    const auto again = soundness_once(cache, *part, kSoundTolerance_mm, {});
    const auto anew = check_soundness_of_all(*part, kSoundTolerance_mm, {});
    ASSERT_TRUE(again && anew);
    std::string other;  // gtest cuts long lists
    const auto here = told(*again), there = told(*anew);
    for (const auto* one : {&here, &there})
      for (const auto& f : *one)
        if (here.count(f) != there.count(f)) other += testing::PrintToString(f);
    EXPECT_EQ(other, "") << bodies.size();
    EXPECT_EQ(cache.count(), known);
  }
  // Another tolerance is another question.
  const auto coarse = soundness_once(cache, *both, 0.5, {});
  const auto anew = check_soundness_of_all(*both, 0.5, {});
  ASSERT_TRUE(coarse && anew);
  EXPECT_EQ(told(*coarse), told(*anew));
  EXPECT_GT(cache.count(), known);
}

TEST(KnownChecks, HolesAndCornersAreThoseFoundBefore) {
  ResultCache cache;
  const PartPtr plate = test::part_of(test::plate());
  EXPECT_EQ(known_holes(cache, *plate), nullptr);
  const auto holes = holes_once(cache, *plate, {});
  ASSERT_TRUE(holes);
  const auto corners = corners_once(cache, *plate, {gp_Dir(0, 0, 1)}, holes->get(), {});
  ASSERT_TRUE(corners);
  // Read once more it is another part with the same content.
  const PartPtr again = test::part_of(test::plate());
  EXPECT_EQ(known_holes(cache, *again), *holes);
  EXPECT_EQ(known_corners(cache, *again, {gp_Dir(0, 0, 1)}), *corners);
  EXPECT_EQ(known_corners(cache, *again, {gp_Dir(0, 1, 0)}), nullptr);
  EXPECT_EQ(known_corners(cache, *again, {gp_Dir(0, 0, 1), 0.9}), nullptr);
  const auto stopped = corners_once(cache, *plate, {gp_Dir(1, 0, 0)}, nullptr, {{}, [] { return true; }});
  EXPECT_FALSE(stopped);
  EXPECT_EQ(known_corners(cache, *plate, {gp_Dir(1, 0, 0)}), nullptr);
}

}  // namespace
}  // namespace anvil
