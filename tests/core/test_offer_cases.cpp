// For many sets of picks on a real part: which offer comes first, and what must be among those that are
// ready.
#include <gtest/gtest.h>

#include <BRepPrimAPI_MakeSphere.hxx>

#include "construct/offers.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

// A block 80 x 40 x 20 with two through bores, a boss and a slanted side, and pieces of it by short names.
class Pieces {
 public:
  Pieces() {
    const TopoDS_Shape wedge = demo::block({60, -20, -40}, {120, 80, 40});
    gp_Trsf lean;
    lean.SetRotation(gp_Ax1(gp_Pnt(80, 0, 0), gp_Dir(0, 1, 0)), radians(-20));
    gp_Trsf shift;
    shift.SetTranslation(gp_Vec(20, 0, 0));
    part_ = test::part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                    {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20),
                                     demo::rod(gp_Ax2(gp_Pnt(50, 20, 20), gp_Dir(0, 0, -1)), 14, 20),
                                     wedge.Moved(TopLoc_Location(lean * shift))}));
  }

  [[nodiscard]] Given operator()(const std::string& name) const {
    if (name == "top") return face({35, 20, 20});
    if (name == "bottom") return face({35, 20, 0});
    if (name == "front") return face({35, 0, 10});
    if (name == "back") return face({35, 40, 10});
    if (name == "left") return face({0, 20, 10});
    if (name == "bore") return face({25, 20, 10}, SurfaceKind::kCylinder);
    if (name == "bore2") return face({57, 20, 10}, SurfaceKind::kCylinder);
    if (name == "rim") return edge({25, 20, 20}, Snap::kWhole);
    if (name == "rim2") return edge({57, 20, 20}, Snap::kWhole);
    if (name == "centre") return edge({25, 20, 20}, Snap::kCentre);
    if (name == "centre2") return edge({57, 20, 20}, Snap::kCentre);
    if (name == "edgeX") return edge({35, 0, 0}, Snap::kWhole);
    if (name == "edgeY") return edge({0, 20, 20}, Snap::kWhole);
    if (name == "edgeZ") return edge({0, 0, 10}, Snap::kWhole);
    if (name == "edgeZ2") return edge({0, 40, 10}, Snap::kWhole);
    if (name == "middle") return edge({0, 20, 20}, Snap::kMiddle);
    if (name == "corner") return vertex({0, 0, 20});
    if (name == "corner2") return vertex({0, 40, 20});
    if (name == "corner3") return vertex({0, 0, 0});
    ADD_FAILURE() << "no piece " << name;
    return {};
  }

 private:
  [[nodiscard]] Given face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return given_by_face(*part_, test::face_at(*part_, at, kind), {});
  }
  [[nodiscard]] Given edge(const gp_Pnt& at, Snap snap) const {
    return given_by_edge(*part_, test::edge_at(*part_, at), snap, {});
  }
  [[nodiscard]] Given vertex(const gp_Pnt& at) const {
    return given_by_vertex(*part_, test::vertex_at(*part_, at), {});
  }
  PartPtr part_;
};

struct OfferCase {
  std::vector<std::string> picks;
  const char* first;
  std::vector<std::string> ready = {};    // among the ready ones
  std::vector<std::string> refused = {};  // fit, but say why not
};

std::ostream& operator<<(std::ostream& out, const OfferCase& c) {
  for (const std::string& pick : c.picks) out << pick << ' ';
  return out;
}

class OfferCases : public testing::TestWithParam<OfferCase> {};

TEST_P(OfferCases, LikeliestFirst) {
  static const Pieces pieces;
  std::vector<Given> picks;
  for (const std::string& name : GetParam().picks) picks.push_back(pieces(name));
  const auto offers = offers_for(picks, {});
  ASSERT_FALSE(offers.empty());
  EXPECT_EQ(offers.front().state, Offer::State::kReady);
  EXPECT_EQ(offers.front().construction->id, GetParam().first);
  const auto has = [&](const std::string& id, Offer::State state) {
    return std::any_of(offers.begin(), offers.end(),
                       [&](const Offer& o) { return o.construction->id == id && o.state == state; });
  };
  for (const std::string& id : GetParam().ready) EXPECT_TRUE(has(id, Offer::State::kReady)) << id;
  for (const std::string& id : GetParam().refused) EXPECT_TRUE(has(id, Offer::State::kRefused)) << id;
  for (const Offer& offer : offers) {
    EXPECT_EQ(offer.sentence.find('{'), std::string::npos) << offer.sentence;
    EXPECT_EQ(offer.note.find('{'), std::string::npos) << offer.note;
    const bool ready = offer.state == Offer::State::kReady;
    EXPECT_EQ(offer.solutions.empty(), !ready) << offer.sentence;
    EXPECT_TRUE(ready || !offer.note.empty()) << offer.sentence;
  }
}

INSTANTIATE_TEST_SUITE_P(
    OnAPart, OfferCases,
    testing::Values(
        OfferCase{{"top"}, "plane.on-face", {"plane.offset", "frame.on-face", "place.face-down"}},
        OfferCase{{"bore"}, "axis.of", {"place.axis-up", "place.along-x", "place.turn-about"}},
        OfferCase{{"rim"}, "axis.of", {"point.at", "plane.on-face", "point.on-edge"}},
        OfferCase{{"centre"}, "point.at", {"place.point-to-zero"}},
        OfferCase{{"edgeX"}, "axis.along-edge", {"point.on-edge", "place.along-x", "place.turn-about"}},
        OfferCase{{"middle"}, "point.at", {"place.point-to-zero"}},
        OfferCase{{"corner"}, "point.at", {"place.point-to-zero"}},
        OfferCase{{"top", "bottom"}, "plane.midway", {"measure.distance"}, {"axis.of-two-planes"}},
        OfferCase{{"front", "back"}, "plane.midway", {"measure.distance"}, {"axis.of-two-planes"}},
        OfferCase{{"bottom", "top"}, "plane.midway", {"measure.distance"}},
        OfferCase{
            {"top", "front"}, "measure.angle", {"axis.of-two-planes", "measure.distance"}, {"plane.midway"}},
        OfferCase{{"left", "top"}, "measure.angle", {"axis.of-two-planes"}, {"plane.midway"}},
        OfferCase{{"bore", "bore2"}, "measure.distance", {"measure.angle"}},
        OfferCase{{"bore", "top"}, "measure.distance", {"measure.angle"}},
        OfferCase{{"bore", "left"}, "measure.distance"}, OfferCase{{"centre", "centre2"}, "measure.distance"},
        OfferCase{{"corner", "corner2"}, "measure.distance"},
        OfferCase{{"corner", "bore"}, "measure.distance"}, OfferCase{{"top", "corner3"}, "measure.distance"},
        OfferCase{{"edgeX", "edgeY"}, "frame.two-lines", {"measure.angle", "measure.distance"}},
        OfferCase{{"edgeX", "edgeZ"}, "frame.two-lines", {"measure.angle"}},
        OfferCase{{"edgeY", "edgeZ2"}, "frame.two-lines", {"measure.angle"}},
        OfferCase{{"edgeZ", "edgeZ2"}, "measure.distance", {}, {"frame.two-lines"}},
        OfferCase{{"corner", "corner2", "corner3"}, "plane.three-points", {"frame.three-points"}},
        OfferCase{{"centre", "centre2", "corner"}, "plane.three-points", {"frame.three-points"}},
        OfferCase{{"middle", "corner3", "centre"}, "plane.three-points", {"frame.three-points"}},
        OfferCase{{"bottom", "front", "left"}, "place.three-faces"}));

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
