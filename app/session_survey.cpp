// What the session finds out about holes and tool planes beyond the checks: names, surroundings, planes.
#include "app/session.h"

namespace anvil::app {

void Session::refresh_names() {
  named_holes_ = holes_;
  if (!holes_ || !same_geometry(checked_part_, part()) || job().hole_names.empty()) return;
  auto named = std::make_shared<HoleReport>(*holes_);
  give_names(job(), evaluation_.states, *named);
  named_holes_ = std::move(named);
}

void Session::rename_hole(HoleOrSlot which, const QString& name) {
  if (!holes()) return;
  auto next = with_hole_name(job(), evaluation_.states, *holes(), which, name.trimmed().toStdString());
  if (next) {
    act(tr("Name a hole"), std::move(*next));
    return;
  }
  Q_EMIT told(QString::fromStdString(next.error().sentence));
  Q_EMIT checks_changed();  // whoever shows names has the typed one
}

void Session::want_survey(bool wanted) {
  survey_wanted_ = wanted;
  refresh_survey();
}

void Session::refresh_survey() {
  const auto known = holes();
  const auto forget = [this] {
    surveying_.cancel();
    surveyed_.reset();
    const bool had = survey_ != nullptr;
    survey_.reset();
    if (had) Q_EMIT survey_changed();
  };
  if (!known || importing_) return forget();
  Surveyed wanted{part(), planes_to_check(job(), evaluation_), job().inspection};
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
       evaluation = evaluation_](const Progress& progress) -> Found {
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
          Q_EMIT told(QString::fromStdString(found.error().sentence));
        Q_EMIT survey_changed();
      });
}

}  // namespace anvil::app
