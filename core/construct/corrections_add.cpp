// Holes added: at points, where a face was clicked, by distances from two references, along an axis.
#include <fmt/format.h>

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <map>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/hole_numbers.h"
#include "construct/on_part.h"
#include "correct/reach.h"
#include "part/mesh_once.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

// Where holes are to begin, and on what.
struct Ground {
  PartPick pick;
  int body = -1;                 // -1: the first one that the hole meets
  gp_Dir out{0, 0, 1};           // in part coordinates
  const Given* limit = nullptr;  // where holes end
};

// The first body that a hole from there would meet; -1 for none.
int body_below(const Part& part, const gp_Pnt& from, const gp_Dir& into) {
  mesh_once(part);
  const auto hit = rays_of(part).first_hit(from, into, 0);
  return hit ? part.topology().faces[hit->face].body : -1;
}

// From `at` (placed) down to the plane or face where holes are to end.
Result<double> depth_to(const Given& limit, const gp_Pnt& at, const gp_Dir& into) {
  if (limit.plane) {
    const double share = gp_Vec(into).Dot(gp_Vec(limit.plane->Axis().Direction()));
    if (std::abs(share) < 1e-6) return refused("the hole runs along {2} and never meets it");
    const double depth = -height_over(*limit.plane, at) / share;
    if (depth > kExact.linear_mm) return depth;
    return refused("{2} lies over the hole: it goes the other way");
  }
  IntCurvesFace_ShapeIntersector crossing;
  crossing.Load(limit.shape, 1e-7);
  crossing.PerformNearest(gp_Lin(at, into), 1e-6, 1e6);
  if (crossing.NbPnt() == 0) return refused("the axis of the hole does not meet {2}");
  return crossing.WParameter(1);
}

// Down to a limit: through, where the material ends with it.
Result<HoleForm> form_to_limit(const Ground& ground, int body, const gp_Pnt& at, HoleWish wish) {
  const Part& part = *ground.pick.part;
  const gp_Dir into = ground.out.Reversed();
  const gp_Trsf& placement = ground.pick.placement;
  const auto depth = depth_to(*ground.limit, at.Transformed(placement), into.Transformed(placement));
  if (!depth) return refuse(depth);
  const gp_Pnt end = at.Translated(gp_Vec(into) * *depth);
  const bool ends = material_beyond(part, body, end, into, *wish.diameter_mm / 2) <= 0;
  wish.end = ends ? HoleWish::End::kThrough : HoleWish::End::kBlind;
  wish.depth_mm = *depth;
  const HoleForm plain{{{StepKind::kBore, *wish.diameter_mm, *wish.diameter_mm, *depth, 0}}, false};
  return with_wish(plain, wish, *depth);
}

Result<HoleForm> form_at(const Ground& ground, int body, const gp_Pnt& at, const HoleWish& wish,
                         const Inputs& in) {
  if (ground.limit) return form_to_limit(ground, body, at, wish);
  const Part& part = *ground.pick.part;
  const gp_Dir into = ground.out.Reversed();
  const double all = end_of_body(part, body, at, into);
  const bool to_void = in.choices.at("end") == "to the next void";
  const double next = to_void ? material_beyond(part, body, at, into, 0) : 0;
  if (to_void && next <= 0) return refused("no material begins there, so there is no next void");
  const double through = to_void ? next : all;
  if (through <= 0) return refused("there is no material below: the hole would meet nothing");
  const double diameter = *wish.diameter_mm;
  const HoleForm plain{{{StepKind::kBore, diameter, diameter, wish.depth_mm.value_or(through), 0}}, false};
  return with_wish(plain, wish, through);
}

// The bodies under the first one, drilled through as plain.
void go_on_through(const Ground& ground, const gp_Pnt& at, const HoleForm& form, int first,
                   std::map<int, RemakeHoles>& by_body) {
  const Part& part = *ground.pick.part;
  const gp_Dir into = ground.out.Reversed();
  const double diameter = form.steps.back().end_diameter_mm;
  for (const BodyAlong& next : bodies_along(part, at, into, diameter / 2)) {
    if (next.body == first) continue;
    const gp_Pnt entry = at.Translated(gp_Vec(into) * next.from_mm);
    const double depth = end_of_body(part, next.body, entry, into);
    if (depth <= 0) continue;
    const HoleForm plain{{{StepKind::kBore, diameter, diameter, depth, 0}}, true};
    by_body[next.body].made.push_back(
        {plain, gp_Ax2(entry, ground.out), kOverrun_mm + next.all_from_mm - next.from_mm, kOverrun_mm, {}});
  }
}

