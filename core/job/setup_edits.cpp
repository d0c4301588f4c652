#include "job/setup_edits.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>

namespace anvil {
namespace {

Setup* find_setup(Job& job, int id) {
  Entry* entry = job.entries.edit_where([&](const Entry& e) { return e.id == id && e.setup(); });
  return entry ? std::get_if<Setup>(&entry->content) : nullptr;
}

std::string next_operation(const Job& job) {
  for (int n = 10;; n += 10) {
    std::string name = fmt::format("OP{}", n);
    if (std::none_of(job.entries.begin(), job.entries.end(), [&](const Entry& e) { return e.name == name; }))
      return name;
  }
}

std::string next_offset(const Job& job) {
  std::vector<WorkOffset> used;
  for (const Entry& entry : job.entries)
    if (entry.setup())
      if (const auto offset = work_offset_from(entry.setup()->offset)) used.push_back(*offset);
  const auto is_used = [&](const WorkOffset& offset) {
    return std::any_of(used.begin(), used.end(), [&](const WorkOffset& o) { return same_offset(o, offset); });
  };
  std::optional<WorkOffset> offset = WorkOffset();
  while (offset && is_used(*offset)) offset = next_work_offset(*offset);
  return work_offset_text(offset.value_or(WorkOffset()));  // when all are used the setup says so
}

Job added_setup(Job job, Setup setup, int* added) {
  setup.offset = next_offset(job);
  const int id = job.next_id++;
  const std::string name = next_operation(job);
  job.entries.push_back({id, name, true, std::move(setup)});
  if (added) *added = id;
  return with_reading_frame(std::move(job), id);
}

}  // namespace

Job with_setup(Job job, int frame, int* added) {
  const Entry* target = job.find(frame);
  if (!target || !target->datum() || target->datum()->makes != Makes::kFrame) return job;
  Setup setup;
  setup.frame = Reference{EntryReference{frame}, {}};
  setup.unit = job.display.unit;
  for (const Entry& entry : job.entries)
    if (const Setup* before = entry.setup()) {
      setup.machine = before->machine;
      setup.place = before->place;
      setup.unit = before->unit;
      if (before->stock.kind != Stock::Kind::kNone) {
        setup.stock = {};
        setup.stock.kind = Stock::Kind::kOfSetup;
        setup.stock.setup = entry.id;
      }
    }
  return added_setup(std::move(job), std::move(setup), added);
}

Job with_setup_changed(Job job, int id, const Setup& setup) {
  if (Setup* known = find_setup(job, id)) *known = setup;
  return job;
}

Job with_copied_setup(Job job, int id, int* added) {
  const Setup* known = find_setup(job, id);
  if (!known) return job;
  Setup copy = *known;
  for (ToolPlane& plane : copy.planes) plane.offset.clear();
  return added_setup(std::move(job), std::move(copy), added);
}

Job with_flipped_setup(Job job, int id, char about, int* added) {
  const Setup* known = find_setup(job, id);
  const Entry* entry = job.find(id);
  if (!known) return job;
  Setup flipped = *known;
  flipped.planes.clear();
  if (flipped.stock.kind != Stock::Kind::kNone && flipped.stock.kind != Stock::Kind::kOfSetup) {
    flipped.stock = {};
    flipped.stock.kind = Stock::Kind::kOfSetup;
    flipped.stock.setup = id;
  }
  Recipe turned;
  turned.construction = "frame.copied";
  turned.inputs = {known->frame};
  turned.parameters = {{about == 'Y' ? "ry" : "rx", "180"}};
  const std::string name = entry->name + " turned over";
  int frame = 0;
  job = with_datum(std::move(job), turned, &frame);
  job = with_name(std::move(job), frame, name);
  flipped.frame = Reference{EntryReference{frame}, {}};
  return added_setup(std::move(job), std::move(flipped), added);
}

Job with_tool_plane(Job job, int id, int frame) {
  Setup* setup = find_setup(job, id);
  const Entry* target = job.find(frame);
  if (!setup || !target || !target->is_frame()) return job;
  const std::vector<int> of_it = dependents(job, id);
  if (std::find(of_it.begin(), of_it.end(), frame) != of_it.end()) return job;  // made from its stock
  setup->planes.push_back({target->name, Reference{EntryReference{frame}, {}}});
  // A reference points backward: the frame may have been made after the setup.
  const auto place_of = [&](int wanted) {
    return std::find_if(job.entries.begin(), job.entries.end(),
                        [&](const Entry& e) { return e.id == wanted; }) -
           job.entries.begin();
  };
  const auto at = place_of(id), made = place_of(frame);
  if (made < at) return job;
  const std::vector<int> followers = dependents(job, id);
  const auto follows = [&](size_t place) {
    const int here = job.entries[place].id;
    return here == id || std::find(followers.begin(), followers.end(), here) != followers.end();
  };
  std::vector<size_t> order(job.entries.size());
  std::iota(order.begin(), order.end(), size_t{0});
  std::stable_partition(order.begin() + at, order.begin() + made + 1, [&](size_t i) { return !follows(i); });
  job.entries.put_in_order(order);
  return job;
}

Job without_tool_plane(Job job, int id, size_t plane) {
  Setup* setup = find_setup(job, id);
  if (!setup || plane >= setup->planes.size()) return job;
  setup->planes.erase(setup->planes.begin() + static_cast<long>(plane));
  job.tool_plane = 0;
  return job;
}

Job with_moved_tool_plane(Job job, int id, size_t plane, int by) {
  Setup* setup = find_setup(job, id);
  const auto other = static_cast<long>(plane) + by;
  if (!setup || plane >= setup->planes.size() || other < 0 ||
      other >= static_cast<long>(setup->planes.size()))
    return job;
  std::swap(setup->planes[plane], setup->planes[static_cast<size_t>(other)]);
  return job;
}

Job with_active_plane(Job job, int plane) {
  const Entry* entry = job.find(job.reading_frame);
  const Setup* setup = entry ? entry->setup() : nullptr;
  if (setup && plane >= 0 && plane <= static_cast<int>(setup->planes.size())) job.tool_plane = plane;
  return job;
}

Job with_machine(Job job, const Machine& machine) {
  job.machines[machine.id] = machine;
  return job;
}

}  // namespace anvil
