#include "support/fixtures.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include "base/sanitizers.h"
#include "geom/quiet.h"

#if TRUE_ANVIL_ADDRESS_SANITIZER
// What the kernel's exchange libraries keep until the process ends is theirs.
extern "C" const char* __lsan_default_suppressions() {  // NOLINT(bugprone-reserved-identifier)
  return "leak:libTK\n";
}
#endif

namespace anvil::test {
namespace {

const bool kQuiet = [] {
  quiet_kernel();
  return true;
}();

constexpr double kOn_mm = 1e-6;

template <class Items, class Accept>
int only_one_at(const Items& items, const gp_Pnt& point, Accept shape_of) {
  const TopoDS_Vertex probe = BRepBuilderAPI_MakeVertex(point).Vertex();
  int found = -1;
  for (size_t i = 0; i < items.size(); ++i) {
    const TopoDS_Shape shape = shape_of(items[i]);
    if (shape.IsNull() || BRepExtrema_DistShapeShape(shape, probe).Value() > kOn_mm) continue;
    if (found >= 0) return -1;
    found = static_cast<int>(i);
  }
  return found;
}

}  // namespace

PartPtr part_of(const demo::DemoPart& demo) {
  SourceInfo source;
  source.file_name = demo.file_name;
  return std::make_shared<const Part>(source, demo.bodies);
}

PartPtr part_of(const TopoDS_Shape& shape, const std::string& name) {
  Body body;
  body.name = name;
  TopExp_Explorer solids(shape, TopAbs_SOLID);
  body.shape = solids.More() ? solids.Current() : shape;
  if (body.shape.ShapeType() != TopAbs_SOLID) body.kind = BodyKind::kShell;
  SourceInfo source;
  source.file_name = name + ".step";
  return std::make_shared<const Part>(source, std::vector<Body>{body});
}

const demo::DemoPart& plate() {
  static const demo::DemoPart part = demo::saddle_plate();
  return part;
}

const demo::DemoPart& housing() {
  static const demo::DemoPart part = demo::declination_housing();
  return part;
}

gp_Trsf odd_motion() {
  gp_Trsf turn, shift;
  turn.SetRotation(gp_Ax1(gp_Pnt(3, -7, 2), gp_Dir(0.3, -0.5, 0.8)), 1.234);
  shift.SetTranslation(gp_Vec(-431.7, 88.25, 1210.5));
  return shift * turn;
}

int face_at(const Part& part, const gp_Pnt& point, SurfaceKind kind) {
  return only_one_at(part.topology().faces, point, [&](const FaceInfo& f) {
    return f.surface.kind == kind ? TopoDS_Shape(f.face) : TopoDS_Shape();
  });
}

int edge_at(const Part& part, const gp_Pnt& point) {
  return only_one_at(part.topology().edges, point, [](const EdgeInfo& e) { return TopoDS_Shape(e.edge); });
}

int vertex_at(const Part& part, const gp_Pnt& point) {
  return only_one_at(part.topology().vertices, point,
                     [](const VertexInfo& v) { return TopoDS_Shape(v.vertex); });
}

}  // namespace anvil::test