Result<HoleToMake> hole_at(const Ground& ground, const gp_Pnt& at, const HoleWish& wish, const Inputs& in,
                           int& body) {
  const Part& part = *ground.pick.part;
  const gp_Dir into = ground.out.Reversed();
  body = ground.body >= 0 ? ground.body : body_below(part, at.Translated(gp_Vec(ground.out) * 1e-3), into);
  if (body < 0) return refused("there is no material below: the hole would meet nothing");
  const auto form = form_at(ground, body, at, wish, in);
  if (!form) return refuse(form);
  const double above =
      kOverrun_mm + material_beyond(part, body, at, ground.out, form->steps.front().diameter_mm / 2);
  return HoleToMake{*form, gp_Ax2(at, ground.out), above, kOverrun_mm, {}};
}

Solutions holes_at(const Inputs& in, const Ground& ground, const std::vector<gp_Pnt>& placed,
                   std::string key) {
  const auto wish = wish_from(in);
  if (!wish) return refuse(wish);
  std::map<int, RemakeHoles> by_body;
  HoleForm form;
  for (const gp_Pnt& at : placed) {
    int body = -1;
    auto hole = hole_at(ground, in_part(ground.pick, at), *wish, in, body);
    if (!hole) return refuse(hole);
    form = hole->form;
    if (!ground.limit && in.choices.at("end") == "through every body")
      go_on_through(ground, hole->at.Location(), form, body, by_body);
    by_body[body].made.push_back(std::move(*hole));
  }
  Plan plan;
  for (auto& [body, step] : by_body) plan.steps.push_back({body, std::move(step)});
  const std::string count = placed.size() == 1 ? "" : fmt::format("{} × ", placed.size());
  return std::vector<Solution>{planned(std::move(plan), ground.pick.placement, std::move(key),
                                       count + text_of(form, in.display.unit))};
}

// A flat face of the part tells the body; a datum plane the part alone, which one of the other picks tells.
Result<Ground> ground_of(const Inputs& in, size_t role) {
  Ground ground;
  if (in[role].picked) {
    ground.pick = *in[role].picked;
    ground.body = in[role].surface ? ground.pick.part->topology().faces[ground.pick.index].body : -1;
  } else {
    const auto on_part = std::find_if(in.picks.begin(), in.picks.end(),
                                      [](const Given* given) { return given->picked.has_value(); });
    if (on_part == in.picks.end())
      return refused(
          "nothing that was picked lies on the part: pick at least one thing on the body to be drilled");
    ground.pick = *(*on_part)->picked;
  }
  ground.out = in_part(ground.pick, in[role].plane->Axis().Direction());
  return ground;
}

// In the plane of the first pick, at the picks from `first` on.
Solutions at_spots(const Inputs& in, size_t first, const Given* limit) {
  auto ground = ground_of(in, 0);
  if (!ground) return refuse(ground);
  ground->limit = limit;
  std::vector<gp_Pnt> places;
  places.reserve(in.picks.size());
  for (size_t i = first; i < in.picks.size(); ++i) places.push_back(foot_on(*in[0].plane, spot_of(in[i])));
  return holes_at(in, *ground, places, "only");
}

Solutions at_points(const Inputs& in) {
  return at_spots(in, 1, nullptr);
}

Solutions down_to(const Inputs& in) {
  return at_spots(in, 2, &in[1]);
}

Solutions where_clicked(const Inputs& in) {
  auto ground = ground_of(in, 0);
  if (!ground) return refuse(ground);
  if (!in[0].clicked) return refused("{1} was not picked by a click: pick points on it");
  return holes_at(in, *ground, {foot_on(*in[0].plane, *in[0].clicked)}, "only");
}

Solutions along_axis(const Inputs& in) {
  auto ground = ground_of(in, 1);
  if (!ground) return refuse(ground);
  const gp_Ax1& axis = *in[0].axis;
  const gp_Dir normal = in[1].plane->Axis().Direction();
  const double share = gp_Vec(axis.Direction()).Dot(gp_Vec(normal));
  if (std::abs(share) < 1e-6) return refused("the axis of {1} runs along {2} and never meets it");
  const double way = -height_over(*in[1].plane, axis.Location()) / share;
  ground->out = in_part(ground->pick, share > 0 ? axis.Direction() : axis.Direction().Reversed());
  return holes_at(in, *ground, {axis.Location().Translated(gp_Vec(axis.Direction()) * way)}, "only");
}

// The line that a reference gives in the plane: a straight edge laid onto it, or where a plane crosses it.
Result<gp_Ax1> line_in(const gp_Pln& plane, const Given& given, size_t role) {
  const gp_Dir normal = plane.Axis().Direction();
  if (given.is_straight_edge) {
    const gp_Vec along = gp_Vec(given.axis->Direction()) -
                         gp_Vec(normal) * gp_Vec(given.axis->Direction()).Dot(gp_Vec(normal));
    if (along.Magnitude() < 1e-6)
      return refused(fmt::format("{{{}}} stands square to the face: it gives no line in it", role + 1));
    return gp_Ax1(foot_on(plane, given.axis->Location()), gp_Dir(along));
  }
  const gp_Dir other = given.plane->Axis().Direction();
  const gp_Vec along = gp_Vec(normal).Crossed(gp_Vec(other));
  if (along.Magnitude() < 1e-6)
    return refused(fmt::format("{{{}}} is parallel to the face: it gives no line in it", role + 1));
  const gp_Vec down = gp_Vec(other) - gp_Vec(normal) * gp_Vec(other).Dot(gp_Vec(normal));
  const gp_Pnt start = foot_on(plane, given.plane->Location());
  const double way = -height_over(*given.plane, start) / down.Dot(gp_Vec(other));
  return gp_Ax1(start.Translated(down * way), gp_Dir(along));
}

