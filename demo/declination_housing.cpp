// The declination housing: a block with a main bore, two tilted bosses, crossing holes, a bolt circle and a
// blended side pocket. Drawn with Z up and delivered with Y up.
#include <TopExp_Explorer.hxx>
#include <numbers>

#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "exchange/step_format.h"

namespace anvil::demo {
namespace {

constexpr double kHeight = 80, kBore = 52, kTopBore = 68, kTopBoreDepth = 12;
constexpr double kTipAngle_deg = 118;

double rad(double deg) {
  return deg * std::numbers::pi / 180;
}

gp_Dir compound(double tilt_deg, double azimuth_deg) {
  return gp_Dir(std::sin(rad(tilt_deg)) * std::cos(rad(azimuth_deg)),
                std::sin(rad(tilt_deg)) * std::sin(rad(azimuth_deg)), std::cos(rad(tilt_deg)));
}

gp_Pnt along(const gp_Pnt& p, const gp_Dir& d, double length) {
  return p.Translated(gp_Vec(d) * length);
}

class HousingBuilder {
 public:
  DemoPart build() {
    main_bore();
    bolt_circle();
    boss_holes();
    crossing_holes();
    side_pocket();
    finish();
    return part_;
  }

 private:
  struct Boss {
    gp_Pnt at;
    gp_Dir axis;
    double diameter, height;
  };
  const Boss boss_a_{gp_Pnt(52, -30, 72), compound(30, -25), 26, 18};
  const Boss boss_b_{gp_Pnt(-52, 32, 70), compound(45, 150), 24, 20};

  void drill(const gp_Pnt& from, const gp_Dir& out, double diameter, double depth) {
    tools_.push_back(rod(gp_Ax2(from, out.Reversed()), diameter, depth));
  }

  void main_bore() {
    drill(gp_Pnt(0, 0, kHeight), gp_Dir(0, 0, 1), kBore, kHeight);
    drill(gp_Pnt(0, 0, kHeight), gp_Dir(0, 0, 1), kTopBore, kTopBoreDepth);
    part_.holes.push_back({gp_Pnt(0, 0, kHeight),
                           gp_Dir(0, 0, 1),
                           kBore,
                           kHeight,
                           true,
                           {{"counterbore", kTopBore, kTopBore, kTopBoreDepth, 0},
                            {"bore", kBore, kBore, kHeight - kTopBoreDepth, 0}}});
  }

  void bolt_circle() {
    const double diameter = 6.8, depth = 18, tip = diameter / 2 / std::tan(rad(kTipAngle_deg / 2));
    for (int i = 0; i < 6; ++i) {
      const double angle = rad(15 + 60 * i);
      const gp_Pnt at(42 * std::cos(angle), 42 * std::sin(angle), kHeight);
      drill(at, gp_Dir(0, 0, 1), diameter, depth);
      tools_.push_back(taper(gp_Ax2(along(at, gp_Dir(0, 0, -1), depth), gp_Dir(0, 0, -1)), diameter, 0, tip));
      part_.holes.push_back(
          {at,
           gp_Dir(0, 0, 1),
           diameter,
           depth,
           false,
           {{"bore", diameter, diameter, depth, 0}, {"tip", diameter, 0, tip, kTipAngle_deg}}});
    }
  }

  void boss_holes() {
    const gp_Pnt top_a = along(boss_a_.at, boss_a_.axis, boss_a_.height);
    drill(top_a, boss_a_.axis, 9, 25);
    part_.holes.push_back({top_a, boss_a_.axis, 9, 25, false, {{"bore", 9, 9, 25, 0}, {"flat", 9, 9, 0, 0}}});
    const gp_Pnt top_b = along(boss_b_.at, boss_b_.axis, boss_b_.height);
    drill(top_b, boss_b_.axis, 7, 24);
    drill(top_b, boss_b_.axis, 12, 5);
    part_.holes.push_back({top_b,
                           boss_b_.axis,
                           7,
                           24,
                           false,
                           {{"counterbore", 12, 12, 5, 0}, {"bore", 7, 7, 19, 0}, {"flat", 7, 7, 0, 0}}});
  }

  void crossing_holes() {
    // Two that cross: the smaller one is interrupted by the larger one and goes on behind it.
    drill(gp_Pnt(70, 38, 25), gp_Dir(1, 0, 0), 10, 140);
    part_.holes.push_back(
        {gp_Pnt(70, 38, 25), gp_Dir(1, 0, 0), 10, 140, true, {{"bore", 10, 10, 140, 0}}, true});
    drill(gp_Pnt(45, 38, kHeight), gp_Dir(0, 0, 1), 8, kHeight);
    part_.holes.push_back(
        {gp_Pnt(45, 38, kHeight), gp_Dir(0, 0, 1), 8, kHeight, true, {{"bore", 8, 8, kHeight, 0}}, true});
    // One that ends in the main bore: its inner mouth reaches deepest where the bore is farthest away.
    const double inner = -std::sqrt(kBore * kBore / 4 - 6 * 6);
    drill(gp_Pnt(0, -50, 30), gp_Dir(0, -1, 0), 12, 50);
    part_.holes.push_back(
        {gp_Pnt(0, -50, 30), gp_Dir(0, -1, 0), 12, inner + 50, true, {{"bore", 12, 12, inner + 50, 0}}});
  }

  void side_pocket() {
    const gp_Ax2 at(gp_Pnt(-70, -5, 35), gp_Dir(-1, 0, 0), gp_Dir(0, 1, 0));
    tools_.push_back(pocket(at, {50, 40, 10, {8, 8, 8, 8}, 3}));
    for (double y : {-1.0, 1.0})
      for (double z : {-1.0, 1.0})
        part_.wall_corners.push_back({"wall-round", 8, gp_Pnt(-70, -5 + y * 17, 35 + z * 12), 70, 60});
    part_.floor_radii = {3};
  }

  TopoDS_Shape solid() const {
    const TopoDS_Shape body =
        round_edges(block(gp_Pnt(-70, -50, 0), gp_Pnt(70, 50, kHeight)), gp_Dir(0, 0, 1), 12);
    std::vector<TopoDS_Shape> bosses;
    for (const Boss& boss : {boss_a_, boss_b_})
      bosses.push_back(
          rod(gp_Ax2(along(boss.at, boss.axis, -12), boss.axis), boss.diameter, boss.height + 12));
    TopoDS_Shape shape = cut(join(body, bosses), tools_);
    for (TopExp_Explorer ex(shape, TopAbs_SOLID); ex.More(); ex.Next()) shape = ex.Current();
    return shape;
  }

  void finish() {
    part_.file_name = "declination-housing.step";
    part_.placement.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0)), -std::numbers::pi / 2);
    Body body;
    body.name = "Declination housing";
    body.colour = Colour{0.62, 0.66, 0.72};
    body.shape = solid();
    part_.bodies = moved_bodies({body}, part_.placement);
    part_.tool_axis = gp_Dir(-1, 0, 0);
    for (ExpectedHole& hole : part_.holes) {
      hole.entry.Transform(part_.placement);
      hole.axis.Transform(part_.placement);
    }
    for (ExpectedCorner& corner : part_.wall_corners) corner.centre.Transform(part_.placement);
  }

  DemoPart part_;
  std::vector<TopoDS_Shape> tools_;
};

}  // namespace

DemoPart declination_housing() {
  return HousingBuilder().build();
}

}  // namespace anvil::demo
