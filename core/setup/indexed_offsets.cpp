#include "setup/indexed_offsets.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/units.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "setup/program_text.h"

namespace anvil {
namespace {

// Offsets with whose they are: no two planes may be written to one place.
class OffsetsInUse {
 public:
  explicit OffsetsInUse(FurtherOffsets further) : further_(further) {}

  Result<void> take(const WorkOffset& offset, const std::string& plane) {
    if (const std::string* other = holder_of(offset))
      return refuse(RefusalCode::kBadInput, fmt::format("{} and {} would both be written to {}", *other,
                                                        plane, work_offset_text(offset)));
    all_.emplace_back(offset, plane);
    return {};
  }
  // The next free one after `last`.
  [[nodiscard]] std::optional<WorkOffset> free_after(WorkOffset last) const {
    for (auto next = next_work_offset(last); next; next = next_work_offset(*next))
      if (!holder_of(*next)) return next;
    return std::nullopt;
  }

 private:
  [[nodiscard]] const std::string* holder_of(const WorkOffset& offset) const {
    for (const auto& [known, plane] : all_)
      if (same_offset(known, offset, further_)) return &plane;
    return nullptr;
  }
  FurtherOffsets further_;
  std::vector<std::pair<WorkOffset, std::string>> all_;
};

Result<std::vector<WorkOffset>> offsets_of(const Setup& setup, const std::string& own_name, size_t planes,
                                           FurtherOffsets further) {
  const auto first = work_offset_from(setup.offset);
  if (!first) return refuse(first);
  OffsetsInUse in_use(further);
  if (auto taken = in_use.take(*first, own_name); !taken) return refuse(taken);
  std::vector<WorkOffset> all{*first};
  for (const ToolPlane& plane : setup.planes) {
    all.push_back(*first);
    if (plane.offset.empty()) continue;
    const auto own = work_offset_from(plane.offset);
    if (!own) return refuse(RefusalCode::kBadInput, plane.name + ": " + own.error().sentence);
    if (auto taken = in_use.take(*own, plane.name); !taken) return refuse(taken);
    all.back() = *own;
  }
  all.resize(planes, *first);
  WorkOffset last = *first;
  for (size_t i = 1; i < planes; ++i) {
    if (!setup.planes[i - 1].offset.empty()) continue;
    const auto next = in_use.free_after(last);
    if (!next)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("there is no free work offset after {} for {}: give it one of its own",
                                work_offset_text(last), setup.planes[i - 1].name));
    if (auto taken = in_use.take(*next, setup.planes[i - 1].name); !taken) return refuse(taken);
    all[i] = last = *next;
  }
  return all;
}

gp_Vec tip_shift(const Machine& machine, const Angles& angles, double gauge_mm) {
  const gp_Pnt tip(0, 0, -gauge_mm);
  return gp_Vec(tip, tip.Transformed(head_motion(machine, angles)));
}

std::string beyond_travel(const Machine& machine, const gp_Pnt& at) {
  std::string remark;
  for (const auto& [axis, travel] : machine.linear_mm) {
    const double value = coordinate(at, axis[0] - 'X');
    if (value >= travel.from && value <= travel.to) continue;
    remark += fmt::format("{}{} {:.3f} is beyond {:g}…{:g}", remark.empty() ? "" : ", ", axis, value,
                          travel.from, travel.to);
  }
  return remark;
}

struct Told {
  Unit unit;
  [[nodiscard]] std::string length(double mm) const { return format_length(mm, {unit}); }
  [[nodiscard]] std::vector<std::pair<std::string, std::string>> words(const gp_Pnt& p) const {
    return {{"X", length(p.X())}, {"Y", length(p.Y())}, {"Z", length(p.Z())}};
  }
  [[nodiscard]] std::string point(const gp_Pnt& p) const {
    return fmt::format("X{} Y{} Z{}", length(p.X()), length(p.Y()), length(p.Z()));
  }
};

std::string words_of(const Machine& machine, const Angles& angles) {
  std::string words;
  for (size_t i = 0; i < angles.size(); ++i)
    words += fmt::format(" {}{:.3f}", machine.rotary[i].name, degrees(angles[i]) + 0.0);
  return words;
}

void write_plane(ProgramText& program, const Machine& machine, const IndexedOffset& o, const Told& told) {
  program.comment("plane ", fmt::format("{}: {}, rotary{}", o.plane, work_offset_text(o.offset),
                                        machine.rotary.empty() ? " none" : words_of(machine, o.angles)));
  program.comment("zero in the setup: ", told.point(o.in_setup));
  program.comment("in the machine, all angles at zero: ", told.point(o.at_zero));
  for (size_t i = machine.rotary.size(); i-- > 0;) {
    const RotaryAxis& axis = machine.rotary[i];
    program.comment(axis.on_table ? "table " : "head ",
                    fmt::format("{} by {:.3f} about {}, at {}", axis.name, degrees(o.angles[i]),
                                direction_text(axis.axis.Direction()), told.point(axis.axis.Location())));
  }
  if (std::abs(o.turn_rad) > 1e-9)
    program.comment("X of the plane lies ",
                    fmt::format("{:.3f} deg from machine X, about the tool", degrees(o.turn_rad)));
  if (!o.remark.empty()) program.comment("look: ", o.remark);
  const auto write = work_offset_write(o.offset, machine.further_offsets);
  const std::string named = work_offset_text(o.offset);
  if (!write)
    return program.comment("not written: ", fmt::format("{} {}; the machine file does not say how {} is set",
                                                        named, told.point(o.in_machine), named));
  if (o.offset.kind == WorkOffset::Kind::kFurther)
    program.comment("set by ", fmt::format("{}: {}, as the machine file says", *write, named));
  program.block(*write, told.words(o.in_machine));
}

}  // namespace