// Square to a line within the plane.
gp_Vec beside(const gp_Ax1& line, const gp_Dir& normal) {
  return gp_Vec(normal.Crossed(line.Direction()));
}

bool lies_on(const Given& given, const gp_Pnt& place) {
  if (given.shape.IsNull() || given.shape.ShapeType() != TopAbs_FACE) return false;
  const auto nearest = nearest_on_face(TopoDS::Face(given.shape), place);
  return nearest && nearest->point.Distance(place) < 1e-6;
}

Solutions by_distances(const Inputs& in) {
  auto ground = ground_of(in, 0);
  if (!ground) return refuse(ground);
  const gp_Dir normal = in[0].plane->Axis().Direction();
  const auto a = line_in(*in[0].plane, in[1], 1), b = line_in(*in[0].plane, in[2], 2);
  if (!a) return refuse(a);
  if (!b) return refuse(b);
  const gp_Vec across_a = beside(*a, normal), across_b = beside(*b, normal);
  const double turn = gp_Vec(a->Direction()).Dot(across_b);
  if (std::abs(turn) < 1e-6)
    return refused("{2} and {3} are parallel: two distances from them give no place");
  std::vector<Solution> solutions;
  std::optional<Refusal> why;
  int on_face = 0;  // those on the face come first
  for (const double side_a : {1.0, -1.0})
    for (const double side_b : {1.0, -1.0}) {
      const gp_Pnt on_a = a->Location().Translated(across_a * (side_a * in.numbers.at("from_first")));
      const double off = side_b * in.numbers.at("from_second") - gp_Vec(b->Location(), on_a).Dot(across_b);
      const gp_Pnt at = on_a.Translated(gp_Vec(a->Direction()) * (off / turn));
      auto holes =
          holes_at(in, *ground, {at}, fmt::format("{}{}", side_a > 0 ? '+' : '-', side_b > 0 ? '+' : '-'));
      if (holes && lies_on(in[0], at))
        solutions.insert(solutions.begin() + on_face++, std::move(holes->front()));
      else if (holes)
        solutions.push_back(std::move(holes->front()));
      else
        why = holes.error();
    }
  if (solutions.empty()) return refuse(*why);
  // Of those on the face the one nearest to where it was clicked is meant.
  if (const auto& clicked = in[0].clicked)
    std::stable_sort(solutions.begin(), solutions.begin() + on_face,
                     [&](const Solution& first, const Solution& second) {
                       const auto away = [&](const Solution& solution) {
                         return std::get<PlannedCorrection>(solution.value).places.front().Distance(*clicked);
                       };
                       return away(first) < away(second);
                     });
  return solutions;
}

Construction adding(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                    std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> more = {}) {
  std::vector<Parameter> parameters = std::move(more);
  for (Parameter& parameter : numbers_of_a_new_hole()) parameters.push_back(std::move(parameter));
  Construction c =
      correcting(id, "Holes", sentence, std::move(roles), rank, std::move(solve), std::move(parameters));
  c.ordered = true;
  return c;
}

}  // namespace

Construction correct_add_at() {
  Construction c =
      adding("correct.add-at", "Add holes in {1} at {rest}", {Need::kPlane, Need::kSpot}, 74, at_points);
  c.repeats = true;
  return c;
}

Construction correct_add_down_to() {
  Construction c = adding("correct.add-down-to", "Add holes in {1} down to {2}, at {rest}",
                          {Need::kPlane, Need::kLimit, Need::kSpot}, 75, down_to);
  c.repeats = true;
  // Where it ends is picked.
  c.parameters.erase(std::remove_if(c.parameters.begin(), c.parameters.end(),
                                    [](const Parameter& p) { return p.id == "end" || p.id == "depth"; }),
                     c.parameters.end());
  return c;
}

Construction correct_add_clicked() {
  return adding("correct.add-clicked", "Add a hole in {1} where it was clicked", {Need::kFlatFace}, 76,
                where_clicked);
}

Construction correct_add_along() {
  return adding("correct.add-along", "Add a hole along axis {1}, from {2}", {Need::kAxis, Need::kPlane}, 75,
                along_axis);
}

Construction correct_add_by_distances() {
  return adding("correct.add-by-distances", "Add a hole in {1} by distances from {2} and {3}",
                {Need::kPlane, Need::kSide, Need::kSide}, 74, by_distances,
                {{"from_first", "From first", Quantity::kLength, "10"},
                 {"from_second", "From second", Quantity::kLength, "10"}});
}

}  // namespace anvil
