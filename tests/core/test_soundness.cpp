// Every kind of finding on a solid that was broken by code, and what healing makes of it.
#include "part/soundness.h"

#include <gtest/gtest.h>
#include <random>
#include <thread>

#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <ShapeFix_ShapeTolerance.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "inspect/holes.h"
#include "part/heal.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "part/mesh_once.h"
#include "part/ray_caster.h"
#include "part/recognise.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using demo::block;
using demo::faces_of;
using demo::lifted;
using demo::shell_of;
using test::part_of;

int count(const std::vector<Finding>& findings, FindingKind kind) {
  return static_cast<int>(
      std::count_if(findings.begin(), findings.end(), [&](const Finding& f) { return f.kind == kind; }));
}

TopoDS_Shape solid_of(const std::vector<TopoDS_Face>& faces) {
  BRep_Builder builder;
  TopoDS_Solid solid;
  builder.MakeSolid(solid);
  builder.Add(solid, shell_of(faces));
  return solid;
}

// Joined, with the faces of both left as they were.
TopoDS_Shape unsimplified(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  return BRepAlgoAPI_Fuse(a, b).Shape();
}

std::vector<Body> body_of(const TopoDS_Shape& shape, BodyKind kind = BodyKind::kSolid) {
  Body body;
  body.name = "broken";
  body.kind = kind;
  body.shape = shape;
  mesh_shape(body.shape);
  return {body};
}

TEST(Soundness, MissingFaceLeavesOpenEdgesWithTheirLengths) {
  std::vector<TopoDS_Face> faces = faces_of(block({0, 0, 0}, {10, 20, 30}));
  faces.pop_back();  // z = 30
  const auto findings = check_soundness(*part_of(solid_of(faces)), 0);
  ASSERT_EQ(count(findings, FindingKind::kOpenEdge), 4);
  double around = 0;
  for (const Finding& f : findings)
    if (f.kind == FindingKind::kOpenEdge) {
      around += *f.amount;
      EXPECT_NEAR(f.where->Z(), 30, 1e-9);
    }
  EXPECT_NEAR(around, 60, 1e-9);
}

TEST(Soundness, ThirdFaceOnAnEdgeIsNonManifold) {
  const TopoDS_Shape solid = block({0, 0, 0}, {10, 10, 10});
  TopoDS_Edge edge;
  for (TopExp_Explorer ex(solid, TopAbs_EDGE); ex.More() && edge.IsNull(); ex.Next())
    edge = TopoDS::Edge(ex.Current());
  std::vector<TopoDS_Face> faces = faces_of(solid);
  faces.push_back(TopoDS::Face(BRepPrimAPI_MakePrism(edge, gp_Vec(-3, -4, 0)).Shape()));
  const auto findings = check_soundness(*part_of(shell_of(faces)), 0);
  EXPECT_EQ(count(findings, FindingKind::kNonManifoldEdge), 1);
}

TEST(Soundness, EdgeOffItsSurfaceIsAGapAsWideAsItIs) {
  // The face's surface is exchanged for one lifted by 0.5; its edges and their tolerance stay.
  const TopoDS_Shape solid = block({0, 0, 0}, {10, 10, 10});
  std::vector<TopoDS_Face> faces = faces_of(solid);
  BRep_Builder builder;
  TopLoc_Location location;
  const Handle(Geom_Surface) surface = BRep_Tool::Surface(faces.back(), location);
  gp_Trsf up;
  up.SetTranslation(gp_Vec(0, 0, 0.5));
  builder.UpdateFace(faces.back(), Handle(Geom_Surface)::DownCast(surface->Transformed(up)), location, 1e-7);
  const auto findings = check_soundness(*part_of(solid), 0);
  // Planar faces keep no curves on them, so the checker measures against the plane itself.
  EXPECT_GE(count(findings, FindingKind::kGap) + count(findings, FindingKind::kInvalidFace), 1);
}

TEST(Soundness, WideTolerancesAreToldWithTheirSize) {
  const TopoDS_Shape solid = block({0, 0, 0}, {10, 10, 10});
  ShapeFix_ShapeTolerance().SetTolerance(TopExp_Explorer(solid, TopAbs_EDGE).Current(), 0.3, TopAbs_EDGE);
  const auto findings = check_soundness(*part_of(solid), 0);
  ASSERT_GE(count(findings, FindingKind::kToleranceOutlier), 1);
  EXPECT_NEAR(*std::find_if(findings.begin(), findings.end(),
                            [](const Finding& f) { return f.kind == FindingKind::kToleranceOutlier; })
                   ->amount,
              0.3, 1e-9);
  EXPECT_EQ(count(check_soundness(*part_of(solid), 0, 0.5), FindingKind::kToleranceOutlier), 0);
}

