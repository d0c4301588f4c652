#include "setup/kinematics.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

// Directions nearer to a rotary axis than this leave its angle undetermined.
constexpr double kSingular_rad = 1e-9;
constexpr double kForward = 1e-9;  // bound of the forward check
constexpr double kTurn = 2 * kPi;

// The angle about `axis` that brings `from` to `to`; nothing where they lie along the axis.
std::optional<double> angle_about(const gp_Dir& axis, const gp_Vec& from, const gp_Vec& to) {
  const gp_Vec a(axis), u = from - a * from.Dot(a), v = to - a * to.Dot(a);
  if (u.Magnitude() < kSingular_rad || v.Magnitude() < kSingular_rad) return std::nullopt;
  return std::atan2(a.Dot(u.Crossed(v)), u.Dot(v));
}

// How the part's direction looks from the machine less how the tool's does: zero when they are one.
gp_Vec mismatch(const Machine& machine, const gp_Dir& direction, const Angles& angles) {
  return gp_Vec(direction).Transformed(table_motion(machine, angles)) -
         gp_Vec(0, 0, 1).Transformed(head_motion(machine, angles));
}

// Newton steps against what rounding left; where an axis is free they change nothing.
void polish(const Machine& machine, const gp_Dir& direction, Angles& angles) {
  for (int round = 0; round < 2 && !angles.empty(); ++round) {
    const gp_Vec off = mismatch(machine, direction, angles);
    Eigen::MatrixXd jacobian(3, angles.size());
    for (size_t i = 0; i < angles.size(); ++i) {
      constexpr double kStep = 1e-6;
      Angles ahead = angles, behind = angles;
      ahead[i] += kStep;
      behind[i] -= kStep;
      const gp_Vec change =
          (mismatch(machine, direction, ahead) - mismatch(machine, direction, behind)) / (2 * kStep);
      jacobian.col(static_cast<long>(i)) << change.X(), change.Y(), change.Z();
    }
    Eigen::JacobiSVD<Eigen::MatrixXd> svd(jacobian, Eigen::ComputeThinU | Eigen::ComputeThinV);
    svd.setThreshold(1e-5);
    const Eigen::VectorXd step = svd.solve(Eigen::Vector3d(off.X(), off.Y(), off.Z()));
    Angles better = angles;
    for (size_t i = 0; i < angles.size(); ++i) better[i] -= step(static_cast<long>(i));
    if (mismatch(machine, direction, better).Magnitude() < off.Magnitude()) angles = better;
  }
}

// The part's direction turned by table axis i, or the tool's by head axis i; the other axis at rest.
struct Meeting {
  gp_Vec start[2];  // what axis i turns
  double sense[2];  // and which way it turns it towards the common direction
};

// With both axes on one side the second turns its own load, and the first turns the other side back.
Meeting meeting_of(const Machine& machine, const gp_Dir& direction) {
  const gp_Vec d(direction), tool(0, 0, 1);
  const bool first_table = machine.rotary[0].on_table, second_table = machine.rotary[1].on_table;
  if (first_table && second_table) return {{tool, d}, {-1, 1}};
  if (!first_table && !second_table) return {{d, tool}, {-1, 1}};
  return {{first_table ? d : tool, second_table ? d : tool}, {1, 1}};
}

// The angle, at the first axis, of the spherical triangle of the two axes and the common direction: sides
// `between`, `from_first` and `from_second` (half-angle formula, exact also where a side is tiny; W. Smart,
// Text-Book on Spherical Astronomy, 1977, art. 10). Zero or pi where the cones only touch.
double angle_at_first(double between, double from_first, double from_second) {
  const double s = (between + from_first + from_second) / 2;
  const double over = std::sin(s - between) * std::sin(s - from_first),
               under = std::sin(s) * std::sin(s - from_second);
  return 2 * std::atan2(std::sqrt(std::max(0.0, over)), std::sqrt(std::max(0.0, under)));
}

// Where the first axis turns the tool, which always starts from the same place, that may lie beyond the
// second axis: then the side whose angle is counted further is the one that reads lower.
bool starts_opposite(const gp_Vec& start, const gp_Vec& first, const gp_Vec& towards_second) {
  const bool is_tool = start.IsEqual(gp_Vec(0, 0, 1), 1e-12, 1e-12);
  return is_tool && (start - first * start.Dot(first)).Dot(towards_second) < 0;
}

