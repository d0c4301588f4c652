// What single faces and edges are: surfaces, sides, levels and measures, against closed forms.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <TColgp_Array1OfPnt.hxx>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <BRepTools.hxx>
#include <Bnd_Box.hxx>
#include <gp_Elips.hxx>

#include "base/units.h"
#include "demo/shapes.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "part/coarsen.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "part/ray_caster.h"
#include "support/fixtures.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::part_of;
using test::Random;

constexpr unsigned kSeed = 20261125;

std::vector<Surface> surfaces_of(const TopoDS_Shape& shape) {
  std::vector<Surface> surfaces;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next())
    surfaces.push_back(recognise_surface(TopoDS::Face(ex.Current())));
  return surfaces;
}

Surface only_of(const TopoDS_Shape& shape, SurfaceKind kind) {
  Surface found;
  int count = 0;
  for (const Surface& s : surfaces_of(shape))
    if (s.kind == kind) found = s, ++count;
  EXPECT_EQ(count, 1) << surface_name(kind);
  return found;
}

TEST(Surfaces, CylinderInAndOutOfTheMaterial) {
  const gp_Ax2 at(gp_Pnt(10, 12, 20), gp_Dir(0, 0, -1));
  const Surface pin = only_of(demo::rod(at, 8, 20), SurfaceKind::kCylinder);
  EXPECT_FALSE(pin.inside);
  EXPECT_NEAR(pin.radius_mm, 4, 1e-12);
  const Surface bore = only_of(demo::cut(demo::block({0, 0, 0}, {20, 24, 20}), {demo::rod(at, 8, 20)}),
                               SurfaceKind::kCylinder);
  EXPECT_TRUE(bore.inside);
  EXPECT_NEAR(distance(bore.axis(), gp_Pnt(10, 12, -7)), 0, 1e-9);
  EXPECT_TRUE(parallel(bore.axis().Direction(), gp_Dir(0, 0, 1)));
}

TEST(Surfaces, ConeGrowsAlongItsAxisWithItsHalfAngle) {
  const Surface cone = only_of(BRepPrimAPI_MakeCone(10, 4, 6).Shape(), SurfaceKind::kCone);
  EXPECT_NEAR(std::abs(std::tan(cone.semi_angle_rad)), 1.0, 1e-12);
  EXPECT_FALSE(cone.inside);
  // The radius at height 6, walked to from the position along the axis.
  const gp_Ax1 axis = cone.axis();
  const double along = gp_Vec(axis.Location(), gp_Pnt(0, 0, 6)).Dot(gp_Vec(axis.Direction()));
  EXPECT_NEAR(cone.radius_mm + along * std::tan(cone.semi_angle_rad), 4, 1e-9);
}

TEST(Surfaces, SphereAndTorus) {
  const Surface ball = only_of(BRepPrimAPI_MakeSphere(gp_Pnt(1, 2, 3), 7).Shape(), SurfaceKind::kSphere);
  EXPECT_NEAR(ball.radius_mm, 7, 1e-12);
  EXPECT_LT(ball.position.Location().Distance(gp_Pnt(1, 2, 3)), 1e-12);
  EXPECT_FALSE(ball.inside);
  const Surface ring = only_of(BRepPrimAPI_MakeTorus(20, 3).Shape(), SurfaceKind::kTorus);
  EXPECT_NEAR(ring.radius_mm, 20, 1e-12);
  EXPECT_NEAR(ring.minor_mm, 3, 1e-12);
  const TopoDS_Shape dent =
      demo::cut(demo::block({-20, -20, -20}, {20, 20, 0}), {BRepPrimAPI_MakeSphere(gp_Pnt(), 5).Shape()});
  EXPECT_TRUE(only_of(dent, SurfaceKind::kSphere).inside);
}

