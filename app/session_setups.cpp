// The session's setups: which one is open on its card, frames kept as setups and tool planes.
#include "app/session.h"

#include <fmt/format.h>
#include "geom/primitives.h"
#include "job/ready_recipes.h"
#include "job/setup_edits.h"
#include "job/setup_on_machine.h"
#include "setup/shipped_machines.h"

namespace anvil::app {

void Session::open_setup(int id) {
  const Entry* entry = job().find(id);
  const int opened = entry && entry->setup() ? id : 0;
  if (opened != open_setup_) proposing_.cancel();
  if (opened != open_setup_ && proposals_) {
    proposals_.reset();
    show_faces({});
  }
  open_setup_ = opened;
  if (open_setup_) {
    draft_.reset();
    picks_.clear();
    refresh_offers();
  }
  Q_EMIT setup_opened();
}

const Setup* Session::opened_setup() const {
  const Entry* entry = open_setup_ ? job().find(open_setup_) : nullptr;
  return entry ? entry->setup() : nullptr;
}

const SetupValue* Session::opened_setup_value() const {
  const auto at = evaluation_.entries.find(open_setup_);
  return at == evaluation_.entries.end() ? nullptr : at->second.setup.get();
}

void Session::change_setup(const QString& name, const Setup& setup) {
  const Setup* now = opened_setup();
  if (now && !(*now == setup))
    act(name, with_setup_changed(job(), open_setup_, setup),
        QStringLiteral("setup %1 %2").arg(open_setup_).arg(name));
}

// The setup that is read in, or the only one.
int Session::setup_in_use() const {
  const Entry* reading = job().find(job().reading_frame);
  if (reading && reading->setup()) return reading->id;
  if (opened_setup()) return open_setup_;
  int only = 0;
  for (const Entry& entry : job().entries)
    if (entry.setup()) only = only ? -1 : entry.id;
  return std::max(only, 0);
}

// The frame that is being made, or the one that is picked; 0 when there is none.
int Session::frame_for_setup(Job& next) const {
  if (draft_ && draft_->construction->makes == Makes::kFrame && !draft_->solutions.empty() &&
      !draft_->editing_entry) {
    int id = 0;
    next = with_datum(std::move(next), recipe_of(*draft_), &id);
    return id;
  }
  for (const Pick& pick : picks_)
    if (const auto* to = std::get_if<EntryReference>(&pick.reference.target))
      if (const Entry* entry = next.find(to->entry); entry && entry->is_frame()) return entry->id;
  return 0;
}

bool Session::can_keep_as_setup() const {
  Job next = job();
  return frame_for_setup(next) != 0;
}

void Session::keep_as_setup() {
  Job next = job();
  const int frame = frame_for_setup(next);
  if (!frame) {
    Q_EMIT told(tr("A setup wants a frame: make one from picks, or pick one that is there."));
    return;
  }
  draft_.reset();
  picks_.clear();
  int id = 0;
  next = with_setup(std::move(next), frame, &id);
  act(tr("New setup"), std::move(next));
  open_setup(id);
}

void Session::keep_as_tool_plane() {
  const int setup = setup_in_use();
  Job next = job();
  const int frame = frame_for_setup(next);
  if (!setup || !frame) {
    Q_EMIT told(setup ? tr("A tool plane wants a frame: make one from picks, or pick one that is there.")
                      : tr("A tool plane belongs to a setup: read in one first."));
    return;
  }
  draft_.reset();
  picks_.clear();
  if (!job().find(frame))  // made just now
    next = with_name(std::move(next), frame,
                     "TP" + fmt::format("{}", job().find(setup)->setup()->planes.size() + 1));
  next = with_tool_plane(with_reading_frame(std::move(next), setup), setup, frame);
  const auto last = static_cast<int>(next.find(setup)->setup()->planes.size());
  look_when_evaluated_ = true;
  act(tr("New tool plane"), with_active_plane(std::move(next), last));
  open_setup(setup);
}

void Session::activate_plane(int setup, int plane) {
  Job next = with_reading_frame(job(), setup);
  if (next.reading_frame != setup) return;
  look_when_evaluated_ = true;
  act(tr("Look along a tool plane"), with_active_plane(std::move(next), plane), QStringLiteral("reading"));
}

// --- proposals

void Session::propose_planes() {
  const Setup* setup = opened_setup();
  const SetupValue* value = opened_setup_value();
  if (!setup || !value || !part() || !holes_) {
    Q_EMIT told(tr("Holes are still being looked for: try again in a moment."));
    return;
  }
  ProposalOptions options;
  const gp_Trsf into_setup = into_frame(value->frame) * evaluation_.placement;
  options.first = gp_Dir(0, 0, 1).Transformed(into_setup.Inverted());
  const auto machine = job().machines.find(setup->machine);
  const auto place = place_in_machine(job(), evaluation_, *job().find(open_setup_));
  if (machine != job().machines.end() && place)
    options.machine_reaches = [on = machine->second, into = place->from_setup() * into_setup](
                                  const gp_Dir& d) { return reaches(on, d.Transformed(into)); };
  proposing_.start<Result<Proposals>>(
      tr("Looking for tool axes"),
      [now = part(), holes = holes_, options](const Progress& progress) {
        return propose_axes(*now, *holes, options, progress);
      },
      [this](Result<Proposals> found) {
        if (!found) {
          Q_EMIT told(QString::fromStdString(found.error().sentence));
          return;
        }
        proposals_ = std::make_shared<const Proposals>(std::move(*found));
        Q_EMIT setup_opened();
      });
}

void Session::drop_proposals() {
  proposals_.reset();
  show_faces({});
  Q_EMIT setup_opened();
}

void Session::point_at_proposal(int axis) {
  std::vector<int> faces;
  if (proposals_ && axis >= 0 && axis < static_cast<int>(proposals_->axes.size()))
    for (const size_t feature : proposals_->axes[static_cast<size_t>(axis)].reaches)
      for (int face : proposals_->features[feature].faces) faces.push_back(face);
  show_faces(std::move(faces));
}

int Session::plane_along(const ProposedAxis& axis) const {
  return anvil::plane_along(evaluation_, opened_setup_id(), axis);
}

void Session::keep_proposals(const std::vector<int>& axes) {
  const int setup = opened_setup_id();
  if (!setup || !proposals_) return;
  std::vector<ProposedAxis> chosen;
  for (const int index : axes)
    if (index >= 0 && index < static_cast<int>(proposals_->axes.size()))
      chosen.push_back(proposals_->axes[static_cast<size_t>(index)]);
  int kept = 0;
  Job next = with_proposed_planes(with_reading_frame(job(), setup), evaluation_, setup, chosen, kept);
  proposals_.reset();
  show_faces({});
  if (kept) act(tr("Keep tool planes"), std::move(next));
  Q_EMIT setup_opened();
}

}  // namespace anvil::app
