#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {

Construction axis_of() {
  Construction c;
  c.id = "axis.of";
  c.makes = Makes::kAxis;
  c.sentence = "Axis of {1}";
  c.roles = {Need::kRevolution};
  c.rank = 12;
  c.solve = [](const Inputs& in) { return one(drawn_axis(*in[0].axis, in[0].extent)); };
  return c;
}

Construction axis_along_edge() {
  Construction c;
  c.id = "axis.along-edge";
  c.makes = Makes::kAxis;
  c.sentence = "Axis along edge {1}";
  c.roles = {Need::kStraightEdge};
  c.rank = 12;
  c.solve = [](const Inputs& in) { return one(drawn_axis(*in[0].axis, in[0].extent)); };
  return c;
}

Construction axis_of_two_planes() {
  Construction c;
  c.id = "axis.of-two-planes";
  c.makes = Makes::kAxis;
  c.sentence = "Axis where {1} and {2} cross";
  c.roles = {Need::kPlane, Need::kPlane};
  c.rank = 20;
  c.solve = [](const Inputs& in) -> Solutions {
    const std::vector<gp_Pnt> around = extents(in);
    auto axis =
        crossing(*in[0].plane, *in[1].plane, around.empty() ? in[0].plane->Location() : around.front());
    if (!axis) return refuse(axis);
    return one(drawn_axis(*axis, around));
  };
  return c;
}

}  // namespace anvil
