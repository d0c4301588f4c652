#include "support/known_parts.h"

#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <ShapeUpgrade_ShapeDivideAngle.hxx>

#include "base/units.h"
#include "demo/shapes.h"

namespace anvil::test {
namespace {

using namespace anvil::demo;

constexpr double kCell_mm = 40, kThick_mm = 30;
constexpr int kAcross = 3;

struct Tool {
  KnownHole hole;
  std::vector<TopoDS_Shape> pieces;
};

class HoleMaker {
 public:
  HoleMaker(Random& random, const gp_Pnt& entry, const gp_Dir& out)
      : random_(random), out_(out), down_(entry, out.Reversed()) {
    tool_.hole.entry = entry;
    tool_.hole.axis = out;
  }

  Tool made(int form, bool through, double to_far_side) {
    const double d = random_.between(3, 8), depth = through ? to_far_side : random_.between(14, 18);
    KnownHole& hole = tool_.hole;
    hole.diameter = d;
    hole.depth = depth;
    hole.through = through;
    // Through tools go on beyond the far face, which may be aslant.
    bore(0, d, through ? depth + 20 : depth);
    switch (form) {
      case 0:
        hole.form = "plain";
        hole.steps = "bore";
        break;
      case 1:
        hole.form = "counterbore";
        bore(0, d + 5, 4);
        hole.steps = "counterbore bore";
        break;
      case 2:
        hole.form = "countersink";
        cone(0, 2 * d, d, d / 2);
        hole.steps = "countersink bore";
        break;
      case 3:
        hole.form = "countersink under a counterbore";
        bore(0, 2 * d, 1.5);
        cone(1.5, 2 * d, d, d / 2);
        hole.steps = "counterbore countersink bore";
        break;
      case 4:
        hole.form = "chamfer";
        cone(0, d + 0.8, d, 0.4);
        hole.steps = "chamfer bore";
        break;
      default:
        hole.form = "relief";
        bore(depth - 3, d + 2, through ? 0 : 3);
        hole.steps = through ? "bore" : "bore groove";
    }
    if (!through && form != 5)
      bottom(d, depth);
    else if (!through)
      hole.steps += " flat";
    return std::move(tool_);
  }

 private:
  [[nodiscard]] gp_Ax2 at(double level) const {
    return gp_Ax2(down_.Location().Translated(gp_Vec(down_.Direction()) * level), down_.Direction());
  }
  void bore(double from, double diameter, double length) {
    if (length <= 0) return;
    // From the mouth a little outward, so that an aslant face is cut through.
    const double out = from == 0 ? 12 : 0;
    tool_.pieces.push_back(rod(at(from - out), diameter, length + out));
  }
  void cone(double from, double d0, double d1, double length) {
    tool_.pieces.push_back(taper(at(from), d0, d1, length));
  }
  void bottom(double d, double depth) {
    switch (random_.whole(0, 2)) {
      case 0:
        tool_.hole.steps += " flat";
        break;
      case 1:
        cone(depth, d, 0, d / 2 / std::tan(radians(59)));
        tool_.hole.steps += " tip";
        break;
      default:
        tool_.pieces.push_back(BRepPrimAPI_MakeSphere(at(depth).Location(), d / 2).Shape());
        tool_.hole.steps += " ball";
    }
  }

  Random& random_;
  gp_Dir out_;
  gp_Ax2 down_;
  Tool tool_;
};

TopoDS_Shape moved_copy(const TopoDS_Shape& shape, const gp_Trsf& motion) {
  return BRepBuilderAPI_Transform(shape, motion, true).Shape();
}

TopoDS_Shape as_splines(const TopoDS_Shape& shape, const gp_Trsf& motion) {
  return BRepBuilderAPI_NurbsConvert(moved_copy(shape, motion), true).Shape();
}

TopoDS_Shape in_quarters(const TopoDS_Shape& shape, const gp_Trsf& motion) {
  ShapeUpgrade_ShapeDivideAngle divide(kPi / 2, moved_copy(shape, motion));
  divide.Perform();
  return divide.Result();
}

// From side to side, through whatever is in its row: a bore, or a channel that interrupts holes all round.
void cross_a_row(Random& random, double side, KnownPlate& plate, std::vector<TopoDS_Shape>& tools) {
  const double y = (random.whole(0, kAcross - 1) + 0.5) * kCell_mm;
  if (random.whole(0, 2) == 0) {
    tools.push_back(block({0, y - 15, 20.5}, {side, y + 15, 23}));
    return;
  }
  const double d = random.between(2, 2.9), z = random.between(18, 20);
  tools.push_back(rod(gp_Ax2(gp_Pnt(0, y, z), gp_Dir(1, 0, 0)), d, side));
  plate.holes.push_back({"crossing", gp_Pnt(side, y, z), gp_Dir(1, 0, 0), d, side, true, true, "bore"});
}

}  // namespace

KnownPlate random_plate(Random& random) {
  KnownPlate plate;
  std::vector<TopoDS_Shape> tools;
  const double side = kAcross * kCell_mm;
  for (int column = 0; column < kAcross; ++column)
    for (int row = 0; row < kAcross; ++row) {
      const gp_Pnt entry((column + 0.5) * kCell_mm + random.between(-4, 4),
                         (row + 0.5) * kCell_mm + random.between(-4, 4), kThick_mm);
      const bool through = random.whole(0, 1) == 1;
      const int form = random.whole(0, 5);
      // A tilted one keeps a plain mouth: steps of an aslant mouth have no depth of one number.
      const bool tilted = form == 0 && random.whole(0, 1) == 1;
      const double lean = tilted ? random.between(0.05, 0.35) : 0, about = random.between(0, 6);
      const gp_Dir out(std::sin(lean) * std::cos(about), std::sin(lean) * std::sin(about), std::cos(lean));
      Tool tool = HoleMaker(random, entry, out).made(form, through, kThick_mm / std::cos(lean));
      if (tilted) tool.hole.form += ", tilted";
      plate.holes.push_back(tool.hole);
      tools.insert(tools.end(), tool.pieces.begin(), tool.pieces.end());
    }
  cross_a_row(random, side, plate, tools);
  plate.shape = cut(block({0, 0, 0}, {side, side, kThick_mm}), tools);
  return plate;
}

std::vector<Disguise> disguises(Random& random) {
  gp_Trsf far, small, mirror, shrink_turn;
  far.SetTranslation(gp_Vec(1e7, -3e6, 2e6));
  small.SetScale(gp_Pnt(0, 0, 0), 0.002);
  mirror.SetMirror(gp_Ax2(gp_Pnt(10, 20, 30), random.direction()));
  return {{"as made", gp_Trsf(), false, moved_copy},
          {"turned", random.motion(), false, moved_copy},
          {"moved 10 km", far, false, moved_copy, 1e-4},
          {"scaled to 0.002", small, false, moved_copy, 1e-6},
          {"mirrored", mirror, true, moved_copy},
          {"in quarters", random.motion(), false, in_quarters},
          {"as splines", random.motion(), false, as_splines, 1e-3}};
}

}  // namespace anvil::test