Angles angles_to(const Machine& machine, const Meeting& meet, const gp_Vec& common, const Angles& before,
                 std::vector<bool>& free) {
  Angles angles(2);
  free.assign(2, false);
  for (size_t i = 0; i < 2; ++i) {
    const auto angle = angle_about(machine.rotary[i].axis.Direction(), meet.start[i], common);
    free[i] = !angle;
    angles[i] = angle ? meet.sense[i] * *angle : (i < before.size() ? before[i] : 0);
  }
  return angles;
}

// One pose for each side of the plane of the two axes the common direction may lie on. Which side it is names
// the solution: that does not change with windings, nor with where the machine comes from.
std::vector<Pose> two_axis_poses(const Machine& machine, const gp_Dir& direction, const Angles& before,
                                 double& missing_rad) {
  const gp_Vec a(machine.rotary[0].axis.Direction()), b(machine.rotary[1].axis.Direction());
  const Meeting meet = meeting_of(machine, direction);
  const double from_first = meet.start[0].Angle(a), from_second = meet.start[1].Angle(b),
               between = a.Angle(b);
  // How far the cones are from touching, where they do not meet.
  missing_rad = std::max({between - from_first - from_second, from_first - from_second - between,
                          from_second - from_first - between, from_first + from_second + between - kTurn});
  const double turn = angle_at_first(between, from_first, from_second);
  const gp_Vec towards = (b - a * a.Dot(b)).Normalized(), aside = a.Crossed(towards);
  const bool touching = std::sin(turn) * std::sin(from_first) < kSingular_rad;
  const double positive_side = meet.sense[0] * (starts_opposite(meet.start[0], a, towards) ? -1 : 1);
  std::vector<Pose> poses;
  for (const double side : {1.0, -1.0}) {
    if (side < 0 && touching) break;
    const gp_Vec common = a * std::cos(from_first) +
                          (towards * std::cos(turn) + aside * (side * std::sin(turn))) * std::sin(from_first);
    Pose pose;
    pose.angles = angles_to(machine, meet, common, before, pose.free);
    pose.key = touching ? "only" : side * positive_side > 0 ? "first-positive" : "first-negative";
    poses.push_back(std::move(pose));
  }
  return poses;
}

std::vector<Pose> one_axis_poses(const Machine& machine, const gp_Dir& direction, const Angles& before,
                                 double& missing_rad) {
  const RotaryAxis& rotary = machine.rotary.front();
  const gp_Vec from = rotary.on_table ? gp_Vec(direction) : gp_Vec(0, 0, 1),
               to = rotary.on_table ? gp_Vec(0, 0, 1) : gp_Vec(direction);
  const gp_Vec axis(rotary.axis.Direction());
  missing_rad = std::abs(axis.Angle(from) - axis.Angle(to));
  const auto angle = angle_about(rotary.axis.Direction(), from, to);
  Pose pose;
  pose.angles = {angle ? *angle : before.empty() ? 0 : before[0]};
  pose.free = {!angle};
  pose.key = "only";
  return {pose};
}

// The winding nearest to where the axis was, within its limits where there is one.
double wound(const RotaryAxis& axis, double angle, double before) {
  double best = angle + kTurn * std::round((before - angle) / kTurn);
  if (!axis.limits_rad) return best;
  constexpr double kSlack = 1e-9;
  const auto within = [&](double a) {
    return a >= axis.limits_rad->from - kSlack && a <= axis.limits_rad->to + kSlack;
  };
  if (within(best)) return best;
  double found = best, least = 1e300;
  const int first = static_cast<int>(std::floor((axis.limits_rad->from - angle) / kTurn)),
            last = static_cast<int>(std::ceil((axis.limits_rad->to - angle) / kTurn));
  for (int turns = first; turns <= last; ++turns) {
    const double a = angle + kTurn * turns;
    if (!within(a) || std::abs(a - before) >= least) continue;
    least = std::abs(a - before);
    found = a;
  }
  if (least < 1e300) return found;
  return std::remainder(angle, kTurn);  // beyond: told as it reads on the screen
}

