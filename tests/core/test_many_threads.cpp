// What runs behind the window runs at the same time, on one part: the answers are those of one after the
// other, and (with the thread sanitizer) nobody writes where another reads.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_Copy.hxx>
#include <functional>
#include <thread>

#include "inspect/hole_surroundings.h"
#include "inspect/left_in_pockets.h"
#include "inspect/section_stack.h"
#include "job/plane_checks.h"
#include "part/measure.h"
#include "part/soundness.h"
#include "report/drill_drawing.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::test;

// Everything that the window may ask of a part at once, each as a number that tells its answer.
std::vector<std::function<double(const Part&)>> questions() {
  const gp_Dir up = plate().tool_axis;
  return {[](const Part& part) { return static_cast<double>(find_holes(part)->holes.size()); },
          [up](const Part& part) { return *corners_of(part, up).largest_cutter_mm; },
          [up](const Part& part) { return corners_of(part, up.Reversed()).corners.size() * 1.0; },
          [](const Part& part) { return look_around(part, holes_of(part))->front().wall->thickness_mm; },
          [up](const Part& part) {
            const CornerReport report = corners_of(part, up);
            const auto left = left_by_cutter(*report.sections, 8);
            double all = 0;
            for (const double share : left_in_pockets(part, report, *left)) all += share;
            return all;
          },
          [up](const Part& part) {
            const auto reach = reach_of_holes(part, holes_of(part), up);
            return static_cast<double>(std::count(reach.begin(), reach.end(), HoleReach::kFromEntry));
          },
          [](const Part& part) { return check_soundness_of_all(part, kSoundTolerance_mm, {})->size() * 1.0; },
          [](const Part& part) { return exact_box(part.shape()).max.X(); },
          [up](const Part& part) {
            DrillView view;
            view.towards_eye = up;
            return static_cast<double>(drill_drawing(part, holes_of(part), view)->circles.size());
          }};
}

// As the worker hands it over: meshed, and nothing kept with it yet.
PartPtr fresh_plate() {
  std::vector<Body> bodies = plate().bodies;
  for (Body& body : bodies) {
    body.shape = BRepBuilderAPI_Copy(body.shape, true, false).Shape();
    mesh_shape(body.shape);
    body.meshed = true;
  }
  SourceInfo source;
  return std::make_shared<const Part>(source, bodies);
}

TEST(ManyThreads, AskOnePartForEverythingAtOnce) {
  const auto all = questions();
  std::vector<double> expected;
  expected.reserve(all.size());
  const PartPtr alone = fresh_plate();
  for (const auto& ask : all) expected.push_back(ask(*alone));
  for (int round = 0; round < 3; ++round) {
    const PartPtr shared = fresh_plate();
    std::vector<double> answers(all.size(), -1);
    std::vector<std::thread> threads;
    for (size_t i = 0; i < all.size(); ++i) threads.emplace_back([&, i] { answers[i] = all[i](*shared); });
    for (std::thread& thread : threads) thread.join();
    EXPECT_EQ(answers, expected);
  }
}

}  // namespace
}  // namespace anvil
