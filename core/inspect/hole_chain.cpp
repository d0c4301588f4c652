#include "inspect/hole_chain.h"

#include <GCPnts_AbscissaPoint.hxx>
#include <cstdint>
#include <set>
#include <unordered_map>

#include "base/tolerance.h"
#include "base/union_find.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/coaxial.h"

namespace anvil {
namespace {

constexpr double kHalfTurn_rad = kPi - 1e-4;
constexpr double kHalfTurnSlack_rad = 1e-3;

class ChainBuilder {
 public:
  ChainBuilder(const Part& part, const std::vector<bool>& excluded)
      : part_(part),
        topology_(part.topology()),
        turns_(whole_turns(part)),
        near_(point_near(topology_)),
        joined_(topology_.patches.size()),
        member_(topology_.patches.size(), false) {
    for (size_t i = 0; i < topology_.patches.size(); ++i)
      member_[i] = !excluded[i] && may_belong(static_cast<int>(i));
  }

  std::vector<Chain> run() {
    for (size_t i = 0; i < topology_.patches.size(); ++i)
      if (member_[i]) join_neighbours(static_cast<int>(i));
    for (size_t i = 0; i < topology_.patches.size(); ++i)
      if (const int first = turns_.first_piece[i]; member_[i] && member_[first])
        joined_.join(static_cast<int>(i), first);
    return collect();
  }

  // Pieces of one hole that a void interrupts, as one chain.
  std::vector<Chain> joined(std::vector<Chain> chains) { return join_interrupted(std::move(chains)); }

 private:
  bool may_belong(int patch) const {
    const Surface& s = topology_.patches[patch].surface;
    const bool rounded_mouth = s.kind == SurfaceKind::kTorus;
    return s.is_revolution() && (s.inside || rounded_mouth) && turns_.by_patch[patch] >= kHalfTurn_rad;
  }

  bool belongs_with(int a, int b) const {
    return b >= 0 && member_[b] && topology_.patches[a].body == topology_.patches[b].body &&
           coaxial(topology_.patches[a].surface.axis(), topology_.patches[b].surface.axis());
  }

  void join_neighbours(int patch) {
    const gp_Ax1 axis = topology_.patches[patch].surface.axis();
    for (int edge : topology_.patches[patch].border) {
      const int across = patch_across(topology_, patch, edge);
      if (belongs_with(patch, across)) {
        joined_.join(patch, across);
        continue;
      }
      if (is_ball_on(axis, across)) balls_.insert({patch, across});
      // A flat floor of this piece may be a shoulder above a smaller one.
      if (across < 0 || topology_.edges[edge].convexity != Convexity::kConcave) continue;
      const Surface& floor = topology_.patches[across].surface;
      if (floor.kind == SurfaceKind::kPlane &&
          parallel(floor.position.Direction(), axis.Direction(), kCoaxial_rad))
        join_over_shoulder(patch, across);
    }
  }

  bool is_ball_on(const gp_Ax1& axis, int patch) const {
    if (patch < 0) return false;
    const Surface& s = topology_.patches[patch].surface;
    return s.kind == SurfaceKind::kSphere && s.inside && distance(axis, s.position.Location()) <= kCoaxial_mm;
  }

  void join_over_shoulder(int patch, int shoulder) {
    for (int edge : topology_.patches[shoulder].border) {
      const int below = patch_across(topology_, shoulder, edge);
      if (below == patch || !belongs_with(patch, below)) continue;
      joined_.join(patch, below);
      shoulders_.insert({patch, shoulder});
    }
  }

  std::vector<Chain> collect() {
    std::unordered_map<int, size_t> chain_of_root;
    std::vector<Chain> chains;
    for (size_t i = 0; i < topology_.patches.size(); ++i) {
      if (!member_[i]) continue;
      const int patch = static_cast<int>(i);
      const auto [at, is_new] = chain_of_root.try_emplace(joined_.root(patch), chains.size());
      if (is_new)
        chains.push_back({topology_.patches[i].body, topology_.patches[i].surface.axis(), {}, {}, {}, {}});
      chains[at->second].pieces.push_back(piece_of(chains[at->second].axis, patch));
    }
    for (const auto* beside : {&shoulders_, &balls_})
      for (const auto& [patch, shoulder] : *beside)
        chains[chain_of_root.at(joined_.root(patch))].shoulders.push_back(shoulder);
    std::vector<Chain> real;
    for (Chain& chain : chains) {
      const bool has_inside = std::any_of(chain.pieces.begin(), chain.pieces.end(), [&](const ChainPiece& p) {
        const Surface& s = topology_.patches[p.patch].surface;
        return s.inside && s.kind != SurfaceKind::kTorus;
      });
      if (!has_inside) continue;
      order(chain);
      real.push_back(std::move(chain));
    }
    return real;
  }

