#include "part/mesh_soundness.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <numeric>
#include <set>

#include "base/union_find.h"
#include "part/mend.h"
#include "part/mesh.h"

namespace anvil {
namespace {

using Corners = std::array<int, 3>;

// Nodes by their place: equal coordinates are one node.
struct Welded {
  std::vector<gp_Pnt> nodes;
  std::vector<Corners> triangles;
};

Welded welded(const std::vector<Triangle>& triangles) {
  struct At {
    gp_XYZ p;
    size_t slot;
  };
  std::vector<At> all;
  all.reserve(3 * triangles.size());
  for (const Triangle& t : triangles)
    for (const gp_Pnt* p : {&t.a, &t.b, &t.c}) all.push_back({p->XYZ(), all.size()});
  const auto place = [](const gp_XYZ& p) { return std::make_tuple(p.X(), p.Y(), p.Z()); };
  std::sort(all.begin(), all.end(), [&](const At& a, const At& b) { return place(a.p) < place(b.p); });
  Welded mesh;
  mesh.triangles.resize(triangles.size());
  for (const At& at : all) {
    if (mesh.nodes.empty() || place(mesh.nodes.back().XYZ()) != place(at.p)) mesh.nodes.emplace_back(at.p);
    mesh.triangles[at.slot / 3][at.slot % 3] = static_cast<int>(mesh.nodes.size()) - 1;
  }
  return mesh;
}

// One side of a triangle, as it runs.
struct Side {
  int from, to, triangle;
  [[nodiscard]] std::pair<int, int> edge() const { return std::minmax(from, to); }
};

class MeshChecker {
 public:
  MeshChecker(const TopoDS_Shape& mesh, int body) : mesh_(welded(triangles_of(mesh))), body_(body) {}

  std::vector<Finding> run() {
    set_aside(FindingKind::kDegenerateTriangle, without_area(), "{} triangle{} without area");
    set_aside(FindingKind::kDuplicateTriangle, repeated(), "{} triangle{} where another one lies");
    sort_sides();
    tell_edges();
    tell_shells();
    tell_inside_out();
    std::stable_sort(findings_.begin(), findings_.end(),
                     [](const Finding& a, const Finding& b) { return a.kind < b.kind; });
    return std::move(findings_);
  }

 private:
  [[nodiscard]] const gp_Pnt& node(int i) const { return mesh_.nodes[i]; }
  [[nodiscard]] gp_Pnt middle(const Corners& t) const {
    return gp_Pnt((node(t[0]).XYZ() + node(t[1]).XYZ() + node(t[2]).XYZ()) / 3);
  }

  void add(FindingKind kind, const gp_Pnt& where, std::string text, std::optional<double> amount, int count) {
    Finding finding{kind, body_, where, std::move(text), amount, false, -1, -1};
    finding.count = count;
    findings_.push_back(std::move(finding));
  }

  [[nodiscard]] std::set<int> without_area() const {
    constexpr double kFlat = 1e-9;  // height over longest side
    std::set<int> found;
    for (size_t i = 0; i < mesh_.triangles.size(); ++i) {
      const Corners& t = mesh_.triangles[i];
      const gp_Vec ab(node(t[0]), node(t[1])), ac(node(t[0]), node(t[2])), bc(node(t[1]), node(t[2]));
      const double longest = std::max({ab.SquareMagnitude(), ac.SquareMagnitude(), bc.SquareMagnitude()});
      if (ab.Crossed(ac).Magnitude() <= kFlat * longest) found.insert(static_cast<int>(i));
    }
    return found;
  }

  [[nodiscard]] std::set<int> repeated() const {
    std::vector<std::pair<Corners, int>> sorted;
    for (size_t i = 0; i < mesh_.triangles.size(); ++i) {
      Corners t = mesh_.triangles[i];
      std::sort(t.begin(), t.end());
      sorted.emplace_back(t, static_cast<int>(i));
    }
    std::sort(sorted.begin(), sorted.end());
    std::set<int> found;
    for (size_t i = 1; i < sorted.size(); ++i)
      if (sorted[i].first == sorted[i - 1].first) found.insert(sorted[i].second);
    return found;
  }

  void set_aside(FindingKind kind, const std::set<int>& gone, const char* text) {
    if (gone.empty()) return;
    add(kind, middle(mesh_.triangles[*gone.begin()]),
        fmt::format(fmt::runtime(text), gone.size(), gone.size() == 1 ? "" : "s"), {},
        static_cast<int>(gone.size()));
    std::vector<Corners> kept;
    for (size_t i = 0; i < mesh_.triangles.size(); ++i)
      if (!gone.count(static_cast<int>(i))) kept.push_back(mesh_.triangles[i]);
    mesh_.triangles = std::move(kept);
  }

  void sort_sides() {
    for (size_t i = 0; i < mesh_.triangles.size(); ++i)
      for (int k = 0; k < 3; ++k)
        sides_.push_back({mesh_.triangles[i][k], mesh_.triangles[i][(k + 1) % 3], static_cast<int>(i)});
    std::sort(sides_.begin(), sides_.end(), [](const Side& a, const Side& b) { return a.edge() < b.edge(); });
  }

