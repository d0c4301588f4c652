#include <fmt/format.h>

#include "construct/offers.h"
#include "correct/plan.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "job/evaluate.h"
#include "job/evaluate_setup.h"

namespace anvil {
namespace {

// A whole figure gives its plane; one of a single line or circle what that gives.
Given given_by_figure(const FigureDatum& figure) {
  Given given;
  if (figure.edges.size() == 1) given = given_by_curve(figure.edges.front(), Snap::kWhole);
  given.drawn = figure.edges;
  given.drawn_on = figure.plane;
  if (figure.edges.size() == 1) return given;
  given.plane = figure.plane;
  given.direction = figure.plane.Axis().Direction();
  for (const TopoDS_Edge& edge : figure.edges) {
    const Given part = given_by_curve(edge, Snap::kWhole);
    given.extent.insert(given.extent.end(), part.extent.begin(), part.extent.end());
  }
  return given;
}

Result<Given> given_by_element(const DatumValue& value, const EntryReference& reference,
                               const std::string& name) {
  const auto* figure = std::get_if<FigureDatum>(&value);
  const auto count = figure ? static_cast<int>(figure->edges.size()) : 0;
  if (reference.element > count)
    return refuse(RefusalCode::kUnknownName,
                  fmt::format("{} has {} edges: there is no edge {}", name, count, reference.element));
  return given_by_curve(figure->edges[reference.element - 1], reference.snap);
}

Given given_by_value(const DatumValue& value, const gp_Trsf& placement) {
  Given given;
  if (const auto* point = std::get_if<PointDatum>(&value)) {
    given.point = point->point;
    given.extent = {point->point};
  } else if (const auto* axis = std::get_if<AxisDatum>(&value)) {
    given.axis = axis->axis;
    given.direction = axis->axis.Direction();
    for (double level : {axis->from_mm, axis->to_mm})
      given.extent.push_back(axis->axis.Location().Translated(gp_Vec(axis->axis.Direction()) * level));
  } else if (const auto* plane = std::get_if<PlaneDatum>(&value)) {
    given.plane = plane->plane;
    given.direction = plane->plane.Axis().Direction();
    const gp_Vec x = gp_Vec(plane->plane.XAxis().Direction()) * plane->half_x_mm,
                 y = gp_Vec(plane->plane.YAxis().Direction()) * plane->half_y_mm;
    for (const gp_Vec& corner : {x + y, x - y, -x + y, -x - y})
      given.extent.push_back(plane->centre.Translated(corner));
  } else if (const auto* frame = std::get_if<FrameDatum>(&value)) {
    given = given_by_frame(frame->frame);
  } else if (const auto* figure = std::get_if<FigureDatum>(&value)) {
    given = given_by_figure(*figure);
  } else if (const auto* correction = std::get_if<PlannedCorrection>(&value)) {
    given.correction = CorrectionPick{correction->plan, placement};
    given.extent = correction->places;
  }
  return given;
}

// The entry that took a pick away is named here, because names are in no key.
Refusal naming_who_took_it(const Job& job, Refusal why) {
  const auto by = why.facts.find("gone_with");
  const Entry* entry = by == why.facts.end() ? nullptr : job.find(static_cast<int>(by->second));
  if (entry) why.sentence += " with " + entry->name;
  return why;
}

Result<Given> given_by_topology(const Job& job, const Evaluation& evaluation, const Reference& reference) {
  const auto& pick = std::get<TopologyReference>(reference.target);
  const auto located = located_pick(evaluation, reference);
  if (!located) return refuse(naming_who_took_it(job, located.error()));
  return given_at(*evaluation.part, pick.kind, located->index, pick.snap, evaluation.placement);
}

}  // namespace

Result<Given> give(const Job& job, const Evaluation& evaluation, const Reference& reference) {
  Result<Given> given = refuse(RefusalCode::kUnknownName, "what was picked is no longer in the job");
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) {
    if (entry->entry == kReadPlaced) return given_by_frame(world_frame());
    if (entry->entry == kReadDelivered)
      return given_by_frame(world_frame().Transformed(evaluation.placement));
    const Entry* target = job.find(entry->entry);
    const auto at = evaluation.entries.find(entry->entry);
    if (!target || at == evaluation.entries.end()) return given;
    if (!at->second.fresh || !at->second.value)
      return refuse(
          RefusalCode::kGeometry,
          at->second.stopped ? fmt::format("it stands on {}, which was not computed", target->name)
          : at->second.state == EntryState::kSuppressed
              ? fmt::format("it stands on {}, which is suppressed", target->name)
              : fmt::format("it stands on {}, which cannot be built: mend that first", target->name));
    if (entry->element > 0 && at->second.setup)
      given = given_by_stock(*at->second.setup, entry->element, target->name);
    else if (entry->element > 0)
      given = given_by_element(*at->second.value, *entry, target->name);
    else
      given = given_by_value(*at->second.value, evaluation.placement);
  } else {
    const Entry* part = job.find(entry_of(reference));
    if (!part || !part->part()) return given;
    if (!evaluation.part) return given;
    const auto* region = std::get_if<RegionReference>(&reference.target);
    given = guarded("finding the pick", [&] {
      return region ? given_by(*evaluation.part, *region, evaluation.placement)
                    : given_by_topology(job, evaluation, reference);
    });
  }
  if (given && reference.clicked) given->clicked = reference.clicked->Transformed(evaluation.placement);
  return given;
}

bool can_be_seen(const Evaluation& evaluation, const Entry& entry) {
  if (entry.placement()) return false;
  if (!entry.is_correction()) return true;
  const auto at = evaluation.entries.find(entry.id);
  const auto* planned = at != evaluation.entries.end() && at->second.value
                            ? std::get_if<PlannedCorrection>(&*at->second.value)
                            : nullptr;
  return planned && !planned->plan->bodies.empty();
}

std::vector<EntryReference> pickable(const Evaluation& evaluation, int entry) {
  std::vector<EntryReference> all{{entry}};
  const auto at = evaluation.entries.find(entry);
  if (at == evaluation.entries.end() || !at->second.value) return all;
  if (at->second.setup && at->second.setup->stock)
    for (int element = 1; element <= kStockPoints + kStockSides; ++element) all.push_back({entry, element});
  const auto* figure = std::get_if<FigureDatum>(&*at->second.value);
  const auto count = figure ? static_cast<int>(figure->edges.size()) : 0;
  for (int element = 1; element <= count; ++element)
    for (const Snap snap : {Snap::kWhole, Snap::kStart, Snap::kMiddle, Snap::kEnd, Snap::kCentre})
      if (snap != Snap::kCentre || given_by_curve(figure->edges[element - 1], Snap::kWhole).is_circular_edge)
        all.push_back({entry, element, snap});
  return all;
}

}  // namespace anvil