  ChainPiece piece_of(const gp_Ax1& axis, int patch) const {
    ChainPiece piece = measure_piece(topology_, axis, patch);
    piece.coverage_rad = turns_.by_patch[patch];
    return piece;
  }

  void order(Chain& chain) const {
    std::sort(chain.pieces.begin(), chain.pieces.end(), [](const ChainPiece& a, const ChainPiece& b) {
      return std::make_tuple(a.low + a.high, a.patch) < std::make_tuple(b.low + b.high, b.patch);
    });
    chain.low = measure_end(topology_, chain.axis, chain.pieces.front(), -1);
    chain.high = measure_end(topology_, chain.axis, chain.pieces.back(), +1);
    for (const int patch : chain.shoulders) measure_ball(chain, topology_.patches[patch].surface);
  }

  static void measure_ball(Chain& chain, const Surface& ball) {
    if (ball.kind != SurfaceKind::kSphere) return;
    const double middle = level_on(chain.axis, ball.position.Location());
    if (!chain.low.open && middle - ball.radius_mm < chain.low.level)
      chain.low.ball_mm = std::max(chain.low.ball_mm, chain.low.level - middle + ball.radius_mm);
    if (!chain.high.open && middle + ball.radius_mm > chain.high.level)
      chain.high.ball_mm = std::max(chain.high.ball_mm, middle + ball.radius_mm - chain.high.level);
  }

  // Chains on one line, found through a grid so that no pair search is needed.
  std::vector<Chain> join_interrupted(std::vector<Chain> chains) {
    std::map<std::pair<int, AxisCell>, std::vector<size_t>> by_cell;
    std::vector<bool> taken(chains.size(), false);
    for (size_t i = 0; i < chains.size(); ++i)
      for (const AxisCell& cell : cells_near(chains[i].axis, near_))
        by_cell[{chains[i].body, cell}].push_back(i);
    std::vector<Chain> result;
    for (size_t i = 0; i < chains.size(); ++i) {
      if (taken[i]) continue;
      std::set<size_t> line{i};
      for (const AxisCell& cell : cells_near(chains[i].axis, near_))
        for (size_t j : by_cell[{chains[i].body, cell}])
          if (!taken[j] && coaxial(chains[i].axis, chains[j].axis)) line.insert(j);
      for (size_t j : line) taken[j] = true;
      join_line(chains, line, result);
    }
    return result;
  }

  void join_line(const std::vector<Chain>& chains, const std::set<size_t>& line, std::vector<Chain>& result) {
    std::vector<Chain> ordered;
    ordered.reserve(line.size());
    const gp_Ax1 axis = chains[*line.begin()].axis;
    for (size_t j : line) ordered.push_back(on_axis(chains[j], axis));
    std::sort(ordered.begin(), ordered.end(),
              [](const Chain& a, const Chain& b) { return a.low.level < b.low.level; });
    for (Chain& chain : ordered) {
      if (!result.empty() && &chain != &ordered.front() && continues(result.back(), chain)) {
        Chain& before = result.back();
        before.pieces.insert(before.pieces.end(), chain.pieces.begin(), chain.pieces.end());
        before.shoulders.insert(before.shoulders.end(), chain.shoulders.begin(), chain.shoulders.end());
        before.high = chain.high;
      } else {
        result.push_back(std::move(chain));
      }
    }
  }

  Chain on_axis(const Chain& chain, const gp_Ax1& axis) const {
    Chain moved{chain.body, axis, {}, chain.shoulders, {}, {}};
    for (const ChainPiece& piece : chain.pieces) moved.pieces.push_back(piece_of(axis, piece.patch));
    order(moved);
    return moved;
  }

  // Nothing but void between two chains on one line: one hole, interrupted by whatever crosses it.
  bool continues(const Chain& below, const Chain& above) const {
    if (!below.high.open || !above.low.open) return false;
    // Two blind holes that meet in a void stay two: as one they would have no opening.
    if (!below.low.open && !above.high.open) return false;
    const double gap = above.low.level - below.high.level;
    if (gap <= 1e-3) return true;
    return !rays_of(part_).first_hit(point_on(below.axis, below.high.level), below.axis.Direction(), 0.0,
                                     gap);
  }