Result<std::vector<IndexedOffset>> indexed_offsets(const Machine& machine, const Setup& setup,
                                                   const SetupValue& value, const PlaceInMachine& place) {
  const std::string own_name = value.planes.empty() ? std::string() : value.planes.front().name;
  const auto offsets = offsets_of(setup, own_name, value.planes.size(), machine.further_offsets);
  if (!offsets) return refuse(offsets);
  const gp_Trsf into_machine = place.from_setup();
  std::vector<IndexedOffset> all;
  for (size_t i = 0; i < value.planes.size(); ++i) {
    const PlaneValue& plane = value.planes[i];
    const Pose* pose = plane.pose();
    if (!pose || !plane.problem.empty()) continue;
    IndexedOffset o;
    o.plane = plane.name;
    o.plane_index = i;
    o.offset = (*offsets)[i];
    o.angles = pose->angles;
    o.in_setup = plane.in_setup.Location();
    o.at_zero = o.in_setup.Transformed(into_machine);
    const gp_Trsf table = table_motion(machine, o.angles);
    o.in_machine = o.at_zero.Transformed(table).Translated(-tip_shift(machine, o.angles, place.gauge_mm));
    const gp_Dir x = plane.in_setup.XDirection()
                         .Transformed(into_machine)
                         .Transformed(table)
                         .Transformed(head_motion(machine, o.angles).Inverted());
    o.turn_rad = std::atan2(x.Y(), x.X());
    o.remark = beyond_travel(machine, o.in_machine);
    all.push_back(std::move(o));
  }
  return all;
}

std::string unwritten_text(const Machine& machine, const std::vector<IndexedOffset>& offsets) {
  std::string which;
  int count = 0;
  for (const IndexedOffset& o : offsets) {
    if (work_offset_write(o.offset, machine.further_offsets)) continue;
    which += fmt::format("{}{} of {}", which.empty() ? "" : ", ", work_offset_text(o.offset), o.plane);
    ++count;
  }
  if (count == 0) return {};
  return fmt::format("{} {} not written: the machine file does not say how {} set (\"further_offsets\").",
                     which, count == 1 ? "is" : "are", count == 1 ? "it is" : "they are");
}

std::string offsets_program(const std::string& setup_name, const Machine& machine,
                            const PlaceInMachine& place, const std::vector<IndexedOffset>& offsets,
                            Unit unit) {
  const Told told{unit};
  ProgramText program;
  program.mark();
  program.comment("setup ", setup_name + " on " + machine.name);
  program.comment("work zero in the machine, all angles at zero: ", told.point(place.zero));
  if (std::abs(place.turn_rad) > 1e-12)
    program.comment("work X turned ", fmt::format("{:.3f} deg about machine Z", degrees(place.turn_rad)));
  if (place.gauge_mm != 0) program.comment("gauge length of the tool: ", told.length(place.gauge_mm));
  program.block(unit == Unit::kInch ? "G20 G90" : "G21 G90");
  for (const IndexedOffset& o : offsets) write_plane(program, machine, o, told);
  program.block("M30");
  program.mark();
  return program.written();
}

}  // namespace anvil
