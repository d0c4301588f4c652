// One open job in the window: its history and evaluation, the picks, the offers they make, and the draft that
// is being made or edited. The panels show this and call it; nothing else holds truth.
#pragma once

#include <QObject>
#include <optional>
#include <set>

#include "app/background.h"
#include "app/draft_handles.h"
#include "construct/offers.h"
#include "inspect/corners.h"
#include "inspect/hole_comparison.h"
#include "inspect/hole_surroundings.h"
#include "inspect/holes.h"
#include "inspect/left_by_cutter.h"
#include "inspect/seats.h"
#include "job/evaluate.h"
#include "job/history.h"
#include "job/hole_names.h"
#include "job/plane_checks.h"
#include "job/result_cache.h"
#include "part/measure.h"
#include "part/soundness.h"
#include "setup/proposals.h"

namespace anvil::app {

struct Pick {
  Reference reference;
  Given given;
  QString text;  // "cylinder, Ø12.000, inside, depth 18.000"
};

// An offer that was chosen, or an entry being edited: its parameters are open in the tray.
struct Draft {
  const Construction* construction = nullptr;
  std::vector<int> picks;  // role -> pick
  ParameterTexts parameters;
  Unit unit = Unit::kMillimetre;    // what bare lengths in them are in
  std::vector<Solution> solutions;  // empty while it refuses or lacks picks
  size_t solution = 0;
  bool flipped = false;
  std::vector<int> bodies;    // placements: the delivered bodies that move; empty: all
  QString reason;             // why there is no solution
  std::string kept_key = {};  // of the solution, while there is none
  bool asides_open = false;   // what is seldom wanted is shown, with its handles
  int editing_entry = 0;      // 0: a new one
  int editing_step = -1;      // of the placement
};

class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(QObject* parent = nullptr);

  // --- the job
  [[nodiscard]] const Job& job() const { return history_.now(); }
  [[nodiscard]] const Evaluation& evaluation() const { return evaluation_; }
  [[nodiscard]] const History& history() const { return history_; }
  [[nodiscard]] const PartPtr& part() const { return evaluation_.part; }
  [[nodiscard]] const std::shared_ptr<ResultCache>& cache() const { return cache_; }
  [[nodiscard]] int part_entry() const;
  // A pick of the part as it is now.
  [[nodiscard]] TopologyReference describe(TopologyKind kind, int index, Snap snap = Snap::kWhole) const {
    return describe_now(evaluation_, part_entry(), kind, index, snap);
  }
  [[nodiscard]] gp_Ax2 frame() const { return reading_frame(job(), evaluation_); }
  [[nodiscard]] gp_Trsf part_to_reading() const { return anvil::part_to_reading(job(), evaluation_); }
  void reset(Job job);
  // One act of the user, through the gate that every edit goes through; one that changes nothing is none.
  // False, and told, when it is refused.
  // Repeated acts on one `field` ("name 7") are one step to undo.
  bool act(const QString& name, Job next, const QString& field = {});
  // Which job and which of its values: for whoever works on it for long and comes back with a result.
  struct Ticket {
    int job = 0, revision = 0;
    bool operator==(const Ticket&) const = default;
  };
  [[nodiscard]] Ticket ticket() const { return {job_number_, history_.revision()}; }
  // Another part under the same references, everywhere in the history: what import checked and mended after
  // the first picture.
  void exchange_part(const PartPtr& shown, const PartPtr& checked);
  void undo();
  void redo();
  void tell(const QString& sentence) { Q_EMIT told(sentence); }
  // While a part is still being brought in nothing is checked: the checks would take the cores from the
  // import, and would be done again for the part that comes of it.
  void set_importing(bool importing);
  void mark_saved(int revision);
  void mark_unsaved();  // what is open is nowhere on disk

