// Steps of the placement: each moves the part as it stands before the step.
#include <gp_Quaternion.hxx>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

gp_Trsf shift(const gp_Vec& by) {
  gp_Trsf t;
  t.SetTranslation(by);
  return t;
}

Solutions face_down(const Inputs& in) {
  const gp_Trsf turn = shortest_turn(in[0].plane->Axis().Direction(), gp_Dir(0, 0, -1));
  const gp_Pnt on_face = in[0].plane->Location().Transformed(turn);
  return one(PlacementStep{shift(gp_Vec(0, 0, -on_face.Z())) * turn});
}

Solutions axis_up(const Inputs& in) {
  const gp_Dir along = in[0].axis->Direction();
  return std::vector<Solution>{
      {PlacementStep{shortest_turn(along, gp_Dir(0, 0, 1))}, "up", ""},
      {PlacementStep{shortest_turn(along.Reversed(), gp_Dir(0, 0, 1))}, "down", "the other way up"}};
}

Solutions along_x(const Inputs& in) {
  const gp_Dir along = *in[0].direction;
  return std::vector<Solution>{
      {PlacementStep{shortest_turn(along, gp_Dir(1, 0, 0))}, "plus", ""},
      {PlacementStep{shortest_turn(along.Reversed(), gp_Dir(1, 0, 0))}, "minus", "the other sense"}};
}

Solutions turn_about(const Inputs& in) {
  gp_Trsf turn;
  turn.SetRotation(*in[0].axis, in.numbers.at("angle"));
  return one(PlacementStep{turn});
}

Solutions point_to_zero(const Inputs& in) {
  return one(PlacementStep{shift(gp_Vec(*in[0].point, gp_Pnt(0, 0, 0)))});
}

Solutions quarter_turn(const Inputs& in) {
  const std::string& about = in.choices.at("about");
  const gp_Dir axis = about == "X" ? gp_Dir(1, 0, 0) : about == "Y" ? gp_Dir(0, 1, 0) : gp_Dir(0, 0, 1);
  const double sense = in.choices.at("sense") == "backward" ? -1 : 1;
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), axis), sense * kPi / 2);
  return one(PlacementStep{turn});
}

}  // namespace

Construction place_face_down() {
  return placement_step("place.face-down", "Turn the part: face {1} down, at Z 0", {Need::kFlatFace}, 60,
                        face_down);
}

Construction place_axis_up() {
  return placement_step("place.axis-up", "Turn the part: axis {1} up", {Need::kAxis}, 60, axis_up);
}

Construction place_along_x() {
  return placement_step("place.along-x", "Turn the part: {1} along X", {Need::kDirection}, 62, along_x);
}

Construction place_turn_about() {
  Construction c = placement_step("place.turn-about", "Turn the part about axis {1} by an angle",
                                  {Need::kAxis}, 64, turn_about);
  c.parameters = {{"angle", "Angle", Quantity::kAngle, "90"}};
  return c;
}

Construction place_point_to_zero() {
  return placement_step("place.point-to-zero", "Move the part: {1} to zero", {Need::kPoint}, 60,
                        point_to_zero);
}

Construction place_quarter_turn() {
  Construction c = placement_step("place.quarter-turn", "Quarter turn of the part", {}, 70, quarter_turn);
  c.parameters = {{"about", "About", Quantity::kChoice, "Z", {"X", "Y", "Z"}},
                  {"sense", "Sense", Quantity::kChoice, "forward", {"forward", "backward"}}};
  return c;
}

}  // namespace anvil