TEST(Surfaces, NormalsPointOutOfTheMaterial) {
  Random random(kSeed);
  for (const demo::DemoPart* demo : {&test::plate(), &test::housing()}) {
    const PartPtr part = part_of(*demo);
    const RayCaster& rays = rays_of(*part);
    int asked = 0;
    for (const FaceInfo& face : part->topology().faces) {
      if (face.surface.kind != SurfaceKind::kPlane) continue;
      double u0, u1, v0, v1;
      BRepTools::UVBounds(face.face, u0, u1, v0, v1);
      gp_Dir normal;
      ASSERT_TRUE(outward_normal(face.face, (u0 + u1) / 2, (v0 + v1) / 2, normal));
      EXPECT_LT(normal.Angle(face.surface.position.Direction()), 1e-9);
      // A point just under the face, at the middle of one of its triangles, is inside: an odd number of hits.
      for (const Triangle& t : rays.triangles()) {
        if (part->topology().faces[t.face].face.IsSame(face.face)) {
          const gp_Pnt middle((t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) / 3.0);
          const gp_Pnt under = middle.Translated(gp_Vec(normal) * -0.05);
          EXPECT_TRUE(rays.first_hit(under, normal, 1e-3, 0.1)) << "no skin above it";
          ++asked;
          break;
        }
      }
    }
    EXPECT_GT(asked, 10);
  }
}

TEST(Edges, LevelsOfCirclesAndEllipsesAreExactInAnyDirection) {
  Random random(kSeed, 50);
  for (int i = 0; i < 300; ++i) {
    const gp_Ax2 at = make_frame(random.point(), random.direction(), random.direction());
    const double major = random.between(1, 40), minor = major * random.between(0.1, 1);
    const double t0 = random.between(0, 6), t1 = t0 + random.between(0.1, 6.28);
    const gp_Elips ellipse(at, major, minor);
    const gp_Dir direction = random.direction();
    for (const bool circle : {true, false}) {
      const TopoDS_Edge edge = circle ? BRepBuilderAPI_MakeEdge(gp_Circ(at, major), t0, t1).Edge()
                                      : BRepBuilderAPI_MakeEdge(ellipse, t0, t1).Edge();
      const auto [low, high] = level_range(edge, direction);
      const BRepAdaptor_Curve curve(edge);
      double least = 1e300, most = -1e300;
      constexpr int kSteps = 2000;
      for (int k = 0; k <= kSteps; ++k) {
        const double level = curve.Value(t0 + (t1 - t0) * k / kSteps).XYZ().Dot(direction.XYZ());
        least = std::min(least, level);
        most = std::max(most, level);
      }
      // Sampling stays inside by the sag of a step.
      const double sag = major * std::pow((t1 - t0) / kSteps, 2);
      EXPECT_LE(low, least + 1e-9);
      EXPECT_GE(high, most - 1e-9);
      EXPECT_NEAR(low, least, sag);
      EXPECT_NEAR(high, most, sag);
    }
  }
}

TEST(Measures, BoxOfTurnedRodsIsTheClosedForm) {
  Random random(kSeed, 100);
  for (int i = 0; i < 40; ++i) {
    const gp_Pnt at = random.point();
    const gp_Dir d = random.direction();
    const double radius = random.between(1, 20), length = random.between(5, 80);
    const Box box = exact_box(demo::rod(gp_Ax2(at, d), 2 * radius, length));
    for (int axis = 0; axis < 3; ++axis) {
      const double part = coordinate(d, axis), along = part * length,
                   half = radius * std::sqrt(1 - part * part), from = coordinate(at, axis);
      EXPECT_NEAR(coordinate(box.min, axis), from + std::min(0.0, along) - half, 1e-6);
      EXPECT_NEAR(coordinate(box.max, axis), from + std::max(0.0, along) + half, 1e-6);
    }
  }
}

TEST(Measures, VolumesAreasAndCentroidsAreTheClosedForms) {
  const TopoDS_Shape ball = BRepPrimAPI_MakeSphere(gp_Pnt(5, 6, 7), 3).Shape();
  EXPECT_NEAR(volume_properties(ball).volume_mm3, 4.0 / 3 * kPi * 27, 1e-6);
  EXPECT_NEAR(area_properties(ball).area_mm2, 4 * kPi * 9, 1e-6);
  EXPECT_LT(volume_properties(ball).centroid.Distance(gp_Pnt(5, 6, 7)), 1e-9);
  const TopoDS_Shape cone = BRepPrimAPI_MakeCone(10, 4, 6).Shape();
  EXPECT_NEAR(volume_properties(cone).volume_mm3, kPi * 6 / 3 * (100 + 40 + 16), 1e-6);
  const TopoDS_Shape ring = BRepPrimAPI_MakeTorus(20, 3).Shape();
  EXPECT_NEAR(volume_properties(ring).volume_mm3, 2 * kPi * kPi * 20 * 9, 1e-5);
}