  // Calls `visit(first, end)` for the sides of each edge.
  template <class Visit>
  void each_edge(Visit visit) const {
    for (auto first = sides_.begin(); first != sides_.end();) {
      auto end = first + 1;
      while (end != sides_.end() && end->edge() == first->edge()) ++end;
      visit(first, end);
      first = end;
    }
  }

  void tell_edges() {
    std::vector<Side> open, many, turned;
    each_edge([&](auto first, auto end) {
      const auto count = end - first;
      if (count == 1) open.push_back(*first);
      if (count > 2) many.push_back(*first);
      if (count == 2 && first->from == (first + 1)->from) turned.push_back(*first);
    });
    is_closed_ = open.empty();
    tell_runs(FindingKind::kOpenEdge, open, "the mesh is open here: a border of {} edge{}, {:.3f} mm long");
    tell_runs(FindingKind::kNonManifoldEdge, many,
              "more than two triangles meet in {} edge{}, {:.3f} mm long");
    tell_runs(FindingKind::kWrongOrientation, turned,
              "neighbouring triangles disagree which side is out at {} edge{}, {:.3f} mm long");
  }

  // Edges that hang together are one finding.
  void tell_runs(FindingKind kind, const std::vector<Side>& edges, const char* text) {
    UnionFind joined(mesh_.nodes.size());
    for (const Side& e : edges) joined.join(e.from, e.to);
    std::map<int, Run> runs;
    for (const Side& e : edges) {
      Run& run = runs[joined.root(e.from)];
      if (run.count++ == 0) run.where = gp_Pnt((node(e.from).XYZ() + node(e.to).XYZ()) / 2);
      run.length += node(e.from).Distance(node(e.to));
    }
    tell_largest(kind, runs, [&](const Run& run) {
      return fmt::format(fmt::runtime(text), run.count, run.count == 1 ? "" : "s", run.length);
    });
  }

  struct Run {
    gp_Pnt where;
    int count = 0;
    double length = 0;
  };

  template <class Text>
  void tell_largest(FindingKind kind, const std::map<int, Run>& runs, Text text) {
    std::vector<Run> sorted;
    sorted.reserve(runs.size());
    for (const auto& [root, run] : runs) sorted.push_back(run);
    std::stable_sort(sorted.begin(), sorted.end(),
                     [](const Run& a, const Run& b) { return a.length > b.length; });
    Run rest;
    for (size_t i = 0; i < sorted.size(); ++i) {
      if (i < static_cast<size_t>(kMostTold)) {
        add(kind, sorted[i].where, text(sorted[i]), sorted[i].length, sorted[i].count);
        continue;
      }
      if (rest.count == 0) rest.where = sorted[i].where;
      rest.count += sorted[i].count;
      rest.length += sorted[i].length;
    }
    if (rest.count > 0)
      add(kind, rest.where,
          fmt::format("{} smaller ones of the same kind; the largest is here", sorted.size() - kMostTold),
          rest.length, rest.count);
  }

  void tell_shells() {
    UnionFind joined(mesh_.triangles.size());
    each_edge([&](auto first, auto end) {
      for (auto other = first + 1; other != end; ++other) joined.join(first->triangle, other->triangle);
    });
    std::map<int, Run> shells;
    for (size_t i = 0; i < mesh_.triangles.size(); ++i) {
      Run& shell = shells[joined.root(static_cast<int>(i))];
      const Corners& t = mesh_.triangles[i];
      if (shell.count++ == 0) shell.where = middle(t);
      shell.length += gp_Vec(node(t[0]), node(t[1])).Crossed(gp_Vec(node(t[0]), node(t[2]))).Magnitude() / 2;
    }
    if (shells.size() < 2) return;
    shells.erase(std::max_element(shells.begin(), shells.end(), [](const auto& a, const auto& b) {
      return a.second.length < b.second.length;
    }));
    tell_largest(FindingKind::kSeparateShell, shells, [](const Run& shell) {
      return fmt::format("a separate shell of {} triangle{}", shell.count, shell.count == 1 ? "" : "s");
    });
    for (Finding& finding : findings_)
      if (finding.kind == FindingKind::kSeparateShell) finding.amount.reset();  // an area is no length
  }

  void tell_inside_out() {
    if (!is_closed_ || mesh_.triangles.empty()) return;
    const gp_XYZ origin = node(mesh_.triangles.front()[0]).XYZ();
    double six_volumes = 0;
    for (const Corners& t : mesh_.triangles)
      six_volumes +=
          (node(t[0]).XYZ() - origin).Dot((node(t[1]).XYZ() - origin).Crossed(node(t[2]).XYZ() - origin));
    if (six_volumes < 0)
      add(FindingKind::kInverted, middle(mesh_.triangles.front()),
          "the mesh is inside out: its triangles face inward", {}, static_cast<int>(mesh_.triangles.size()));
  }

  Welded mesh_;
  int body_;
  std::vector<Side> sides_;
  bool is_closed_ = true;
  std::vector<Finding> findings_;
};

}  // namespace

std::vector<Finding> check_mesh(const TopoDS_Shape& mesh, int body) {
  return MeshChecker(mesh, body).run();
}

}  // namespace anvil
