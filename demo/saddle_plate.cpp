// The saddle plate: prismatic, 180 x 90 x 22, delivered in assembly coordinates (rotated, far from the
// origin).
#include <TopExp_Explorer.hxx>
#include <numbers>

#include "demo/demo_part.h"

#include <fmt/format.h>
#include "demo/shapes.h"
#include "exchange/step_format.h"
#include "part/measure.h"

namespace anvil::demo {
namespace {

constexpr double kLength = 180, kWidth = 90, kThickness = 22;
constexpr double kTipAngle_deg = 118;

struct PlacedPocket {
  double x, y;
  PocketShape shape;
};

const PlacedPocket kPockets[] = {
    {35, 60, {40, 30, 12, {6, 6, 6, 6}}},
    {90, 60, {36, 30, 10, {4, 4, 4, 4}}},
    {145, 60, {40, 30, 8, {3, 3, 3, 3}, 1.0}},
    {90, 25, {30, 16, 6, {1.5, 1.5, 0, 1.5}}},  // its third corner is sharp
};

gp_Trsf into_assembly() {
  gp_Trsf turn, tilt, shift;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 25 * std::numbers::pi / 180);
  tilt.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0)), std::numbers::pi / 2);
  shift.SetTranslation(gp_Vec(412.5, -268.75, 1030));
  return shift * tilt * turn;
}

gp_Ax2 down_at(double x, double y) {
  return gp_Ax2(gp_Pnt(x, y, kThickness), gp_Dir(0, 0, -1));
}

double tip_depth(double diameter) {
  return diameter / 2 / std::tan(kTipAngle_deg / 2 * std::numbers::pi / 180);
}

class PlateBuilder {
 public:
  DemoPart build() {
    counterbored_row();
    dowels();
    tapped();
    countersunk_row();
    slot();
    for (const PlacedPocket& p : kPockets) add_pocket(p);
    finish();
    return part_;
  }

 private:
  void expect(double x, double y, double diameter, double depth, bool through,
              std::vector<ExpectedStep> steps, bool either = false) {
    part_.holes.push_back(
        {gp_Pnt(x, y, kThickness), gp_Dir(0, 0, 1), diameter, depth, through, std::move(steps), either});
  }

  void counterbored_row() {
    const double xs[] = {18, 66, 114, 162};
    for (double x : xs) {
      const double y = x == 114 ? 82.35 : 82.0;  // one hole misses its row by 0.35
      tools_.push_back(rod(down_at(x, y), 6.6, kThickness));
      tools_.push_back(rod(down_at(x, y), 11, 6.8));
      expect(x, y, 6.6, kThickness, true,
             {{"counterbore", 11, 11, 6.8, 0}, {"bore", 6.6, 6.6, kThickness - 6.8, 0}});
    }
  }

  void dowels() {
    for (double x : {10.0, 170.0}) {
      tools_.push_back(rod(down_at(x, 20), 8, kThickness));
      expect(x, 20, 8, kThickness, true, {{"bore", 8, 8, kThickness, 0}}, true);
    }
  }

  void tapped() {
    const double tip = tip_depth(5);
    tools_.push_back(rod(down_at(140, 30), 5, 14));
    tools_.push_back(taper(gp_Ax2(gp_Pnt(140, 30, kThickness - 14), gp_Dir(0, 0, -1)), 5, 0, tip));
    expect(140, 30, 5, 14, false, {{"bore", 5, 5, 14, 0}, {"tip", 5, 0, tip, kTipAngle_deg}});
  }

  void countersunk_row() {
    const double sink = (9 - 4.5) / 2;  // 90 degrees included
    for (double x : {30.0, 50.0, 70.0, 90.0, 110.0}) {
      tools_.push_back(rod(down_at(x, 8), 4.5, kThickness));
      tools_.push_back(taper(down_at(x, 8), 9, 4.5, sink));
      expect(x, 8, 4.5, kThickness, true,
             {{"countersink", 9, 4.5, sink, 90}, {"bore", 4.5, 4.5, kThickness - sink, 0}});
    }
  }

  void slot() {
    tools_.push_back(join(block(gp_Pnt(35, 24, 0), gp_Pnt(55, 32, kThickness)),
                          {rod(down_at(35, 28), 8, kThickness), rod(down_at(55, 28), 8, kThickness)}));
    part_.slots.push_back({gp_Pnt(35, 28, kThickness), gp_Pnt(55, 28, kThickness), 8, kThickness, true});
  }

  void add_pocket(const PlacedPocket& p) {
    const gp_Ax2 at(gp_Pnt(p.x, p.y, kThickness), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0));
    tools_.push_back(pocket(at, p.shape));
    const double sx[] = {-1, 1, 1, -1}, sy[] = {-1, -1, 1, 1};
    for (int i = 0; i < 4; ++i) {
      const double r = p.shape.r[i];
      const gp_Pnt centre(p.x + sx[i] * (p.shape.width / 2 - r), p.y + sy[i] * (p.shape.height / 2 - r),
                          kThickness);
      part_.wall_corners.push_back(
          {r > 0 ? "wall-round" : "wall-sharp", r, centre, kThickness, kThickness - p.shape.depth});
    }
    if (p.shape.floor_radius > 0) part_.floor_radii.push_back(p.shape.floor_radius);
  }

  // Everything written down so far is in the drawing's numbers; move it to where the file puts the part.
  void finish() {
    part_.file_name = "saddle-plate.step";
    part_.placement = into_assembly();
    part_.box_min = gp_Pnt(0, 0, 0);
    part_.box_max = gp_Pnt(kLength, kWidth, kThickness);
    Body body;
    body.name = "Saddle plate";
    body.colour = Colour{0.66, 0.69, 0.70};
    body.shape = cut(block(part_.box_min, part_.box_max), tools_);
    for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
    part_.bodies = moved_bodies({body}, part_.placement);
    part_.tool_axis = gp_Dir(0, 0, 1).Transformed(part_.placement);
    for (ExpectedHole& hole : part_.holes) {
      hole.entry.Transform(part_.placement);
      hole.axis.Transform(part_.placement);
    }
    for (ExpectedSlot& s : part_.slots) {
      s.centre_a.Transform(part_.placement);
      s.centre_b.Transform(part_.placement);
    }
    const double shift = part_.placement.TranslationPart().Dot(part_.tool_axis.XYZ());
    for (ExpectedCorner& corner : part_.wall_corners) {
      corner.centre.Transform(part_.placement);
      corner.top += shift;
      corner.bottom += shift;
    }
  }

  DemoPart part_;
  std::vector<TopoDS_Shape> tools_;
};

}  // namespace

DemoPart saddle_plate() {
  return PlateBuilder().build();
}

std::vector<Body> stack_of_plates(int count) {
  const Body plate = saddle_plate().bodies.front();
  const Box box = exact_box(plate.shape);
  const int side = static_cast<int>(std::ceil(std::sqrt(count)));
  std::vector<Body> bodies;
  for (int i = 0; i < count; ++i) {
    gp_Trsf shift;
    const int column = i % side, row = i / side;
    shift.SetTranslation(gp_Vec(column * (box.size().X() + 10), row * (box.size().Y() + 10), 0));
    std::vector<Body> moved = moved_bodies({plate}, shift);
    moved.front().name = "plate " + fmt::format("{}", i + 1);
    bodies.push_back(std::move(moved.front()));
  }
  return bodies;
}

}  // namespace anvil::demo
