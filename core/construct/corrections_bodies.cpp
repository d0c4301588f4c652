// Simple bodies, joined to a part, cut from it or standing beside it; a body cut at a plane, or by another.
#include <fmt/format.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeHalfSpace.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Result<void> sizes_are_good(const Inputs& in, std::initializer_list<const char*> names) {
  for (const char* name : names)
    if (in.numbers.at(name) <= 1e-6) return refuse(RefusalCode::kBadInput, "a size above zero is wanted");
  return {};
}

Result<TopoDS_Shape> block(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"x", "y", "z"}); !good) return refuse(good);
  const gp_Ax2& frame = *in[0].frame;
  const double x = in.numbers.at("x"), y = in.numbers.at("y"), z = in.numbers.at("z");
  const bool centred = in.choices.at("zero") == "middle of its bottom";
  const gp_Pnt corner = centred ? frame.Location().Translated(gp_Vec(frame.XDirection()) * (-x / 2) +
                                                              gp_Vec(frame.YDirection()) * (-y / 2))
                                : frame.Location();
  return BRepPrimAPI_MakeBox(gp_Ax2(corner, frame.Direction(), frame.XDirection()), x, y, z).Shape();
}

Result<TopoDS_Shape> cylinder(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"diameter", "height"}); !good) return refuse(good);
  return BRepPrimAPI_MakeCylinder(*in[0].frame, in.numbers.at("diameter") / 2, in.numbers.at("height"))
      .Shape();
}

Result<TopoDS_Shape> ball(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"diameter"}); !good) return refuse(good);
  return BRepPrimAPI_MakeSphere(*in[0].point, in.numbers.at("diameter") / 2).Shape();
}

// On the side of the plane that is kept.
Solutions at_plane(const Inputs& in) {
  const auto pick = part_of(in, 1);
  if (!pick) return refuse(pick);
  const gp_Dir normal = in_part(*pick, in[0].plane->Axis().Direction());
  const gp_Pnt at = in_part(*pick, in[0].plane->Location());
  std::vector<Solution> solutions;
  for (const auto& [key, sense] : {std::pair("behind", -1.0), std::pair("before", 1.0)}) {
    const gp_Pln plane(at, normal);
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(plane).Face();
    const TopoDS_Shape half = BRepPrimAPI_MakeHalfSpace(face, at.Translated(gp_Vec(normal) * sense)).Solid();
    Plan plan;
    plan.steps.push_back({body_of(*pick), CombineWith{{half}, Combining::kCommon}});
    const char* note = sense < 0 ? "what lies behind its normal stays" : "what its normal points to stays";
    solutions.push_back(planned(std::move(plan), {}, key, note));
  }
  return solutions;
}

// The other body stays as it is.
Solutions by_body(const Inputs& in) {
  const auto pick = part_of(in, 0), other = part_of(in, 1);
  if (!pick) return refuse(pick);
  if (!other) return refuse(other);
  const int body = body_of(*pick), tool = body_of(*other);
  if (body == tool) return refused("{1} and {2} lie on one body: it cannot be cut by itself");
  const Body& by = other->part->bodies()[tool];
  if (by.kind != BodyKind::kSolid) return refused("the body of {2} is no closed solid, so it cuts nothing");
  Plan plan;
  plan.steps.push_back({body, CombineWith{{by.shape}, combining(in)}});
  return std::vector<Solution>{planned(std::move(plan), {}, "only", "by " + by.name)};
}

using Make = Result<TopoDS_Shape> (*)(const Inputs&);

Construction with_a_body(const char* id, const char* kept_as, const char* sentence, Need where, Make make,
                         std::vector<Parameter> parameters) {
  parameters.push_back(joins());
  Construction c = correcting(
      id, kept_as, sentence, {where, Need::kOfBody}, 85,
      [make](const Inputs& in) -> Solutions {
        const auto solid = make(in);
        if (!solid) return refuse(solid);
        return with_tool(in, 1, *solid, {});
      },
      std::move(parameters));
  c.ordered = true;
  return c;
}

Construction own_body(const char* id, const char* kept_as, const char* sentence, Need where, Make make,
                      std::vector<Parameter> parameters) {
  return correcting(
      id, kept_as, sentence, {where}, 87,
      [make](const Inputs& in) -> Solutions {
        const auto solid = make(in);
        if (!solid) return refuse(solid);
        return as_own_body(*solid, {});
      },
      std::move(parameters));
}

std::vector<Parameter> of_block() {
  return {{"x", "X", Quantity::kLength, "20mm"},
          {"y", "Y", Quantity::kLength, "20mm"},
          {"z", "Z", Quantity::kLength, "10mm"},
          {"zero",
           "Frame is at",
           Quantity::kChoice,
           "middle of its bottom",
           {"middle of its bottom", "its corner"}}};
}

std::vector<Parameter> of_cylinder() {
  return {{"diameter", "Diameter", Quantity::kLength, "20mm"},
          {"height", "Height", Quantity::kLength, "10mm"}};
}

std::vector<Parameter> of_ball() {
  return {{"diameter", "Diameter", Quantity::kLength, "20mm"}};
}

}  // namespace

Construction correct_block() {
  return with_a_body("correct.body-block", "Block", "A block on frame {1}, with the body of {2}",
                     Need::kFrame, block, of_block());
}

Construction correct_cylinder() {
  return with_a_body("correct.body-cylinder", "Cylinder", "A cylinder on frame {1}, with the body of {2}",
                     Need::kFrame, cylinder, of_cylinder());
}

Construction correct_ball() {
  return with_a_body("correct.body-ball", "Ball", "A ball around {1}, with the body of {2}", Need::kPoint,
                     ball, of_ball());
}

Construction correct_own_block() {
  return own_body("correct.own-block", "Block", "A block on frame {1}, a body of its own", Need::kFrame,
                  block, of_block());
}

Construction correct_own_cylinder() {
  return own_body("correct.own-cylinder", "Cylinder", "A cylinder on frame {1}, a body of its own",
                  Need::kFrame, cylinder, of_cylinder());
}

Construction correct_own_ball() {
  return own_body("correct.own-ball", "Ball", "A ball around {1}, a body of its own", Need::kPoint, ball,
                  of_ball());
}

Construction correct_at_plane() {
  Construction c = correcting("correct.cut-at-plane", "Cut", "Cut the body of {2} at plane {1}",
                              {Need::kPlane, Need::kOfBody}, 86, at_plane);
  c.ordered = true;
  return c;
}

Construction correct_by_body() {
  Construction c = correcting(
      "correct.cut-by-body", "Cut", "Cut the body of {1} by the body of {2}", {Need::kOfBody, Need::kOfBody},
      88, by_body,
      {{"how", "What both have is", Quantity::kChoice, "cut away", {"cut away", "kept in common"}}});
  c.ordered = true;
  return c;
}

}  // namespace anvil
