// The worm yoke in two revisions: two cheeks with a pivot through both, on a drilled base. Revision b is
// wider, one hole of the base is moved, the tapped one is gone, and so is the chamfer of the left cheek.
#include <TopExp_Explorer.hxx>

#include "demo/demo_part.h"
#include "demo/shapes.h"

namespace anvil::demo {
namespace {

struct YokeSizes {
  const char* file_name;
  double width;          // over both cheeks
  gp_Pnt2d fourth_hole;  // of the base
  bool tapped, chamfered;
};

constexpr double kDepth = 60, kBase = 15, kCheek = 15, kHeight = 65, kPivot = 20, kPivotLevel = 45, kHole = 9,
                 kTap = 5, kTapDepth = 12;
const gp_Dir kUp(0, 0, 1);

class YokeBuilder {
 public:
  explicit YokeBuilder(const YokeSizes& sizes) : sizes_(sizes) {}

  DemoPart build() {
    pivot();
    base_holes();
    Body body;
    body.name = "Worm yoke";
    body.colour = Colour{0.70, 0.66, 0.58};
    for (TopExp_Explorer solids(cut(shape(), tools_), TopAbs_SOLID); solids.More(); solids.Next())
      body.shape = solids.Current();
    part_.file_name = sizes_.file_name;
    part_.tool_axis = kUp;
    part_.box_min = gp_Pnt(0, 0, 0);
    part_.box_max = gp_Pnt(sizes_.width, kDepth, kHeight);
    part_.bodies = {body};
    return part_;
  }

 private:
  TopoDS_Shape shape() {
    const double right = sizes_.width - kCheek;
    if (sizes_.chamfered) {
      constexpr double kChamfer = 8;
      gp_Trsf lean, shift;
      lean.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 0)), -std::acos(-1.0) / 4);
      shift.SetTranslation(gp_Vec(0, 0, kHeight - kChamfer));
      tools_.push_back(block({-20, -1, 0}, {40, kDepth + 1, 20}).Moved(TopLoc_Location(shift * lean)));
    }
    return join(block({0, 0, 0}, {sizes_.width, kDepth, kBase}),
                {block({0, 0, kBase}, {kCheek, kDepth, kHeight}),
                 block({right, 0, kBase}, {sizes_.width, kDepth, kHeight})});
  }

  // One bore, interrupted by the gap between the cheeks.
  void pivot() {
    const gp_Pnt at(sizes_.width, kDepth / 2, kPivotLevel);
    tools_.push_back(rod(gp_Ax2(at, gp_Dir(-1, 0, 0)), kPivot, sizes_.width));
    part_.holes.push_back(
        {at, gp_Dir(1, 0, 0), kPivot, sizes_.width, true, {{"bore", kPivot, kPivot, sizes_.width, 0}}, true});
  }

  void base_holes() {
    const gp_Pnt2d at[] = {{30, 15}, {60, 15}, {30, 45}, sizes_.fourth_hole};
    for (const gp_Pnt2d& p : at) {
      const gp_Pnt mouth(p.X(), p.Y(), kBase);
      tools_.push_back(rod(gp_Ax2(mouth, kUp.Reversed()), kHole, kBase));
      part_.holes.push_back({mouth, kUp, kHole, kBase, true, {{"bore", kHole, kHole, kBase, 0}}, true});
    }
    if (!sizes_.tapped) return;
    const gp_Pnt mouth(45, 30, kBase);
    tools_.push_back(rod(gp_Ax2(mouth, kUp.Reversed()), kTap, kTapDepth));
    part_.holes.push_back({mouth,
                           kUp,
                           kTap,
                           kTapDepth,
                           false,
                           {{"bore", kTap, kTap, kTapDepth, 0}, {"flat", kTap, kTap, 0, 0}}});
  }

  YokeSizes sizes_;
  DemoPart part_;
  std::vector<TopoDS_Shape> tools_;
};

}  // namespace

DemoPart worm_yoke_a() {
  return YokeBuilder({"worm-yoke-a.step", 90, {60, 45}, true, true}).build();
}

DemoPart worm_yoke_b() {
  return YokeBuilder({"worm-yoke-b.step", 100, {63, 45}, false, false}).build();
}

}  // namespace anvil::demo
