// References find their piece again when another exporter numbers everything otherwise, when the part went
// out and came in again, when its faces were joined or healed.
#include <gtest/gtest.h>

#include <BRep_Builder.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <random>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/step_format.h"
#include "part/heal.h"
#include "pick/reference.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

constexpr unsigned kSeed = 20261125;

// The same solids with their faces, the outlines of each face and the edges of each outline in another order.
TopoDS_Shape shuffled(const TopoDS_Shape& shape, std::mt19937& random) {
  const BRep_Builder builder;
  std::vector<TopoDS_Shape> pieces;
  for (TopoDS_Iterator it(shape.Oriented(TopAbs_FORWARD), false, false); it.More(); it.Next())
    pieces.push_back(it.Value().ShapeType() == TopAbs_FACE ? it.Value() : shuffled(it.Value(), random));
  if (shape.ShapeType() == TopAbs_SHELL) std::shuffle(pieces.begin(), pieces.end(), random);
  TopoDS_Shape copy = shape.EmptyCopied();
  copy.Orientation(TopAbs_FORWARD);
  for (const TopoDS_Shape& piece : pieces) builder.Add(copy, piece);
  copy.Orientation(shape.Orientation());
  return copy;
}

PartPtr part_with(const demo::DemoPart& demo,
                  const std::function<TopoDS_Shape(const TopoDS_Shape&)>& change) {
  std::vector<Body> bodies = demo.bodies;
  for (Body& body : bodies) body.shape = change(body.shape);
  return std::make_shared<const Part>(SourceInfo{}, std::move(bodies));
}

int count(const Part& part, TopologyKind kind) {
  const TopologyIndex& t = part.topology();
  return static_cast<int>(kind == TopologyKind::kFace   ? t.faces.size()
                          : kind == TopologyKind::kEdge ? t.edges.size()
                                                        : t.vertices.size());
}

// What the found one is like, compared with what was described.
void expect_same_piece(const Part& part, const TopologyReference& wanted, int found) {
  const TopologyReference there = describe(part, wanted.part_entry, wanted.kind, found, wanted.snap);
  EXPECT_EQ(there.shape, wanted.shape);
  EXPECT_LT(there.where.Distance(wanted.where), 1e-3);
  EXPECT_NEAR(there.size_mm, wanted.size_mm, 1e-3);
}

struct Tally {
  int found = 0, ambiguous = 0, gone = 0;
};

Tally find_all(const Part& described, const Part& searched) {
  Tally tally;
  for (const TopologyKind kind : {TopologyKind::kFace, TopologyKind::kEdge, TopologyKind::kVertex}) {
    for (int i = 0; i < count(described, kind); ++i) {
      const TopologyReference wanted = describe(described, 1, kind, i);
      const auto found = resolve(searched, wanted);
      if (!found) {
        ++(found.error().code == RefusalCode::kAmbiguous ? tally.ambiguous : tally.gone);
        continue;
      }
      ++tally.found;
      expect_same_piece(searched, wanted, *found);
    }
  }
  return tally;
}

TEST(ReferenceNumbering, AnotherOrderOfFacesChangesNothing) {
  std::mt19937 random(kSeed);
  std::cout << "seed " << kSeed << '\n';
  for (const demo::DemoPart* demo : {&test::plate(), &test::housing()}) {
    const PartPtr before = test::part_of(*demo);
    for (int round = 0; round < 3; ++round) {
      const PartPtr after =
          part_with(*demo, [&](const TopoDS_Shape& shape) { return shuffled(shape, random); });
      ASSERT_EQ(after->topology().faces.size(), before->topology().faces.size());
      int moved = 0;
      for (size_t i = 0; i < before->topology().faces.size(); ++i)
        moved += !after->topology().faces[i].face.IsSame(before->topology().faces[i].face);
      EXPECT_GT(moved, 20) << "nothing was shuffled";
      const Tally tally = find_all(*before, *after);
      EXPECT_EQ(tally.gone, 0);
      EXPECT_EQ(tally.ambiguous, 0);
    }
  }
}

TEST(ReferenceNumbering, OutAndInAgainChangesNothing) {
  const TemporaryFolder folder;
  for (const demo::DemoPart* demo : {&test::plate(), &test::housing()}) {
    ASSERT_TRUE(write_step(demo->bodies, {}, folder.path() / "part.step"));
    const auto read = read_part_file(folder.path() / "part.step", {});
    ASSERT_TRUE(read) << read.error().sentence;
    const Part after(read->source, read->bodies);
    const Tally tally = find_all(*test::part_of(*demo), after);
    EXPECT_EQ(tally.gone, 0);
    EXPECT_EQ(tally.ambiguous, 0);
  }
}