  // --- picks
  [[nodiscard]] const std::vector<Pick>& picks() const { return picks_; }
  void add_pick(const Reference& reference);  // picked again: removed; a region is grown first
  // Those of the part that are not picked yet, with their offers once for all; none of more than 500.
  void add_picks(const std::vector<Reference>& references);
  // A picked region once more: within that scatter (0: as the scan scatters there) and as that surface
  // (none: whichever fits). What does not fit is told, and the pick stays as it was.
  void regrow(int pick, double within_mm, std::optional<SurfaceKind> as);
  void replace_last_pick(const Reference& reference);
  void remove_pick(int index);
  // The next pick takes the place of this one (-1: is added). Asked twice: back to adding.
  void replace_pick_next(int index);
  [[nodiscard]] int replacing() const {
    return replacing_ < static_cast<int>(picks_.size()) ? replacing_ : -1;
  }
  void remove_last_pick();
  void move_pick(int from, int to);
  void clear_picks();
  [[nodiscard]] bool is_picked(const Reference& reference) const;

  // Who knows how the part is seen: Z towards the eye, X to the right, in placed coordinates.
  void set_seen_from(std::function<gp_Ax2()> seen_from) { seen_from_ = std::move(seen_from); }

  // --- offers and the draft
  [[nodiscard]] const std::vector<Offer>& offers() const { return offers_; }
  [[nodiscard]] const std::optional<Draft>& draft() const { return draft_; }
  [[nodiscard]] int previewed() const { return previewed_; }  // offer under the pointer, or -1
  void preview(int offer);
  void choose(int offer);
  void start(const std::string& construction);  // command first: picks follow
  void set_parameter(const std::string& id, const std::string& text);
  void choose_solution(size_t index);
  void next_solution();
  void leave_out_worst();  // the pick a best fit misses most
  void quarter_turn();     // frames: the arrangement a quarter turn on, about Z
  void flip();
  void open_asides(bool open);
  void set_moving_bodies(std::vector<int> delivered);  // of a placement being made
  // What is open, or without that the first offer: kept at once, or opened where it asks for numbers.
  void keep();
  [[nodiscard]] bool can_keep() const;
  // Kept, and the same begun again: from the same picks, or with the new point in the place of the one it was
  // measured from.
  void keep_and_repeat();
  void keep_and_go_on();
  [[nodiscard]] bool can_repeat() const;
  [[nodiscard]] bool can_go_on() const;
  // Opens the first offer that takes a number; false when none does.
  bool open_for_number();
  void drop();  // the draft, or without one the picks
  void edit(int entry, int placement_step = -1);
  [[nodiscard]] const std::vector<DraftHandle>& handles() const { return handles_; }
  [[nodiscard]] Names draft_names() const;  // what the draft's expressions may use
  [[nodiscard]] QString still_needed_text() const;

  // --- setups
  void open_setup(int id);  // on its card; 0 closes it
  [[nodiscard]] int opened_setup_id() const { return opened_setup() ? open_setup_ : 0; }
  [[nodiscard]] const Setup* opened_setup() const;
  [[nodiscard]] const SetupValue* opened_setup_value() const;  // null while there is none
  void change_setup(const QString& name, const Setup& setup);
  [[nodiscard]] int setup_in_use() const;  // read in, or open, or the only one; 0: none
  // The frame being made, or one that is picked.
  void keep_as_setup();
  void keep_as_tool_plane();
  [[nodiscard]] bool can_keep_as_setup() const;
  void activate_plane(int setup, int plane);  // 0: the setup's own
  // Tool axes that suggest themselves for the opened setup; null until they are asked for and found.
  void propose_planes();
  [[nodiscard]] const std::shared_ptr<const Proposals>& proposals() const { return proposals_; }
  void point_at_proposal(int axis);  // lights what it reaches; -1: none
  void keep_proposals(const std::vector<int>& axes);
  void drop_proposals();
  [[nodiscard]] int plane_along(const ProposedAxis& axis) const;
  [[nodiscard]] Background& proposing() { return proposing_; }

  // --- checks, in part coordinates
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
  [[nodiscard]] Background& leaving() { return leaving_; }
  // A passage that is shown on the part, in part coordinates.
  void show_passage(const std::optional<Narrow>& passage);
  [[nodiscard]] const std::optional<Narrow>& shown_passage() const { return shown_passage_; }
  void show_pattern(int pattern);  // of the hole report; -1: none
  [[nodiscard]] int shown_pattern() const { return shown_pattern_; }