TEST(Soundness, OutlineThatCrossesItselfIsTold) {
  BRepBuilderAPI_MakePolygon bow;
  for (const gp_Pnt& p : {gp_Pnt(0, 0, 0), gp_Pnt(10, 10, 0), gp_Pnt(10, 0, 0), gp_Pnt(0, 10, 0)}) bow.Add(p);
  bow.Close();
  const TopoDS_Face face = BRepBuilderAPI_MakeFace(gp_Pln(), bow.Wire(), true).Face();
  const auto findings = check_soundness(*part_of(shell_of({face})), 0);
  EXPECT_EQ(count(findings, FindingKind::kSelfIntersection), 1);
  EXPECT_EQ(count(findings, FindingKind::kNotASolid), 1);
}

TEST(Soundness, FacesThatAreNoNeighboursAndMeetAreTold) {
  std::vector<TopoDS_Face> faces = faces_of(block({0, 0, 0}, {10, 10, 10}));
  for (const TopoDS_Face& face : faces_of(block({5, 5, 5}, {15, 15, 15}))) faces.push_back(face);
  const auto findings = check_soundness(*part_of(shell_of(faces)), 0);
  EXPECT_GE(count(findings, FindingKind::kSelfIntersection),
            6);  // three faces of each go through three of the other
}

TEST(Soundness, OneFaceTurnedRoundDisagreesWithItsNeighbours) {
  std::vector<TopoDS_Face> faces = faces_of(block({0, 0, 0}, {10, 10, 10}));
  faces.front().Reverse();
  EXPECT_EQ(count(check_soundness(*part_of(solid_of(faces)), 0), FindingKind::kWrongOrientation), 4);
}

TEST(Soundness, InsideOutSolidIsTold) {
  TopoDS_Shape solid = TopExp_Explorer(block({0, 0, 0}, {10, 10, 10}), TopAbs_SOLID).Current();
  solid.Reverse();
  EXPECT_EQ(count(check_soundness(*part_of(solid), 0), FindingKind::kInverted), 1);
}

TEST(Soundness, SliversAndTinyEdgesAreToldWithTheirWidth) {
  const TopoDS_Shape solid = unsimplified(block({0, 0, 0}, {30, 20, 10}), block({30, 0, 0}, {30.01, 20, 10}));
  const auto findings = check_soundness(*part_of(solid), 0);
  EXPECT_EQ(count(findings, FindingKind::kSliverFace), 4);
  for (const Finding& f : findings)
    if (f.kind == FindingKind::kSliverFace) {
      EXPECT_NEAR(*f.amount, 0.01, 2e-5);  // 2·area/perimeter of a long strip is its width
    }
  EXPECT_EQ(count(findings, FindingKind::kTinyEdge), 4);
}

TEST(Soundness, BodyInTheSamePlaceTwiceIsTold) {
  Body a = body_of(TopExp_Explorer(block({0, 0, 0}, {10, 10, 10}), TopAbs_SOLID).Current()).front();
  Body b = body_of(TopExp_Explorer(block({0, 0, 0}, {10, 10, 10}), TopAbs_SOLID).Current()).front();
  Body c = body_of(TopExp_Explorer(block({0, 0, 5}, {10, 10, 15}), TopAbs_SOLID).Current()).front();
  const Part part(SourceInfo{}, {a, b, c});
  const auto findings = check_soundness_of_all(part, kSoundTolerance_mm, {});
  ASSERT_TRUE(findings);
  ASSERT_EQ(count(*findings, FindingKind::kDuplicateBody), 1);
  EXPECT_EQ(findings->back().body, 1);
}

// --- healing