// y = x² / 10 from 0 to 10, a polynomial spline in pieces of its own choosing: its length is a closed form.
TEST(Measures, ExtrudedSplinesHaveTheirLengthTimesTheirHeight) {
  TColgp_Array1OfPnt poles(1, 3);
  poles.SetValue(1, gp_Pnt(0, 0, 0));
  poles.SetValue(2, gp_Pnt(5, 0, 0));
  poles.SetValue(3, gp_Pnt(10, 10, 0));
  const Handle(Geom_BSplineCurve) curve = GeomConvert::CurveToBSplineCurve(new Geom_BezierCurve(poles));
  for (const double knot : {0.1, 0.15, 0.6}) curve->InsertKnot(knot);
  const double length = 10 * (std::sqrt(5) / 2 + std::asinh(2) / 4), height = 30;
  const TopoDS_Face sheet =
      BRepBuilderAPI_MakeFace(new Geom_SurfaceOfLinearExtrusion(curve, gp::DZ()), 0, 1, 0, height, 1e-7);
  const AreaProperties area = area_properties(sheet);
  EXPECT_NEAR(area.area_mm2, length * height, 1e-7 * length * height);
  EXPECT_NEAR(area.centroid.Z(), height / 2, 1e-7);
  EXPECT_NEAR(area_properties(BRepBuilderAPI_NurbsConvert(sheet).Shape()).area_mm2, length * height,
              1e-7 * length * height);
}

// Weights vary along the surfaces and the outlines of these.
TEST(Measures, RationalSplinesHaveTheMeasuresOfWhatTheyAre) {
  const TopoDS_Shape rod =
      BRepBuilderAPI_NurbsConvert(demo::rod(gp_Ax2(gp_Pnt(100, 0, 0), gp_Dir(1, 2, 3)), 10, 20)).Shape();
  const ShapeProperties round = shape_properties(rod);
  EXPECT_NEAR(round.volume.volume_mm3, kPi * 25 * 20, 1e-8 * 1600);
  EXPECT_NEAR(round.area.area_mm2, kPi * (2 * 25 + 10 * 20), 1e-8 * 800);
  const gp_Pnt middle = gp_Pnt(100, 0, 0).Translated(gp_Vec(gp_Dir(1, 2, 3)) * 10);
  EXPECT_LT(round.volume.centroid.Distance(middle), 1e-6);
  EXPECT_LT(round.area.centroid.Distance(middle), 1e-6);
  const TopoDS_Shape ring = BRepBuilderAPI_NurbsConvert(BRepPrimAPI_MakeTorus(20, 3).Shape()).Shape();
  EXPECT_NEAR(volume_properties(ring).volume_mm3, 2 * kPi * kPi * 20 * 9, 1e-7 * 3600);
}

TEST(Measures, BoxFollowsThePlacementItIsAskedFor) {
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(gp_Pnt(), gp_Dir(0, 0, 1)), kPi / 2);
  const Box box = exact_box(demo::block({1, 2, 3}, {11, 5, 4}), turn);
  EXPECT_LT(box.min.Distance(gp_Pnt(-5, 1, 3)), 1e-9);
  EXPECT_LT(box.max.Distance(gp_Pnt(-2, 11, 4)), 1e-9);
  EXPECT_LT(box.centre().Distance(gp_Pnt(-3.5, 6, 3.5)), 1e-9);
}

TEST(Mesh, TrianglesCloseAndEncloseTheVolumeOfTheSolid) {
  const TopoDS_Shape shape = test::plate().bodies.front().shape;
  mesh_shape(shape);
  const double exact = volume_properties(shape).volume_mm3;
  EXPECT_NEAR(mesh_properties(shape).volume_mm3, exact, exact * 1e-3);
  EXPECT_NEAR(mesh_area(shape).area_mm2, area_properties(shape).area_mm2,
              area_properties(shape).area_mm2 * 5e-3);
}

