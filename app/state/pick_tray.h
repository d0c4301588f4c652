// What is picked, what can be made of it, and what is being made.
#pragma once

#include <QObject>
#include <optional>

#include "app/state/document.h"
#include "app/state/offer_memory.h"
#include "construct/handles.h"
#include "construct/likely_offers.h"
#include "construct/offers.h"

namespace anvil::app {

struct Pick {
  Reference reference;
  Given given;
  QString text;    // "cylinder, Ø12.000, inside, depth 18.000"
  int index = -1;  // of a face, edge or vertex: in the part as it is now
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

class PickTray : public QObject {
  Q_OBJECT
 public:
  PickTray(Document& document, ChangeBus& bus);

  // --- picks
  [[nodiscard]] const std::vector<Pick>& picks() const { return picks_; }
  void add_pick(const Reference& reference);  // picked again: removed; a region is grown first
  // Those of the part that are not picked yet, with their offers once for all; none of more than 500.
  void add_picks(const std::vector<Reference>& references);
  void remove_picks(const std::vector<Reference>& references);  // those of them that are picked
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
  [[nodiscard]] std::vector<Given> givens() const;

  // Who knows how the part is seen: Z towards the eye, X to the right, in placed coordinates.
  void set_seen_from(std::function<gp_Ax2()> seen_from) { seen_from_ = std::move(seen_from); }

  // --- offers and the draft
  [[nodiscard]] const std::vector<Offer>& offers() const { return offers_; }
  // Places of the few that are shown first; Enter takes the first of them.
  [[nodiscard]] const std::vector<size_t>& likely() const { return likely_; }
  // Who knows what the job lacks.
  void set_leaning(std::function<Leaning()> leaning) { leaning_ = std::move(leaning); }
  [[nodiscard]] const std::optional<Draft>& draft() const { return draft_; }
  [[nodiscard]] int previewed() const { return previewed_; }  // offer under the pointer, or -1
  void preview(int offer);
  void choose(int offer);
  void start(const std::string& construction);  // command first: picks follow
  // Solved once for all that is typed before the window is idle.
  void set_parameter(const std::string& id, const std::string& text);
  void choose_solution(size_t index);
  void next_solution();
  void leave_out_worst();  // the pick a best fit misses most
  void quarter_turn();     // frames: the arrangement a quarter turn on, about Z
  void flip();
  void open_asides(bool open);
  void set_moving_bodies(std::vector<int> delivered);  // of a placement being made
  // What a correction that is being made, or pointed at, would do; null until it is known.
  struct Outcome {
    std::shared_ptr<const CorrectionReport> report;  // null when it cannot be done
    QString refused;                                 // why it cannot be done
  };
  [[nodiscard]] const std::shared_ptr<const Outcome>& outcome() const { return outcome_; }

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
  void drop_all();
  [[nodiscard]] bool is_empty() const { return !draft_ && picks_.empty(); }
  void edit(int entry, int placement_step = -1);
  [[nodiscard]] const std::vector<NumberHandle>& handles() const { return handles_; }
  [[nodiscard]] Names draft_names() const;  // what the draft's expressions may use
  // As it would be kept.
  [[nodiscard]] Recipe recipe_of(const Draft& draft) const;

  [[nodiscard]] Background& drafting() { return drafting_; }
  [[nodiscard]] Background& correcting() { return correcting_; }
  [[nodiscard]] Background& growing() { return growing_; }

 private:
  [[nodiscard]] const Job& job() const { return document_.job(); }
  [[nodiscard]] const Evaluation& evaluation() const { return document_.evaluation(); }
  void forget();
  void settle_draft(Solutions solutions);
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
  void try_correction();  // of the draft, or of the offer that is pointed at
  [[nodiscard]] std::shared_ptr<const Plan> plan_in_view() const;
  void edit_recipe(const Entry& entry, const Recipe& recipe, int step);
  void look_as_edited();  // before the correction that is edited, else at the part as it is
  void solve_what_was_typed();
  void assign_draft();
  void refresh_handles();  // of the chosen solution; the view asks for them with every frame
  [[nodiscard]] Result<Pick> make_pick(const Reference& reference) const;
  [[nodiscard]] Asking asking() const;
  [[nodiscard]] gp_Ax2 seen() const { return seen_from_ ? seen_from_() : world_frame(); }
  [[nodiscard]] size_t preferred_solution(const Draft& draft) const;
  [[nodiscard]] Solutions solve_draft(const Draft& draft) const;

  Document& document_;
  ChangeBus& bus_;
  std::vector<Pick> picks_;
  struct Growing {  // regions that are being grown, and what follows
    std::vector<RegionReference> regions;
    std::function<void()> then;
    int regrown = -1;  // the pick that is changed by it
  };
  std::vector<Growing> grow_;
  int replacing_ = -1;
  std::vector<Offer> offers_;
  std::vector<size_t> likely_;
  std::function<Leaning()> leaning_;
  OfferMemory memory_;
  std::optional<Draft> draft_;
  std::vector<NumberHandle> handles_;
  int previewed_ = -1;
  std::function<gp_Ax2()> seen_from_;
  QTimer typed_;
  std::shared_ptr<const Plan> tried_;  // what the outcome is of
  std::shared_ptr<const Outcome> outcome_;
  Background drafting_, correcting_, growing_;
};

}  // namespace anvil::app
