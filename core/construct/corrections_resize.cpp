// Holes given other sizes, another head or another bottom, where they are.
#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/hole_numbers.h"
#include "correct/reach.h"

namespace anvil {
namespace {

Solutions resized(const Inputs& in) {
  const auto wish = wish_from(in);
  if (!wish) return refuse(wish);
  const auto holes = holes_from(in, 0, in.picks.size());
  if (!holes) return refuse(holes);
  std::vector<HoleChange> changes;
  bool same = true;
  for (const PickedHole& hole : *holes) {
    const gp_Dir into = hole.hole.axis.Reversed();
    const auto form = with_wish(hole.there.form, *wish,
                                end_of_body(*hole.pick.part, hole.hole.body, hole.hole.entry, into));
    if (!form) return refuse(form);
    same = same && text_of(*form) == text_of(hole.there.form);
    changes.push_back({hole, *form, hole.there.at});
  }
  if (same)
    return std::vector<Solution>{planned({}, {}, "only", text_of(changes.front().form, in.display.unit))};
  return std::vector<Solution>{planned(plan_of(changes), holes->front().pick.placement, "only",
                                       text_of(changes.front().form, in.display.unit))};
}

}  // namespace

Construction correct_resize() {
  Construction c = correcting("correct.resize", "Resized", "Change the size or form of hole {all}",
                              {Need::kHole}, 71, resized, numbers_of_a_hole_there());
  c.repeats = true;
  return c;
}

}  // namespace anvil