  // --- what stands around each hole, and what each tool plane of the setups allows; found once somebody
  // wants to see it
  struct Survey {
    std::vector<HoleSurroundings> around;  // of each hole, in part coordinates
    std::vector<PlaneCheck> planes;
  };
  void want_survey(bool wanted);
  // Null until it is found, or when something changed meanwhile.
  [[nodiscard]] std::shared_ptr<const Survey> survey() const { return of_part(survey_, checked_part_); }
  [[nodiscard]] Background& surveying() { return surveying_; }

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

  // --- soundness, in part coordinates; null while it is being found out
  [[nodiscard]] std::shared_ptr<const std::vector<Finding>> soundness() const {
    return of_part(soundness_, sounded_part_);
  }
  [[nodiscard]] double soundness_tolerance_mm() const { return soundness_tolerance_mm_; }
  void set_soundness_tolerance(double mm);
  [[nodiscard]] Background& sounding() { return sounding_; }
  void show_place(const std::optional<gp_Pnt>& in_part);  // a marker, and the view goes there
  [[nodiscard]] const std::optional<gp_Pnt>& shown_place() const { return shown_place_; }

  // --- seats that suggest themselves
  void suggest_seats();
  [[nodiscard]] const std::vector<Seat>& seats() const { return seats_; }
  void preview_seat(int seat);                                  // -1: none
  [[nodiscard]] std::optional<gp_Trsf> previewed_seat() const;  // from the placed part as it stands
  void take_seat(int seat);

  // --- bodies looked at alone (delivered numbers); empty: all. A way of looking, not part of the job.
  [[nodiscard]] const std::set<int>& isolated() const { return isolated_; }
  void isolate(std::set<int> bodies);
  [[nodiscard]] bool is_shown(const Body& body) const;

  // The exact box in the reading frame; nothing while it is being computed.
  [[nodiscard]] const std::optional<Box>& box() const { return box_; }

  // Faces (and regions of scans) shown as chosen in a table.
  void show_faces(std::vector<int> faces, std::vector<RegionPtr> regions = {});
  [[nodiscard]] const std::vector<int>& shown_faces() const { return shown_faces_; }
  [[nodiscard]] const std::vector<RegionPtr>& shown_regions() const { return shown_regions_; }

  [[nodiscard]] Background& checks() { return checking_; }
  [[nodiscard]] Background& evaluating() { return evaluating_; }
  [[nodiscard]] Background& drafting() { return drafting_; }
  [[nodiscard]] Background& growing() { return growing_; }
  [[nodiscard]] Background& reporting() { return reporting_; }
  // How long an act waits for its evaluation before that goes on behind it, with progress.
  void set_patience(std::chrono::milliseconds patience) { patience_ = patience; }
  void compute_stopped();  // what was not computed because the user cancelled

 Q_SIGNALS:
  void job_changed();
  void part_changed();  // another part, or placed otherwise
  void part_refined();  // the same part, checked and meshed finely: nothing of it has moved
  void picks_changed();
  void draft_changed();
  void checks_changed();
  void left_changed();  // what the cutter in mind leaves
  void survey_changed();
  void list_changed();
  void shown_changed();
  void soundness_changed();
  void seats_changed();
  void bodies_changed();  // which are shown, and how
  void place_shown(const gp_Pnt& placed);
  void setup_opened();                 // or closed
  void plane_activated();              // look along it
  void told(const QString& sentence);  // something the user must know; not an error of theirs

