// The session's checks: holes, corners, what a cutter leaves, and the comparison with a list.
#include "app/session.h"
#include "geom/primitives.h"
#include "inspect/left_in_pockets.h"

namespace anvil::app {

// --- checks

gp_Dir Session::tool_axis_in_part() const {
  return active_tool_plane(job(), evaluation_).Direction().Transformed(evaluation_.placement.Inverted());
}

void Session::refresh_checks() {
  const PartPtr now = part();
  if (!now || importing_) {
    holes_.reset();
    corners_.reset();
    checked_part_ = nullptr;
    left_.reset();
    shown_passage_.reset();
    shown_pattern_ = -1;
    checking_.cancel();
    leaving_.cancel();
    Q_EMIT checks_changed();
    return;
  }
  const gp_Dir axis = tool_axis_in_part();
  const Inspection& by = job().inspection;
  const bool is_known = same_geometry(now, checked_part_);
  if (is_known) checked_part_ = now;
  if (is_known && axis.IsEqual(checked_axis_, 1e-9) && by == checked_by_) {
    Q_EMIT checks_changed();
    return;
  }
  const bool same_part = is_known && holes_;
  checked_part_ = now;
  checked_axis_ = axis;
  checked_by_ = by;
  corners_.reset();
  left_.reset();
  judged_.reset();
  leaving_.cancel();
  shown_passage_.reset();
  if (!same_part) {
    holes_.reset();
    shown_pattern_ = -1;
  }
  Q_EMIT checks_changed();
  struct Found {
    Result<HoleReport> holes;
    Result<CornerReport> corners;
    std::vector<PocketCutters> judged;
  };
  const auto known = holes_;
  checking_.start<std::shared_ptr<Found>>(
      tr("Checking corners and holes"),
      [now, axis, known, by](const Progress& progress) {
        const CornerOptions options{axis, by.margin, by.holder_mm / 2};
        Result<HoleReport> holes = known ? Result<HoleReport>(*known) : find_holes(*now, progress);
        Result<CornerReport> corners = find_corners(*now, options, progress, holes ? &*holes : nullptr);
        auto found = std::make_shared<Found>(Found{std::move(holes), std::move(corners), {}});
        if (found->corners) found->judged = judge_cutters(*now, *found->corners, by.cutters);
        return found;
      },
      [this](const std::shared_ptr<Found>& found) {
        if (found->holes)
          holes_ = std::make_shared<const HoleReport>(std::move(*found->holes));
        else
          Q_EMIT told(QString::fromStdString(found->holes.error().sentence));
        if (found->corners)
          corners_ = std::make_shared<const CornerReport>(std::move(*found->corners));
        else
          Q_EMIT told(QString::fromStdString(found->corners.error().sentence));
        judged_ = std::make_shared<const std::vector<PocketCutters>>(std::move(found->judged));
        Q_EMIT checks_changed();
        refresh_left(LeftDetail::kFull);
      });
}

void Session::think_of_cutter(std::optional<double> diameter_mm, bool dragging) {
  if (diameter_mm == cutter_mm_ && !dragging) return;
  cutter_mm_ = diameter_mm;
  refresh_left(dragging ? LeftDetail::kWhileDragging : LeftDetail::kFull);
}

void Session::refresh_left(LeftDetail detail) {
  const auto report = corners();
  if (!report || !report->sections || !cutter_mm_) {
    leaving_.cancel();
    left_.reset();
    Q_EMIT left_changed();
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
          Q_EMIT told(QString::fromStdString(left.error().sentence));
        }
        Q_EMIT left_changed();
        if (detail == LeftDetail::kWhileDragging) refresh_left(LeftDetail::kFull);
      });
}

void Session::show_passage(const std::optional<Narrow>& passage) {
  shown_passage_ = passage;
  Q_EMIT shown_changed();
}

void Session::show_pattern(int pattern) {
  if (pattern == shown_pattern_) return;
  shown_pattern_ = pattern;
  Q_EMIT shown_changed();
}

// --- comparison with a list

void Session::compare_with(const QString& name, HoleList list) {
  hole_list_ = std::move(list);
  hole_list_name_ = name;
  Q_EMIT list_changed();
}

void Session::drop_list() {
  hole_list_.reset();
  hole_list_name_.clear();
  Q_EMIT list_changed();
}

void Session::refresh_comparison() {
  compared_ = {};
  if (!hole_list_ || !holes()) return;
  compared_.found = moved(*holes(), part_to_reading()).holes;
  compared_.rows = compare_holes(compared_.found, hole_list_->holes);
  compared_.shift = best_shift(compared_.rows, compared_.found);
}

}  // namespace anvil::app
