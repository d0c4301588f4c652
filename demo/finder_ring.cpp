// The finder ring: through, counterbored and radial holes in a turned ring, every surface and curve stored as
// a B-spline, as some programs deliver.
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <TopExp_Explorer.hxx>
#include <cmath>

#include "demo/demo_part.h"
#include "demo/shapes.h"

namespace anvil::demo {
namespace {

constexpr double kOuter = 120, kInner = 88, kHeight = 20, kCircle = 104;
constexpr double kHole = 6.6, kCounterbore = 11, kCounterboreDepth = 6.8, kScrew = 4.2;
const gp_Dir kUp(0, 0, 1);

gp_Dir at_angle(double turns) {
  const double angle = 2 * std::acos(-1.0) * turns;
  return gp_Dir(std::cos(angle), std::sin(angle), 0);
}

}  // namespace

DemoPart finder_ring() {
  DemoPart part;
  std::vector<TopoDS_Shape> tools{rod(gp_Ax2(gp_Pnt(0, 0, kHeight), kUp.Reversed()), kInner, kHeight)};
  part.holes.push_back(
      {gp_Pnt(0, 0, kHeight), kUp, kInner, kHeight, true, {{"bore", kInner, kInner, kHeight, 0}}, true});
  for (int i = 0; i < 6; ++i) {
    const gp_Pnt mouth = gp_Pnt(0, 0, kHeight).Translated(gp_Vec(at_angle((i + 0.5) / 6)) * (kCircle / 2));
    const gp_Ax2 down(mouth, kUp.Reversed());
    tools.push_back(rod(down, kHole, kHeight));
    tools.push_back(rod(down, kCounterbore, kCounterboreDepth));
    part.holes.push_back({mouth,
                          kUp,
                          kHole,
                          kHeight,
                          true,
                          {{"counterbore", kCounterbore, kCounterbore, kCounterboreDepth, 0},
                           {"bore", kHole, kHole, kHeight - kCounterboreDepth, 0}}});
  }
  for (int i = 0; i < 3; ++i) {
    const gp_Dir out = at_angle(i / 3.0);
    const gp_Pnt outside = gp_Pnt(0, 0, kHeight / 2).Translated(gp_Vec(out) * (kOuter / 2 + 1));
    tools.push_back(rod(gp_Ax2(outside, out.Reversed()), kScrew, kOuter / 2 - kInner / 2 + 6));
  }
  const TopoDS_Shape ring = cut(rod(gp_Ax2(gp_Pnt(0, 0, 0), kUp), kOuter, kHeight), tools);
  Body body;
  body.name = "Finder ring";
  for (TopExp_Explorer solids(BRepBuilderAPI_NurbsConvert(ring, true).Shape(), TopAbs_SOLID); solids.More();
       solids.Next())
    body.shape = solids.Current();
  part.file_name = "finder-ring.step";
  part.tool_axis = kUp;
  part.box_min = gp_Pnt(-kOuter / 2, -kOuter / 2, 0);
  part.box_max = gp_Pnt(kOuter / 2, kOuter / 2, kHeight);
  part.bodies = {body};
  return part;
}

}  // namespace anvil::demo
