#include "construct/likely_offers.h"

#include <algorithm>
#include <map>
#include <set>

namespace anvil {
namespace {

// Of one kind of result so many at most: the picks were hardly made for one kind alone.
constexpr int kMostOfAKind = 2;

// `best`: the smallest rank of all, which a frame comes up to and does not pass.
int likeliness(const Offer& offer, const Leaning& leaning, int best) {
  constexpr int kSeatFirst = 60, kZeroSoon = 10, kUsed = 80, kOneUseAgo = 5;
  int rank = offer.rank;
  const Makes makes = offer.construction->makes;
  if (leaning.wants_seat && makes == Makes::kPlacement) rank -= kSeatFirst;
  if (!leaning.wants_seat && leaning.wants_zero && makes == Makes::kFrame)
    rank = std::min(rank, std::max(best, rank - kZeroSoon));
  const std::vector<std::string>& used = leaning.used;
  const auto place = std::find(used.begin(), used.end(), offer.construction->id);
  if (place == used.end()) return rank;
  // Once brings it up to the likeliest; only what was made twice in a row passes that.
  const int likelier = rank - kUsed + kOneUseAgo * static_cast<int>(place - used.begin());
  const bool again = place == used.begin() && used.size() > 1 && used[1] == *place;
  return again ? likelier : std::min(rank, std::max(best, likelier));
}

std::string kind_of(const Given& pick) {
  if (pick.region) return "region";
  if (pick.correction) return "correction";
  if (pick.frame) return "frame";
  if (pick.surface) return std::string("face ") + std::to_string(static_cast<int>(pick.surface->kind));
  if (pick.is_circular_edge) return "circle";
  if (pick.is_straight_edge) return "line";
  if (gives(pick, Need::kEdge)) return "edge";
  if (pick.plane) return "plane";
  if (pick.axis) return "axis";
  return "point";
}

}  // namespace

std::vector<size_t> likely_offers(const std::vector<Offer>& offers, const Leaning& leaning, size_t most) {
  std::vector<std::pair<int, size_t>> ranked;
  // They come in the order of their ranks, the ready ones first.
  const int best = offers.empty() ? 0 : offers.front().rank;
  for (size_t i = 0; i < offers.size(); ++i)
    if (offers[i].state == Offer::State::kReady) ranked.emplace_back(likeliness(offers[i], leaning, best), i);
  std::sort(ranked.begin(), ranked.end());
  std::set<std::string> seen;
  std::map<Makes, int> of_kind;
  std::vector<size_t> likely;
  for (const auto& [rank, i] : ranked) {
    const Construction& c = *offers[i].construction;
    if (!likely.empty() && offers[i].misses()) continue;
    if (likely.size() == most || of_kind[c.makes] == kMostOfAKind || !seen.insert(c.id).second) continue;
    ++of_kind[c.makes];
    likely.push_back(i);
  }
  return likely;
}

std::string kinds_of(const std::vector<Given>& picks) {
  std::multiset<std::string> kinds;
  for (const Given& pick : picks) kinds.insert(kind_of(pick));
  std::string text;
  for (const std::string& kind : kinds) text += (text.empty() ? "" : "+") + kind;
  return text;
}

}  // namespace anvil
