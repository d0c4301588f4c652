#include "part/crossing_faces.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <algorithm>
#include <map>
#include <mutex>
#include <optional>
#include <set>

#include "geom/coordinate.h"
#include "part/mesh.h"
#include "part/ray_scene.h"

namespace anvil {
namespace {

using Pair = std::pair<int, int>;  // of triangles, or of faces

constexpr double kMeet_mm = 1e-6;
constexpr size_t kPlacesTried = 6;  // of one pair of faces

std::vector<Triangle> triangles_of_body(const Part& part, int body) {
  std::vector<Triangle> triangles;
  const TopologyIndex& topology = part.topology();
  for (size_t i = 0; i < topology.faces.size(); ++i) {
    if (topology.faces[i].body != body) continue;
    for (Triangle t : triangles_of(topology.faces[i].face)) {
      t.face = static_cast<int>(i);
      triangles.push_back(t);
    }
  }
  return triangles;
}

// Which faces share an edge or a vertex.
class Neighbours {
 public:
  Neighbours(const TopologyIndex& topology, int body) {
    std::map<int, std::set<int>> at_vertex;
    for (size_t i = 0; i < topology.faces.size(); ++i) {
      if (topology.faces[i].body != body) continue;
      for (const int edge : topology.faces[i].edges)
        for (const int vertex : {topology.edges[edge].vertex_a, topology.edges[edge].vertex_b})
          if (vertex >= 0) at_vertex[vertex].insert(static_cast<int>(i));
    }
    for (const auto& [vertex, faces] : at_vertex)
      for (const int a : faces)
        for (const int b : faces)
          if (a < b) pairs_.insert({a, b});
  }
  [[nodiscard]] bool are(int a, int b) const { return pairs_.count(std::minmax(a, b)) > 0; }

 private:
  std::set<Pair> pairs_;
};

// Where the segment goes through the triangle (T. Möller and B. Trumbore, 1997).
std::optional<gp_Pnt> segment_through(const gp_Pnt& from, const gp_Pnt& to, const Triangle& t) {
  const gp_XYZ along = to.XYZ() - from.XYZ(), ab = t.b.XYZ() - t.a.XYZ(), ac = t.c.XYZ() - t.a.XYZ();
  const gp_XYZ p = along.Crossed(ac);
  const double det = ab.Dot(p);
  if (std::abs(det) < 1e-18) return std::nullopt;
  const gp_XYZ s = from.XYZ() - t.a.XYZ();
  const double u = s.Dot(p) / det;
  const gp_XYZ q = s.Crossed(ab);
  const double v = along.Dot(q) / det, w = ac.Dot(q) / det;
  if (u < 0 || v < 0 || u + v > 1 || w < 0 || w > 1) return std::nullopt;
  return gp_Pnt(from.XYZ() + along * w);
}

std::optional<gp_Pnt> meeting_of(const Triangle& a, const Triangle& b) {
  const std::pair<const Triangle*, const Triangle*> ways[] = {{&a, &b}, {&b, &a}};
  for (const auto& [one, other] : ways)
    for (const auto& [from, to] : {std::pair{&one->a, &one->b}, {&one->b, &one->c}, {&one->c, &one->a}})
      if (auto at = segment_through(*from, *to, *other)) return at;
  return std::nullopt;
}

// Pairs of triangles whose boxes overlap, from a tree over all boxes.
class BoxTree {
 public:
  explicit BoxTree(const std::vector<Triangle>& triangles) : triangles_(triangles) {
    if (!triangles.empty()) origin_ = triangles.front().a.XYZ();
    RTCGeometry boxes = rtcNewGeometry(rays_.device(), RTC_GEOMETRY_TYPE_USER);
    rtcSetGeometryUserPrimitiveCount(boxes, static_cast<unsigned>(triangles.size()));
    rtcSetGeometryUserData(boxes, this);
    rtcSetGeometryBoundsFunction(boxes, &BoxTree::bounds, nullptr);
    rays_.build(boxes);
  }

