#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <functional>
#include <stdexcept>

#include "base/units.h"
#include "demo/shapes.h"
#include "support/known_parts.h"

namespace anvil::test {
namespace {

using namespace anvil::demo;

constexpr double kSide_mm = 100, kTop_mm = 20, kAbove_mm = 5;

struct Outline {
  std::vector<gp_Pnt> corners;
  std::vector<double> radii;  // 0: sharp
};

// Corners on a circle in the middle of the block.
Outline random_outline(Random& random, double level, bool all_round) {
  Outline outline;
  const int walls = random.whole(3, 8);
  for (int i = 0; i < walls; ++i) {
    const double turn = 2 * kPi * (i + random.between(-0.12, 0.12)) / walls;
    outline.corners.emplace_back(50 + 36 * std::cos(turn), 50 + 36 * std::sin(turn), level);
    outline.radii.push_back(!all_round && random.whole(0, 3) == 0 ? 0 : random.between(1, 5));
  }
  return outline;
}

std::vector<TopoDS_Edge> edges_near(const TopoDS_Shape& shape,
                                    const std::function<bool(const gp_Pnt&)>& here) {
  std::vector<TopoDS_Edge> found;
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
    const BRepAdaptor_Curve curve(edge);
    if (here(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2))) found.push_back(edge);
  }
  return found;
}

// What is cut out of the block: upright walls with their corners rounded.
TopoDS_Shape upright(const Outline& outline, double height) {
  BRepBuilderAPI_MakePolygon around;
  for (const gp_Pnt& corner : outline.corners) around.Add(corner);
  around.Close();
  TopoDS_Shape tool =
      BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(around.Wire()).Face(), gp_Vec(0, 0, height)).Shape();
  BRepFilletAPI_MakeFillet rounded(tool);
  for (size_t i = 0; i < outline.corners.size(); ++i)
    for (const TopoDS_Edge& edge : edges_near(tool, [&](const gp_Pnt& p) {
           return std::hypot(p.X() - outline.corners[i].X(), p.Y() - outline.corners[i].Y()) < 1e-6;
         }))
      if (outline.radii[i] > 0) rounded.Add(outline.radii[i], edge);
  return rounded.NbContours() > 0 ? rounded.Shape() : tool;
}

double to_nearest_side(const Outline& outline, const gp_Pnt& point) {
  double nearest = 1e9;
  for (size_t i = 0; i < outline.corners.size(); ++i) {
    const gp_Pnt& from = outline.corners[i];
    const gp_Dir along(gp_Vec(from, outline.corners[(i + 1) % outline.corners.size()]));
    nearest = std::min(nearest, gp_Vec(from, point).Crossed(gp_Vec(along)).Magnitude());
  }
  return nearest;
}

void add_island(Random& random, const Outline& outline, KnownPocket& pocket, TopoDS_Shape& tool) {
  const gp_Pnt middle(50 + random.between(-3, 3), 50 + random.between(-3, 3), kTop_mm - pocket.depth);
  const double radius = random.between(2, 7);
  tool = cut(tool, {rod(gp_Ax2(middle, gp_Dir(0, 0, 1)), 2 * radius, pocket.depth + kAbove_mm)});
  pocket.passage = to_nearest_side(outline, middle) - radius;
}

void round_the_foot(Random& random, KnownPocket& pocket, TopoDS_Shape& tool) {
  pocket.floor_radius = random.between(0.3, 0.8) * pocket.smallest_radius();
  BRepFilletAPI_MakeFillet rounded(tool);
  const double level = kTop_mm - pocket.depth;
  for (const TopoDS_Edge& edge :
       edges_near(tool, [&](const gp_Pnt& p) { return std::abs(p.Z() - level) < 1e-6; }))
    if (rounded.Contour(edge) == 0) rounded.Add(pocket.floor_radius, edge);
  tool = rounded.Shape();
}

// The walls lean outward from their foot; what was a cylinder becomes a cone of the same radius there.
void lean(Random& random, KnownPocket& pocket, TopoDS_Shape& tool) {
  const double angle = random.between(1, 7) * kPi / 180;
  const gp_Dir up(0, 0, 1);
  const gp_Pln foot(gp_Pnt(0, 0, kTop_mm - pocket.depth), up);
  BRepOffsetAPI_DraftAngle draft(tool);
  for (TopExp_Explorer it(tool, TopAbs_FACE); it.More(); it.Next()) {
    const BRepAdaptor_Surface surface(TopoDS::Face(it.Current()));
    if (surface.GetType() == GeomAbs_Plane && surface.Plane().Axis().Direction().IsParallel(up, 1e-6))
      continue;
    draft.Add(TopoDS::Face(it.Current()), up, -angle, foot);
  }
  draft.Build();
  if (!draft.IsDone()) throw std::runtime_error("no draft");
  tool = draft.Shape();
  for (KnownCorner& corner : pocket.corners)
    if (corner.radius > 0) corner.largest_radius = corner.radius + pocket.depth * std::tan(angle);
}

