// The rest of the session: soundness, seats, isolated bodies, the box.
#include "app/session.h"
#include "construct/registry.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "job/ready_recipes.h"

namespace anvil::app {

void Session::set_importing(bool importing) {
  if (importing == importing_) return;
  importing_ = importing;
  if (importing_) return;
  refresh_checks();
  refresh_soundness();
  refresh_box();
}

// --- soundness

void Session::set_soundness_tolerance(double mm) {
  if (mm == soundness_tolerance_mm_) return;
  soundness_tolerance_mm_ = mm;
  sounded_part_ = nullptr;
  refresh_soundness();
}

void Session::refresh_soundness() {
  const PartPtr now = part();
  // Findings between bodies tell their names.
  if (now == sounded_part_ || (same_geometry(now, sounded_part_) && now->bodies().size() == 1)) {
    sounded_part_ = now;
    return;
  }
  soundness_.reset();
  shown_place_.reset();
  Q_EMIT soundness_changed();
  sounded_part_ = importing_ ? nullptr : now;
  if (!sounded_part_) return sounding_.cancel();
  using Findings = Result<std::vector<Finding>>;
  sounding_.start<Findings>(
      tr("Checking soundness"),
      [now, tolerance = soundness_tolerance_mm_](const Progress& progress) {
        return check_soundness_of_all(*now, tolerance, progress);
      },
      [this](Findings found) {
        if (found)
          soundness_ = std::make_shared<const std::vector<Finding>>(std::move(*found));
        else
          Q_EMIT told(QString::fromStdString(found.error().sentence));
        Q_EMIT soundness_changed();
      });
}

void Session::show_place(const std::optional<gp_Pnt>& in_part) {
  shown_place_ = in_part;
  Q_EMIT shown_changed();
  if (in_part) Q_EMIT place_shown(in_part->Transformed(evaluation_.placement));
}

// --- seats

void Session::suggest_seats() {
  seats_.clear();
  previewed_seat_ = -1;
  const PartPtr now = part();
  if (now && holes_) seats_ = likely_seats(*now, *holes_);
  if (now && seats_.empty())
    Q_EMIT told(holes_ ? tr("This part has no flat side it could stand on.")
                       : tr("Holes are still being looked for: try again in a moment."));
  Q_EMIT seats_changed();
}

void Session::preview_seat(int seat) {
  if (seat == previewed_seat_) return;
  previewed_seat_ = seat;
  const bool known = seat >= 0 && seat < static_cast<int>(seats_.size());
  show_faces(known ? std::vector<int>{seats_[seat].down_face} : std::vector<int>());
  Q_EMIT draft_changed();
}

std::optional<gp_Trsf> Session::previewed_seat() const {
  if (previewed_seat_ < 0 || previewed_seat_ >= static_cast<int>(seats_.size()) || !part())
    return std::nullopt;
  const Job placed = with_seat(job(), evaluation_, seats_[previewed_seat_]);
  return evaluate(placed, &evaluation_).placement * evaluation_.placement.Inverted();
}

void Session::take_seat(int seat) {
  if (seat < 0 || seat >= static_cast<int>(seats_.size())) return;
  Job placed = with_seat(job(), evaluation_, seats_[seat]);
  show_faces({});
  seats_.clear();
  previewed_seat_ = -1;
  act(tr("Seat the part"), std::move(placed));
  Q_EMIT seats_changed();
}

// --- bodies

void Session::isolate(std::set<int> bodies) {
  isolated_ = std::move(bodies);
  Q_EMIT bodies_changed();
}

bool Session::is_shown(const Body& body) const {
  if (!isolated_.empty()) return isolated_.count(body.delivered) > 0;
  return job().body(body.delivered).visible;
}

// --- the box

void Session::refresh_box() {
  const PartPtr now = part();
  const gp_Trsf into = part_to_reading();
  if (now.get() == boxed_part_ && same_motion(into, boxed_in_)) return;
  boxed_part_ = importing_ ? nullptr : now.get();
  boxed_in_ = into;
  box_.reset();
  if (!boxed_part_) return boxing_.cancel();
  boxing_.start<Box>(
      tr("Measuring the box"), [now, into](const Progress&) { return exact_box(now->shape(), into); },
      [this](const Box& box) {
        box_ = box;
        Q_EMIT shown_changed();
      });
}

}  // namespace anvil::app