TEST(Mesh, StaysWithinTheDeflectionItIsGiven) {
  const TopoDS_Shape rod = demo::rod(gp_Ax2(gp_Pnt(), gp_Dir(0, 0, 1)), 100, 10);
  const MeshQuality quality{0.001, 3.0};  // the angle leaves it to the deflection
  mesh_shape(rod, quality);
  const double allowed = deflection_mm(rod, quality);
  for (const Triangle& t : triangles_of(rod)) {
    for (const auto& [a, b] : {std::pair{t.a, t.b}, {t.b, t.c}, {t.c, t.a}}) {
      const gp_Pnt middle = midpoint(a, b);
      const double from_axis = std::hypot(middle.X(), middle.Y());
      const bool on_skin = std::abs(std::hypot(a.X(), a.Y()) - 50) < 1e-6 &&
                           std::abs(std::hypot(b.X(), b.Y()) - 50) < 1e-6 &&
                           t.a.Z() + t.b.Z() + t.c.Z() > 1 && t.a.Z() + t.b.Z() + t.c.Z() < 29;
      EXPECT_TRUE(!on_skin || 50 - from_axis < 1.5 * allowed);
    }
  }
}

TEST(Mesh, AMovedMeshIsTheSameMeshElsewhere) {
  const TopoDS_Shape block = demo::block({0, 0, 0}, {10, 20, 30});
  mesh_shape(block);
  std::vector<Handle(Poly_Triangulation)> meshes;
  for (TopExp_Explorer ex(block, TopAbs_FACE); ex.More(); ex.Next()) {
    TopLoc_Location at;
    meshes.push_back(BRep_Tool::Triangulation(TopoDS::Face(ex.Current()), at));
  }
  const TopoDS_Shape mesh = mesh_body(meshes);
  const gp_Trsf motion = test::odd_motion();
  const auto before = triangles_of(mesh), after = triangles_of(moved_mesh(mesh, motion));
  ASSERT_EQ(before.size(), after.size());
  for (size_t i = 0; i < before.size(); ++i)
    EXPECT_LT(before[i].b.Transformed(motion).Distance(after[i].b), 1e-9);
}

TEST(Mesh, CoarseStandInKeepsTheOutlineAndClosesSmallHoles) {
  std::vector<TopoDS_Shape> holes;
  for (int i = 0; i < 8; ++i)
    for (int j = 0; j < 8; ++j)
      holes.push_back(demo::rod(gp_Ax2(gp_Pnt(10 + 10 * i, 10 + 10 * j, 20), gp_Dir(0, 0, -1)), 1, 20));
  const TopoDS_Shape plate = demo::cut(demo::block({0, 0, 0}, {90, 90, 20}), holes);
  mesh_shape(plate);
  constexpr double kCell_mm = 5;
  const TopoDS_Shape coarse = coarsened(plate, kCell_mm);
  ASSERT_FALSE(coarse.IsNull());
  const auto before = triangles_of(plate), after = triangles_of(coarse);
  EXPECT_LT(after.size() * 4, before.size());
  Bnd_Box box;
  for (const Triangle& t : after)
    for (const gp_Pnt& p : {t.a, t.b, t.c}) box.Add(p);
  EXPECT_LT(box.CornerMin().Distance(gp_Pnt(0, 0, 0)), 1e-9);
  EXPECT_LT(box.CornerMax().Distance(gp_Pnt(90, 90, 20)), 1e-9);
  EXPECT_NEAR(mesh_properties(coarse).volume_mm3, 90 * 90 * 20, 90 * 90 * 20 * 0.1);
  EXPECT_TRUE(coarsened(plate, 1000).IsNull());
}