TEST(Heal, LooseFacesWithGapsBecomeTheSolidTheyWere) {
  std::vector<TopoDS_Face> loose;
  int i = 0;
  for (const TopoDS_Face& face : faces_of(block({0, 0, 0}, {10, 20, 30})))
    loose.push_back(lifted(face, gp_Vec(0, 0, 0.004 * (i++ % 2))));
  const auto healed = heal_bodies(body_of(shell_of(loose), BodyKind::kShell), {}, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  EXPECT_EQ(healed->bodies[0].kind, BodyKind::kSolid);
  EXPECT_EQ(healed->report.solids_made, 1);
  EXPECT_EQ(healed->report.open_edges_after, 0);
  EXPECT_LE(healed->report.largest_movement_mm, 0.0041);
  EXPECT_NEAR(volume_properties(healed->bodies[0].shape).volume_mm3, 6000, 4);  // gaps of 0.004 over 600 mm²
  EXPECT_TRUE(check_soundness(*part_of(healed->bodies[0].shape), 0).empty());
}

TEST(Heal, RefusesToMoveMoreThanTheLimit) {
  std::vector<TopoDS_Face> loose;
  int i = 0;
  for (const TopoDS_Face& face : faces_of(block({0, 0, 0}, {10, 20, 30})))
    loose.push_back(lifted(face, gp_Vec(0, 0, i++ == 5 ? 0.4 : 0)));
  HealOptions options;
  options.tolerance_mm = 0.5;
  options.limit_mm = 0.1;
  const auto healed = heal_bodies(body_of(shell_of(loose), BodyKind::kShell), options, {});
  ASSERT_FALSE(healed);
  EXPECT_EQ(healed.error().code, RefusalCode::kGeometry);
  EXPECT_GT(healed.error().facts.at("movement_mm"), 0.1);
}

TEST(Heal, TurnsFacesTheRightWayRound) {
  std::vector<TopoDS_Face> faces = faces_of(block({0, 0, 0}, {10, 10, 10}));
  faces.front().Reverse();
  const auto healed = heal_bodies(body_of(solid_of(faces)), {}, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  EXPECT_NEAR(volume_properties(healed->bodies[0].shape).volume_mm3, 1000, 1e-6);
  EXPECT_TRUE(check_soundness(*part_of(healed->bodies[0].shape), 0).empty());
  EXPECT_NEAR(healed->report.largest_movement_mm, 0, 1e-9);
}

TEST(Heal, DropsSliversAndJoinsSplitFaces) {
  const TopoDS_Shape solid =
      TopExp_Explorer(unsimplified(block({0, 0, 0}, {30, 20, 10}), block({30, 0, 0}, {60, 20, 10})),
                      TopAbs_SOLID)
          .Current();
  ASSERT_EQ(faces_of(solid).size(), 10u);
  HealOptions options;
  options.unify = true;
  const auto healed = heal_bodies(body_of(solid), options, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  EXPECT_EQ(healed->report.faces_unified, 4);
  EXPECT_EQ(faces_of(healed->bodies[0].shape).size(), 6u);
  EXPECT_NEAR(volume_properties(healed->bodies[0].shape).volume_mm3, 12000, 1e-6);
}

TEST(Heal, TornBracketClosesItsGapAndSaysWhatStaysOpen) {
  const demo::TornBracket torn = demo::torn_bracket();
  mesh_shape(torn.bodies[0].shape);
  const auto healed = heal_bodies(torn.bodies, {}, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  EXPECT_LT(healed->report.open_edges_after, healed->report.open_edges_before);
  EXPECT_GT(healed->report.open_edges_after, 0);  // the face that is gone stays gone
  EXPECT_LE(healed->report.largest_movement_mm, demo::TornBracket::kGap_mm + demo::TornBracket::kSliver_mm);
}

TEST(Heal, NothingToDoIsSaid) {
  HealOptions none{false, false, false, false, false, 0.02, 0.1};
  const auto healed =
      heal_bodies(body_of(TopExp_Explorer(block({0, 0, 0}, {1, 1, 1}), TopAbs_SOLID).Current()), none, {});
  ASSERT_FALSE(healed);
  EXPECT_EQ(healed.error().code, RefusalCode::kGeometry);
}

// --- recognising

class RecogniseSpline : public testing::TestWithParam<SurfaceKind> {};

TEST_P(RecogniseSpline, FindsWhatTheSurfaceWasBeforeItBecameASpline) {
  const PartPtr exact = part_of(test::housing());
  const SurfaceKind kind = GetParam();
  int tried = 0;
  for (const FaceInfo& face : exact->topology().faces) {
    if (face.surface.kind != kind) continue;
    const TopoDS_Face spline = TopoDS::Face(BRepBuilderAPI_NurbsConvert(face.face, true).Shape());
    const auto found = recognise_spline(spline, 1e-4);
    ASSERT_TRUE(found) << surface_name(kind);
    EXPECT_TRUE(same_surface(found->surface, face.surface, 1e-6, 1e-6))
        << surface_name(found->surface.kind) << " " << found->surface.radius_mm;
    EXPECT_LT(found->surface.deviation_mm, 1e-6);
    ++tried;
  }
  EXPECT_GT(tried, 0);
}

INSTANTIATE_TEST_SUITE_P(Kinds, RecogniseSpline,
                         testing::Values(SurfaceKind::kPlane, SurfaceKind::kCylinder, SurfaceKind::kCone),
                         [](const auto& test) { return std::string(surface_name(test.param)); });

TEST(Heal, RecognisesTheFacesOfASplineCopyOfThePlate) {
  const demo::DemoPart& plate = test::plate();
  const TopoDS_Shape spline =
      TopExp_Explorer(BRepBuilderAPI_NurbsConvert(plate.bodies[0].shape, true).Shape(), TopAbs_SOLID)
          .Current();
  HealOptions options{false, false, false, false, true, 1e-3, 0.01};
  const auto healed = heal_bodies(body_of(spline), options, {});
  ASSERT_TRUE(healed) << healed.error().sentence;
  int recognised = 0;
  for (const RecognisedFaces& r : healed->report.recognised) {
    recognised += r.faces;
    EXPECT_LT(r.largest_deviation_mm, 1e-5);
  }
  int pointed = 0;  // the tips of blind holes stay as they are
  for (const demo::ExpectedHole& hole : plate.holes) pointed += hole.steps.back().kind == "tip" ? 1 : 0;
  EXPECT_EQ(recognised, static_cast<int>(faces_of(spline).size()) - pointed);
  EXPECT_TRUE(BRepCheck_Analyzer(healed->bodies[0].shape).IsValid());
  // The outlines are still B-splines, which the kernel integrates to a thousandth only; a fine mesh is the
  // better judge. Its own error: the deviation over the curved faces, some 6000 mm².
  const TopoDS_Shape copy = BRepBuilderAPI_Copy(healed->bodies[0].shape, true, false).Shape();
  constexpr double kDeviation_mm = 0.002;
  const BRepMesh_IncrementalMesh mesher(copy, kDeviation_mm, false, 0.05, true);
  EXPECT_NEAR(mesh_properties(copy).volume_mm3, volume_properties(plate.bodies[0].shape).volume_mm3,
              kDeviation_mm * 6000);
}

// Loose faces of a block, each lifted off by a random gap: closed up to the tolerance, told open beyond it.
TEST(Heal, RandomGapsAreClosedUpToTheToleranceAndNotBeyond) {
  const TopoDS_Shape block = demo::block({0, 0, 0}, {60, 40, 20});
  std::mt19937 random(20261125);
  for (int round = 0; round < 12; ++round) {
    SCOPED_TRACE(round);
    const bool closes = round % 2 == 0;
    std::uniform_real_distribution<double> gap(closes ? 0.001 : 0.2, closes ? 0.006 : 0.6);
    std::vector<TopoDS_Face> faces;
    double largest = 0;
    for (const TopoDS_Face& face : demo::faces_of(block)) {
      const double by = gap(random);
      largest = std::max(largest, by);
      faces.push_back(demo::lifted(face, gp_Vec(recognise_surface(face).position.Direction()) * by));
    }
    Body body;
    body.name = "loose";
    body.kind = BodyKind::kShell;
    body.shape = demo::shell_of(faces);
    HealOptions options;
    options.tolerance_mm = 0.02;
    const auto healed = heal_bodies({body}, options, {});
    if (!closes) {
      EXPECT_TRUE(!healed || healed->report.open_edges_after > 0);
      continue;
    }
    ASSERT_TRUE(healed) << healed.error().sentence;
    EXPECT_EQ(healed->report.open_edges_after, 0);
    EXPECT_EQ(healed->report.solids_made, 1);
    EXPECT_LE(healed->report.largest_movement_mm, 3 * largest);
    EXPECT_NEAR(volume_properties(healed->bodies.front().shape).volume_mm3, 60 * 40 * 20, 60 * 40 * 0.1);
  }
}

// Rays, soundness and whoever draws read one part at once; the thread sanitizer runs this, too.
TEST(SharedPart, IsCheckedByManyThreadsAtOnceAndMeshedOnce) {
  for (int round = 0; round < 3; ++round) {
    const auto part = test::part_of(test::housing());
    std::vector<size_t> findings(2);
    std::vector<double> deviations(2);
    std::vector<std::thread> threads;
    for (size_t i = 0; i < 2; ++i) {
      threads.emplace_back([&, i] { deviations[i] = rays_of(*part).deviation_mm(); });
      threads.emplace_back([&, i] { findings[i] = check_soundness(*part, 0).size(); });
    }
    for (std::thread& thread : threads) thread.join();
    EXPECT_EQ(deviations[0], deviations[1]);
    EXPECT_GT(deviations[0], 0);
    EXPECT_EQ(findings[0], findings[1]);
  }
}

// What came meshed is not touched again: its triangles may be drawn meanwhile.
TEST(SharedPart, WhatCameMeshedIsLeftAsItIs) {
  Body body;
  body.name = "bare";
  body.shape = demo::block({0, 0, 0}, {1, 2, 3});
  body.meshed = true;
  const Part part(SourceInfo{}, {body});
  mesh_once(part);
  EXPECT_EQ(triangle_count(part.shape()), 0u);
  body.meshed = false;
  const Part other(SourceInfo{}, {body});
  mesh_once(other);
  EXPECT_EQ(triangle_count(other.shape()), 12u);
}

}  // namespace
}  // namespace anvil