 private:
  void refresh_evaluation();
  void take_evaluation(Evaluation done);
  void stop_evaluating();
  void settle_draft(Solutions solutions);
  int frame_for_setup(Job& next) const;
  void keep_then_start(bool from_what_was_kept);
  [[nodiscard]] Job with_draft_kept(const Draft& draft) const;
  [[nodiscard]] QString act_name(const Draft& draft) const;
  void refresh_picks();
  void take_pick(const Reference& reference);
  [[nodiscard]] int pick_of(const Reference& reference) const;  // its place among the picks, or -1
  void grow_then(std::vector<RegionReference> regions, std::function<void()> then, int regrown = -1);
  void take_grown();
  void refresh_offers();
  void refresh_draft();
  void refresh_checks();
  void refresh_left(LeftDetail detail);
  void refresh_names();
  void refresh_survey();
  void refresh_comparison();  // the view asks for it with every frame
  void assign_draft();
  void refresh_handles();  // of the chosen solution; the view asks for them with every frame
  void refresh_soundness();
  // Findings point at faces by number: of another part than the one that is there they are none.
  template <class Report>
  std::shared_ptr<const Report> of_part(const std::shared_ptr<const Report>& report,
                                        const PartPtr& of) const {
    return same_geometry(of, evaluation_.part) ? report : nullptr;
  }
  void refresh_box();
  [[nodiscard]] Result<Pick> make_pick(const Reference& reference) const;
  [[nodiscard]] std::vector<Given> givens() const;
  [[nodiscard]] Asking asking() const;
  [[nodiscard]] gp_Ax2 seen() const { return seen_from_ ? seen_from_() : world_frame(); }
  [[nodiscard]] size_t preferred_solution(const Draft& draft) const;
  [[nodiscard]] Recipe recipe_of(const Draft& draft) const;
  [[nodiscard]] Solutions solve_draft(const Draft& draft) const;

  bool importing_ = false;
  bool refining_ = false;  // the evaluation under way is of an exchanged part
  int job_number_ = 0;     // counts the jobs that were opened
  History history_;
  const std::shared_ptr<ResultCache> cache_ = std::make_shared<ResultCache>();
  Evaluation evaluation_;
  std::vector<Pick> picks_;
  struct Growing {  // regions that are being grown, and what follows
    std::vector<RegionReference> regions;
    std::function<void()> then;
    int regrown = -1;  // the pick that is changed by it
  };
  std::vector<Growing> grow_;
  int replacing_ = -1;
  std::vector<Offer> offers_;
  std::optional<Draft> draft_;
  std::vector<DraftHandle> handles_;
  int previewed_ = -1;
  std::shared_ptr<const HoleReport> holes_;        // as found
  std::shared_ptr<const HoleReport> named_holes_;  // with the job's names
  std::shared_ptr<const CornerReport> corners_;
  std::vector<int> shown_faces_;
  std::vector<RegionPtr> shown_regions_;
  std::shared_ptr<const std::vector<Finding>> soundness_;
  double soundness_tolerance_mm_ = kSoundTolerance_mm;
  PartPtr sounded_part_;  // held, so that no other part can lie where it lay
  std::optional<gp_Pnt> shown_place_;
  std::vector<Seat> seats_;
  int previewed_seat_ = -1;
  std::set<int> isolated_;
  std::optional<Box> box_;
  const Part* boxed_part_ = nullptr;
  gp_Trsf boxed_in_;
  int open_setup_ = 0;
  bool look_when_evaluated_ = false;
  std::function<void()> when_evaluated_;  // what waits for the entries it leans on
  std::function<gp_Ax2()> seen_from_;
  std::chrono::milliseconds patience_{250};
  std::set<int> stopped_;  // datums the user would not wait for
  Background checking_, sounding_, boxing_, evaluating_, drafting_, growing_, proposing_, reporting_,
      leaving_, surveying_;
  std::shared_ptr<const Proposals> proposals_;
  PartPtr checked_part_;
  gp_Dir checked_axis_{0, 0, 1};
  Inspection checked_by_;
  std::optional<double> cutter_mm_;
  std::shared_ptr<const LeftByCutter> left_;
  std::shared_ptr<const std::vector<double>> left_in_pockets_;
  std::shared_ptr<const std::vector<PocketCutters>> judged_;
  std::optional<Narrow> shown_passage_;
  int shown_pattern_ = -1;
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
  PartPtr seen_part_;
  gp_Trsf seen_placement_;
};

}  // namespace anvil::app
