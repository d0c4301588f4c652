#include "setup/orientation.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/plain_text.h"
#include "base/units.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "setup/program_text.h"

namespace anvil {
namespace {

using nlohmann::json;

struct Rotation {
  double m[3][3];  // columns: X, Y, Z of the frame
};

Rotation rotation_of(const gp_Ax2& frame) {
  Rotation r{};
  const gp_Dir columns[] = {frame.XDirection(), frame.YDirection(), frame.Direction()};
  for (int column = 0; column < 3; ++column)
    for (int row = 0; row < 3; ++row) r.m[row][column] = coordinate(columns[column], row);
  return r;
}

std::string number(double value) {
  return fmt::format("{:.9f}", std::abs(value) < 5e-10 ? 0.0 : value);
}

std::string matrix_rows(const PlaneValue& plane, double mm) {
  const Rotation r = rotation_of(plane.in_setup);
  std::string text;
  for (int row = 0; row < 3; ++row)
    text += fmt::format("{} {} {} {}\n", number(r.m[row][0]), number(r.m[row][1]), number(r.m[row][2]),
                        number(coordinate(plane.in_setup.Location(), row) / mm));
  return text + "0 0 0 1\n";
}

std::string vector_lines(const PlaneValue& plane, double mm) {
  const auto line = [](const char* name, const gp_XYZ& p) {
    return fmt::format("{} {} {} {}\n", name, number(p.X()), number(p.Y()), number(p.Z()));
  };
  return line("ZERO", plane.in_setup.Location().XYZ() / mm) + line("IJK", plane.in_setup.Direction().XYZ()) +
         line("X", plane.in_setup.XDirection().XYZ());
}

std::string rotary_block(const PlaneValue& plane, const Machine& machine) {
  std::vector<std::pair<std::string, std::string>> words;
  for (size_t i = 0; i < machine.rotary.size(); ++i)
    words.emplace_back(machine.rotary[i].name, fmt::format("{:.4f}", degrees(plane.pose()->angles[i]) + 0.0));
  ProgramText program;
  program.block("G0", words);
  return program.written();
}

// For an offset that the machine file says how to set.
std::string offset_block(const IndexedOffset& offset, const Machine& machine, const Display& display) {
  const gp_Pnt& at = offset.in_machine;
  ProgramText program;
  program.block(*work_offset_write(offset.offset, machine.further_offsets),
                {{"X", format_length(at.X(), display)},
                 {"Y", format_length(at.Y(), display)},
                 {"Z", format_length(at.Z(), display)}});
  return program.written();
}

json as_json(const PlaneValue& plane, const Machine* machine, const Display& display) {
  const double mm = mm_per(display.unit);
  const auto list = [](const gp_XYZ& p) { return json::array({p.X(), p.Y(), p.Z()}); };
  const EulerAngles euler = euler_angles(plane.in_setup);
  json j{{"name", plane.name},
         {"unit", unit_name(display.unit)},
         {"zero", list(plane.in_setup.Location().XYZ() / mm)},
         {"x", list(plane.in_setup.XDirection().XYZ())},
         {"y", list(plane.in_setup.YDirection().XYZ())},
         {"z", list(plane.in_setup.Direction().XYZ())},
         {"euler_zxz", {degrees(euler.zxz[0]), degrees(euler.zxz[1]), degrees(euler.zxz[2])}},
         {"euler_fixed_xyz",
          {degrees(euler.fixed_xyz[0]), degrees(euler.fixed_xyz[1]), degrees(euler.fixed_xyz[2])}}};
  if (!machine || !plane.pose()) return j;
  json rotary = json::object();
  for (size_t i = 0; i < machine->rotary.size(); ++i)
    rotary[machine->rotary[i].name] = degrees(plane.pose()->angles[i]);
  j["machine"] = machine->name;
  j["rotary"] = rotary;
  return j;
}

}  // namespace

EulerAngles euler_angles(const gp_Ax2& frame) {
  const Rotation r = rotation_of(frame);
  constexpr double kPole = 1e-12;
  EulerAngles e;
  const double tilt = std::hypot(r.m[0][2], r.m[1][2]);
  e.zxz[1] = std::atan2(tilt, r.m[2][2]);
  if (tilt > kPole) {
    e.zxz[0] = std::atan2(r.m[0][2], -r.m[1][2]);
    e.zxz[2] = std::atan2(r.m[2][0], r.m[2][1]);
  } else {
    e.zxz[0] = std::atan2(r.m[1][0], r.m[0][0]);
  }
  const double level = std::hypot(r.m[0][0], r.m[1][0]);
  e.fixed_xyz[1] = std::atan2(-r.m[2][0], level);
  if (level > kPole) {
    e.fixed_xyz[0] = std::atan2(r.m[2][1], r.m[2][2]);
    e.fixed_xyz[2] = std::atan2(r.m[1][0], r.m[0][0]);
  } else {
    e.fixed_xyz[0] = std::atan2(-r.m[1][2], r.m[1][1]);
  }
  return e;
}

std::string orientation_heading(OrientationForm form, const std::string& plane_name) {
  if (form != OrientationForm::kRotary && form != OrientationForm::kOffset)
    return "# " + plain_text(plane_name) + "\n";
  ProgramText program;
  program.comment("plane ", plane_name);
  return program.written();
}

const std::vector<NamedForm>& orientation_forms() {
  static const std::vector<NamedForm> all{{"matrix", "4×4 matrix", OrientationForm::kMatrix},
                                          {"vectors", "Zero, I J K and X", OrientationForm::kVectors},
                                          {"rotary", "Rotary block", OrientationForm::kRotary},
                                          {"offset", "Offset block", OrientationForm::kOffset},
                                          {"json", "JSON", OrientationForm::kJson}};
  return all;
}

Result<std::string> orientation_text(OrientationForm form, const PlaneValue& plane, const Machine* machine,
                                     const IndexedOffset* offset, const Display& display) {
  const double mm = mm_per(display.unit);
  switch (form) {
    case OrientationForm::kMatrix:
      return matrix_rows(plane, mm);
    case OrientationForm::kVectors:
      return vector_lines(plane, mm);
    case OrientationForm::kRotary:
      if (!machine || !plane.pose())
        return refuse(RefusalCode::kBadInput,
                      machine ? plane.problem : "rotary angles want a machine: choose one in the setup");
      return rotary_block(plane, *machine);
    case OrientationForm::kOffset:
      if (!offset || !machine)
        return refuse(RefusalCode::kBadInput, plane.problem.empty()
                                                  ? "an offset wants a machine: choose one in the setup"
                                                  : plane.problem);
      if (!work_offset_write(offset->offset, machine->further_offsets))
        return refuse(
            RefusalCode::kBadInput,
            fmt::format("the machine file does not say how {} is set: add \"further_offsets\" to it",
                        work_offset_text(offset->offset)));
      return offset_block(*offset, *machine, display);
    case OrientationForm::kJson:
      break;
  }
  return as_json(plane, machine, display).dump(2) + "\n";
}

}  // namespace anvil
