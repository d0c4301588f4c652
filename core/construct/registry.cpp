#include "construct/registry.h"

#include "construct/families.h"

namespace anvil {

const std::vector<Construction>& constructions() {
  static const std::vector<Construction> all{
      point_at(),
      point_on_edge(),
      axis_of(),
      axis_along_edge(),
      axis_of_two_planes(),
      plane_on_face(),
      plane_offset(),
      plane_midway(),
      plane_through_three_points(),
      frame_on_face(),
      frame_of_three_points(),
      frame_of_two_lines(),
      measure_distance(),
      measure_angle(),
      place_face_down(),
      place_axis_up(),
      place_along_x(),
      place_turn_about(),
      place_point_to_zero(),
      place_quarter_turn(),
      place_face_towards(),
      place_axis_along(),
      place_three_faces(),
      place_match_planes(),
      place_match_frames(),
      place_frame_to_zero(),
      place_move_by(),
      place_by_matrix(),
  };
  return all;
}

const Construction* find_construction(const std::string& id) {
  for (const Construction& construction : constructions())
    if (construction.id == id) return &construction;
  return nullptr;
}

}  // namespace anvil
