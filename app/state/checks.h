// What is found out about the part behind the window (holes, corners, soundness, seats, its box) and what of
// it is shown on it. All in part coordinates.
#pragma once

#include <QObject>
#include <optional>

#include "app/state/document.h"
#include "inspect/corners.h"
#include "inspect/hole_comparison.h"
#include "inspect/hole_surroundings.h"
#include "inspect/holes.h"
#include "inspect/left_by_cutter.h"
#include "job/first_look.h"
#include "job/hole_names.h"
#include "job/known_checks.h"
#include "job/plane_checks.h"
#include "part/measure.h"
#include "part/soundness.h"

namespace anvil::app {

class Checks : public QObject {
  Q_OBJECT
 public:
  Checks(Document& document, ChangeBus& bus);

  // With the names the job gives them.
  [[nodiscard]] std::shared_ptr<const HoleReport> holes() const {
    return of_part(named_holes_, checked_part_);
  }
  void rename_hole(HoleOrSlot which, const QString& name);  // empty: its own name again
  [[nodiscard]] std::shared_ptr<const CornerReport> corners() const {
    return of_part(corners_, checked_part_);
  }
  [[nodiscard]] gp_Dir tool_axis_in_part() const;
  // A cutter in mind, a diameter; nothing: none. What it leaves is found behind the window: coarsely first
  // while the diameter is still being dragged, and in full after that.
  void think_of_cutter(std::optional<double> diameter_mm, bool dragging = false);
  [[nodiscard]] std::optional<double> cutter_mm() const { return cutter_mm_; }
  // Of that cutter, or of the one before while the new one is looked at; null for none.
  [[nodiscard]] std::shared_ptr<const LeftByCutter> left() const { return corners() ? left_ : nullptr; }
  // Of that in each pocket, mm³; null while it is looked for.
  [[nodiscard]] std::shared_ptr<const std::vector<double>> left_in_pockets() const {
    return left() ? left_in_pockets_ : nullptr;
  }
  [[nodiscard]] std::shared_ptr<const std::vector<PocketCutters>> judged_cutters() const {
    return corners() ? judged_ : nullptr;
  }

  // --- what stands around each hole, and what each tool plane of the setups allows; found once somebody
  // wants to see it
  struct Survey {
    std::vector<HoleSurroundings> around;  // of each hole, in part coordinates
    std::vector<PlaneCheck> planes;
  };
  void want_survey(bool wanted);
  // Null until it is found, or when something changed meanwhile.
  [[nodiscard]] std::shared_ptr<const Survey> survey() const { return of_part(survey_, checked_part_); }

  // --- comparison with a list of holes, in the reading frame
  void compare_with(const QString& name, HoleList list);
  void drop_list();
  [[nodiscard]] const std::optional<HoleList>& hole_list() const { return hole_list_; }
  [[nodiscard]] const QString& hole_list_name() const { return hole_list_name_; }
  // Empty while there is no list, or the holes are still looked for. `found` is what they refer to.
  struct Compared {
    std::vector<Hole> found;  // in the reading frame
    std::vector<ComparedHole> rows;
    std::optional<BestShift> shift;
  };
  [[nodiscard]] const Compared& comparison() const { return compared_; }

  // --- soundness; null while it is being found out
  [[nodiscard]] std::shared_ptr<const std::vector<Finding>> soundness() const {
    return of_part(soundness_, sounded_part_);
  }
  [[nodiscard]] double soundness_tolerance_mm() const { return soundness_tolerance_mm_; }
  void set_soundness_tolerance(double mm);

  // --- seats that suggest themselves
  void suggest_seats();
  // What is known at a first look; null while it is found out, which begins when somebody wants to see it.
  void want_first_look(bool wanted);
  [[nodiscard]] std::shared_ptr<const FirstLook> first_look() const {
    return of_part(first_look_, checked_part_);
  }
  // Along the main directions; null while they are looked for, which may be stopped.
  [[nodiscard]] std::shared_ptr<const std::vector<DirectionCheck>> directions() const {
    return of_part(directions_, checked_part_);
  }
  [[nodiscard]] Background& directing() { return directing_; }
  [[nodiscard]] const std::vector<Seat>& seats() const { return seats_; }
  void preview_seat(int seat);  // -1: none
  // From the placed part as it stands.
  [[nodiscard]] const std::optional<gp_Trsf>& previewed_seat() const { return seated_; }
  void take_seat(int seat);
  void drop_seats();