TEST(ReferenceNumbering, HealingLeavesWhatItDidNotChangeWhereItWas) {
  const demo::TornBracket torn = demo::torn_bracket();
  const Part before(SourceInfo{}, torn.bodies);
  const auto healed = heal_bodies(torn.bodies, {}, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  const Part after(SourceInfo{}, healed->bodies);
  int found = 0, asked = 0;
  for (int i = 0; i < count(before, TopologyKind::kFace); ++i) {
    ++asked;
    const auto again = resolve(after, describe(before, 1, TopologyKind::kFace, i));
    found += again.has_value();
  }
  // The sliver and the faces at the gap may have changed; the rest must be there.
  EXPECT_GE(found, asked * 2 / 3);
}

TEST(ReferenceNumbering, TwoOfAKindInOnePlaceAreAskedAboutNotGuessed) {
  Body a, b;
  a.shape = b.shape = demo::block({0, 0, 0}, {10, 10, 10});
  b.shape = demo::block({0, 0, 0}, {10, 10, 10});
  const Part one(SourceInfo{}, {a});
  TopologyReference top = describe(one, 1, TopologyKind::kFace, 5);
  top.index_hint = 99;
  EXPECT_TRUE(resolve(one, top));
  // The same body number twice in one body: a shell that holds the block's faces twice.
  std::vector<TopoDS_Face> twice = demo::faces_of(a.shape);
  for (const TopoDS_Face& face : demo::faces_of(b.shape)) twice.push_back(face);
  Body doubled;
  doubled.kind = BodyKind::kShell;
  doubled.shape = demo::shell_of(twice);
  const auto found = resolve(Part(SourceInfo{}, {doubled}), top);
  ASSERT_FALSE(found);
  EXPECT_EQ(found.error().code, RefusalCode::kAmbiguous);
  EXPECT_GT(found.error().sentence.size(), 15u);
}

TEST(ReferenceNumbering, ChangedSizeIsNotTakenForTheSame) {
  const auto bored = [](double diameter) {
    return test::part_of(demo::cut(demo::block({0, 0, 0}, {40, 40, 20}),
                                   {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), diameter, 20)}));
  };
  const PartPtr before = bored(8), after = bored(8.1);
  const TopologyReference bore =
      describe(*before, 1, TopologyKind::kFace, test::face_at(*before, {24, 20, 10}, SurfaceKind::kCylinder));
  const auto wider = locate(*after, bore);
  EXPECT_TRUE(!wider || wider->how == Located::How::kByIntent);
  const TopologyReference top =
      describe(*before, 1, TopologyKind::kFace, test::face_at(*before, {5, 5, 0}, SurfaceKind::kPlane));
  const auto still = resolve(*after, top);
  EXPECT_TRUE(!still ||
              describe(*after, 1, TopologyKind::kFace, *still).direction.IsEqual(gp_Dir(0, 0, -1), 1e-9));
}

// Healing moves corners by no more than the gaps it closes; what moved further is another piece.
TEST(ReferenceNumbering, PieceIsFoundWithinWhatHealingMovesItAndNotBeyond) {
  const auto block_to = [](double length) { return test::part_of(demo::block({0, 0, 0}, {length, 40, 20})); };
  const PartPtr before = block_to(60);
  const TopologyReference end =
      describe(*before, 1, TopologyKind::kFace, test::face_at(*before, {60, 20, 10}, SurfaceKind::kPlane));
  const TopologyReference corner =
      describe(*before, 1, TopologyKind::kVertex, test::vertex_at(*before, {60, 40, 20}));
  for (const auto& [moved_mm, found] : {std::pair{0.0005, true}, {0.02, true}, {0.05, false}, {3.0, false}}) {
    const PartPtr after = block_to(60 + moved_mm);
    TopologyReference face = end, vertex = corner;
    face.index_hint = vertex.index_hint = -1;
    const auto face_there = locate(*after, face), vertex_there = locate(*after, vertex);
    ASSERT_TRUE(face_there && vertex_there) << moved_mm;
    // Farther than that it is taken by intent, which asks.
    EXPECT_EQ(face_there->how == Located::How::kAsDescribed, found) << moved_mm;
    EXPECT_EQ(vertex_there->how == Located::How::kAsDescribed, found) << moved_mm;
    EXPECT_NEAR(describe(*after, 1, TopologyKind::kFace, face_there->index).where.X(), 60 + moved_mm, 1e-9);
    EXPECT_NEAR(after->topology().vertices[vertex_there->index].point.X(), 60 + moved_mm, 1e-9);
  }
}

}  // namespace
}  // namespace anvil
