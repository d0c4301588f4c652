#include <nlohmann/json.hpp>

#include "demo/demo_part.h"

namespace anvil::demo {
namespace {

using nlohmann::json;

json triple(const gp_XYZ& p) {
  return json::array({p.X(), p.Y(), p.Z()});
}

json hole_json(const ExpectedHole& hole) {
  json steps = json::array();
  for (const ExpectedStep& s : hole.steps)
    steps.push_back({{"kind", s.kind},
                     {"diameter", s.diameter},
                     {"end_diameter", s.end_diameter},
                     {"depth", s.depth},
                     {"angle", s.angle_deg}});
  return {{"entry", triple(hole.entry.XYZ())},
          {"axis", triple(hole.axis.XYZ())},
          {"diameter", hole.diameter},
          {"depth", hole.depth},
          {"through", hole.through},
          {"either_end", hole.either_end},
          {"steps", steps}};
}

}  // namespace

std::string expected_json(const DemoPart& part) {
  json holes = json::array(), slots = json::array(), corners = json::array();
  for (const ExpectedHole& hole : part.holes) holes.push_back(hole_json(hole));
  for (const ExpectedSlot& s : part.slots)
    slots.push_back({{"centres", {triple(s.centre_a.XYZ()), triple(s.centre_b.XYZ())}},
                     {"width", s.width},
                     {"depth", s.depth},
                     {"through", s.through}});
  for (const ExpectedCorner& c : part.wall_corners)
    corners.push_back({{"kind", c.kind},
                       {"radius", c.radius},
                       {"centre", triple(c.centre.XYZ())},
                       {"top", c.top},
                       {"bottom", c.bottom}});
  const json all{{"unit", "mm"},
                 {"tool_axis", triple(part.tool_axis.XYZ())},
                 {"holes", holes},
                 {"slots", slots},
                 {"wall_corners", corners},
                 {"floor_radii", part.floor_radii}};
  return all.dump(2) + "\n";
}

}  // namespace anvil::demo
