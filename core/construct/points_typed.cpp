// Points from typed numbers, in a frame or from another point.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/frame_helpers.h"

namespace anvil {
namespace {

gp_Pnt in_frame(const gp_Ax2& frame, const gp_Pnt& from, double x, double y, double z) {
  return from.Translated(gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y +
                         gp_Vec(frame.Direction()) * z);
}

std::vector<Parameter> coordinates(const char* mark) {
  const auto one_of = [&](const char* id, const char* label) {
    return Parameter{id, std::string(mark) + label, Quantity::kLength, "0mm"};
  };
  return {one_of("x", "X"), one_of("y", "Y"), one_of("z", "Z")};
}

Solutions typed(const Inputs& in) {
  const gp_Ax2& frame = *in[0].frame;
  return one(PointDatum{
      in_frame(frame, frame.Location(), in.numbers.at("x"), in.numbers.at("y"), in.numbers.at("z"))});
}

Solutions stepped(const Inputs& in) {
  return one(PointDatum{
      in_frame(*in[1].frame, *in[0].point, in.numbers.at("x"), in.numbers.at("y"), in.numbers.at("z"))});
}

Solutions polar(const Inputs& in) {
  const double r = in.numbers.at("radius"), angle = in.numbers.at("angle");
  return one(PointDatum{in_frame(*in[1].frame, *in[0].point, r * std::cos(angle), r * std::sin(angle),
                                 in.numbers.at("height"))});
}

Solutions along_direction(const Inputs& in) {
  return one(PointDatum{in[0].point->Translated(gp_Vec(*in[1].direction) * in.numbers.at("distance"))});
}

// The two need not be square to each other; the third step is square to both.
Solutions along_two(const Inputs& in) {
  const gp_Dir a = *in[1].direction, b = *in[2].direction;
  if (parallel(a, b, in.tolerance.angular_rad))
    return refused("{2} and {3} are parallel: they leave no third direction. One step along {2}?", {},
                   "point.along");
  return one(PointDatum{in[0].point->Translated(gp_Vec(a) * in.numbers.at("first") +
                                                gp_Vec(b) * in.numbers.at("second") +
                                                gp_Vec(a.Crossed(b)) * in.numbers.at("square"))});
}

Solutions points_of_box(const Inputs& in) {
  const gp_Ax2& frame = *in[1].frame;
  std::vector<Solution> solutions;
  for (const BoxPoint& place : box_points(exact_box(in[0].body, into_frame(frame))))
    solutions.push_back(
        {PointDatum{place.at.Transformed(into_frame(frame).Inverted())}, place.key, place.name});
  return solutions;
}

}  // namespace

Construction point_typed() {
  Construction c = described(Makes::kPoint, "point.typed", "Point typed in {1}", {Need::kFrame}, 30, typed,
                             coordinates(""));
  c.reads_frame = true;
  return c;
}

Construction point_stepped() {
  Construction c = described(Makes::kPoint, "point.stepped", "Point a step from {1}, along the axes of {2}",
                             {Need::kPoint, Need::kFrame}, 24, stepped, coordinates("d"));
  c.reads_frame = true;
  return c;
}

Construction point_polar() {
  Construction c = described(Makes::kPoint, "point.polar", "Point at a radius and angle round {1}, in {2}",
                             {Need::kPoint, Need::kFrame}, 27, polar,
                             {{"radius", "Radius", Quantity::kLength, "10mm"},
                              {"angle", "Angle", Quantity::kAngle, "0"},
                              {"height", "dZ", Quantity::kLength, "0mm"}});
  c.reads_frame = true;
  return c;
}

Construction point_along() {
  return described(Makes::kPoint, "point.along", "Point a distance from {1}, along {2}",
                   {Need::kPoint, Need::kDirection}, 25, along_direction,
                   {{"distance", "Distance", Quantity::kLength, "10mm"}});
}

Construction point_along_two() {
  Construction c = described(Makes::kPoint, "point.along-two", "Point steps from {1} along {2} and {3}",
                             {Need::kPoint, Need::kDirection, Need::kDirection}, 26, along_two,
                             {{"first", "Along the first", Quantity::kLength, "10mm"},
                              {"second", "Along the second", Quantity::kLength, "10mm"},
                              {"square", "Square to both", Quantity::kLength, "0mm"}});
  c.ordered = true;
  return c;
}

Construction point_of_box() {
  Construction c = described(Makes::kPoint, "point.of-box", "Point of the box around the body of {1}, in {2}",
                             {Need::kOfBody, Need::kFrame}, 48, points_of_box);
  c.reads_frame = true;
  c.takes_time = true;
  return c;
}

}  // namespace anvil
