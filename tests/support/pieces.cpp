#include "support/pieces.h"

#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <gp_Elips.hxx>
#include <sstream>

#include "demo/shapes.h"
#include "geom/primitives.h"
#include "support/givens.h"
#include "support/scans.h"

namespace anvil::test {
namespace {

const gp_Dir kUp(0, 0, 1), kDown(0, 0, -1);

TopoDS_Shape leaning_bar() {
  gp_Trsf lean, shift;
  lean.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 0)), radians(30));
  shift.SetTranslation(gp_Vec(100, 0, 0));
  return demo::block({0, 0, 0}, {10, 40, 10}).Moved(TopLoc_Location(shift * lean));
}

TopoDS_Shape elliptic_prism() {
  const gp_Elips ellipse(gp_Ax2(gp_Pnt(250, 20, 0), kUp, gp_Dir(1, 0, 0)), 9, 5);
  const TopoDS_Wire wire = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(ellipse).Edge()).Wire();
  return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire).Face(), gp_Vec(0, 0, 10)).Shape();
}

std::vector<TopoDS_Shape> drawn() {
  return {
      demo::cut(demo::block({0, 0, 0}, {80, 40, 20}), {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), kDown), 10, 20),
                                                       demo::rod(gp_Ax2(gp_Pnt(50, 20, 20), kDown), 14, 20),
                                                       demo::rod(gp_Ax2(gp_Pnt(65, 30, 20), kDown), 6, 12),
                                                       demo::rod(gp_Ax2(gp_Pnt(10, 30, 20), kDown), 8, 10)}),
      leaning_bar(),
      demo::taper(gp_Ax2(gp_Pnt(130, 20, 0), kUp), 20, 10, 10),
      BRepPrimAPI_MakeSphere(gp_Pnt(170, 20, 10), 8).Shape(),
      BRepPrimAPI_MakeTorus(gp_Ax2(gp_Pnt(210, 20, 0), kUp), 12, 3).Shape(),
      elliptic_prism()};
}

struct Place {
  const char* name;
  TopologyKind kind;
  gp_Pnt at;
  Snap snap = Snap::kWhole;
};

const std::vector<Place>& places() {
  static const double c = std::cos(radians(30)), s = std::sin(radians(30));
  static const std::vector<Place> all{
      {"top", TopologyKind::kFace, {35, 20, 20}},
      {"bottom", TopologyKind::kFace, {35, 20, 0}},
      {"front", TopologyKind::kFace, {35, 0, 10}},
      {"back", TopologyKind::kFace, {35, 40, 10}},
      {"left", TopologyKind::kFace, {0, 20, 10}},
      {"right", TopologyKind::kFace, {80, 20, 10}},
      {"bore", TopologyKind::kFace, {25, 20, 10}},
      {"bore2", TopologyKind::kFace, {57, 20, 10}},
      {"blind", TopologyKind::kFace, {68, 30, 14}},
      {"blind2", TopologyKind::kFace, {14, 30, 15}},
      {"slant", TopologyKind::kFace, {100 + 5 * c, 20, -5 * s}},
      {"cone", TopologyKind::kFace, {122.5, 20, 5}},
      {"ball", TopologyKind::kFace, {178, 20, 10}},
      {"ring", TopologyKind::kFace, {225, 20, 0}},
      {"rim", TopologyKind::kEdge, {15, 20, 20}},
      {"rim2", TopologyKind::kEdge, {43, 20, 20}},
      {"centre", TopologyKind::kEdge, {15, 20, 20}, Snap::kCentre},
      {"centre2", TopologyKind::kEdge, {43, 20, 20}, Snap::kCentre},
      {"edgeX", TopologyKind::kEdge, {35, 0, 0}},
      {"edgeX2", TopologyKind::kEdge, {35, 40, 20}},
      {"edgeY", TopologyKind::kEdge, {0, 20, 20}},
      {"edgeZ", TopologyKind::kEdge, {0, 0, 10}},
      {"edgeZ2", TopologyKind::kEdge, {0, 40, 10}},
      {"ellipse", TopologyKind::kEdge, {241, 20, 0}},
      {"middle", TopologyKind::kEdge, {0, 20, 20}, Snap::kMiddle},
      {"corner", TopologyKind::kVertex, {0, 0, 20}},
      {"corner2", TopologyKind::kVertex, {0, 40, 20}},
      {"corner3", TopologyKind::kVertex, {0, 0, 0}},
      {"corner4", TopologyKind::kVertex, {80, 0, 0}},
  };
  return all;
}