  // Of those with different faces that are no neighbours.
  std::vector<Pair> overlapping(const Neighbours& neighbours) {
    neighbours_ = &neighbours;
    found_.clear();
    rtcCollide(rays_.scene(), rays_.scene(), &BoxTree::collide, this);
    std::sort(found_.begin(), found_.end());
    found_.erase(std::unique(found_.begin(), found_.end()), found_.end());
    return std::move(found_);
  }

 private:
  static void bounds(const RTCBoundsFunctionArguments* arguments) {
    const auto* tree = static_cast<const BoxTree*>(arguments->geometryUserPtr);
    const Triangle& t = tree->triangles_[arguments->primID];
    RTCBounds& box = *arguments->bounds_o;
    float* const low[] = {&box.lower_x, &box.lower_y, &box.lower_z};
    float* const high[] = {&box.upper_x, &box.upper_y, &box.upper_z};
    constexpr double kWider = 1e-6;  // single precision must not lose an overlap
    for (int i = 0; i < 3; ++i) {
      const double values[] = {coordinate(t.a, i), coordinate(t.b, i), coordinate(t.c, i)};
      const double least = *std::min_element(values, values + 3) - coordinate(tree->origin_, i),
                   most = *std::max_element(values, values + 3) - coordinate(tree->origin_, i);
      *low[i] = static_cast<float>(least - kWider * std::abs(least));
      *high[i] = static_cast<float>(most + kWider * std::abs(most));
    }
  }

  static void collide(void* user, RTCCollision* collisions, unsigned count) {
    auto* tree = static_cast<BoxTree*>(user);
    std::vector<Pair> fresh;
    for (unsigned i = 0; i < count; ++i) {
      const int a = static_cast<int>(collisions[i].primID0), b = static_cast<int>(collisions[i].primID1);
      const int face_a = tree->triangles_[a].face, face_b = tree->triangles_[b].face;
      if (face_a != face_b && !tree->neighbours_->are(face_a, face_b)) fresh.push_back(std::minmax(a, b));
    }
    if (fresh.empty()) return;
    const std::lock_guard lock(tree->mutex_);
    tree->found_.insert(tree->found_.end(), fresh.begin(), fresh.end());
  }

  const std::vector<Triangle>& triangles_;
  gp_XYZ origin_;
  const Neighbours* neighbours_ = nullptr;
  std::mutex mutex_;
  std::vector<Pair> found_;
  RayScene rays_;  // goes first: it points here
};

class ExactFace {
 public:
  explicit ExactFace(const TopoDS_Face& face)
      : face_(face), surface_(new ShapeAnalysis_Surface(BRep_Tool::Surface(face))) {}
  gp_Pnt nearest(const gp_Pnt& to) {
    uv_ = is_near_ ? surface_->NextValueOfUV(uv_, to, kMeet_mm) : surface_->ValueOfUV(to, kMeet_mm);
    is_near_ = true;
    return surface_->Value(uv_);
  }
  void start_anew() { is_near_ = false; }
  // Of the place nearest() gave last.
  [[nodiscard]] TopAbs_State state() const { return BRepClass_FaceClassifier(face_, uv_, kMeet_mm).State(); }

 private:
  TopoDS_Face face_;
  Handle(ShapeAnalysis_Surface) surface_;
  gp_Pnt2d uv_;
  bool is_near_ = false;
};

// The open edges of faces, as polygons: faces that were never sewn touch there, and the mesh cannot tell
// whether they cross.
class OpenBorders {
 public:
  OpenBorders(const TopologyIndex& topology, double near_mm) : topology_(topology), near_mm_(near_mm) {}