  const Part& part_;
  const TopologyIndex& topology_;
  const WholeTurns& turns_;
  gp_Pnt near_;
  UnionFind joined_;
  std::vector<bool> member_;
  std::set<std::pair<int, int>> shoulders_, balls_;  // beside which piece
};

double radius_at(const Surface& s, double level) {
  if (s.kind == SurfaceKind::kCylinder) return s.radius_mm;
  if (s.kind == SurfaceKind::kCone) return std::abs(s.radius_mm + level * std::tan(s.semi_angle_rad));
  return s.radius_mm;
}

// Which twenty-fourths of a turn about the axis the edge passes.
unsigned sectors(const TopoDS_Edge& edge, const gp_Ax2& about) {
  constexpr int kSamples = 96, kSectors = 24;
  const BRepAdaptor_Curve curve(edge);
  unsigned mask = 0;
  for (int i = 0; i < kSamples; ++i) {
    const double t =
        curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * (i + 0.5) / kSamples;
    const gp_Pnt p = read_in(about, curve.Value(t));
    const double turn = std::atan2(p.Y(), p.X()) / (2 * kPi) + 0.5;
    mask |= 1u << std::clamp(static_cast<int>(turn * kSectors), 0, kSectors - 1);
  }
  return mask;
}

// The edges that end a piece on one side. Where loops run all round the axis only those count: the others are
// holes and pockets that break through its side.
std::vector<int> mouth_edges(const TopologyIndex& topology, const gp_Ax1& axis, const ChainPiece& piece,
                             int sense) {
  constexpr unsigned kAllRound = (1u << 24) - 1;
  const double origin = axis.Location().XYZ().Dot(axis.Direction().XYZ());
  const double middle = 0.5 * (piece.low + piece.high);
  std::vector<int> here;
  for (int index : topology.patches[piece.patch].border) {
    const EdgeInfo& edge = topology.edges[index];
    const auto [low, high] = level_range(edge.edge, axis.Direction());
    const bool along_axis = edge.straight_along && high - low > 0.5 * (piece.high - piece.low);
    if (!along_axis && ((low + high) / 2 - origin - middle) * sense >= 0) here.push_back(index);
  }
  const gp_Ax2 about(axis.Location(), axis.Direction());
  UnionFind loops(here.size());
  std::map<int, int> first_at_vertex;
  for (size_t i = 0; i < here.size(); ++i)
    for (int vertex : {topology.edges[here[i]].vertex_a, topology.edges[here[i]].vertex_b})
      loops.join(static_cast<int>(i), first_at_vertex.try_emplace(vertex, static_cast<int>(i)).first->second);
  const auto loop = [&](size_t i) { return loops.root(static_cast<int>(i)); };
  std::map<int, unsigned> round;
  for (size_t i = 0; i < here.size(); ++i) round[loop(i)] |= sectors(topology.edges[here[i]].edge, about);
  std::vector<int> all_round;
  for (size_t i = 0; i < here.size(); ++i)
    if (round[loop(i)] == kAllRound) all_round.push_back(here[i]);
  return all_round.empty() ? here : all_round;
}

// Does what follows across the edge close the hole, like a floor, rather than leave it open, like a mouth?
bool closes(const TopologyIndex& topology, int patch, int across, const EdgeInfo& edge) {
  if (edge.convexity == Convexity::kConcave) return true;
  if (edge.convexity != Convexity::kSmooth || across < 0) return false;
  const Surface& own = topology.patches[patch].surface;
  const bool bottom_fillet = own.kind == SurfaceKind::kTorus && own.inside;
  return bottom_fillet || topology.patches[across].surface.inside;
}

// A plane that goes on smoothly from the end of a bore can only be a gap that was filled: it neither opens
// nor closes the hole.
bool is_sliver_beside(const TopologyIndex& topology, int across, const EdgeInfo& edge) {
  return across >= 0 && edge.convexity == Convexity::kSmooth &&
         topology.patches[across].surface.kind == SurfaceKind::kPlane;
}

}  // namespace

ChainPiece measure_piece(const TopologyIndex& topology, const gp_Ax1& axis, int patch) {
  const Patch& p = topology.patches[patch];
  const gp_Dir d = axis.Direction();
  const double origin = axis.Location().XYZ().Dot(d.XYZ());
  auto [low, high] = patch_levels(topology, p, d);
  ChainPiece piece{patch, low - origin, high - origin, 0, 0, 0};
  const Surface& s = p.surface;
  const double sense = s.position.Direction().Dot(d) > 0 ? 1 : -1;
  const double base = level_on(axis, s.position.Location());
  piece.low_radius = radius_at(s, sense * (piece.low - base));
  piece.high_radius = radius_at(s, sense * (piece.high - base));
  return piece;
}

ChainEnd measure_end(const TopologyIndex& topology, const gp_Ax1& axis, const ChainPiece& piece, int sense) {
  ChainEnd end;
  end.level = sense > 0 ? piece.high : piece.low;
  const double end_radius = sense > 0 ? piece.high_radius : piece.low_radius;
  if (end_radius < 1e-6) return end;  // an apex
  const double origin = axis.Location().XYZ().Dot(axis.Direction().XYZ());
  double convex = 0, concave = 0, outward = sense > 0 ? -1e300 : 1e300;
  std::set<int> mouth_faces;
  for (int index : mouth_edges(topology, axis, piece, sense)) {
    const EdgeInfo& edge = topology.edges[index];
    const auto [low, high] = level_range(edge.edge, axis.Direction());
    const int across = patch_across(topology, piece.patch, index);
    if (is_sliver_beside(topology, across, edge)) continue;
    (closes(topology, piece.patch, across, edge) ? concave : convex) += length_of(edge.edge);
    const bool onto_plane = across >= 0 && topology.patches[across].surface.kind == SurfaceKind::kPlane;
    if (onto_plane && edge.convexity == Convexity::kConcave) end.flat_bottom = true;
    outward = sense > 0 ? std::max(outward, high - origin) : std::min(outward, low - origin);
    mouth_faces.insert(across);
  }
  end.open = convex > concave;
  if (!end.open || mouth_faces.empty()) return end;
  end.flat_bottom = false;
  end.level = outward;
  if (mouth_faces.size() != 1 || *mouth_faces.begin() < 0) return end;
  const Surface& mouth = topology.patches[*mouth_faces.begin()].surface;
  const double slope = mouth.position.Direction().Dot(axis.Direction());
  if (mouth.kind != SurfaceKind::kPlane || std::abs(slope) < 1e-6) return end;
  end.on_plane = true;
  end.slope_rad = std::acos(std::min(1.0, std::abs(slope)));
  end.level = -height_over(mouth.plane(), axis.Location()) / slope;
  return end;
}

Chain half_turn_chain(const TopologyIndex& topology, int patch) {
  const gp_Ax1 axis = topology.patches[patch].surface.axis();
  Chain chain{topology.patches[patch].body, axis, {}, {}, {}, {}};
  std::vector<int> open{patch};
  std::set<int> seen{patch};
  while (!open.empty()) {
    const int piece = open.back();
    open.pop_back();
    chain.pieces.push_back(measure_piece(topology, axis, piece));
    for (const int edge : topology.patches[piece].border) {
      const int across = patch_across(topology, piece, edge);
      if (across < 0 || seen.count(across)) continue;
      const Patch& beyond = topology.patches[across];
      if (!beyond.surface.is_revolution() || !coaxial(axis, beyond.surface.axis()) ||
          std::abs(angular_coverage(topology, beyond) - kPi) > kHalfTurnSlack_rad)
        continue;
      seen.insert(across);
      open.push_back(across);
    }
  }
  std::sort(chain.pieces.begin(), chain.pieces.end(),
            [](const ChainPiece& a, const ChainPiece& b) { return a.low + a.high < b.low + b.high; });
  chain.low = measure_end(topology, axis, chain.pieces.front(), -1);
  chain.high = measure_end(topology, axis, chain.pieces.back(), +1);
  return chain;
}

std::vector<Chain> find_chains(const Part& part, const std::vector<bool>& excluded) {
  ChainBuilder builder(part, excluded);
  return builder.joined(builder.run());
}

std::optional<Chain> chain_through(const Part& part, int patch, bool over_voids) {
  const std::vector<Patch>& patches = part.topology().patches;
  const gp_Ax1 axis = patches[patch].surface.axis();
  std::vector<bool> excluded(patches.size());
  for (size_t i = 0; i < patches.size(); ++i)
    excluded[i] = patches[i].body != patches[patch].body || !patches[i].surface.is_revolution() ||
                  !coaxial(patches[i].surface.axis(), axis);
  ChainBuilder builder(part, excluded);
  for (Chain& chain : over_voids ? builder.joined(builder.run()) : builder.run())
    for (const ChainPiece& piece : chain.pieces)
      if (piece.patch == patch) return std::move(chain);
  return std::nullopt;
}

}  // namespace anvil
