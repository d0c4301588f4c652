// The functions that describe each construction; called once, by the registry.
#pragma once

#include "construct/construction.h"

namespace anvil {

Construction point_at();
Construction point_on_edge();
Construction axis_of();
Construction axis_along_edge();
Construction axis_of_two_planes();
Construction plane_on_face();
Construction plane_offset();
Construction plane_midway();
Construction plane_through_three_points();
Construction frame_on_face();
Construction frame_of_three_points();
Construction frame_of_two_lines();
Construction measure_distance();
Construction measure_angle();
Construction place_face_down();
Construction place_axis_up();
Construction place_along_x();
Construction place_turn_about();
Construction place_point_to_zero();
Construction place_quarter_turn();
Construction place_face_towards();
Construction place_axis_along();
Construction place_three_faces();
Construction place_match_planes();
Construction place_match_frames();
Construction place_frame_to_zero();
Construction place_move_by();
Construction place_by_matrix();

}  // namespace anvil