// Wider by a fifth below a ledge.
void widen_below(const Outline& outline, KnownPocket& pocket, TopoDS_Shape& tool) {
  const double floor = kTop_mm - pocket.depth, height = 0.4 * pocket.depth;
  Outline wider = outline;
  for (size_t i = 0; i < wider.corners.size(); ++i) {
    wider.corners[i].Scale(gp_Pnt(50, 50, floor), 1.2);
    wider.radii[i] *= 1.2;
  }
  for (KnownCorner& corner : pocket.corners) corner.depth -= height;
  for (const double radius : wider.radii) pocket.corners.push_back({radius, radius, height, true});
  tool = join(tool, {upright(wider, height)});
}

// How far to both sides of a corner its rounding goes.
double tangent_length(const Outline& outline, size_t i) {
  const size_t n = outline.corners.size();
  const gp_Vec back(outline.corners[i], outline.corners[(i + n - 1) % n]),
      on(outline.corners[i], outline.corners[(i + 1) % n]);
  return outline.radii[i] / std::tan(back.Angle(on) / 2);
}

// Where the block may end in x, so that the pocket opens to that side and every rounding is whole or gone.
double open_side_of(const Outline& outline) {
  std::vector<std::pair<double, double>> spans;  // of x, taken by corners
  for (size_t i = 0; i < outline.corners.size(); ++i)
    spans.push_back({outline.corners[i].X() - tangent_length(outline, i) - 1,
                     outline.corners[i].X() + tangent_length(outline, i) + 1});
  std::sort(spans.begin(), spans.end());
  double end = spans.front().second, widest = 0, side = kSide_mm;
  for (const auto& [low, high] : spans) {
    if (low - end > widest) {
      widest = low - end;
      side = (low + end) / 2;
    }
    end = std::max(end, high);
  }
  return side;
}

KnownPocket with_free_wall(Random& random, KnownPocket pocket) {
  constexpr int kPoints = 9;
  Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, kPoints);
  for (int i = 0; i < kPoints; ++i) {
    const double turn = 2 * kPi * i / kPoints, r = random.between(22, 36);
    points->SetValue(i + 1, gp_Pnt(50 + r * std::cos(turn), 50 + r * std::sin(turn), kTop_mm - pocket.depth));
  }
  GeomAPI_Interpolate through(points, true, 1e-6);
  through.Perform();
  const Handle(Geom_BSplineCurve) curve = through.Curve();
  double sharpest = 0;
  constexpr int kSamples = 200000;
  for (int i = 0; i < kSamples; ++i) {
    const double t =
        curve->FirstParameter() + (curve->LastParameter() - curve->FirstParameter()) * i / kSamples;
    gp_Pnt p;
    gp_Vec first, second;
    curve->D2(t, p, first, second);
    // The outline runs counterclockwise: it curves about the void where it turns left.
    sharpest = std::max(sharpest, first.Crossed(second).Z() / std::pow(first.Magnitude(), 3));
  }
  pocket.corners = {{1 / sharpest, 1 / sharpest, pocket.depth, false}};
  const TopoDS_Wire wire = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve).Edge()).Wire();
  const TopoDS_Shape tool =
      BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire).Face(), gp_Vec(0, 0, pocket.depth + kAbove_mm))
          .Shape();
  pocket.shape = cut(block({0, 0, 0}, {kSide_mm, kSide_mm, kTop_mm}), {tool});
  return pocket;
}

}  // namespace

double KnownPocket::smallest_radius() const {
  double smallest = 0;
  for (const KnownCorner& corner : corners)
    if (!corner.undercut && corner.radius > 0 && (smallest == 0 || corner.radius < smallest))
      smallest = corner.radius;
  return smallest;
}

int KnownPocket::sharp_corners() const {
  return static_cast<int>(std::count_if(corners.begin(), corners.end(), [](const KnownCorner& corner) {
    return !corner.undercut && corner.radius == 0;
  }));
}

const char* making_name(PocketMaking making) {
  constexpr const char* kNames[] = {"upright", "floor radius", "draft", "undercut", "open side", "free form"};
  return kNames[static_cast<int>(making)];
}

KnownPocket random_pocket(Random& random, PocketMaking making) {
  KnownPocket pocket;
  pocket.making = making;
  pocket.depth = random.between(6, 14);
  if (making == PocketMaking::kFreeForm) return with_free_wall(random, pocket);
  const Outline outline =
      random_outline(random, kTop_mm - pocket.depth, making == PocketMaking::kFloorRadius);
  double side = kSide_mm;
  if (making == PocketMaking::kOpenSide) side = open_side_of(outline);
  for (size_t i = 0; i < outline.corners.size(); ++i)
    if (outline.corners[i].X() < side)
      pocket.corners.push_back({outline.radii[i], outline.radii[i], pocket.depth, false});
  TopoDS_Shape tool = upright(outline, pocket.depth + kAbove_mm);
  if (making == PocketMaking::kFloorRadius) round_the_foot(random, pocket, tool);
  if (making == PocketMaking::kDraft) lean(random, pocket, tool);
  if (making == PocketMaking::kUndercut) widen_below(outline, pocket, tool);
  if (making == PocketMaking::kUpright && random.whole(0, 1) == 1) add_island(random, outline, pocket, tool);
  pocket.shape = cut(block({0, 0, 0}, {side, kSide_mm, kTop_mm}), {tool});
  return pocket;
}

}  // namespace anvil::test
