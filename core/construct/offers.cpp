#include "construct/offers.h"

#include <numeric>

namespace anvil {
namespace {

using Assignment = std::vector<int>;

// With a repeating role the frame is the first role.
bool reads_frame_first(const Construction& c) {
  return c.reads_frame && c.repeats;
}

bool takes_picked_frame(const Construction& c, const std::vector<Given>& picks) {
  return picks.size() >= c.roles.size() &&
         std::any_of(picks.begin(), picks.end(), [](const Given& pick) { return pick.frame.has_value(); });
}

bool fits(const Construction& c, const Assignment& order, const std::vector<Given>& picks) {
  for (size_t role = 0; role < order.size(); ++role)
    if (order[role] != kReadingFrame && !gives(picks[order[role]], need_of(c, role))) return false;
  return true;
}

// The roles from `role` to before `end` looked for among all picks, the latest first; the others keep their
// order.
std::optional<Assignment> with_singles_filled(const Construction& c, const Assignment& order,
                                              const std::vector<Given>& picks, size_t role, size_t end) {
  if (role == end) return fits(c, order, picks) ? std::optional(order) : std::nullopt;
  for (size_t pick = order.size(); pick-- > role;) {
    if (order[pick] == kReadingFrame || !gives(picks[order[pick]], need_of(c, role))) continue;
    Assignment other = order;
    const auto from = other.begin() + static_cast<long>(pick);
    std::rotate(other.begin() + static_cast<long>(role), from, from + 1);
    if (auto found = with_singles_filled(c, other, picks, role + 1, end)) return found;
  }
  return std::nullopt;
}

// Of a construction whose last role repeats: the picks for the roles before it are looked for, the latest
// first where the order of picking does not fit; the others follow in the order they were picked.
std::vector<Assignment> repeating(const Construction& c, const std::vector<Given>& picks) {
  const bool read = reads_frame_first(c) && !takes_picked_frame(c, picks);
  const size_t single = c.roles.size() - 1;
  if (picks.size() + (read ? 1 : 0) < c.roles.size()) return {};
  Assignment order(picks.size());
  std::iota(order.begin(), order.end(), 0);
  if (read) order.insert(order.begin(), kReadingFrame);
  const size_t first = read ? 1 : 0;
  if (fits(c, order, picks)) return {order};
  const auto found = with_singles_filled(c, order, picks, first, single);
  if (!found) return {};
  return {*found};
}

// All ways to fill the roles with the picks (every pick used), the order of picking first.
std::vector<Assignment> assignments(const Construction& c, const std::vector<Given>& picks) {
  if (c.repeats) return repeating(c, picks);
  const bool read = c.reads_frame && picks.size() + 1 == c.roles.size();
  if (!read && !takes(c, picks.size())) return {};
  std::vector<Assignment> found;
  Assignment order(picks.size());
  std::iota(order.begin(), order.end(), 0);
  do {
    const bool good = fits(c, order, picks);
    if (good) found.push_back(order);
    if (good && !c.ordered) break;
  } while (std::next_permutation(order.begin(), order.end()));
  if (read)
    for (Assignment& assignment : found) assignment.push_back(kReadingFrame);
  return found;
}

// A circle is seldom picked for its plane, a frame seldom for its parts.
int unlikely(const Construction& c, const Inputs& in, bool picked_frame) {
  constexpr int kPlaneOfEdge = 8, kPartOfFrame = 6, kFrameOnPurpose = -5;
  int more = 0;
  for (size_t role = 0; role < in.picks.size(); ++role) {
    const Given& pick = in[role];
    const Need need = need_of(c, role);
    if (need == Need::kPlane && gives(pick, Need::kEdge)) more += kPlaneOfEdge;
    if (need != Need::kFrame && pick.frame) more += kPartOfFrame;
  }
  return c.reads_frame && picked_frame ? more + kFrameOnPurpose : more;
}

Offer full_offer(const Construction& c, const Assignment& assignment, const std::vector<Given>& picks,
                 const Asking& asking, int& rank) {
  Offer offer;
  offer.construction = &c;
  offer.picks = assignment;
  const std::vector<int> numbers = pick_numbers(c, assignment);
  offer.sentence = fill_numbers(c.sentence, numbers);
  const Given reading = given_by_frame(asking.reading_frame);
  Inputs inputs;
  inputs.tolerance = asking.tolerance;
  for (int pick : assignment) inputs.picks.push_back(pick == kReadingFrame ? &reading : &picks[pick]);
  rank = (c.rank_for ? c.rank_for(inputs) : c.rank) +
         unlikely(c, inputs, assignment.back() != kReadingFrame && assignment.front() != kReadingFrame);
  if (c.takes_time) return offer;
  Solutions solutions =
      solve(c, inputs.picks, initial_parameters(c, asking.seen), asking.display, {}, asking.tolerance);
  if (!solutions || solutions->empty()) {
    offer.state = Offer::State::kRefused;
    offer.note = solutions ? "there is no solution" : fill_numbers(solutions.error().sentence, numbers);
    return offer;
  }
  offer.preferred = preferred(*solutions, inputs.picks);
  offer.note = fill_numbers((*solutions)[offer.preferred].note, numbers);
  offer.solutions = std::move(*solutions);
  // What misses picked faces is hardly meant; points are often scattered.
  constexpr int kHardlyMeant = 40;
  const bool has_face = std::any_of(inputs.picks.begin(), inputs.picks.end(),
                                    [](const Given* pick) { return pick->surface.has_value(); });
  if (has_face && offer.misses()) rank += kHardlyMeant;
  return offer;
}

std::string needs_text(const Construction& c, size_t have) {
  std::string text;
  const size_t wanted = c.roles.size() - (c.reads_frame ? 1 : 0), skipped = reads_frame_first(c) ? 1 : 0;
  for (size_t role = have; role < wanted; ++role) {
    text += text.empty() ? "needs " : ", ";
    text += std::string(need_text(c.roles[role + skipped])) + " as " + circled(static_cast<int>(role) + 1);
  }
  return text;
}

// The picks so far as the first roles of a construction that wants more.
std::optional<Assignment> partial(const Construction& c, const std::vector<Given>& picks) {
  Assignment order(picks.size());
  std::iota(order.begin(), order.end(), 0);
  for (size_t role = 0; role < picks.size(); ++role)
    if (!gives(picks[role], c.roles[role])) return std::nullopt;
  return order;
}

}  // namespace

bool Offer::misses() const {
  constexpr double kFarOff_mm = 0.1;
  return !solutions.empty() && solutions[preferred].off_mm > kFarOff_mm;
}

std::optional<std::vector<int>> assign(const Construction& construction, const std::vector<Given>& picks) {
  const auto all = assignments(construction, picks);
  return all.empty() ? std::nullopt : std::optional(all.front());
}

std::vector<Offer> offers_for(const std::vector<Given>& picks, const Asking& asking) {
  if (picks.empty()) return {};
  std::vector<std::pair<int, Offer>> ranked;
  constexpr int kRefusedAfter = 1000, kIncompleteAfter = 2000;
  for (const Construction& c : constructions()) {
    if (c.roles.empty()) continue;
    const auto found = assignments(c, picks);
    for (const Assignment& assignment : found) {
      int rank = c.rank;
      Offer offer = full_offer(c, assignment, picks, asking, rank);
      if (offer.state == Offer::State::kRefused) rank += kRefusedAfter;
      ranked.emplace_back(rank, std::move(offer));
    }
    if (!found.empty() || picks.size() >= c.roles.size()) continue;
    if (auto assignment = partial(c, picks)) {
      Offer offer;
      offer.state = Offer::State::kNeedsMore;
      offer.construction = &c;
      offer.picks = *assignment;
      offer.sentence = fill_numbers(c.sentence, pick_numbers(c, *assignment));
      offer.note = needs_text(c, picks.size());
      ranked.emplace_back(c.rank + kIncompleteAfter, std::move(offer));
    }
  }
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<Offer> offers;
  for (auto& [rank, offer] : ranked) {
    offer.rank = rank;
    offers.push_back(std::move(offer));
  }
  return offers;
}

std::vector<int> pick_numbers(const Construction& construction, const std::vector<int>& picks) {
  std::vector<int> numbers;
  numbers.reserve(std::max(picks.size(), construction.roles.size()));
  for (int pick : picks) numbers.push_back(pick == kReadingFrame ? 0 : pick + 1);
  const size_t roles = construction.roles.size();
  if (numbers.empty() && reads_frame_first(construction)) numbers.push_back(0);
  for (size_t role = numbers.size(); role < roles; ++role)
    numbers.push_back(construction.reads_frame && !construction.repeats && role + 1 == roles
                          ? 0
                          : static_cast<int>(role) + (reads_frame_first(construction) ? 0 : 1));
  return numbers;
}

Given given_by_frame(const gp_Ax2& frame) {
  Given given;
  given.frame = frame;
  given.point = frame.Location();
  given.axis = frame.Axis();
  given.direction = frame.Direction();
  given.plane = gp_Pln(gp_Ax3(frame));
  given.extent = {frame.Location()};
  return given;
}

std::string still_needed(const Construction& construction, const std::vector<Given>& picks) {
  const size_t wanted = construction.roles.size() - (construction.reads_frame ? 1 : 0);
  if (picks.size() >= wanted) return {};
  const size_t role = picks.size();
  return std::string("Pick ") +
         need_text(construction.roles[role + (reads_frame_first(construction) ? 1 : 0)]) + " as " +
         circled(static_cast<int>(role) + 1) + ".";
}

}  // namespace anvil
