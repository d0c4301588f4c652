// torn-bracket.step: what a careless exporter leaves: a face that is gone, a gap, and a sliver.
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <TopoDS_Shell.hxx>

#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "part/measure.h"

namespace anvil::demo {

std::vector<TopoDS_Face> faces_of(const TopoDS_Shape& shape) {
  std::vector<TopoDS_Face> faces;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next())
    faces.push_back(TopoDS::Face(ex.Current()));
  return faces;
}

TopoDS_Shape shell_of(const std::vector<TopoDS_Face>& faces) {
  BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  for (const TopoDS_Face& face : faces) builder.Add(shell, face);
  return shell;
}

TopoDS_Face lifted(const TopoDS_Face& face, const gp_Vec& by) {
  gp_Trsf motion;
  motion.SetTranslation(by);
  return TopoDS::Face(BRepBuilderAPI_Transform(face, motion, true).Shape());
}

TornBracket torn_bracket() {
  // An angle bracket 60 x 40 x 50, walls of 8, two holes; the foot is lengthened by a strip as wide as the
  // sliver.
  const double sliver = TornBracket::kSliver_mm;
  const TopoDS_Shape angle = join(block({0, 0, 0}, {60, 40, 8}), {block({0, 0, 8}, {8, 40, 50})});
  const TopoDS_Shape whole = cut(BRepAlgoAPI_Fuse(angle, block({60, 0, 0}, {60 + sliver, 40, 8})).Shape(),
                                 {rod(gp_Ax2(gp_Pnt(40, 20, 8), gp_Dir(0, 0, -1)), 9, 8),
                                  rod(gp_Ax2(gp_Pnt(8, 20, 34), gp_Dir(-1, 0, 0)), 9, 8)});
  TornBracket torn;
  torn.whole = whole;
  std::vector<TopoDS_Face> kept;
  for (const TopoDS_Face& face : faces_of(whole)) {
    const gp_Pnt centre = area_properties(face).centroid;
    if (centre.Distance(gp_Pnt(4, 20, 50)) < 1) continue;  // the top of the upright is gone
    const bool back = centre.X() < 1e-6;                   // the back stands off by the gap
    kept.push_back(back ? lifted(face, gp_Vec(-TornBracket::kGap_mm, 0, 0)) : face);
  }
  Body body;
  body.name = "Torn bracket";
  body.kind = BodyKind::kShell;
  body.shape = shell_of(kept);
  torn.bodies = {body};
  return torn;
}

}  // namespace anvil::demo
