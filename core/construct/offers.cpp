#include "construct/offers.h"

#include <numeric>

namespace anvil {
namespace {

using Assignment = std::vector<int>;

// All ways to fill the roles with the picks (every pick used), the order of picking first.
std::vector<Assignment> assignments(const Construction& c, const std::vector<Given>& picks) {
  std::vector<Assignment> found;
  Assignment order(picks.size());
  std::iota(order.begin(), order.end(), 0);
  do {
    bool fits = true;
    for (size_t role = 0; role < order.size() && fits; ++role)
      fits = gives(picks[order[role]], c.roles[role]);
    if (fits) found.push_back(order);
    if (fits && !c.ordered) break;
  } while (std::next_permutation(order.begin(), order.end()));
  return found;
}

std::vector<int> numbers_of(const Assignment& assignment, size_t roles) {
  std::vector<int> numbers;
  for (int pick : assignment) numbers.push_back(pick + 1);
  for (size_t role = assignment.size(); role < roles; ++role) numbers.push_back(static_cast<int>(role) + 1);
  return numbers;
}

Offer full_offer(const Construction& c, const Assignment& assignment, const std::vector<Given>& picks,
                 const Display& display, int& rank) {
  Offer offer;
  offer.construction = &c;
  offer.picks = assignment;
  const std::vector<int> numbers = numbers_of(assignment, c.roles.size());
  offer.sentence = fill_numbers(c.sentence, numbers);
  std::vector<const Given*> givens;
  for (int pick : assignment) givens.push_back(&picks[pick]);
  Inputs inputs;
  inputs.picks = givens;
  rank = c.rank_for ? c.rank_for(inputs) : c.rank;
  Solutions solutions = solve(c, givens, initial_parameters(c), display);
  if (!solutions || solutions->empty()) {
    offer.state = Offer::State::kRefused;
    offer.note = solutions ? "there is no solution" : fill_numbers(solutions.error().sentence, numbers);
    return offer;
  }
  offer.note = fill_numbers(solutions->front().note, numbers);
  offer.solutions = std::move(*solutions);
  return offer;
}

std::string needs_text(const Construction& c, size_t have) {
  std::string text;
  for (size_t role = have; role < c.roles.size(); ++role) {
    text += text.empty() ? "needs " : ", ";
    text += std::string(need_text(c.roles[role])) + " as " + circled(static_cast<int>(role) + 1);
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

std::optional<std::vector<int>> assign(const Construction& construction, const std::vector<Given>& picks) {
  if (picks.size() != construction.roles.size()) return std::nullopt;
  const auto all = assignments(construction, picks);
  return all.empty() ? std::nullopt : std::optional(all.front());
}

std::vector<Offer> offers_for(const std::vector<Given>& picks, const Display& display) {
  if (picks.empty()) return {};
  std::vector<std::pair<int, Offer>> ranked;
  constexpr int kRefusedAfter = 1000, kIncompleteAfter = 2000;
  for (const Construction& c : constructions()) {
    if (c.roles.empty() || c.roles.size() < picks.size()) continue;
    if (c.roles.size() == picks.size()) {
      for (const Assignment& assignment : assignments(c, picks)) {
        int rank = c.rank;
        Offer offer = full_offer(c, assignment, picks, display, rank);
        if (offer.state == Offer::State::kRefused) rank += kRefusedAfter;
        ranked.emplace_back(rank, std::move(offer));
      }
    } else if (auto assignment = partial(c, picks)) {
      Offer offer;
      offer.state = Offer::State::kNeedsMore;
      offer.construction = &c;
      offer.picks = *assignment;
      offer.sentence = fill_numbers(c.sentence, numbers_of(*assignment, c.roles.size()));
      offer.note = needs_text(c, picks.size());
      ranked.emplace_back(c.rank + kIncompleteAfter, std::move(offer));
    }
  }
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<Offer> offers;
  for (auto& [rank, offer] : ranked) offers.push_back(std::move(offer));
  return offers;
}

std::string still_needed(const Construction& construction, const std::vector<Given>& picks) {
  if (picks.size() >= construction.roles.size()) return {};
  const size_t role = picks.size();
  return std::string("Pick ") + need_text(construction.roles[role]) + " as " +
         circled(static_cast<int>(role) + 1) + ".";
}

}  // namespace anvil
