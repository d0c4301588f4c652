// Frames from points and lines, by hand, from numbers, and from what was measured.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/frame_helpers.h"
#include "construct/skipped_places.h"
#include "part/measure.h"

namespace anvil {
namespace {

Solutions three_points(const Inputs& in) {
  const gp_Pnt &zero = *in[0].point, &towards = *in[1].point, &side = *in[2].point;
  const gp_Vec x(zero, towards), normal = x.Crossed(gp_Vec(zero, side));
  if (x.Magnitude() < in.tolerance.linear_mm)
    return refused("{1} and {2} are the same point: X has no direction", {{"distance_mm", x.Magnitude()}});
  const double off = normal.Magnitude() / x.Magnitude();
  if (off < in.tolerance.linear_mm)
    return refused(
        fmt::format("{{3}} lies on the line through {{1}} and {{2}} (within {:.6f} mm): Z has no direction",
                    off),
        {{"off_line_mm", off}});
  const gp_Ax2 up(zero, gp_Dir(normal), gp_Dir(x)), down(zero, gp_Dir(normal).Reversed(), gp_Dir(x));
  return std::vector<Solution>{{FrameDatum{up}, "z-up", ""},
                               {FrameDatum{down}, "z-down", "Z to the other side"}};
}

Solutions line_and_point(const Inputs& in) {
  const gp_Ax1& axis = *in[0].axis;
  const gp_Pnt foot = foot_on(axis, *in[1].point);
  const double off = foot.Distance(*in[1].point);
  if (off < in.tolerance.linear_mm)
    return refused(
        fmt::format("{{2}} lies on {{1}} (within {}): X has no direction", format_length(off, in.display)),
        {{"distance_mm", off}});
  const gp_Pnt zero = in.choices.at("zero") == "the foot of the point" ? foot : *in[1].point;
  return quarter_turns(make_frame(zero, axis.Direction(), gp_Dir(gp_Vec(foot, *in[1].point))));
}

// Where it is dropped: a point, else where it was clicked, else where the pick has its place. A free-form
// face taken by a rectangle has none.
std::optional<gp_Pnt> dropped_on(const Given& given) {
  if (given.point) return *given.point;
  if (given.clicked) return *given.clicked;
  if (given.hole) return given.hole->opening;
  if (given.axis) return given.axis->Location();
  if (given.plane) return given.plane->Location();
  return given.extent.empty() ? std::nullopt : std::optional(given.extent.front());
}

Solutions by_hand(const Inputs& in) {
  const auto place = dropped_on(in[0]);
  if (!place) return refused("{1} has no place of its own: click where on it the frame is to be");
  return one(FrameDatum{moved_to(*in[1].frame, *place)});
}

// Which of the copies are left out is for whoever keeps them; here, whether any is left.
Result<void> some_are_made(const Inputs& in) {
  const auto skip = skipped_places(in.choices.at("skip"));
  if (!skip) return refuse(skip);
  const auto copies = static_cast<int>(in.numbers.at("count"));
  for (int place = 2; place <= copies + 1; ++place)
    if (!skip->count(place)) return {};
  return refuse(RefusalCode::kBadInput, "every copy is skipped: nothing is made");
}

Parameter skipping() {
  return {"skip", "Skip", Quantity::kText, "", {}, true};
}

Solutions copied(const Inputs& in) {
  if (auto some = some_are_made(in); !some) return refuse(some);
  return one(FrameDatum{*in[0].frame});
}

Solutions about_axis(const Inputs& in) {
  if (auto some = some_are_made(in); !some) return refuse(some);
  return one(FrameDatum{in[0].frame->Rotated(*in[1].axis, in.numbers.at("angle"))});
}

// A mirror image is left-handed: one of its axes points the other way, and which is for the user to say.
Solutions mirrored(const Inputs& in) {
  gp_Trsf mirror;
  mirror.SetMirror(gp_Ax2(in[1].plane->Location(), in[1].plane->Axis().Direction()));
  const gp_Pnt zero = in[0].frame->Location().Transformed(mirror);
  const gp_Dir x = in[0].frame->XDirection().Transformed(mirror),
               y = in[0].frame->YDirection().Transformed(mirror),
               z = in[0].frame->Direction().Transformed(mirror);
  return std::vector<Solution>{{FrameDatum{gp_Ax2(zero, z, x)}, "y", "X and Z mirrored"},
                               {FrameDatum{gp_Ax2(zero, z, x.Reversed())}, "x", "Y and Z mirrored"},
                               {FrameDatum{gp_Ax2(zero, x.Crossed(y), x)}, "z", "X and Y mirrored"}};
}

Solutions box_frames(const Inputs& in) {
  const gp_Ax2& reading = *in[1].frame;
  const Box box = exact_box(in[0].body, into_frame(reading));
  const std::string& up = in.choices.at("z");
  const gp_Dir sides[] = {reading.XDirection(), reading.YDirection(), reading.Direction()};
  gp_Dir z = sides[up[1] - 'X'];
  if (up[0] == '-') z.Reverse();
  const gp_Dir x = up[1] == 'X' ? reading.YDirection() : reading.XDirection();
  std::vector<Solution> solutions;
  for (const BoxPoint& place : box_points(box))
    solutions.push_back({FrameDatum{make_frame(place.at.Transformed(into_frame(reading).Inverted()), z, x)},
                         place.key, place.name});
  return solutions;
}

Solutions by_matrix(const Inputs& in) {
  const auto motion = rigid_motion_from(in.choices.at("matrix"), mm_per(in.typed_in));
  if (!motion) return refuse(motion);
  return one(FrameDatum{world_frame().Transformed(into_frame(*in[0].frame).Inverted() * *motion)});
}

Solutions by_vectors(const Inputs& in) {
  const auto z = direction_from(in.choices.at("z_direction")),
             x = direction_from(in.choices.at("x_direction"));
  if (!z) return refuse(z);
  if (!x) return refuse(x);
  if (acute_angle(*z, *x) < in.tolerance.angular_rad)
    return refuse(RefusalCode::kBadInput, "X and Z point the same way: they give no frame");
  const gp_Pnt zero(in.numbers.at("x"), in.numbers.at("y"), in.numbers.at("z"));
  return one(FrameDatum{make_frame(zero, *z, *x).Transformed(into_frame(*in[0].frame).Inverted())});
}

// Which frame would read the picked points as they were measured.
Solutions paired(const Inputs& in) {
  const auto measured = points_from(in.choices.at("measured"), mm_per(in.typed_in));
  if (!measured) return refuse(measured);
  const std::vector<gp_Pnt> nominal = spots_of(in);
  if (measured->size() != nominal.size())
    return refuse(RefusalCode::kBadInput,
                  fmt::format("{} points are picked and {} measured: each wants its own", nominal.size(),
                              measured->size()));
  const auto fit = fit_motion(*measured, nominal, in.tolerance.linear_mm);
  if (!fit) return refuse(fit);
  std::string each;
  for (size_t i = 0; i < nominal.size(); ++i)
    each +=
        fmt::format("{}{{{}}} {}", i ? ", " : "; ", i + 1,
                    format_length(nominal[i].Distance((*measured)[i].Transformed(fit->shape)), in.display));
  Solution solution{FrameDatum{world_frame().Transformed(fit->shape)}, "only",
                    quality_text(fit->quality, in.display) + each};
  solution.worst_role = static_cast<int>(fit->quality.worst);
  return std::vector<Solution>{solution};
}

}  // namespace

Construction frame_of_three_points() {
  Construction c = framing("frame.three-points", "Frame: zero at {1}, X towards {2}, {3} on the +Y side",
                           {Need::kPoint, Need::kPoint, Need::kPoint}, 12, three_points);
  c.ordered = true;
  return c;
}

Construction frame_of_line_and_point() {
  return framing("frame.line-point", "Frame with Z along {1}, X towards {2}", {Need::kAxis, Need::kPoint}, 19,
                 line_and_point,
                 {{"zero",
                   "Zero at",
                   Quantity::kChoice,
                   "the foot of the point",
                   {"the foot of the point", "the point"}}});
}

Construction frame_by_hand() {
  Construction c = framing("frame.by-hand", "Frame dropped on {1}, like {2}",
                           {Need::kMeasurable, Need::kFrame}, 39, by_hand, {}, ShiftIs::kMain);
  c.reads_frame = true;
  return c;
}

Construction frame_copied() {
  Construction c = framing("frame.copied", "Frame like {1}, shifted and turned", {Need::kFrame}, 20, copied,
                           {{"count", "Count", Quantity::kCount, "1"}, skipping()}, ShiftIs::kMain);
  c.steps_per_copy = shift_and_turn_ids();
  return c;
}

Construction frame_about_axis() {
  Construction c = framing(
      "frame.about-axis", "Frame like {1}, turned about {2}", {Need::kFrame, Need::kAxis}, 21, about_axis,
      {{"angle", "Angle", Quantity::kAngle, "90"}, {"count", "Count", Quantity::kCount, "1"}, skipping()});
  c.steps_per_copy = {"angle"};
  return c;
}

Construction frame_mirrored() {
  return framing("frame.mirrored", "Frame like {1}, mirrored at {2}", {Need::kFrame, Need::kPlane}, 48,
                 mirrored);
}

Construction frame_of_box() {
  Construction c = framing("frame.of-box", "Frame at a point of the box around the body of {1}, in {2}",
                           {Need::kOfBody, Need::kFrame}, 47, box_frames,
                           {{"z", "Z", Quantity::kChoice, "+Z", {"+Z", "-Z", "+X", "-X", "+Y", "-Y"}}});
  c.reads_frame = true;
  c.takes_time = true;
  return c;
}

Construction frame_by_matrix() {
  return framing("frame.by-matrix", "Frame by a matrix, read in {1}", {Need::kFrame}, 58, by_matrix,
                 {{"matrix", "Matrix", Quantity::kText, "1 0 0 0  0 1 0 0  0 0 1 0"}});
}

Construction frame_by_vectors() {
  return framing("frame.by-vectors", "Frame by its zero and directions, read in {1}", {Need::kFrame}, 57,
                 by_vectors,
                 {{"x", "Zero X", Quantity::kLength, "0mm"},
                  {"y", "Zero Y", Quantity::kLength, "0mm"},
                  {"z", "Zero Z", Quantity::kLength, "0mm"},
                  {"z_direction", "Z along I, J, K", Quantity::kText, "0, 0, 1"},
                  {"x_direction", "X along I, J, K", Quantity::kText, "1, 0, 0"}});
}

Construction frame_paired() {
  Construction c = framing("frame.paired", "Frame in which {all} have the measured coordinates",
                           {Need::kSpot, Need::kSpot, Need::kSpot}, 46, paired,
                           {{"measured", "Measured X Y Z; X Y Z; …", Quantity::kText, ""}});
  c.repeats = true;
  return c;
}

}  // namespace anvil
