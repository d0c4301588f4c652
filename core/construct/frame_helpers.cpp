#include "construct/frame_helpers.h"

#include <fmt/format.h>

#include <sstream>

namespace anvil {
namespace {

const char* const kShifts[] = {"dx", "dy", "dz"};
const char* const kTurns[] = {"rx", "ry", "rz"};

gp_Ax2 shifted_and_turned(const gp_Ax2& frame, const Inputs& in) {
  gp_Ax2 moved = frame.Translated(gp_Vec(frame.XDirection()) * in.numbers.at("dx") +
                                  gp_Vec(frame.YDirection()) * in.numbers.at("dy") +
                                  gp_Vec(frame.Direction()) * in.numbers.at("dz"));
  moved.Rotate(gp_Ax1(moved.Location(), moved.XDirection()), in.numbers.at("rx"));
  moved.Rotate(gp_Ax1(moved.Location(), moved.YDirection()), in.numbers.at("ry"));
  moved.Rotate(moved.Axis(), in.numbers.at("rz"));
  return moved;
}

}  // namespace

std::vector<Solution> quarter_turns(const gp_Ax2& frame) {
  static const char* const kKeys[] = {"turn-0", "turn-90", "turn-180", "turn-270"};
  std::vector<Solution> solutions;
  for (int i = 0; i < 4; ++i) {
    gp_Ax2 turned = frame;
    turned.Rotate(frame.Axis(), i * kPi / 2);
    solutions.push_back({FrameDatum{turned}, kKeys[i], i == 0 ? "" : fmt::format("turned {}°", 90 * i)});
  }
  return solutions;
}

gp_Ax2 moved_to(const gp_Ax2& frame, const gp_Pnt& zero) {
  gp_Ax2 moved = frame;
  moved.SetLocation(zero);
  return moved;
}

Construction framing(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                     std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters,
                     ShiftIs shift) {
  const char* const labels[] = {"X", "Y", "Z"};
  for (int i = 0; i < 3; ++i)
    parameters.push_back({kShifts[i], std::string("d") + labels[i], Quantity::kLength, "0mm"});
  for (int i = 0; i < 3; ++i)
    parameters.push_back({kTurns[i], std::string("about ") + labels[i], Quantity::kAngle, "0"});
  for (size_t i = parameters.size() - 6; i < parameters.size(); ++i)
    parameters[i].aside = shift == ShiftIs::kAside;
  return described(
      Makes::kFrame, id, sentence, std::move(roles), rank,
      [solve = std::move(solve)](const Inputs& in) {
        Solutions solutions = solve(in);
        if (solutions)
          for (Solution& solution : *solutions) {
            gp_Ax2& frame = std::get<FrameDatum>(solution.value).frame;
            frame = shifted_and_turned(frame, in);
          }
        return solutions;
      },
      std::move(parameters));
}

std::vector<std::string> shift_and_turn_ids() {
  std::vector<std::string> ids(std::begin(kShifts), std::end(kShifts));
  ids.insert(ids.end(), std::begin(kTurns), std::end(kTurns));
  return ids;
}

gp_Pnt box_point(const Box& box, int i) {
  const gp_XYZ size = box.size();
  const int x = i % 3, y = i / 3 % 3, z = i / 9;  // halves
  return gp_Pnt(box.min.X() + size.X() * x / 2, box.min.Y() + size.Y() * y / 2,
                box.min.Z() + size.Z() * z / 2);
}

std::vector<BoxPoint> box_points(const Box& box) {
  static const char* const kSides[] = {"-", "0", "+"};
  std::vector<BoxPoint> points;
  for (int i = 0; i < 27; ++i) {
    const int x = i % 3, y = i / 3 % 3, z = i / 9;
    points.push_back({box_point(box, i), fmt::format("x{}.y{}.z{}", kSides[x], kSides[y], kSides[z]),
                      fmt::format("X{} Y{} Z{}", kSides[x], kSides[y], kSides[z])});
  }
  return points;
}

Result<std::vector<gp_Pnt>> points_from(const std::string& text, double mm_per_number) {
  std::vector<gp_Pnt> points;
  std::istringstream rows(text);
  for (std::string row; std::getline(rows, row, ';');) {
    if (row.find_first_not_of(" \t\n") == std::string::npos) continue;
    for (char& c : row)
      if (c == ',') c = ' ';
    std::istringstream in(row);
    double v[3];
    std::string more;
    if (!(in >> v[0] >> v[1] >> v[2]) || in >> more)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("point {} is not three numbers: X Y Z, and a semicolon before the next",
                                points.size() + 1));
    points.push_back(gp_Pnt(gp_XYZ(v[0], v[1], v[2]) * mm_per_number));
  }
  return points;
}

}  // namespace anvil
