// Bodies raised from anything drawn on a plane, or from the outline of a flat face: to a distance, both ways,
// through, up to a face or plane; joined, cut away, or a body of its own.
#include <fmt/format.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS.hxx>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "correct/outline.h"
#include "correct/reach.h"
#include "part/measure.h"

namespace anvil {
namespace {

constexpr const char *kAlong = "along the normal", *kAgainst = "against the normal",
                     *kHalf = "both ways by half", *kBoth = "both ways", *kThrough = "through everything";

struct Outline {
  std::vector<TopoDS_Face> areas;  // placed
  gp_Dir normal;
};

// Lines of several figures enclose something together; of faces one alone is meant.
Result<Outline> outline_of(const Inputs& in, size_t first) {
  Outline outline;
  std::vector<TopoDS_Edge> lines;
  for (size_t role = first; role < in.picks.size(); ++role) {
    lines.insert(lines.end(), in[role].drawn.begin(), in[role].drawn.end());
    if (in[role].drawn.empty()) outline.areas.push_back(TopoDS::Face(in[role].shape));
  }
  if (outline.areas.size() + (lines.empty() ? 0 : 1) > 1)
    return refused("several outlines are picked: raise them one by one");
  if (!lines.empty()) {
    auto areas = areas_within(lines);
    if (!areas) return refuse(areas);
    outline.areas = std::move(*areas);
  }
  const Given& by = in[first];
  outline.normal = (by.drawn_on ? *by.drawn_on : *by.plane).Axis().Direction();
  if (in.choices.at("inner") == "filled")
    for (TopoDS_Face& area : outline.areas) area = filled(area);
  return outline;
}

using Raise = std::function<Result<TopoDS_Shape>(const TopoDS_Face&, const gp_Dir&)>;

Result<TopoDS_Shape> raised_all(const Outline& outline, const Raise& raise) {
  std::vector<TopoDS_Shape> solids;
  for (const TopoDS_Face& area : outline.areas) {
    auto solid = raise(area, outline.normal);
    if (!solid) return solid;
    solids.push_back(std::move(*solid));
  }
  return solids.size() == 1 ? solids.front() : TopoDS_Shape(compound_of(solids));
}

// How far the body reaches from the outline's plane, to one side or the other.
double reach_of(const PartPick& pick, const Outline& outline, bool along) {
  const gp_Dir way = in_part(pick, along ? outline.normal : outline.normal.Reversed());
  const gp_Pnt from = in_part(pick, area_properties(outline.areas.front()).centroid);
  return std::max(0.0, end_of_body(*pick.part, body_of(pick), from, way)) + kOverrun_mm;
}

Result<std::pair<double, double>> levels(const Inputs& in, const Outline& outline) {
  const std::string& ways = in.choices.at("ways");
  const double height = in.numbers.at("height");
  if (ways == kThrough) {
    const auto pick = part_of(in, 0);
    if (!pick) return refuse(pick);
    return std::pair(-reach_of(*pick, outline, false), reach_of(*pick, outline, true));
  }
  if (ways == kHalf) return std::pair(-height / 2, height / 2);
  if (ways == kBoth) return std::pair(-in.numbers.at("other"), height);
  return ways == kAgainst ? std::pair(-height, 0.0) : std::pair(0.0, height);
}

Result<TopoDS_Shape> to_height(const Inputs& in, size_t first) {
  const auto outline = outline_of(in, first);
  if (!outline) return refuse(outline);
  const auto level = levels(in, *outline);
  if (!level) return refuse(level);
  return raised_all(*outline, [&](const TopoDS_Face& area, const gp_Dir& normal) {
    return raised(area, normal, level->first, level->second, in.numbers.at("draft"));
  });
}

// As far as anything that was picked can reach.
double farthest(const Inputs& in, const gp_Pnt& from) {
  double most = 1;
  for (const Given* given : in.picks) {
    for (const gp_Pnt& point : given->extent) most = std::max(most, from.Distance(point));
    if (given->plane) most = std::max(most, std::abs(height_over(*given->plane, from)));
  }
  return most;
}

// Up to the pick before the outlines.
Result<TopoDS_Shape> to_limit(const Inputs& in, size_t first) {
  const auto outline = outline_of(in, first);
  if (!outline) return refuse(outline);
  const gp_Pnt from = area_properties(outline->areas.front()).centroid;
  const double far = 4 * farthest(in, from) + kOverrun_mm;
  const Given& limit = in[first - 1];
  TopoDS_Face end;
  if (limit.plane) {
    if (std::abs(limit.plane->Axis().Direction().Dot(outline->normal)) < 1e-6)
      return refused(fmt::format(
          "{{{}}} stands square to the plane of the outline: what is raised never gets there", first));
    // Around where the outline comes to lie on it.
    const gp_Dir normal = limit.plane->Axis().Direction();
    const double way = -height_over(*limit.plane, from) / gp_Vec(outline->normal).Dot(gp_Vec(normal));
    if (std::abs(way) < kExact.linear_mm)
      return refused(fmt::format("the outline lies in {{{}}} already", first));
    const gp_Pln there(from.Translated(gp_Vec(outline->normal) * way), normal);
    end = BRepBuilderAPI_MakeFace(there, -far, far, -far, far).Face();
  } else {
    end = TopoDS::Face(limit.shape);
  }
  return raised_all(*outline, [&](const TopoDS_Face& area, const gp_Dir& normal) {
    return raised_to(area, normal, end, far, in.numbers.at("draft"));
  });
}

std::vector<Parameter> draft_and_holes() {
  return {{"draft", "Draft", Quantity::kAngle, "0", {}, true},
          {"inner", "Outlines inside", Quantity::kChoice, "left open", {"left open", "filled"}, true}};
}

std::vector<Parameter> heights(bool with_body) {
  std::vector<Parameter> all{{"height", "Height", Quantity::kLength, "10mm"},
                             {"ways", "Goes", Quantity::kChoice, kAlong, {kAlong, kAgainst, kHalf, kBoth}},
                             {"other", "Other way", Quantity::kLength, "5mm", {}, true}};
  if (with_body) all[1].choices.emplace_back(kThrough);
  for (Parameter& more : draft_and_holes()) all.push_back(std::move(more));
  return all;
}

using Make = Result<TopoDS_Shape> (*)(const Inputs&, size_t first);

// The last role, which repeats, is the outline; a body is told by the first.
Construction raising(const char* id, const char* sentence, std::vector<Need> roles, int rank, Make make,
                     std::vector<Parameter> parameters) {
  const bool own = roles.front() != Need::kOfBody;
  const size_t first = roles.size() - 1;
  if (!own) parameters.insert(parameters.begin(), joins());
  Construction c = correcting(
      id, "Raised", sentence, std::move(roles), rank,
      [make, own, first](const Inputs& in) -> Solutions {
        const auto solid = make(in, first);
        if (!solid) return refuse(solid);
        if (!own) return with_tool(in, 0, *solid, {});
        return solid->ShapeType() == TopAbs_SOLID
                   ? as_own_body(*solid, {})
                   : refused("several areas are enclosed: a body of its own is one");
      },
      std::move(parameters));
  c.ordered = true;
  c.repeats = true;
  // A face may have a thousand outlines inside.
  c.takes_time = true;
  return c;
}

}  // namespace

Construction correct_raise() {
  return raising("correct.raise", "Raise the outline of {rest}, with the body of {1}",
                 {Need::kOfBody, Need::kOutline}, 82, to_height, heights(true));
}

Construction correct_raise_to() {
  return raising("correct.raise-to", "Raise the outline of {rest} up to {2}, with the body of {1}",
                 {Need::kOfBody, Need::kLimit, Need::kOutline}, 83, to_limit, draft_and_holes());
}

Construction correct_own_raise() {
  return raising("correct.own-raise", "Raise the outline of {all} into a body of its own", {Need::kOutline},
                 84, to_height, heights(false));
}

Construction correct_own_raise_to() {
  return raising("correct.own-raise-to", "Raise the outline of {rest} up to {1}, a body of its own",
                 {Need::kLimit, Need::kOutline}, 84, to_limit, draft_and_holes());
}

}  // namespace anvil
