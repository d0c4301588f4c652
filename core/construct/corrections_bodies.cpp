// Simple bodies joined to a part or cut from it, and the part cut at a plane.
#include <fmt/format.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeHalfSpace.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "correct/combine.h"

namespace anvil {
namespace {

Parameter joins() {
  return {"how", "It is", Quantity::kChoice, "joined", {"joined", "cut away", "kept in common"}};
}

Combining combining(const Inputs& in) {
  const std::string& how = in.choices.at("how");
  return how == "joined" ? Combining::kJoin : how == "cut away" ? Combining::kCut : Combining::kCommon;
}

// The last role tells the body.
Solutions with_tool(const Inputs& in, const TopoDS_Shape& placed_tool, std::string note) {
  const auto pick = part_of(in, in.picks.size() - 1);
  if (!pick) return refuse(pick);
  const TopologyIndex& topology = pick->part->topology();
  const int body = pick->kind == TopologyKind::kFace   ? topology.faces[pick->index].body
                   : pick->kind == TopologyKind::kEdge ? topology.edges[pick->index].body
                                                       : topology.vertices[pick->index].body;
  Plan plan;
  plan.steps.push_back(
      {body, CombineWith{placed_tool.Moved(TopLoc_Location(pick->placement.Inverted())), combining(in)}});
  return std::vector<Solution>{planned(std::move(plan), {}, "only", std::move(note))};
}

Result<void> sizes_are_good(const Inputs& in, std::initializer_list<const char*> names) {
  for (const char* name : names)
    if (in.numbers.at(name) <= 1e-6) return refuse(RefusalCode::kBadInput, "a size above zero is wanted");
  return {};
}

Solutions block(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"x", "y", "z"}); !good) return refuse(good);
  const gp_Ax2& frame = *in[0].frame;
  const double x = in.numbers.at("x"), y = in.numbers.at("y"), z = in.numbers.at("z");
  const bool centred = in.choices.at("zero") == "middle of its bottom";
  const gp_Pnt corner = centred ? frame.Location().Translated(gp_Vec(frame.XDirection()) * (-x / 2) +
                                                              gp_Vec(frame.YDirection()) * (-y / 2))
                                : frame.Location();
  return with_tool(
      in, BRepPrimAPI_MakeBox(gp_Ax2(corner, frame.Direction(), frame.XDirection()), x, y, z).Shape(), {});
}

Solutions cylinder(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"diameter", "height"}); !good) return refuse(good);
  const gp_Ax2& frame = *in[0].frame;
  return with_tool(
      in, BRepPrimAPI_MakeCylinder(frame, in.numbers.at("diameter") / 2, in.numbers.at("height")).Shape(),
      {});
}

Solutions ball(const Inputs& in) {
  if (auto good = sizes_are_good(in, {"diameter"}); !good) return refuse(good);
  return with_tool(in, BRepPrimAPI_MakeSphere(*in[0].point, in.numbers.at("diameter") / 2).Shape(), {});
}

// On the side of the plane that is kept.
Solutions at_plane(const Inputs& in) {
  const auto pick = part_of(in, 1);
  if (!pick) return refuse(pick);
  const gp_Dir normal = in_part(*pick, in[0].plane->Axis().Direction());
  const gp_Pnt at = in_part(*pick, in[0].plane->Location());
  const int body = pick->kind == TopologyKind::kFace ? pick->part->topology().faces[pick->index].body : -1;
  if (body < 0) return refused("pick a face of the body to be cut as {2}");
  std::vector<Solution> solutions;
  for (const auto& [key, sense] : {std::pair("behind", -1.0), std::pair("before", 1.0)}) {
    const gp_Pln plane(at, normal);
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(plane).Face();
    const TopoDS_Shape half = BRepPrimAPI_MakeHalfSpace(face, at.Translated(gp_Vec(normal) * sense)).Solid();
    Plan plan;
    plan.steps.push_back({body, CombineWith{half, Combining::kCommon}});
    const char* note = sense < 0 ? "what lies behind its normal stays" : "what its normal points to stays";
    solutions.push_back(planned(std::move(plan), {}, key, note));
  }
  return solutions;
}

std::vector<Parameter> with(std::vector<Parameter> own) {
  own.push_back(joins());
  return own;
}

Construction a_body(const char* id, const char* kept_as, const char* sentence, Need where,
                    std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters) {
  Construction c = correcting(id, kept_as, sentence, {where, Need::kFace}, 85, std::move(solve),
                              with(std::move(parameters)));
  c.ordered = true;
  return c;
}

}  // namespace

Construction correct_block() {
  return a_body("correct.body-block", "Block", "A block on frame {1}, with the body of {2}", Need::kFrame,
                block,
                {{"x", "X", Quantity::kLength, "20"},
                 {"y", "Y", Quantity::kLength, "20"},
                 {"z", "Z", Quantity::kLength, "10"},
                 {"zero",
                  "Frame is at",
                  Quantity::kChoice,
                  "middle of its bottom",
                  {"middle of its bottom", "its corner"}}});
}

Construction correct_cylinder() {
  return a_body(
      "correct.body-cylinder", "Cylinder", "A cylinder on frame {1}, with the body of {2}", Need::kFrame,
      cylinder,
      {{"diameter", "Diameter", Quantity::kLength, "20"}, {"height", "Height", Quantity::kLength, "10"}});
}

Construction correct_ball() {
  return a_body("correct.body-ball", "Ball", "A ball around {1}, with the body of {2}", Need::kPoint, ball,
                {{"diameter", "Diameter", Quantity::kLength, "20"}});
}

Construction correct_at_plane() {
  Construction c = correcting("correct.cut-at-plane", "Cut", "Cut the body of {2} at plane {1}",
                              {Need::kPlane, Need::kFace}, 86, at_plane);
  c.ordered = true;
  return c;
}

}  // namespace anvil