  // The exact box in the reading frame; nothing while it is being computed.
  [[nodiscard]] const std::optional<Box>& box() const { return box_; }

  // --- what is shown on the part
  // Faces (and regions of scans) as chosen in a table.
  void show_faces(std::vector<int> faces, std::vector<RegionPtr> regions = {});
  [[nodiscard]] const std::vector<int>& shown_faces() const { return shown_faces_; }
  [[nodiscard]] const std::vector<RegionPtr>& shown_regions() const { return shown_regions_; }
  void show_passage(const std::optional<Narrow>& passage);
  [[nodiscard]] const std::optional<Narrow>& shown_passage() const { return shown_passage_; }
  void show_pattern(int pattern);  // of the hole report; -1: none
  [[nodiscard]] int shown_pattern() const { return shown_pattern_; }
  void show_place(const std::optional<gp_Pnt>& in_part);  // a marker, and the view goes there
  [[nodiscard]] const std::optional<gp_Pnt>& shown_place() const { return shown_place_; }

  [[nodiscard]] Background& checking() { return checking_; }
  [[nodiscard]] Background& leaving() { return leaving_; }
  [[nodiscard]] Background& surveying() { return surveying_; }
  [[nodiscard]] Background& sounding() { return sounding_; }
  [[nodiscard]] Background& reporting() { return reporting_; }

 private:
  [[nodiscard]] const Job& job() const { return document_.job(); }
  [[nodiscard]] const Evaluation& evaluation() const { return document_.evaluation(); }
  [[nodiscard]] const PartPtr& part() const { return document_.part(); }
  void follow(const Document::Evaluated& what);
  void announce_checks();
  void forget_checks();
  void refresh_checks();
  void look_for_checks(const CornerOptions& options);
  void take_judged(std::vector<PocketCutters> judged);
  void refresh_left(LeftDetail detail);
  void refresh_names();
  void refresh_survey();
  void refresh_comparison();  // the view asks for it with every frame
  void refresh_soundness();
  void refresh_box();
  // Findings point at faces by number: of another part than the one that is there they are none.
  template <class Report>
  std::shared_ptr<const Report> of_part(const std::shared_ptr<const Report>& report,
                                        const PartPtr& of) const {
    return same_geometry(of, part()) ? report : nullptr;
  }

  Document& document_;
  ChangeBus& bus_;
  PartPtr checked_part_;
  gp_Dir checked_axis_{0, 0, 1};
  Inspection checked_by_;
  std::shared_ptr<const HoleReport> holes_;        // as found
  std::shared_ptr<const HoleReport> named_holes_;  // with the job's names
  std::shared_ptr<const CornerReport> corners_;
  std::shared_ptr<const std::vector<PocketCutters>> judged_;
  std::optional<double> cutter_mm_;
  std::shared_ptr<const LeftByCutter> left_;
  std::shared_ptr<const std::vector<double>> left_in_pockets_;
  bool survey_wanted_ = false;
  std::shared_ptr<const Survey> survey_;
  struct Surveyed {  // what it was found for
    PartPtr part;
    std::vector<PlaneCheck> planes;
    Inspection by;
  };
  std::optional<Surveyed> surveyed_;
  std::optional<HoleList> hole_list_;
  QString hole_list_name_;
  Compared compared_;
  std::shared_ptr<const std::vector<Finding>> soundness_;
  double soundness_tolerance_mm_ = kSoundTolerance_mm;
  PartPtr sounded_part_;  // held, so that no other part can lie where it lay
  void forget_seats();
  void refresh_first_look();
  void check_directions();
  bool first_look_wanted_ = false, seats_dropped_ = false;
  std::shared_ptr<const FirstLook> first_look_;
  std::shared_ptr<const std::vector<DirectionCheck>> directions_;
  PartPtr looked_at_;  // what it was begun for, and where that lay
  gp_Trsf looked_where_;
  Inspection directed_by_;
  std::vector<Seat> seats_;
  int previewed_seat_ = -1;
  std::optional<gp_Trsf> seated_;  // where the part would lie then: the view asks with every frame
  std::optional<Box> box_;
  PartPtr boxed_part_;
  gp_Trsf boxed_in_;
  std::vector<int> shown_faces_;
  std::vector<RegionPtr> shown_regions_;
  std::optional<Narrow> shown_passage_;
  int shown_pattern_ = -1;
  std::optional<gp_Pnt> shown_place_;
  Background checking_, leaving_, surveying_, sounding_, boxing_, reporting_, looking_, directing_;
};

}  // namespace anvil::app
