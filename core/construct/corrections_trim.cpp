// A body trimmed by the surface of a face, wherever that ends: what lies inside it stays, or what lies
// outside.
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <cmath>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "geom/primitives.h"
#include "part/measure.h"

namespace anvil {
namespace {

// The whole inside of the surface, as far as the box reaches and beyond. Part coordinates. Refuses planes and
// surfaces that enclose nothing.
Result<TopoDS_Shape> inside_of(const Surface& surface, const gp_Ax2& at, const Box& box) {
  const double reach = box.diagonal_mm() + at.Location().Distance(box.centre());
  switch (surface.kind) {
    case SurfaceKind::kCylinder: {
      const gp_Ax2 start(at.Location().Translated(gp_Vec(at.Direction()) * -reach), at.Direction(),
                         at.XDirection());
      return BRepPrimAPI_MakeCylinder(start, surface.radius_mm, 2 * reach).Shape();
    }
    case SurfaceKind::kSphere:
      return BRepPrimAPI_MakeSphere(at, surface.radius_mm).Shape();
    case SurfaceKind::kTorus:
      return BRepPrimAPI_MakeTorus(at, surface.radius_mm, surface.minor_mm).Shape();
    case SurfaceKind::kCone: {
      // From the tip to the side the face is on.
      const double slope = std::tan(surface.semi_angle_rad);
      const gp_Pnt tip = at.Location().Translated(gp_Vec(at.Direction()) * (-surface.radius_mm / slope));
      const gp_Dir opens = slope > 0 ? at.Direction() : at.Direction().Reversed();
      const double length = reach + tip.Distance(at.Location());
      return BRepPrimAPI_MakeCone(gp_Ax2(tip, opens, at.XDirection()), 0, length * std::abs(slope), length)
          .Shape();
    }
    default:
      return refuse(RefusalCode::kGeometry,
                    "the surface of {1} is no cylinder, cone, sphere or torus: a flat one cuts as a plane");
  }
}

Solutions trimmed(const Inputs& in) {
  const auto pick = part_of(in, 1);
  if (!pick) return refuse(pick);
  const int body = body_of(*pick);
  const Surface& surface = *in[0].surface;
  const gp_Ax3& placed = surface.position;
  const gp_Ax2 at(in_part(*pick, placed.Location()), in_part(*pick, placed.Direction()),
                  in_part(*pick, placed.XDirection()));
  const auto inside = inside_of(surface, at, exact_box(pick->part->bodies()[body].shape));
  if (!inside) return refuse(inside);
  std::vector<Solution> solutions;
  for (const auto& [key, how, note] :
       {std::tuple("outside", Combining::kCut, "what lies outside it stays"),
        std::tuple("inside", Combining::kCommon, "what lies inside it stays")}) {
    Plan plan;
    plan.steps.push_back({body, CombineWith{{*inside}, how}});
    solutions.push_back(planned(std::move(plan), {}, key, note));
  }
  return solutions;
}

}  // namespace

Construction correct_trim() {
  Construction c = correcting("correct.trim", "Trimmed", "Trim the body of {2} by the surface of {1}",
                              {Need::kFace, Need::kOfBody}, 90, trimmed);
  c.ordered = true;
  return c;
}

}  // namespace anvil
