// Which offer comes first for picks on a real part, which are greyed and why.
#include <gtest/gtest.h>
#include <set>

#include "construct/likely_offers.h"
#include "demo/shapes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::part_of;

// A block with two through holes; picks by where they are.
class Offers : public testing::Test {
 protected:
  Given face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) {
    return given_by_face(*part, test::face_at(*part, at, kind), {});
  }
  Given edge(const gp_Pnt& at, Snap snap = Snap::kWhole) {
    return given_by_edge(*part, test::edge_at(*part, at), snap, {});
  }
  Given vertex(const gp_Pnt& at) { return given_by_vertex(*part, test::vertex_at(*part, at), {}); }

  static std::string first(const std::vector<Given>& picks) {
    const auto offers = offers_for(picks, {});
    return offers.empty() || offers.front().state != Offer::State::kReady ? ""
                                                                          : offers.front().construction->id;
  }
  static const Offer* find(const std::vector<Offer>& offers, const std::string& id) {
    for (const Offer& offer : offers)
      if (offer.construction->id == id) return &offer;
    return nullptr;
  }

  PartPtr part = part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                   {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20),
                                    demo::rod(gp_Ax2(gp_Pnt(60, 20, 20), gp_Dir(0, 0, -1)), 10, 20)}));
};

TEST_F(Offers, LikeliestComesFirst) {
  EXPECT_EQ(first({face({40, 0, 10}), face({40, 40, 10})}), "plane.midway");
  EXPECT_EQ(first({face({40, 0, 10}), face({80, 20, 10})}), "measure.angle");
  EXPECT_EQ(first({face({40, 0, 10})}), "plane.on-face");
  EXPECT_EQ(first({vertex({0, 0, 0})}), "point.at");
  EXPECT_EQ(first({edge({40, 0, 20}, Snap::kMiddle)}), "point.at");
  EXPECT_EQ(first({edge({40, 0, 20})}), "axis.along-edge");
  EXPECT_EQ(first({face({25, 20, 10}, SurfaceKind::kCylinder)}), "axis.of");
  EXPECT_EQ(first({vertex({0, 0, 20}), vertex({80, 0, 20}), vertex({0, 40, 20})}), "plane.three-points");
  EXPECT_EQ(first({face({25, 20, 10}, SurfaceKind::kCylinder), face({55, 20, 10}, SurfaceKind::kCylinder)}),
            "measure.distance");
  EXPECT_EQ(first({edge({40, 0, 20}), edge({80, 20, 20})}), "frame.two-lines");
}

std::vector<std::string> likely(const std::vector<Given>& picks, const Leaning& leaning) {
  const auto offers = offers_for(picks, {});
  std::vector<std::string> ids;
  for (const size_t i : likely_offers(offers, leaning)) ids.push_back(offers[i].construction->id);
  return ids;
}

TEST_F(Offers, WhatTheJobLacksIsOfferedFirst) {
  const std::vector<Given> top{face({40, 5, 20})};
  EXPECT_EQ(likely(top, {.wants_seat = true}).front(), "place.face-down");
  const auto place_of = [&](const Leaning& leaning) {
    const auto ids = likely(top, leaning);
    return std::find(ids.begin(), ids.end(), "frame.on-face") - ids.begin();
  };
  EXPECT_LT(place_of({.wants_zero = true}), 3);
  EXPECT_EQ(likely(top, {}).front(), "plane.on-face");
}

TEST_F(Offers, WhatWasMadeOfSuchPicksBeforeIsLikelyAgain) {
  const std::vector<Given> sides{face({40, 0, 10}), face({40, 40, 10})};
  // Once: among the first; twice in a row: the first.
  const auto once = likely(sides, {.used = {"measure.greatest", "plane.offset"}});
  EXPECT_EQ(once.front(), "plane.midway");
  EXPECT_LT(std::find(once.begin(), once.end(), "measure.greatest") - once.begin(), 3);
  EXPECT_EQ(likely(sides, {.used = {"measure.greatest", "measure.greatest"}}).front(), "measure.greatest");
  EXPECT_EQ(kinds_of(sides), kinds_of({face({0, 20, 10}), face({40, 5, 20})}));
  EXPECT_NE(kinds_of(sides), kinds_of({face({0, 20, 10}), vertex({0, 0, 0})}));
}

TEST_F(Offers, FewAreLikelyAndOfMoreThanOneKind) {
  const auto few = likely({face({40, 5, 20})}, {.wants_seat = true});
  EXPECT_LE(few.size(), 7U);
  std::set<std::string> kinds;
  for (const std::string& id : few) kinds.insert(id.substr(0, id.find('.')));
  EXPECT_GE(kinds.size(), 3U);
  EXPECT_EQ(std::set(few.begin(), few.end()).size(), few.size());
}

// Through two opposite faces a plane can be fitted, and misses both by millimetres.
TEST_F(Offers, WhatMissesItsPicksStandsBehindWhatDoesNot) {
  const auto offers = offers_for({face({40, 0, 10}), face({40, 40, 10})}, {});
  const Offer* fitted = find(offers, "plane.best-fit");
  ASSERT_NE(fitted, nullptr);
  EXPECT_GT(fitted->solutions.front().off_mm, 5);
  for (const Offer& offer : offers)
    if (offer.state == Offer::State::kReady && !offer.solutions.empty() &&
        offer.construction->makes == Makes::kPlane && offer.solutions[offer.preferred].off_mm == 0) {
      EXPECT_LT(offer.rank, fitted->rank) << offer.sentence;
    }
}

TEST_F(Offers, SentenceNamesThePicksAndTheNoteTheNumber) {
  const auto offers = offers_for({face({40, 0, 10}), face({40, 40, 10})}, {});
  EXPECT_EQ(offers.front().sentence, "Plane midway between ① and ②");
  EXPECT_EQ(offers.front().note, "20.000 from each");
  EXPECT_EQ(find(offers, "measure.distance")->note, "40.000");
}

TEST_F(Offers, RefusedOnesCarryTheReasonWithItsNumber) {
  const auto offers = offers_for({face({40, 0, 10}), face({40, 40, 10})}, {});
  const Offer* axis = find(offers, "axis.of-two-planes");
  ASSERT_NE(axis, nullptr);
  EXPECT_EQ(axis->state, Offer::State::kRefused);
  EXPECT_NE(axis->note.find("40.000 mm"), std::string::npos);
}

TEST_F(Offers, IncompleteOnesSayWhatIsStillNeeded) {
  const auto offers = offers_for({vertex({0, 0, 0})}, {});
  const Offer* plane = find(offers, "plane.three-points");
  ASSERT_NE(plane, nullptr);
  EXPECT_EQ(plane->state, Offer::State::kNeedsMore);
  EXPECT_EQ(plane->note, "needs a point or hole as ②, a point or hole as ③");
  EXPECT_EQ(still_needed(*plane->construction, {vertex({0, 0, 0})}), "Pick a point or hole as ②.");
}

TEST_F(Offers, ReadyOnesComeBeforeRefusedBeforeIncomplete) {
  const auto offers = offers_for({face({40, 0, 10}), face({40, 40, 10})}, {});
  for (size_t i = 1; i < offers.size(); ++i)
    EXPECT_LE(static_cast<int>(offers[i - 1].state), static_cast<int>(offers[i].state));
  EXPECT_TRUE(offers_for({}, {}).empty());
}

}  // namespace
}  // namespace anvil
