#include "setup/setup.h"

#include "geom/primitives.h"

namespace anvil {

gp_Trsf PlaceInMachine::from_setup() const {
  gp_Trsf turn, shift;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), turn_rad);
  shift.SetTranslation(gp_Vec(zero.XYZ()));
  return shift * turn;
}

Result<PlaceInMachine> place_of(const Setup& setup, const Names& names) {
  const auto text = [&](const char* id) {
    const auto at = setup.place.find(id);
    return at == setup.place.end() || at->second.empty() ? std::string("0") : at->second;
  };
  PlaceInMachine place;
  double lengths[4] = {};
  const char* const ids[] = {"x", "y", "z", "gauge"};
  for (int i = 0; i < 4; ++i) {
    const auto value = evaluate_length(text(ids[i]), setup.unit, names);
    if (!value)
      return refuse(RefusalCode::kBadInput,
                    std::string("Place in the machine, ") + ids[i] + ": " + value.error().sentence);
    lengths[i] = *value;
  }
  const auto turn = evaluate_angle(text("turn"), names);
  if (!turn) return refuse(RefusalCode::kBadInput, "Place in the machine, turn: " + turn.error().sentence);
  return PlaceInMachine{gp_Pnt(lengths[0], lengths[1], lengths[2]), *turn, lengths[3]};
}

void reach_planes(const Machine& machine, const Setup& setup, const PlaceInMachine& place,
                  std::vector<PlaneValue>& planes, double within_rad) {
  Angles before(machine.rotary.size(), 0.0);
  for (size_t i = 0; i < planes.size(); ++i) {
    PlaneValue& plane = planes[i];
    if (!plane.problem.empty()) continue;
    const gp_Dir towards = plane.in_setup.Direction().Transformed(place.from_setup());
    auto poses = poses_for(machine, towards, before, within_rad);
    if (!poses) {
      plane.problem = poses.error().sentence;
      continue;
    }
    plane.poses = std::move(*poses);
    plane.chosen = 0;
    const std::string wanted = i > 0 && i <= setup.planes.size() ? setup.planes[i - 1].pose : "";
    for (size_t k = 0; k < plane.poses.size(); ++k)
      if (plane.poses[k].key == wanted) plane.chosen = k;
    const Pose& pose = plane.poses[plane.chosen];
    if (!pose.out_of.empty()) plane.problem = pose.out_of;
    before = pose.angles;
  }
}

}  // namespace anvil