void settle(const Machine& machine, const Angles& before, Pose& pose) {
  for (size_t i = 0; i < pose.angles.size(); ++i) {
    const RotaryAxis& axis = machine.rotary[i];
    const double from = i < before.size() ? before[i] : 0;
    pose.angles[i] = wound(axis, pose.angles[i], from);
    if (std::abs(pose.angles[i]) < 1e-12) pose.angles[i] = 0;
    pose.travel_rad = std::max(pose.travel_rad, std::abs(pose.angles[i] - from));
    if (!axis.limits_rad) continue;
    constexpr double kSlack = 1e-9;
    if (pose.angles[i] < axis.limits_rad->from - kSlack || pose.angles[i] > axis.limits_rad->to + kSlack)
      pose.out_of +=
          fmt::format("{}{} {:.3f}° is beyond {:g}…{:g}°", pose.out_of.empty() ? "" : ", ", axis.name,
                      degrees(pose.angles[i]), degrees(axis.limits_rad->from), degrees(axis.limits_rad->to));
  }
}

void order(const Machine& machine, std::vector<Pose>& poses) {
  const auto rank = [&](const Pose& pose) {
    const double by_sign = machine.prefers == Prefers::kFirstPositive   ? -pose.angles[0]
                           : machine.prefers == Prefers::kFirstNegative ? pose.angles[0]
                                                                        : pose.travel_rad;
    return std::tuple(!pose.out_of.empty(), by_sign);
  };
  std::stable_sort(poses.begin(), poses.end(),
                   [&](const Pose& p, const Pose& q) { return rank(p) < rank(q); });
}

gp_Trsf motion_of(const Machine& machine, const Angles& angles, bool table) {
  gp_Trsf motion;
  for (size_t i = 0; i < machine.rotary.size() && i < angles.size(); ++i) {
    if (machine.rotary[i].on_table != table) continue;
    gp_Trsf turn;
    turn.SetRotation(machine.rotary[i].axis, angles[i]);
    motion.Multiply(turn);  // the first carries the second
  }
  return motion;
}

}  // namespace

std::string small_angle_text(double rad) {
  const double deg = degrees(rad);
  return deg >= 0.001 ? fmt::format("{:.3f}°", deg) : fmt::format("{:.2g}°", deg);
}

bool Pose::is_singular() const {
  return std::find(free.begin(), free.end(), true) != free.end();
}

gp_Trsf table_motion(const Machine& machine, const Angles& angles) {
  return motion_of(machine, angles, true);
}

gp_Trsf head_motion(const Machine& machine, const Angles& angles) {
  return motion_of(machine, angles, false);
}

gp_Dir towards_tool_at(const Machine& machine, const Angles& angles) {
  return gp_Dir(0, 0, 1)
      .Transformed(head_motion(machine, angles))
      .Transformed(table_motion(machine, angles).Inverted());
}

Result<std::vector<Pose>> poses_for(const Machine& machine, const gp_Dir& towards_tool, const Angles& before,
                                    double within_rad) {
  std::vector<Pose> poses;
  double missing_rad = towards_tool.Angle(gp_Dir(0, 0, 1));
  if (machine.rotary.size() == 2) {
    poses = two_axis_poses(machine, towards_tool, before, missing_rad);
  } else if (machine.rotary.size() == 1) {
    poses = one_axis_poses(machine, towards_tool, before, missing_rad);
  } else {
    poses.emplace_back();
    poses.front().key = "only";
  }
  for (Pose& pose : poses) {
    polish(machine, towards_tool, pose.angles);
    pose.off_rad = mismatch(machine, towards_tool, pose.angles).Magnitude();
  }
  std::erase_if(poses, [&](const Pose& pose) { return pose.off_rad > within_rad + kForward; });
  if (poses.empty()) {
    Refusal refusal{RefusalCode::kGeometry, fmt::format("{} cannot point the tool there: {} are missing",
                                                        machine.name, small_angle_text(missing_rad))};
    refusal.facts["angle_rad"] = missing_rad;
    return refuse(std::move(refusal));
  }
  for (Pose& pose : poses) settle(machine, before, pose);
  order(machine, poses);
  return poses;
}

bool reaches(const Machine& machine, const gp_Dir& towards_tool, double within_rad) {
  const auto poses = poses_for(machine, towards_tool, {}, within_rad);
  return poses && poses->front().out_of.empty();
}

std::string angles_text(const Machine& machine, const Angles& angles, int decimals) {
  std::string text;
  for (size_t i = 0; i < angles.size(); ++i)
    text += fmt::format("{}{} {}", i ? "  " : "", machine.rotary[i].name,
                        format_angle(angles[i], {Unit::kMillimetre, decimals, decimals}));
  return text;
}

}  // namespace anvil
