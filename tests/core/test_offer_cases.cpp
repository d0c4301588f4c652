// For many sets of picks on a real part: which offer comes first, and what must be among those that are
// ready.
#include <gtest/gtest.h>

#include "construct/offers.h"
#include "geom/primitives.h"
#include "support/pieces.h"

namespace anvil {
namespace {

using test::Pieces;

struct OfferCase {
  std::vector<std::string> picks;
  const char* first;
  std::vector<std::string> early = {};    // among the first three
  std::vector<std::string> ready = {};    // offered at all
  std::vector<std::string> refused = {};  // fit, but say why not
};

std::ostream& operator<<(std::ostream& out, const OfferCase& c) {
  for (const std::string& pick : c.picks) out << pick << ", ";
  return out;
}

class OfferCases : public testing::TestWithParam<OfferCase> {
 protected:
  std::vector<Offer> offers() const {
    static const Pieces pieces;
    std::vector<Given> picks;
    for (const std::string& name : GetParam().picks) picks.push_back(pieces(name));
    return offers_for(picks, {});
  }
};

TEST_P(OfferCases, LikeliestFirst) {
  const auto all = offers();
  ASSERT_FALSE(all.empty());
  EXPECT_EQ(all.front().state, Offer::State::kReady);
  EXPECT_EQ(all.front().construction->id, GetParam().first);
  const auto has = [&](const std::string& id, Offer::State state, size_t among) {
    return std::any_of(all.begin(), all.begin() + static_cast<long>(std::min(among, all.size())),
                       [&](const Offer& o) { return o.construction->id == id && o.state == state; });
  };
  for (const std::string& id : GetParam().early) EXPECT_TRUE(has(id, Offer::State::kReady, 3)) << id;
  for (const std::string& id : GetParam().ready) EXPECT_TRUE(has(id, Offer::State::kReady, 1000)) << id;
  for (const std::string& id : GetParam().refused) EXPECT_TRUE(has(id, Offer::State::kRefused, 1000)) << id;
}

// What a hole is from a flat face counts from its axis; the nearest points of both come after it and say so.
TEST_P(OfferCases, DistancesFromAnAxisComeBeforeNearestPoints) {
  const auto all = offers();
  const auto place_of = [&](const std::string& id) {
    return std::find_if(all.begin(), all.end(), [&](const Offer& o) { return o.construction->id == id; }) -
           all.begin();
  };
  const auto end = static_cast<long>(all.size());
  if (place_of("measure.nearest") == end) return;
  EXPECT_LT(place_of("measure.distance"), place_of("measure.nearest"));
}

TEST_P(OfferCases, EveryOneIsAWholeSentence) {
  for (const Offer& offer : offers()) {
    EXPECT_EQ(offer.sentence.find('{'), std::string::npos) << offer.sentence;
    EXPECT_EQ(offer.note.find('{'), std::string::npos) << offer.note;
    const bool solved = offer.state == Offer::State::kReady && !offer.construction->takes_time;
    EXPECT_EQ(offer.solutions.empty(), !solved) << offer.sentence;
    EXPECT_TRUE(offer.state == Offer::State::kReady || !offer.note.empty()) << offer.sentence;
  }
}

INSTANTIATE_TEST_SUITE_P(
    OnePick, OfferCases,
    testing::Values(
        OfferCase{
            {"top"}, "plane.on-face", {"frame.on-face", "plane.offset"}, {"place.face-down", "measure.face"}},
        OfferCase{
            {"bore"}, "axis.of", {"point.hole-end"}, {"place.axis-up", "place.along-x", "measure.draft"}},
        OfferCase{{"blind"}, "axis.of", {"point.hole-end"}}, OfferCase{{"cone"}, "axis.of", {"point.centre"}},
        OfferCase{{"ball"}, "point.at", {"point.centre"}, {"plane.touching-where-clicked"}},
        OfferCase{{"ring"}, "axis.of", {"point.centre"}},
        OfferCase{{"rim"}, "axis.of", {"point.at"}, {"plane.on-face", "point.on-edge", "measure.edge"}},
        OfferCase{{"ellipse"}, "point.at", {"plane.on-face"}},
        OfferCase{{"centre"}, "point.at", {"measure.place"}},
        OfferCase{
            {"edgeX"}, "axis.along-edge", {}, {"point.on-edge", "plane.square-along-edge", "place.along-x"}},
        OfferCase{{"middle"}, "point.at", {"measure.place", "point.stepped"}},
        OfferCase{
            {"corner"}, "point.at", {"measure.place", "point.stepped"}, {"point.polar", "plane.as-seen"}},
        OfferCase{{"plane 0 0 5 0 0 1"}, "plane.on-face", {"plane.offset"}}));

INSTANTIATE_TEST_SUITE_P(
    Scans, OfferCases,
    testing::Values(
        OfferCase{{"scan outer"}, "axis.of", {"point.region-circle"}, {"point.of-region", "measure.face"}},
        OfferCase{{"scan bottom"},
                  "plane.on-face",
                  {"frame.on-face"},
                  {"point.of-region"},
                  {"point.region-circle"}},
        OfferCase{{"scan dome"}, "point.at", {"point.centre"}, {"point.of-region"}},
        OfferCase{{"scan cone"}, "axis.of", {"point.centre"}, {"point.of-region", "point.region-circle"}},
        OfferCase{{"scan outer", "scan bottom"}, "point.axis-plane"},
        OfferCase{{"scan bottom", "top"}, "plane.midway", {"measure.distance"}}));

INSTANTIATE_TEST_SUITE_P(
    TwoFaces, OfferCases,
    testing::Values(
        OfferCase{{"top", "bottom"},
                  "plane.midway",
                  {"measure.distance"},
                  {"plane.best-fit"},
                  {"axis.of-two-planes"}},
        OfferCase{{"front", "back"}, "plane.midway", {"measure.distance"}, {}, {"plane.bisector"}},
        OfferCase{{"bottom", "top"}, "plane.midway", {"measure.distance"}},
        OfferCase{{"top", "plane 0 0 50 0 0 1"}, "plane.midway", {"measure.distance"}},
        OfferCase{
            {"top", "front"}, "measure.angle", {"plane.bisector"}, {"axis.of-two-planes"}, {"plane.midway"}},
        OfferCase{
            {"left", "top"}, "measure.angle", {"plane.bisector"}, {"axis.of-two-planes"}, {"plane.midway"}},
        OfferCase{{"top", "slant"}, "measure.angle", {"plane.bisector"}},
        OfferCase{{"bore", "bore2"},
                  "measure.distance",
                  {"plane.two-lines", "axis.two-points"},
                  {"measure.pitch", "axis.midway", "plane.between-axes"},
                  {"point.two-axes"}},
        OfferCase{{"blind", "bore"}, "measure.distance", {"plane.two-lines", "axis.two-points"}},
        OfferCase{{"bore", "left"},
                  "plane.touching-parallel",
                  {"measure.distance"},
                  {"plane.touching-square", "plane.axis-and-plane"}},
        OfferCase{{"front", "bore"}, "plane.touching-parallel", {"measure.distance"}},
        OfferCase{{"bore", "top"},
                  "point.axis-plane",
                  {},
                  {},
                  {"point.axis-face", "plane.touching-parallel", "plane.turned"}},
        OfferCase{{"bore", "slant"},
                  "measure.angle",
                  {"point.axis-plane"},
                  {"axis.projected"},
                  {"plane.touching-parallel"}},
        OfferCase{{"ball", "top"}, "plane.touching-sphere", {"plane.parallel-through", "measure.distance"}},
        OfferCase{{"ball", "bore"},
                  "measure.distance",
                  {"plane.line-point"},
                  {"plane.touching-sphere-line", "axis.two-points"}},
        OfferCase{{"cone", "top"}, "point.axis-plane"},
        OfferCase{{"ring", "bore"}, "measure.distance", {"plane.two-lines"}},
        OfferCase{{"ball", "corner"},
                  "measure.distance",
                  {"axis.two-points", "point.average"},
                  {"point.on-face"}}));

INSTANTIATE_TEST_SUITE_P(
    WithPointsAndEdges, OfferCases,
    testing::Values(
        OfferCase{{"top", "edgeY"}, "plane.turned", {}, {"plane.axis-and-plane"}},
        OfferCase{{"edgeX", "front"}, "plane.turned"},
        OfferCase{{"top", "edgeX"}, "measure.distance", {"plane.turned", "plane.axis-and-plane"}},
        OfferCase{{"top", "edgeZ"}, "point.axis-plane", {}, {"point.curve-plane"}, {"plane.turned"}},
        OfferCase{{"slant", "edgeX"}, "measure.angle", {"point.axis-plane"}},
        OfferCase{{"top", "corner3"},
                  "plane.parallel-through",
                  {"measure.distance", "axis.square-to-plane"},
                  {"point.on-plane"}},
        OfferCase{{"slant", "corner"}, "plane.parallel-through", {"measure.distance"}},
        OfferCase{{"bore", "corner"},
                  "measure.distance",
                  {"plane.touching-point", "plane.line-point"},
                  {"plane.square-to-line", "point.on-axis", "axis.parallel"}},
        OfferCase{{"bore", "edgeZ"}, "plane.touching-line", {"measure.distance", "plane.two-lines"}},
        OfferCase{{"edgeZ", "bore2"}, "plane.touching-line", {"measure.distance"}},
        OfferCase{{"bore", "centre2"}, "measure.distance", {"plane.touching-point", "plane.line-point"}},
        OfferCase{{"ball", "edgeX"}, "plane.touching-sphere-line", {"measure.distance"}},
        OfferCase{{"centre", "centre2"}, "measure.distance", {"axis.two-points", "point.average"}},
        OfferCase{{"rim", "rim2"}, "measure.distance", {"plane.two-lines", "axis.two-points"}},
        OfferCase{{"corner", "corner2"}, "measure.distance", {"axis.two-points", "point.average"}},
        OfferCase{{"corner", "point 5 5 5"}, "measure.distance", {"axis.two-points"}},
        OfferCase{{"edgeX", "corner"},
                  "measure.distance",
                  {"plane.line-point", "plane.square-to-line"},
                  {"point.on-axis", "axis.tangent"}},
        OfferCase{{"corner3", "edgeX"}, "plane.square-to-line", {}, {"axis.parallel"}, {"plane.line-point"}},
        OfferCase{{"edgeX", "edgeY"},
                  "frame.two-lines",
                  {"measure.angle", "measure.distance"},
                  {"axis.common-perpendicular", "axis.midway"},
                  {"plane.two-lines"}},
        OfferCase{
            {"edgeX", "edgeZ"}, "frame.two-lines", {"measure.angle"}, {"plane.two-lines", "point.two-axes"}},
        OfferCase{{"edgeY", "edgeZ2"}, "frame.two-lines", {"measure.angle"}},
        OfferCase{{"edgeZ", "edgeZ2"},
                  "measure.distance",
                  {"plane.two-lines", "plane.between-axes"},
                  {"axis.midway"},
                  {"frame.two-lines"}},
        OfferCase{{"edgeX", "edgeX2"}, "measure.distance", {"plane.two-lines"}},
        OfferCase{{"rim", "corner"},
                  "measure.distance",
                  {"axis.two-points"},
                  {"axis.tangent", "plane.square-to-edge"}},
        OfferCase{{"ellipse", "point 250 25 0"}, "plane.square-to-edge", {"axis.tangent"}}));

INSTANTIATE_TEST_SUITE_P(
    ThreeAndMore, OfferCases,
    testing::Values(
        OfferCase{{"corner", "corner2", "corner3"},
                  "plane.three-points",
                  {"frame.three-points"},
                  {"axis.of-circle-through", "point.average"}},
        OfferCase{{"centre", "centre2", "corner"}, "plane.three-points", {"frame.three-points"}},
        OfferCase{{"middle", "corner3", "centre"}, "plane.three-points", {"frame.three-points"}},
        OfferCase{{"corner3", "corner4", "point 40 0 0"},
                  "axis.best-line",
                  {},
                  {"point.average"},
                  {"plane.three-points"}},
        OfferCase{{"blind", "blind2", "point 40 30.1 20"}, "axis.best-line"},
        OfferCase{
            {"bore", "bore2", "blind"}, "plane.three-points", {"axis.average"}, {"axis.of-circle-through"}},
        OfferCase{{"bottom", "front", "left"}, "point.three-planes", {}, {"place.three-faces"}},
        OfferCase{{"corner3", "centre2", "top"}, "measure.along", {"measure.in-plane"}},
        OfferCase{{"bore", "bore2", "frame 0 0 0"}, "measure.pitch"},
        OfferCase{{"corner", "corner2", "corner3", "corner4"}, "plane.best-fit", {"point.average"}},
        OfferCase{{"point 0 0 0", "point 10 0 0.02", "point 20 0 0", "point 30 0 0"}, "axis.best-line"},
        OfferCase{{"point 5 0 0", "point 0 5 0", "point -5 0 0", "point 0 -5 0.01"},
                  "axis.of-circle-through",
                  {"plane.best-fit"}},
        OfferCase{{"top", "corner", "corner2", "centre"}, "plane.best-fit"},
        OfferCase{
            {"corner", "corner2", "corner3", "corner4", "centre"}, "plane.best-fit", {"point.average"}}));

// The order of picks decides what moves and what is the reference, and the sentence says so.
TEST(OfferOrder, EachOrderOfThreePointsIsAFrameOfItsOwn) {
  const Pieces pieces;
  const std::vector<Given> picks{pieces("corner"), pieces("corner2"), pieces("corner3")};
  std::set<std::string> sentences;
  for (const Offer& offer : offers_for(picks, {}))
    if (offer.construction->id == "frame.three-points") {
      sentences.insert(offer.sentence);
      const gp_Ax2& frame = std::get<FrameDatum>(offer.solutions.front().value).frame;
      EXPECT_LT(frame.Location().Distance(*picks[offer.picks[0]].point), 1e-9);
      EXPECT_GT(gp_Vec(*picks[offer.picks[0]].point, *picks[offer.picks[1]].point).Dot(frame.XDirection()),
                1);
    }
  EXPECT_GE(sentences.size(), 1u);
}

}  // namespace
}  // namespace anvil
