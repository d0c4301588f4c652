#include "app/state/setup_desk.h"

#include <fmt/format.h>

#include "geom/primitives.h"
#include "job/ready_recipes.h"
#include "job/setup_edits.h"
#include "job/setup_on_machine.h"
#include "setup/shipped_machines.h"

namespace anvil::app {

SetupDesk::SetupDesk(Document& document, PickTray& tray, Checks& checks, ChangeBus& bus)
    : document_(document), tray_(tray), checks_(checks), bus_(bus) {
  connect(&document_, &Document::opened, this, &SetupDesk::forget_proposals);
  connect(&document_, &Document::evaluated, this, [this](const Document::Evaluated& what) {
    if (what.moved) forget_proposals();  // they name faces, as findings do
    if (std::exchange(look_when_evaluated_, false)) bus_.announce(Change::kToolPlane);
  });
  connect(&proposing_, &Background::failed, &bus_, &ChangeBus::tell);
}

void SetupDesk::forget_proposals() {
  proposing_.cancel();
  proposals_.reset();
}

void SetupDesk::open_setup(int id) {
  const ChangeBus::Hold hold(bus_);
  const Entry* entry = job().find(id);
  const int opened = entry && entry->setup() ? id : 0;
  if (opened != open_setup_) proposing_.cancel();
  if (opened != open_setup_ && proposals_) {
    proposals_.reset();
    checks_.show_faces({});
  }
  open_setup_ = opened;
  if (open_setup_) {
    tray_.drop_all();
  }
  bus_.announce(Change::kSetup);
}

const Setup* SetupDesk::opened_setup() const {
  const Entry* entry = open_setup_ ? job().find(open_setup_) : nullptr;
  return entry ? entry->setup() : nullptr;
}

const SetupValue* SetupDesk::opened_setup_value() const {
  const auto at = evaluation().entries.find(open_setup_);
  return at == evaluation().entries.end() ? nullptr : at->second.setup.get();
}

void SetupDesk::change_setup(const QString& name, const Setup& setup) {
  const Setup* now = opened_setup();
  if (now && !(*now == setup))
    document_.act(name, with_setup_changed(job(), open_setup_, setup),
                  QStringLiteral("setup %1 %2").arg(open_setup_).arg(name));
}

// The setup that is read in, or the only one.
int SetupDesk::setup_in_use() const {
  const Entry* reading = job().find(job().reading_frame);
  if (reading && reading->setup()) return reading->id;
  if (opened_setup()) return open_setup_;
  int only = 0;
  for (const Entry& entry : job().entries)
    if (entry.setup()) only = only ? -1 : entry.id;
  return std::max(only, 0);
}

// The frame that is being made, or the one that is picked; 0 when there is none.
int SetupDesk::frame_for_setup(Job& next) const {
  const std::optional<Draft>& draft = tray_.draft();
  if (draft && draft->construction->makes == Makes::kFrame && !draft->solutions.empty() &&
      !draft->editing_entry) {
    int id = 0;
    next = with_datum(std::move(next), tray_.recipe_of(*draft), &id);
    return id;
  }
  for (const Pick& pick : tray_.picks())
    if (const auto* to = std::get_if<EntryReference>(&pick.reference.target))
      if (const Entry* entry = next.find(to->entry); entry && entry->is_frame()) return entry->id;
  return 0;
}

bool SetupDesk::can_keep_as_setup() const {
  Job next = job();
  return frame_for_setup(next) != 0;
}

void SetupDesk::keep_as_setup() {
  const ChangeBus::Hold hold(bus_);
  Job next = job();
  const int frame = frame_for_setup(next);
  if (!frame) {
    bus_.tell(tr("A setup wants a frame: make one from picks, or pick one that is there."));
    return;
  }
  tray_.drop_all();
  int id = 0;
  next = with_setup(std::move(next), frame, &id);
  document_.act(tr("New setup"), std::move(next));
  open_setup(id);
}

void SetupDesk::keep_as_tool_plane() {
  const ChangeBus::Hold hold(bus_);
  const int setup = setup_in_use();
  Job next = job();
  const int frame = frame_for_setup(next);
  if (!setup || !frame) {
    bus_.tell(setup ? tr("A tool plane wants a frame: make one from picks, or pick one that is there.")
                    : tr("A tool plane belongs to a setup: read in one first."));
    return;
  }
  tray_.drop_all();
  if (!job().find(frame))  // made just now
    next = with_name(std::move(next), frame,
                     "TP" + fmt::format("{}", job().find(setup)->setup()->planes.size() + 1));
  next = with_tool_plane(with_reading_frame(std::move(next), setup), setup, frame);
  const auto last = static_cast<int>(next.find(setup)->setup()->planes.size());
  look_when_evaluated_ = true;
  document_.act(tr("New tool plane"), with_active_plane(std::move(next), last));
  open_setup(setup);
}

void SetupDesk::activate_plane(int setup, int plane) {
  Job next = with_reading_frame(job(), setup);
  if (next.reading_frame != setup) return;
  look_when_evaluated_ = true;
  document_.act(tr("Look along a tool plane"), with_active_plane(std::move(next), plane),
                QStringLiteral("reading"));
}

void SetupDesk::propose_planes() {
  const Setup* setup = opened_setup();
  const SetupValue* value = opened_setup_value();
  if (!setup || !value || !document_.part() || !checks_.holes()) {
    bus_.tell(tr("Holes are still being looked for: try again in a moment."));
    return;
  }
  ProposalOptions options;
  const gp_Trsf into_setup = into_frame(value->frame) * evaluation().placement;
  options.first = gp_Dir(0, 0, 1).Transformed(into_setup.Inverted());
  const auto machine = job().machines.find(setup->machine);
  const auto place = place_in_machine(job(), evaluation(), *job().find(open_setup_));
  if (machine != job().machines.end() && place)
    options.machine_reaches = [on = machine->second, into = place->from_setup() * into_setup](
                                  const gp_Dir& d) { return reaches(on, d.Transformed(into)); };
  proposing_.start<Result<Proposals>>(
      tr("Looking for tool axes"),
      [now = document_.part(), holes = checks_.holes(), options](const Progress& progress) {
        return propose_axes(*now, *holes, options, progress);
      },
      [this](Result<Proposals> found) {
        if (!found) {
          bus_.tell(QString::fromStdString(found.error().sentence));
          return;
        }
        proposals_ = std::make_shared<const Proposals>(std::move(*found));
        bus_.announce(Change::kSetup);
      });
}

void SetupDesk::drop_proposals() {
  proposals_.reset();
  checks_.show_faces({});
  bus_.announce(Change::kSetup);
}

void SetupDesk::point_at_proposal(int axis) {
  std::vector<int> faces;
  if (proposals_ && axis >= 0 && axis < static_cast<int>(proposals_->axes.size()))
    for (const size_t feature : proposals_->axes[static_cast<size_t>(axis)].reaches)
      for (int face : proposals_->features[feature].faces) faces.push_back(face);
  checks_.show_faces(std::move(faces));
}

int SetupDesk::plane_along(const ProposedAxis& axis) const {
  return anvil::plane_along(evaluation(), opened_setup_id(), axis);
}

void SetupDesk::keep_proposals(const std::vector<int>& axes) {
  const int setup = opened_setup_id();
  if (!setup || !proposals_) return;
  std::vector<ProposedAxis> chosen;
  for (const int index : axes)
    if (index >= 0 && index < static_cast<int>(proposals_->axes.size()))
      chosen.push_back(proposals_->axes[static_cast<size_t>(index)]);
  int kept = 0;
  Job next = with_proposed_planes(with_reading_frame(job(), setup), evaluation(), setup, chosen, kept);
  proposals_.reset();
  checks_.show_faces({});
  if (kept) document_.act(tr("Keep tool planes"), std::move(next));
  bus_.announce(Change::kSetup);
}

}  // namespace anvil::app
