// What is found out about holes and tool planes beyond the checks: names, surroundings, planes, a list.
#include "app/state/checks.h"

namespace anvil::app {

void Checks::refresh_names() {
  named_holes_ = holes_;
  if (!holes_ || !same_geometry(checked_part_, part()) || job().hole_names.empty()) return;
  auto named = std::make_shared<HoleReport>(*holes_);
  give_names(job(), evaluation().states, *named);
  named_holes_ = std::move(named);
}

void Checks::rename_hole(HoleOrSlot which, const QString& name) {
  if (!holes()) return;
  auto next = with_hole_name(job(), evaluation().states, *holes(), which, name.trimmed().toStdString());
  if (next) {
    document_.act(tr("Name a hole"), std::move(*next));
    return;
  }
  bus_.tell(QString::fromStdString(next.error().sentence));
  announce_checks();  // whoever shows names has the typed one
}

void Checks::want_survey(bool wanted) {
  survey_wanted_ = wanted;
  refresh_survey();
}

void Checks::refresh_survey() {
  const auto known = holes();
  const auto forget = [this] {
    surveying_.cancel();
    surveyed_.reset();
    const bool had = survey_ != nullptr;
    survey_.reset();
    if (had) bus_.announce(Change::kSurvey);
  };
  if (!known || document_.is_importing()) return forget();
  Surveyed wanted{part(), planes_to_check(job(), evaluation()), job().inspection};
  const bool same_part = surveyed_ && same_geometry(surveyed_->part, wanted.part);
  if (same_part && surveyed_->by == wanted.by && same_planes(surveyed_->planes, wanted.planes)) return;
  std::shared_ptr<const Survey> before = same_part ? survey_ : nullptr;
  forget();
  if (!survey_wanted_) return;
  surveyed_ = std::move(wanted);
  using Found = Result<std::shared_ptr<const Survey>>;
  surveying_.start<Found>(
      tr("Looking around holes and along tool planes"),
      [known, before, now = part(), job = job(),
       evaluation = evaluation()](const Progress& progress) -> Found {
        auto survey = std::make_shared<Survey>();
        if (before) {
          survey->around = before->around;
        } else {
          auto around = look_around(*now, *known, progress);
          if (!around) return refuse(around);
          survey->around = std::move(*around);
        }
        auto planes = check_planes(job, evaluation, *known, progress);
        if (!planes) return refuse(planes);
        survey->planes = std::move(*planes);
        return std::shared_ptr<const Survey>(survey);
      },
      [this](Found found) {
        if (found)
          survey_ = *found;
        else
          bus_.tell(QString::fromStdString(found.error().sentence));
        bus_.announce(Change::kSurvey);
      });
}

void Checks::compare_with(const QString& name, HoleList list) {
  hole_list_ = std::move(list);
  hole_list_name_ = name;
  refresh_comparison();
  bus_.announce(Change::kList);
}

void Checks::drop_list() {
  hole_list_.reset();
  hole_list_name_.clear();
  refresh_comparison();
  bus_.announce(Change::kList);
}

void Checks::refresh_comparison() {
  compared_ = {};
  if (!hole_list_ || !holes()) return;
  compared_.found = moved(*holes(), document_.part_to_reading()).holes;
  compared_.rows = compare_holes(compared_.found, hole_list_->holes);
  compared_.shift = best_shift(compared_.rows, compared_.found);
}

}  // namespace anvil::app
