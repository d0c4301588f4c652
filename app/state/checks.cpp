#include "app/state/checks.h"

#include "geom/primitives.h"
#include "inspect/left_in_pockets.h"

namespace anvil::app {

Checks::Checks(Document& document, ChangeBus& bus) : document_(document), bus_(bus) {
  connect(&document_, &Document::opened, this, &Checks::drop_list);
  connect(&document_, &Document::opened, this, [this] {
    seats_dropped_ = false;
    forget_seats();
  });
  connect(&document_, &Document::evaluated, this, &Checks::follow);
  connect(&document_, &Document::imported, this, [this] { follow({}); });
  for (Background* background :
       {&checking_, &leaving_, &surveying_, &sounding_, &boxing_, &reporting_, &looking_, &directing_})
    connect(background, &Background::failed, &bus_, &ChangeBus::tell);
}

void Checks::follow(const Document::Evaluated& what) {
  refresh_checks();
  refresh_soundness();
  refresh_box();
  if (what.moved && !seats_.empty() && holes()) suggest_seats();
}

// What follows from the checks is there before anybody hears of them.
void Checks::announce_checks() {
  refresh_names();
  refresh_comparison();
  refresh_survey();
  refresh_first_look();
  bus_.announce(Change::kChecks);
}

gp_Dir Checks::tool_axis_in_part() const {
  return active_tool_plane(job(), evaluation()).Direction().Transformed(evaluation().placement.Inverted());
}

void Checks::refresh_checks() {
  const PartPtr now = part();
  if (!now || document_.is_importing()) return forget_checks();
  const gp_Dir axis = tool_axis_in_part();
  const Inspection& by = job().inspection;
  const bool is_known = same_geometry(now, checked_part_);
  if (is_known) checked_part_ = now;
  if (is_known && axis.IsEqual(checked_axis_, 1e-9) && by == checked_by_) return announce_checks();
  const bool same_part = is_known && holes_;
  checked_part_ = now;
  checked_axis_ = axis;
  checked_by_ = by;
  left_.reset();
  judged_.reset();
  leaving_.cancel();
  checking_.cancel();
  shown_passage_.reset();
  const CornerOptions options{axis, by.margin, by.holder_mm / 2};
  if (!same_part) {
    holes_ = known_holes(*document_.cache(), *now);
    shown_pattern_ = -1;
  }
  corners_ = holes_ ? known_corners(*document_.cache(), *now, options) : nullptr;
  if (corners_ && by.cutters.empty()) return take_judged({});
  announce_checks();
  look_for_checks(options);
}

void Checks::forget_checks() {
  holes_.reset();
  corners_.reset();
  checked_part_ = nullptr;
  left_.reset();
  shown_passage_.reset();
  shown_pattern_ = -1;
  checking_.cancel();
  leaving_.cancel();
  announce_checks();
}

void Checks::look_for_checks(const CornerOptions& options) {
  struct Found {
    Result<HolesPtr> holes;
    Result<CornersPtr> corners;
    std::vector<PocketCutters> judged;
  };
  checking_.start<std::shared_ptr<Found>>(
      tr("Checking corners and holes"),
      [now = part(), options, cache = document_.cache(), by = job().inspection](const Progress& progress) {
        auto holes = holes_once(*cache, *now, progress);
        auto corners = corners_once(*cache, *now, options, holes ? holes->get() : nullptr, progress);
        auto found = std::make_shared<Found>(Found{std::move(holes), std::move(corners), {}});
        if (found->corners) found->judged = judge_cutters(*now, **found->corners, by.cutters);
        return found;
      },
      [this](const std::shared_ptr<Found>& found) {
        if (found->holes)
          holes_ = *found->holes;
        else
          bus_.tell(QString::fromStdString(found->holes.error().sentence));
        if (found->corners)
          corners_ = *found->corners;
        else
          bus_.tell(QString::fromStdString(found->corners.error().sentence));
        take_judged(std::move(found->judged));
      });
}

void Checks::take_judged(std::vector<PocketCutters> judged) {
  judged_ = std::make_shared<const std::vector<PocketCutters>>(std::move(judged));
  announce_checks();
  refresh_left(LeftDetail::kFull);
}

void Checks::think_of_cutter(std::optional<double> diameter_mm, bool dragging) {
  if (diameter_mm == cutter_mm_ && !dragging) return;
  cutter_mm_ = diameter_mm;
  refresh_left(dragging ? LeftDetail::kWhileDragging : LeftDetail::kFull);
}

void Checks::refresh_left(LeftDetail detail) {
  const auto report = corners();
  if (!report || !report->sections || !cutter_mm_) {
    leaving_.cancel();
    left_.reset();
    bus_.announce(Change::kLeft);
    return;
  }
  struct Left {
    std::shared_ptr<const LeftByCutter> all;
    std::shared_ptr<const std::vector<double>> in_pockets;
  };
  left_in_pockets_.reset();
  leaving_.start<Result<Left>>(
      tr("Looking where the cutter goes"),
      [report, now = part(), diameter = *cutter_mm_, detail](const Progress& progress) -> Result<Left> {
        auto left = left_by_cutter(*report->sections, diameter, detail, progress);
        if (!left) return refuse(left);
        Left found{std::make_shared<const LeftByCutter>(std::move(*left)), nullptr};
        if (detail == LeftDetail::kFull)
          found.in_pockets =
              std::make_shared<const std::vector<double>>(anvil::left_in_pockets(*now, *report, *found.all));
        return found;
      },
      [this, report, detail](const Result<Left>& left) {
        if (report != corners()) return;
        if (left) {
          left_ = left->all;
          left_in_pockets_ = left->in_pockets;
        } else {
          bus_.tell(QString::fromStdString(left.error().sentence));
        }
        bus_.announce(Change::kLeft);
        if (detail == LeftDetail::kWhileDragging) refresh_left(LeftDetail::kFull);
      });
}

}  // namespace anvil::app