TEST(Mesh, LightStandInStaysWithinItsDeviationWithItsFacesInOrder) {
  constexpr double kRadius_mm = 1.5;
  std::vector<TopoDS_Shape> holes;
  for (int i = 0; i < 8; ++i)
    for (int j = 0; j < 8; ++j)
      holes.push_back(
          demo::rod(gp_Ax2(gp_Pnt(40 + 40 * i, 40 + 40 * j, 20), gp_Dir(0, 0, -1)), 2 * kRadius_mm, 20));
  const TopoDS_Shape plate = demo::cut(demo::block({0, 0, 0}, {360, 360, 20}), holes);
  mesh_shape(plate);
  const std::vector<Triangle> before = triangles_of(plate);
  const TopoDS_Shape light = lightened(plate);
  const std::vector<Triangle> after = triangles_of(light);
  EXPECT_EQ(triangles_of(plate).size(), before.size());
  EXPECT_LT(after.size() * 3, before.size() * 2);
  const double off_mm = deflection_mm(plate, kLightMesh);
  TopTools_IndexedMapOfShape faces, light_faces;
  TopExp::MapShapes(plate, TopAbs_FACE, faces);
  TopExp::MapShapes(light, TopAbs_FACE, light_faces);
  ASSERT_EQ(faces.Extent(), light_faces.Extent());
  for (const Triangle& t : after) {
    const BRepAdaptor_Surface own(TopoDS::Face(faces(t.face + 1)));
    for (const auto& [p, q] : {std::pair{t.a, t.b}, {t.b, t.c}, {t.c, t.a}}) {
      const gp_Pnt middle((p.XYZ() + q.XYZ()) / 2);
      if (own.GetType() == GeomAbs_Plane)
        EXPECT_LT(own.Plane().Distance(middle), 1e-9);
      else
        EXPECT_NEAR(gp_Lin(own.Cylinder().Axis()).Distance(middle), kRadius_mm - off_mm / 2,
                    off_mm / 2 + 1e-6);
    }
  }
}

TEST(Mesh, ColourOfMostIsByAreaAndNotByTheNumberOfFaces) {
  const Colour body_colour{0.5, 0.5, 0.5}, large{0, 0, 1}, small{1, 0.5, 0};
  Body body;
  body.shape = demo::block({0, 0, 0}, {100, 80, 1});  // two faces of 8000 mm2, four of 360 together
  mesh_shape(body.shape);
  EXPECT_EQ(colour_of_most(body), std::nullopt);
  body.colour = body_colour;
  EXPECT_EQ(colour_of_most(body), body_colour);
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(body.shape, TopAbs_FACE, faces);
  for (int i = 0; i < faces.Extent(); ++i) {
    const gp_Dir normal = BRepAdaptor_Surface(TopoDS::Face(faces(i + 1))).Plane().Axis().Direction();
    if (std::abs(normal.Z()) < 0.5) body.face_colours[i] = small;
  }
  ASSERT_EQ(body.face_colours.size(), 4U);
  EXPECT_EQ(colour_of_most(body), body_colour);
  for (int i = 0; i < faces.Extent(); ++i) body.face_colours.try_emplace(i, large);
  EXPECT_EQ(colour_of_most(body), large);
}

TEST(Rays, MeetTheNearestFaceAtItsDistanceAndNothingBehindTheEnd) {
  const PartPtr part =
      part_of(demo::cut(demo::block({0, 0, 0}, {40, 40, 20}), {demo::block({10, 10, 5}, {30, 30, 20})}));
  const RayCaster& rays = rays_of(*part);
  const auto floor = rays.first_hit(gp_Pnt(20, 20, 50), gp_Dir(0, 0, -1));
  ASSERT_TRUE(floor);
  EXPECT_NEAR(floor->distance_mm, 45, 1e-4);
  EXPECT_EQ(floor->face, test::face_at(*part, gp_Pnt(20, 20, 5), SurfaceKind::kPlane));
  const auto top = rays.first_hit(gp_Pnt(5, 5, 50), gp_Dir(0, 0, -1));
  ASSERT_TRUE(top);
  EXPECT_NEAR(top->distance_mm, 30, 1e-4);
  EXPECT_FALSE(rays.first_hit(gp_Pnt(20, 20, 50), gp_Dir(0, 0, -1), 1e-3, 44));
  EXPECT_FALSE(rays.first_hit(gp_Pnt(20, 20, 50), gp_Dir(0, 0, 1)));
  EXPECT_FALSE(rays.first_hit(gp_Pnt(-1, 20, 50), gp_Dir(0, 0, -1)));
}

}  // namespace
}  // namespace anvil