  bool is_near(int face, const gp_Pnt& p) {
    const std::vector<std::pair<gp_Pnt, gp_Pnt>>& pieces = pieces_of(face);
    return std::any_of(pieces.begin(), pieces.end(), [&](const auto& piece) {
      const gp_Vec along(piece.first, piece.second), to(piece.first, p);
      const double length2 = along.SquareMagnitude();
      const double t = length2 > 0 ? std::clamp(to.Dot(along) / length2, 0.0, 1.0) : 0;
      return p.Distance(piece.first.Translated(along * t)) <= near_mm_;
    });
  }

 private:
  const std::vector<std::pair<gp_Pnt, gp_Pnt>>& pieces_of(int face) {
    const auto [at, is_new] = pieces_.try_emplace(face);
    if (!is_new) return at->second;
    constexpr int kPieces = 32;
    for (const int edge : topology_.faces[face].edges) {
      if (!topology_.edges[edge].is_open()) continue;
      const BRepAdaptor_Curve curve(topology_.edges[edge].edge);
      const double first = curve.FirstParameter(), step = (curve.LastParameter() - first) / kPieces;
      for (int i = 0; i < kPieces; ++i)
        at->second.emplace_back(curve.Value(first + i * step), curve.Value(first + (i + 1) * step));
    }
    return at->second;
  }

  const TopologyIndex& topology_;
  double near_mm_;
  std::map<int, std::vector<std::pair<gp_Pnt, gp_Pnt>>> pieces_;
};

// From one surface to the other and back until both are one place.
std::optional<gp_Pnt> common_place(ExactFace& a, ExactFace& b, gp_Pnt at) {
  a.start_anew();
  b.start_anew();
  constexpr int kRounds = 60, kPatience = 4;
  constexpr double kNearer = 0.95;  // in so many rounds, or they keep apart
  double apart_before = 1e300;
  for (int round = 0; round < kRounds; ++round) {
    const gp_Pnt on_a = a.nearest(at), on_b = b.nearest(on_a);
    at = on_b;
    const double apart = on_a.Distance(on_b);
    if (round % kPatience == 0) {
      if (apart > kNearer * apart_before) return std::nullopt;
      apart_before = apart;
    }
    if (apart > kMeet_mm) continue;
    const TopAbs_State in_a = a.state(), in_b = b.state();
    const bool meets = (in_a == TopAbs_IN && in_b != TopAbs_OUT) || (in_b == TopAbs_IN && in_a != TopAbs_OUT);
    return meets ? std::optional(on_b) : std::nullopt;
  }
  return std::nullopt;
}

}  // namespace

std::vector<Crossing> crossing_faces(const Part& part, int body) {
  const TopologyIndex& topology = part.topology();
  const std::vector<Triangle> triangles = triangles_of_body(part, body);
  if (triangles.empty()) return {};
  std::map<Pair, std::vector<gp_Pnt>> places;
  for (const auto& [a, b] : BoxTree(triangles).overlapping(Neighbours(topology, body)))
    if (const auto at = meeting_of(triangles[a], triangles[b]))
      places[std::minmax(triangles[a].face, triangles[b].face)].push_back(*at);
  std::map<int, ExactFace> exact;  // what projecting onto a surface needs is made once a face
  OpenBorders borders(topology, 2 * deflection_mm(part.bodies()[body].shape, {}));
  std::vector<Crossing> crossings;
  for (const auto& [faces, all] : places) {
    ExactFace& a = exact.try_emplace(faces.first, topology.faces[faces.first].face).first->second;
    ExactFace& b = exact.try_emplace(faces.second, topology.faces[faces.second].face).first->second;
    const size_t step = std::max<size_t>(1, all.size() / kPlacesTried);
    for (size_t i = 0; i < all.size(); i += step) {
      if (borders.is_near(faces.first, all[i]) && borders.is_near(faces.second, all[i])) continue;
      if (const auto at = common_place(a, b, all[i])) {
        crossings.push_back({faces.first, faces.second, *at});
        break;
      }
    }
  }
  return crossings;
}

}  // namespace anvil
