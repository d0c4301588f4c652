// Soundness, seats and the box of the part, and what is shown on it.
#include "app/state/checks.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "job/ready_recipes.h"

namespace anvil::app {

void Checks::set_soundness_tolerance(double mm) {
  if (mm == soundness_tolerance_mm_) return;
  soundness_tolerance_mm_ = mm;
  sounded_part_ = nullptr;
  refresh_soundness();
}

void Checks::refresh_soundness() {
  const PartPtr now = part();
  // Findings between bodies tell their names.
  if (now == sounded_part_ || (same_geometry(now, sounded_part_) && now->bodies().size() == 1)) {
    sounded_part_ = now;
    return;
  }
  soundness_.reset();
  shown_place_.reset();
  bus_.announce(Change::kSoundness);
  sounded_part_ = document_.is_importing() ? nullptr : now;
  if (!sounded_part_) return sounding_.cancel();
  using Findings = Result<std::vector<Finding>>;
  sounding_.start<Findings>(
      tr("Checking soundness"),
      [now, tolerance = soundness_tolerance_mm_, cache = document_.cache()](const Progress& progress) {
        return soundness_once(*cache, *now, tolerance, progress);
      },
      [this](Findings found) {
        if (found)
          soundness_ = std::make_shared<const std::vector<Finding>>(std::move(*found));
        else
          bus_.tell(QString::fromStdString(found.error().sentence));
        bus_.announce(Change::kSoundness);
      });
}

void Checks::forget_seats() {
  seats_.clear();
  previewed_seat_ = -1;
  seated_.reset();
}

void Checks::want_first_look(bool wanted) {
  first_look_wanted_ = wanted;
  refresh_first_look();
}

void Checks::refresh_first_look() {
  const auto known = holes();
  const gp_Trsf where = evaluation().placement;
  if (!known || document_.is_importing()) return looking_.cancel();
  if (!first_look_wanted_) return;
  if (same_geometry(looked_at_, part()) && same_motion(looked_where_, where)) {
    if (first_look_ && !(directed_by_ == job().inspection)) check_directions();
    return;
  }
  looked_at_ = part();
  looked_where_ = where;
  directions_.reset();
  directing_.cancel();
  looking_.start<FirstLook>(
      tr("Looking how the part could stand"),
      [known, where, now = part()](const Progress&) { return anvil::first_look(*now, *known, where); },
      [this](FirstLook look) {
        first_look_ = std::make_shared<const FirstLook>(std::move(look));
        // A job that has placed its part has said how it is to stand.
        if (!job().placement() && !seats_dropped_) {
          forget_seats();
          seats_ = first_look_->seats;
        }
        bus_.announce(Change::kFirstLook | Change::kSeats);
        check_directions();
      });
}

void Checks::check_directions() {
  const auto known = holes();
  if (!known) return;
  using Directions = Result<std::vector<DirectionCheck>>;
  directed_by_ = job().inspection;
  const auto take = [this](const Directions& directions) {
    if (!directions) return;
    directions_ = std::make_shared<const std::vector<DirectionCheck>>(*directions);
    bus_.announce(Change::kFirstLook);
  };
  directing_.start_staged<Directions, Directions>(
      tr("Looking for corners along the main directions"),
      [known, where = looked_where_, now = part(), cache = document_.cache(), by = directed_by_](
          const Progress& progress, const std::function<void(Directions)>& first) {
        const auto look = [&](Passages passages) {
          return anvil::check_directions(*cache, *now, *known, where, by, passages, progress);
        };
        first(look(Passages::kNotYet));
        return look(Passages::kLookedAt);
      },
      take, take);
}

void Checks::suggest_seats() {
  forget_seats();
  seats_dropped_ = false;
  const PartPtr now = part();
  if (now && holes_) seats_ = likely_seats(*now, *holes_);
  if (now && seats_.empty())
    bus_.tell(holes_ ? tr("This part has no flat side it could stand on.")
                     : tr("Holes are still being looked for: try again in a moment."));
  bus_.announce(Change::kSeats);
}

void Checks::preview_seat(int seat) {
  if (seat == previewed_seat_) return;
  previewed_seat_ = seat;
  const bool known = seat >= 0 && seat < static_cast<int>(seats_.size());
  seated_.reset();
  if (known && part()) {
    const Job placed = with_seat(job(), evaluation(), seats_[seat]);
    seated_ = evaluate(placed, &evaluation()).placement * evaluation().placement.Inverted();
  }
  show_faces(known ? std::vector<int>{seats_[seat].down_face} : std::vector<int>());
  bus_.announce(Change::kDraft);
}

void Checks::take_seat(int seat) {
  if (seat < 0 || seat >= static_cast<int>(seats_.size())) return;
  Job placed = with_seat(job(), evaluation(), seats_[seat]);
  show_faces({});
  forget_seats();
  document_.act(tr("Seat the part"), std::move(placed));
  bus_.announce(Change::kSeats);
}

void Checks::drop_seats() {
  seats_dropped_ = true;
  seats_.clear();
  preview_seat(-1);
  bus_.announce(Change::kSeats | Change::kDraft);
}

void Checks::refresh_box() {
  const PartPtr now = part();
  const gp_Trsf into = document_.part_to_reading();
  if (same_geometry(now, boxed_part_) && same_motion(into, boxed_in_)) return;
  boxed_part_ = document_.is_importing() ? nullptr : now;
  boxed_in_ = into;
  box_.reset();
  if (!boxed_part_) return boxing_.cancel();
  boxing_.start<Box>(
      tr("Measuring the box"), [now, into](const Progress&) { return exact_box(now->shape(), into); },
      [this](const Box& box) {
        box_ = box;
        bus_.announce(Change::kShown);
      });
}

void Checks::show_faces(std::vector<int> faces, std::vector<RegionPtr> regions) {
  shown_faces_ = std::move(faces);
  shown_regions_ = std::move(regions);
  bus_.announce(Change::kShown);
}

void Checks::show_place(const std::optional<gp_Pnt>& in_part) {
  shown_place_ = in_part;
  bus_.announce(in_part ? Change::kShown | Change::kPlace : Changes(Change::kShown));
}

void Checks::show_passage(const std::optional<Narrow>& passage) {
  shown_passage_ = passage;
  bus_.announce(Change::kShown);
}

void Checks::show_pattern(int pattern) {
  if (pattern == shown_pattern_) return;
  shown_pattern_ = pattern;
  bus_.announce(Change::kShown);
}

}  // namespace anvil::app