TopoDS_Shape element(const TopologyIndex& topology, TopologyKind kind, size_t i) {
  if (kind == TopologyKind::kFace) return topology.faces[i].face;
  if (kind == TopologyKind::kEdge) return topology.edges[i].edge;
  return topology.vertices[i].vertex;
}

int nearest(const TopologyIndex& topology, TopologyKind kind, const gp_Pnt& at) {
  const TopoDS_Shape point = BRepBuilderAPI_MakeVertex(at).Shape();
  const size_t count = kind == TopologyKind::kFace   ? topology.faces.size()
                       : kind == TopologyKind::kEdge ? topology.edges.size()
                                                     : topology.vertices.size();
  int found = -1;
  double least = 1e300;
  for (size_t i = 0; i < count; ++i) {
    const double here = BRepExtrema_DistShapeShape(point, element(topology, kind, i)).Value();
    if (here >= least) continue;
    least = here;
    found = static_cast<int>(i);
  }
  return found;
}

Given datum(const std::string& text, const gp_Trsf& motion) {
  std::istringstream in(text);
  std::string kind;
  double x, y, z, dx = 0, dy = 0, dz = 1;
  in >> kind >> x >> y >> z >> dx >> dy >> dz;
  const gp_Pnt at = gp_Pnt(x, y, z).Transformed(motion);
  if (kind == "point") return point_given(at);
  if (kind == "frame") return frame_given(gp_Ax2(gp_Pnt(x, y, z), kUp, gp_Dir(1, 0, 0)).Transformed(motion));
  const gp_Dir along = gp_Dir(dx, dy, dz).Transformed(motion);
  return kind == "axis" ? axis_given(at, along) : plane_given(at, along);
}

}  // namespace

Pieces::Pieces(const gp_Trsf& motion, bool as_splines) : motion_(motion) {
  std::vector<Body> bodies;
  for (TopoDS_Shape shape : drawn()) {
    if (as_splines) shape = BRepBuilderAPI_NurbsConvert(shape, true).Shape();
    shape = BRepBuilderAPI_Transform(shape, motion, true).Shape();
    Body body;
    body.name = "body";
    body.delivered = static_cast<int>(bodies.size());
    for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next())
      body.shape = solids.Current();
    bodies.push_back(body);
  }
  part_ = std::make_shared<const Part>(SourceInfo{}, bodies);
  TestMesh scan = counterweight();
  const auto first = static_cast<int>(scan.nodes.size());
  scan.nodes.insert(scan.nodes.end(), {{60, 0, 0}, {61, 0, 0}, {60, 1, 0}});  // the sliver, away from it
  scan.triangles.push_back({first, first + 1, first + 2});
  scan.move(motion);
  scan_ = scan.part();
}

Given Pieces::scanned(const std::string& name) const {
  const RegionWish wish =
      name == "sliver" ? RegionWish{gp_Pnt(60.2, 0.2, 0).Transformed(motion_), kUp.Transformed(motion_)}
                       : wish_at(name, motion_);
  const auto region = region_at(*scan_, 0, wish);
  EXPECT_TRUE(region) << (region ? "" : region.error().sentence);
  Given given = given_by_region(*scan_, 0, *region, {});
  given.clicked = wish.at;
  return given;
}

Given Pieces::operator()(const std::string& name) const {
  if (name.rfind("scan ", 0) == 0) return scanned(name.substr(5));
  for (const Place& place : places()) {
    if (name != place.name) continue;
    const gp_Pnt at = place.at.Transformed(motion_);
    const int index = nearest(part_->topology(), place.kind, at);
    Given given = place.kind == TopologyKind::kFace   ? given_by_face(*part_, index, {})
                  : place.kind == TopologyKind::kEdge ? given_by_edge(*part_, index, place.snap, {})
                                                      : given_by_vertex(*part_, index, {});
    given.clicked = at;
    return given;
  }
  EXPECT_NE(name.find(' '), std::string::npos) << "no piece " << name;
  return datum(name, motion_);
}

}  // namespace anvil::test
