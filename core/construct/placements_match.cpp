// Placement steps that match one thing to another: faces to sides, directions to axes, planes to planes,
// frames to frames; and steps typed as numbers.
#include <fmt/format.h>

#include <sstream>

#include "construct/families.h"
#include "construct/helpers.h"
#include "geom/coordinate.h"

namespace anvil {
namespace {

// The motion that carries one frame onto another.
gp_Trsf onto(const gp_Ax2& from, const gp_Ax2& to) {
  gp_Trsf motion;
  motion.SetDisplacement(gp_Ax3(from), gp_Ax3(to));
  return motion;
}

gp_Dir side_direction(const std::string& side) {
  if (side == "up" || side == "+Z") return gp_Dir(0, 0, 1);
  if (side == "towards the front" || side == "−Y") return gp_Dir(0, -1, 0);
  if (side == "towards the back" || side == "+Y") return gp_Dir(0, 1, 0);
  if (side == "to the right" || side == "+X") return gp_Dir(1, 0, 0);
  if (side == "to the left" || side == "−X") return gp_Dir(-1, 0, 0);
  return gp_Dir(0, 0, -1);
}

Solutions face_towards(const Inputs& in) {
  return one(
      PlacementStep{shortest_turn(in[0].plane->Axis().Direction(), side_direction(in.choices.at("side")))});
}

Solutions axis_along(const Inputs& in) {
  const gp_Dir along = *in[0].direction, wanted = side_direction(in.choices.at("along"));
  return std::vector<Solution>{
      {PlacementStep{shortest_turn(along, wanted)}, "same", ""},
      {PlacementStep{shortest_turn(along.Reversed(), wanted)}, "reversed", "the other sense"}};
}

// The corner of three planes as a frame: zero where they meet, Z the first normal, X from the second.
Result<gp_Ax2> corner_frame(const gp_Pln& a, const gp_Pln& b, const gp_Pln& c,
                            const std::array<int, 3>& roles) {
  const gp_Dir z = a.Axis().Direction(), second = b.Axis().Direction(), third = c.Axis().Direction();
  if (parallel(z, second))
    return refuse(RefusalCode::kGeometry,
                  fmt::format("{{{}}} and {{{}}} are parallel: three planes that meet in a corner are needed",
                              roles[0], roles[1]));
  const double volume = z.Crossed(second).Dot(third);
  if (std::abs(volume) < kExact.angular_rad)
    return refuse(RefusalCode::kGeometry,
                  fmt::format("{{{}}}, {{{}}} and {{{}}} share a direction: they do not meet in one point",
                              roles[0], roles[1], roles[2]));
  auto line = crossing(a, b, a.Location());
  if (!line) return refuse(line);
  const double slope = line->Direction().Dot(third);
  const double t = -height_over(c, line->Location()) / slope;
  return make_frame(line->Location().Translated(gp_Vec(line->Direction()) * t), z, second);
}

double handedness(const gp_Dir& a, const gp_Dir& b, const gp_Dir& c) {
  return a.Crossed(b).Dot(c);
}

// How far the angles between the planes differ: a rigid motion cannot mend that.
Result<void> check_angles(const std::array<gp_Dir, 3>& from, const std::array<gp_Dir, 3>& to,
                          const Display& display) {
  for (int i = 0; i < 3; ++i) {
    const int k = (i + 1) % 3;
    const double a = from[i].Angle(from[k]), b = to[i].Angle(to[k]);
    if (std::abs(a - b) < 1e-4) continue;
    return refuse(RefusalCode::kGeometry,
                  fmt::format("{{{}}} and {{{}}} stand at {}, where they should go the angle is {}: no "
                              "motion brings all three onto their places",
                              i + 1, k + 1, format_angle(a, display), format_angle(b, display)));
  }
  return {};
}

const char* const kMirror =
    "that would need a mirror image: the corner is the other way round. Pick them in another order, or flip "
    "one";

Solutions three_faces(const Inputs& in) {
  const std::array<gp_Dir, 3> from{in[0].plane->Axis().Direction(), in[1].plane->Axis().Direction(),
                                   in[2].plane->Axis().Direction()};
  auto corner = corner_frame(*in[0].plane, *in[1].plane, *in[2].plane, {1, 2, 3});
  if (!corner) return refuse(corner);
  // First face down onto Z 0, second towards the front onto Y 0; the third to the left, or, in the other
  // hand, to the right, onto X 0.
  const gp_Ax2 target(gp_Pnt(0, 0, 0), gp_Dir(0, 0, -1), gp_Dir(0, -1, 0));
  const bool left = handedness(from[0], from[1], from[2]) *
                        handedness(gp_Dir(0, 0, -1), gp_Dir(0, -1, 0), gp_Dir(-1, 0, 0)) >
                    0;
  return one(PlacementStep{onto(*corner, target)}, left ? "{3} to the left" : "{3} to the right");
}

Solutions match_planes(const Inputs& in) {
  std::array<gp_Dir, 3> from, to, facing;
  for (size_t i = 0; i < 3; ++i) {
    from[i] = in[i].plane->Axis().Direction();
    to[i] = in[i + 3].plane->Axis().Direction();
    facing[i] = to[i].Reversed();
  }
  auto corner = corner_frame(*in[0].plane, *in[1].plane, *in[2].plane, {1, 2, 3});
  if (!corner) return refuse(corner);
  auto place = corner_frame(*in[3].plane, *in[4].plane, *in[5].plane, {4, 5, 6});
  if (!place) return refuse(place);
  if (auto same = check_angles(from, to, in.display); !same) return refuse(same);
  std::vector<Solution> solutions;
  const double hand = handedness(from[0], from[1], from[2]);
  if (hand * handedness(facing[0], facing[1], facing[2]) > 0) {
    const gp_Ax2 target = make_frame(place->Location(), facing[0], facing[1]);
    solutions.push_back({PlacementStep{onto(*corner, target)}, "facing", "faces against each other"});
  }
  if (hand * handedness(to[0], to[1], to[2]) > 0)
    solutions.push_back({PlacementStep{onto(*corner, *place)}, "flush", "faces pointing the same way"});
  if (solutions.empty()) return refuse(RefusalCode::kGeometry, kMirror);
  return solutions;
}

Solutions match_frames(const Inputs& in) {
  return one(PlacementStep{onto(*in[0].frame, *in[1].frame)});
}

Solutions frame_to_zero(const Inputs& in) {
  return one(PlacementStep{onto(*in[0].frame, gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)))});
}

