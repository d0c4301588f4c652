#include "job/evaluate_setup.h"

#include <fmt/format.h>

#include <numeric>

#include "construct/frame_helpers.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "job/names.h"
#include "job/result_cache.h"
#include "part/element_content.h"
#include "setup/indexed_offsets.h"

namespace anvil {
namespace {

Result<gp_Ax2> frame_of(const Job& job, const Evaluation& so_far, const Reference& reference) {
  auto given = give(job, so_far, reference);
  if (!given) return refuse(given);
  if (!given->frame) return refuse(RefusalCode::kGeometry, "what it is zeroed in is no frame");
  return *given->frame;
}

void add_frame(KeyMaker& maker, const Result<gp_Ax2>& frame) {
  maker.add(frame.has_value());
  if (!frame) return maker.add(frame.error().sentence);
  add_to(maker, frame->Location().XYZ());
  add_to(maker, frame->Direction().XYZ());
  add_to(maker, frame->XDirection().XYZ());
}

// Where it is zeroed and where its tool planes stand, in their order.
struct Frames {
  Result<gp_Ax2> zero;
  std::vector<Result<gp_Ax2>> planes;
};

Frames frames_of(const Job& job, const Evaluation& so_far, const Setup& setup) {
  Frames frames{frame_of(job, so_far, setup.frame), {}};
  for (const ToolPlane& plane : setup.planes) frames.planes.push_back(frame_of(job, so_far, plane.frame));
  return frames;
}

// Over everything a setup's value is made from, but for its name.
ContentKey key_of(const Job& job, const Evaluation& so_far, const Entry& entry, const Frames& frames,
                  const Names& names, const std::string& twice) {
  const Setup& setup = *entry.setup();
  KeyMaker maker;
  maker.add("setup");
  maker.add(names);
  maker.add(texts_of(entry));
  maker.add(setup.offset);
  maker.add(twice);
  maker.add(setup.machine);
  if (const auto machine = job.machines.find(setup.machine); machine != job.machines.end())
    maker.add(machine_to_json(machine->second));
  add_frame(maker, frames.zero);
  for (const Result<gp_Ax2>& frame : frames.planes) add_frame(maker, frame);
  for (const ToolPlane& plane : setup.planes) {
    for (const std::string& text : {plane.name, plane.pose, plane.offset}) maker.add(text);
  }
  const Stock& stock = setup.stock;
  for (const int number : {static_cast<int>(stock.kind), static_cast<int>(stock.round),
                           static_cast<int>(stock.along), stock.body})
    maker.add(number);
  if (stock.kind == Stock::Kind::kOfSetup) {
    const auto other = so_far.entries.find(stock.setup);
    if (other != so_far.entries.end()) maker.add(other->second.key);
  }
  for (const int number : {static_cast<int>(job.display.unit), job.display.decimals,
                           job.display.angle_decimals, static_cast<int>(setup.unit)})
    maker.add(number);
  maker.add(job.tolerance.angular_rad);
  maker.add(so_far.part_key);
  add_to(maker, so_far.placement);
  return maker.key();
}

// The box of a shape known by its content; measuring takes long, so it is kept for whoever asks next.
Box measured(const Evaluation& so_far, const ContentKey& content, const TopoDS_Shape& shape,
             const gp_Trsf& into) {
  KeyMaker maker;
  maker.add(content);
  add_to(maker, into);
  if (const auto known = so_far.cache->find<Box>(maker.key())) return *known;
  return *so_far.cache->keep(maker.key(), exact_box(shape, into), sizeof(Box));
}

Result<StockBlock> stock_of(const Job& job, const Evaluation& so_far, const Setup& setup,
                            const SetupValue& value, const Names& names) {
  const Stock& stock = setup.stock;
  if (stock.kind == Stock::Kind::kOfSetup) {
    const auto other = so_far.entries.find(stock.setup);
    if (other == so_far.entries.end() || !other->second.setup || !other->second.setup->stock)
      return refuse(RefusalCode::kGeometry, "the setup whose stock it shares has none");
    return *other->second.setup->stock;
  }
  if (!so_far.part) return refuse(RefusalCode::kGeometry, "there is no part to put into a stock");
  const gp_Trsf into = into_frame(value.frame) * so_far.placement;
  return guarded("the stock", [&]() -> Result<StockBlock> {
    const Part& part = *so_far.part;
    const auto block = [&](const ContentKey& content, const TopoDS_Shape& shape) {
      return stock_block(stock, value.frame, measured(so_far, content, shape, into), setup.unit, job.display,
                         names);
    };
    if (stock.kind != Stock::Kind::kBody) return block(part.geometry()->id(), part.shape());
    for (size_t i = 0; i < part.bodies().size(); ++i)
      if (part.bodies()[i].delivered == stock.body)
        return block(part.geometry()->body_id(static_cast<int>(i)), part.bodies()[i].shape);
    return refuse(RefusalCode::kUnknownName, "the body that was the stock is no longer in the job");
  });
}

std::vector<PlaneValue> planes_of(const Setup& setup, const std::string& name, const Frames& frames) {
  const gp_Ax2& frame = *frames.zero;
  std::vector<PlaneValue> planes{{name, frame, world_frame(), {}, 0, {}}};
  for (size_t i = 0; i < setup.planes.size(); ++i) {
    const ToolPlane& plane = setup.planes[i];
    PlaneValue value{plane.name, frame, world_frame(), {}, 0, {}};
    if (const auto& at = frames.planes[i]) {
      value.frame = *at;
      value.in_setup = at->Transformed(into_frame(frame));
    } else {
      value.problem = at.error().sentence;
      value.has_frame = false;
    }
    planes.push_back(std::move(value));
  }
  return planes;
}

void ask(Evaluated& evaluated, const std::string& reason) {
  if (evaluated.state != EntryState::kCurrent) return;
  evaluated.state = EntryState::kAttention;
  evaluated.reason = reason;
}

// Two setups on one machine that are told to the control as the same zero.
std::string twice_used(const Job& job, const Entry& entry) {
  const auto own = work_offset_from(entry.setup()->offset);
  const auto machine = job.machines.find(entry.setup()->machine);
  const auto further =
      machine == job.machines.end() ? FurtherOffsets::kUnwritten : machine->second.further_offsets;
  for (const Entry& other : job.entries) {
    if (other.id == entry.id) break;
    if (!other.setup() || other.setup()->machine != entry.setup()->machine || !own) continue;
    if (const auto theirs = work_offset_from(other.setup()->offset);
        theirs && same_offset(*theirs, *own, further))
      return fmt::format("{} and {} would both be written to {}", other.name, entry.name,
                         work_offset_text(*own));
  }
  return {};
}

void reach(const Job& job, const Setup& setup, const Names& names, SetupValue& value, Evaluated& evaluated) {
  const auto place = place_of(setup, names);
  if (!place) return ask(evaluated, place.error().sentence);
  const auto machine = job.machines.find(setup.machine);
  if (setup.machine.empty() || machine == job.machines.end()) {
    if (!setup.machine.empty()) ask(evaluated, fmt::format("the machine {} is not known", setup.machine));
    return;
  }
  reach_planes(machine->second, setup, *place, value.planes,
               std::max(kPointing_rad, job.tolerance.angular_rad));
  for (const PlaneValue& plane : value.planes)
    if (!plane.problem.empty()) return ask(evaluated, plane.name + ": " + plane.problem);
  if (const auto offsets = indexed_offsets(machine->second, setup, value, *place); !offsets)
    ask(evaluated, offsets.error().sentence);
}

// Its own plane is called after it, also when it was renamed and nothing else.
Evaluated called(const std::string& name, Evaluated evaluated) {
  if (!evaluated.setup || evaluated.setup->planes.empty() || evaluated.setup->planes.front().name == name)
    return evaluated;
  auto renamed = std::make_shared<SetupValue>(*evaluated.setup);
  renamed->planes.front().name = name;
  evaluated.setup = std::move(renamed);
  return evaluated;
}

}  // namespace

Evaluated evaluate_setup(const Job& job, const Evaluation& so_far, const Entry& entry, const Evaluated* last,
                         bool only_known) {
  const Setup& setup = *entry.setup();
  const Names names = names_for(job, so_far, texts_of(entry), entry.id);
  const std::string twice = twice_used(job, entry);
  Evaluated evaluated;
  const Frames frames = frames_of(job, so_far, setup);
  const Result<gp_Ax2>& frame = frames.zero;
  evaluated.key = key_of(job, so_far, entry, frames, names, twice);
  const auto known = frame ? so_far.cache->find<Evaluated>(evaluated.key) : nullptr;
  if (known) return called(entry.name, *known);
  if (!frame || only_known) {
    evaluated.state = frame ? EntryState::kAttention : EntryState::kRefused;
    evaluated.reason = frame ? kStoppedReason : frame.error().sentence;
    evaluated.stopped = frame.has_value();
    if (last) std::tie(evaluated.value, evaluated.setup) = std::tuple(last->value, last->setup);
    return evaluated;
  }
  SetupValue value;
  value.frame = *frame;
  value.planes = planes_of(setup, entry.name, frames);
  if (const auto offset = work_offset_from(setup.offset); !offset) ask(evaluated, offset.error().sentence);
  if (setup.stock.kind != Stock::Kind::kNone) {
    const auto stock = stock_of(job, so_far, setup, value, names);
    if (stock)
      value.stock = *stock;
    else
      ask(evaluated, stock.error().sentence);
  }
  reach(job, setup, names, value, evaluated);
  if (!twice.empty()) ask(evaluated, twice);
  evaluated.value = FrameDatum{*frame};
  const size_t poses = std::accumulate(value.planes.begin(), value.planes.end(), size_t{0},
                                       [](size_t sum, const PlaneValue& p) { return sum + p.poses.size(); });
  const size_t bytes = sizeof(SetupValue) + value.planes.size() * sizeof(PlaneValue) + poses * sizeof(Pose);
  evaluated.setup = std::make_shared<const SetupValue>(std::move(value));
  evaluated.fresh = true;
  const ContentKey key = evaluated.key;
  return *so_far.cache->keep(key, std::move(evaluated), bytes);
}

std::string stock_element_name(int element) {
  if (element > kStockPoints) {
    const int side = element - kStockPoints - 1;
    return fmt::format("stock side {}{}", side % 2 ? '+' : '-', "XYZ"[side / 2]);
  }
  static const Box kUnit{gp_Pnt(0, 0, 0), gp_Pnt(1, 1, 1)};
  return "stock " + box_points(kUnit)[static_cast<size_t>(element - 1)].name;
}

Result<Given> given_by_stock(const SetupValue& value, int element, const std::string& name) {
  if (!value.stock || element < 1 || element > kStockPoints + kStockSides)
    return refuse(RefusalCode::kUnknownName, fmt::format("{} has no stock", name));
  const gp_Trsf out = into_frame(value.stock->frame).Inverted();
  Given given;
  if (element <= kStockPoints) {
    given.point = box_point(value.stock->box, element - 1).Transformed(out);
    given.extent = {*given.point};
    return given;
  }
  const int side = element - kStockPoints - 1, axis = side / 2;
  const gp_Ax2& at = value.stock->frame;
  const gp_Dir axes[] = {at.XDirection(), at.YDirection(), at.Direction()};
  const gp_Dir normal = side % 2 ? axes[axis] : axes[axis].Reversed();
  const int step[] = {1, 3, 9};
  for (int i = 0; i < kStockPoints; ++i)
    if (i / step[axis] % 3 == (side % 2 ? 2 : 0))
      given.extent.push_back(box_point(value.stock->box, i).Transformed(out));
  given.plane = gp_Pln(gp_Ax3(make_frame(given.extent[4], normal, axes[(axis + 1) % 3])));
  given.direction = normal;
  return given;
}

}  // namespace anvil