Solutions move_by(const Inputs& in) {
  gp_Trsf motion;
  motion.SetTranslation(gp_Vec(in.numbers.at("dx"), in.numbers.at("dy"), in.numbers.at("dz")));
  return one(PlacementStep{motion});
}

Solutions by_matrix(const Inputs& in) {
  auto motion = rigid_motion_from(in.choices.at("matrix"), 1.0);
  if (!motion) return refuse(motion);
  return one(PlacementStep{*motion});
}

}  // namespace

Result<gp_Trsf> rigid_motion_from(const std::string& text, double mm_per_number) {
  std::string spaced = text;
  std::replace_if(
      spaced.begin(), spaced.end(), [](char c) { return c == ',' || c == ';' || c == '\n'; }, ' ');
  std::istringstream stream(spaced);
  std::vector<double> m;
  for (double v; stream >> v;) m.push_back(v);
  stream.clear();
  std::string rest;
  if (stream >> rest || (m.size() != 16 && m.size() != 12))
    return refuse(
        RefusalCode::kBadInput,
        fmt::format("a matrix is 16 numbers (or the first 12), row by row; there are {}", m.size()));
  if (m.size() == 16 && (m[12] != 0 || m[13] != 0 || m[14] != 0 || m[15] != 1))
    return refuse(RefusalCode::kBadInput, "the last row of the matrix must be 0 0 0 1");
  const gp_Mat r(m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]);
  const double determinant = r.Determinant();
  if (!std::isfinite(determinant))
    return refuse(RefusalCode::kBadInput, "the matrix holds numbers that are none");
  if (determinant < 0)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("the matrix makes a mirror image (determinant {:.4f}): the part would become "
                              "its left-handed twin, which is not "
                              "a placement",
                              determinant));
  const gp_Mat unit = r.Multiplied(r.Transposed());
  double off = 0;
  for (int i = 1; i <= 3; ++i)
    for (int k = 1; k <= 3; ++k) off = std::max(off, std::abs(unit.Value(i, k) - (i == k ? 1 : 0)));
  if (off > 1e-6)
    return refuse(
        RefusalCode::kBadInput,
        fmt::format("the matrix stretches or skews (off by {:.6f}): only turns and shifts place a part",
                    off));
  gp_Trsf motion;
  motion.SetValues(m[0], m[1], m[2], m[3] * mm_per_number, m[4], m[5], m[6], m[7] * mm_per_number, m[8], m[9],
                   m[10], m[11] * mm_per_number);
  return motion;
}

std::string matrix_text(const gp_Trsf& motion) {
  std::string text;
  for (const double value : rows_of(motion)) text += fmt::format("{:.17g} ", value);
  return text + "0 0 0 1";
}

Construction place_face_towards() {
  return placement_step(
      "place.face-towards", "Turn the part: face {1} to a side", {Need::kFlatFace}, 63, face_towards,
      {{"side",
        "Side",
        Quantity::kChoice,
        "down",
        {"down", "up", "towards the front", "towards the back", "to the left", "to the right"}}});
}

Construction place_axis_along() {
  return placement_step("place.axis-along", "Turn the part: {1} along an axis", {Need::kDirection}, 63,
                        axis_along,
                        {{"along", "Along", Quantity::kChoice, "+Z", {"+X", "−X", "+Y", "−Y", "+Z", "−Z"}}});
}

Construction place_three_faces() {
  return placement_step("place.three-faces",
                        "Place the part: {1} down on Z 0, {2} to the front on Y 0, {3} on X 0",
                        {Need::kPlane, Need::kPlane, Need::kPlane}, 61, three_faces);
}

Construction place_match_planes() {
  return placement_step("place.match-planes", "Move: {1}, {2}, {3} onto {4}, {5}, {6}",
                        {Need::kPlane, Need::kPlane, Need::kPlane, Need::kPlane, Need::kPlane, Need::kPlane},
                        61, match_planes);
}

Construction place_match_frames() {
  return placement_step("place.match-frames", "Move: frame {1} onto frame {2}", {Need::kFrame, Need::kFrame},
                        61, match_frames);
}

Construction place_frame_to_zero() {
  return placement_step("place.frame-to-zero", "Move the part: frame {1} to zero, along X, Y, Z",
                        {Need::kFrame}, 59, frame_to_zero);
}

Construction place_move_by() {
  return placement_step("place.move-by", "Move the part: by typed amounts", {}, 66, move_by,
                        {{"dx", "X", Quantity::kLength, "0"},
                         {"dy", "Y", Quantity::kLength, "0"},
                         {"dz", "Z", Quantity::kLength, "0"}});
}

Construction place_by_matrix() {
  return placement_step(
      "place.by-matrix", "Move the part: by a matrix", {}, 68, by_matrix,
      {{"matrix", "Matrix, row by row", Quantity::kText, "1 0 0 0  0 1 0 0  0 0 1 0  0 0 0 1"}});
}

}  // namespace anvil
