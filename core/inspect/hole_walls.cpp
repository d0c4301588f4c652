#include "inspect/hole_walls.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Builder.hxx>

#include "geom/primitives.h"

namespace anvil {

struct WallFinder::Bore {
  const Hole* hole = nullptr;
  TopoDS_Compound faces;
  std::set<int> touching;      // patches that meet it, and its own
  std::vector<int> triangles;  // of the mesh
  double widest_mm = 0;        // radius

  // What the wall to a parallel bore, or a side, is at least, wherever both end.
  [[nodiscard]] double wall_at_least(const Surface& other) const {
    const gp_Ax1 axis(hole->entry, hole->axis);
    if (other.kind == SurfaceKind::kCylinder && parallel(other.position.Direction(), hole->axis))
      return distance(axis, other.position.Location()) - widest_mm - other.radius_mm;
    if (other.kind == SurfaceKind::kPlane && square(other.position.Direction(), hole->axis))
      return std::abs(height_over(other.plane(), hole->entry)) - widest_mm;
    return 0;
  }
};

WallFinder::WallFinder(const Part& part)
    : topology_(part.topology()),
      mesh_(rays_of(part)),
      triangles_of_face_(topology_.faces.size()),
      triangles_(triangles_in_tree(part)) {
  for (size_t i = 0; i < mesh_.triangles().size(); ++i)
    triangles_of_face_[static_cast<size_t>(mesh_.triangles()[i].face)].push_back(static_cast<int>(i));
}

std::optional<WallThickness> WallFinder::thinnest(const Hole& hole) const {
  const Bore bore = bore_of(hole);
  std::optional<WallThickness> thinnest;
  if (const auto first = met_first(bore)) look_at(bore, *first, thinnest);
  if (!thinnest) {  // nothing lies square to it: whatever comes
    for (size_t i = 0; i < topology_.faces.size(); ++i) look_at(bore, static_cast<int>(i), thinnest);
    return thinnest;
  }
  for (const int face : faces_within(bore, thinnest->thickness_mm + 2 * mesh_.deviation_mm()))
    look_at(bore, face, thinnest);
  return thinnest;
}

WallFinder::Bore WallFinder::bore_of(const Hole& hole) const {
  Bore bore;
  bore.hole = &hole;
  bore.widest_mm = std::max(hole.diameter_mm, hole.long_mm) / 2;
  for (const HoleStep& step : hole.steps)
    bore.widest_mm = std::max({bore.widest_mm, step.diameter_mm / 2, step.end_diameter_mm / 2});
  const BRep_Builder builder;
  builder.MakeCompound(bore.faces);
  for (const int face : hole.faces) {
    builder.Add(bore.faces, topology_.faces[face].face);
    bore.touching.insert(topology_.faces[face].patch);
    for (const int edge : topology_.faces[face].edges)
      if (const int across = topology_.edges[edge].other_face(face); across >= 0)
        bore.touching.insert(topology_.faces[across].patch);
    const std::vector<int>& own = triangles_of_face_[static_cast<size_t>(face)];
    bore.triangles.insert(bore.triangles.end(), own.begin(), own.end());
  }
  return bore;
}

bool WallFinder::is_other_side(const Bore& bore, int face) const {
  const FaceInfo& other = topology_.faces[face];
  return other.body == bore.hole->body && other.surface.kind != SurfaceKind::kMesh &&
         bore.touching.count(other.patch) == 0;
}

// The face that rays square to the bore meet first, of some of them.
std::optional<int> WallFinder::met_first(const Bore& bore) const {
  constexpr size_t kRays = 300;
  std::optional<int> face;
  double nearest = 1e300;
  for (size_t i = 0; i < bore.triangles.size(); i += 1 + bore.triangles.size() / kRays) {
    const Triangle& t = mesh_.triangles()[static_cast<size_t>(bore.triangles[i])];
    const gp_Vec out = gp_Vec(t.a, t.b).Crossed(gp_Vec(t.a, t.c));
    if (out.Magnitude() < 1e-12) continue;
    const gp_Pnt middle((t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) / 3);
    const auto hit = mesh_.first_hit(middle, gp_Dir(-out));
    if (!hit || hit->distance_mm >= nearest || !is_other_side(bore, hit->face)) continue;
    nearest = hit->distance_mm;
    face = hit->face;
  }
  return face;
}

std::vector<int> WallFinder::faces_within(const Bore& bore, double distance_mm) const {
  std::set<int> faces;
  for (const int triangle : bore.triangles) {
    Box3 box = box_of(mesh_.triangles()[static_cast<size_t>(triangle)]);
    for (const int sense : {-1, 1}) {
      BoxPoint& corner = sense < 0 ? box.min_corner() : box.max_corner();
      bg::set<0>(corner, bg::get<0>(corner) + sense * distance_mm);
      bg::set<1>(corner, bg::get<1>(corner) + sense * distance_mm);
      bg::set<2>(corner, bg::get<2>(corner) + sense * distance_mm);
    }
    for (auto it = triangles_.qbegin(bg::index::intersects(box)); it != triangles_.qend(); ++it) {
      const int face = mesh_.triangles()[static_cast<size_t>(it->second)].face;
      if (is_other_side(bore, face)) faces.insert(face);
    }
  }
  return {faces.begin(), faces.end()};
}

void WallFinder::look_at(const Bore& bore, int face, std::optional<WallThickness>& thinnest) const {
  if (!is_other_side(bore, face)) return;
  constexpr double kNoThinner_mm = 1e-7;
  if (thinnest && bore.wall_at_least(topology_.faces[face].surface) > thinnest->thickness_mm - kNoThinner_mm)
    return;
  const BRepExtrema_DistShapeShape apart(bore.faces, topology_.faces[face].face);
  if (!apart.IsDone() || apart.Value() < 1e-6 || (thinnest && apart.Value() >= thinnest->thickness_mm))
    return;
  for (int i = 1; i <= apart.NbSolution(); ++i) {
    const gp_Pnt from = apart.PointOnShape1(i), to = apart.PointOnShape2(i);
    if (!through_material(*bore.hole, from, face, to)) continue;
    thinnest = WallThickness{apart.Value(), face, from, to};
    return;
  }
}

// Whether `into`, from a point of a face, leads out through the face on the other side of a convex edge
// that the point lies on.
bool WallFinder::leads_out_beside(int face, const gp_Pnt& point, const gp_Vec& into) const {
  const TopoDS_Vertex here = BRepBuilderAPI_MakeVertex(point);
  for (const int edge : topology_.faces[face].edges) {
    const EdgeInfo& info = topology_.edges[edge];
    if (info.convexity != Convexity::kConvex || info.is_open()) continue;
    if (outward_normal_at(topology_.faces[info.other_face(face)].face, point).Dot(into) < 1e-3) continue;
    const BRepExtrema_DistShapeShape apart(here, info.edge);
    if (apart.IsDone() && apart.Value() < 1e-5) return true;
  }
  return false;
}

// Whether the straight way from a hole's face to another one begins and ends in material.
bool WallFinder::through_material(const Hole& hole, const gp_Pnt& from, int face, const gp_Pnt& to) const {
  const gp_Vec way = gp_Vec(from, to).Normalized();
  if (outward_normal_at(topology_.faces[face].face, to).Dot(way) < 0.01 || leads_out_beside(face, to, -way))
    return false;
  // Towards the axis is void.
  const gp_Vec inwards(from, foot_on(gp_Ax1(hole.entry, hole.axis), from));
  if (inwards.Magnitude() > 1e-9 && inwards.Normalized().Dot(way) > 1e-3) return false;
  return std::none_of(hole.faces.begin(), hole.faces.end(),
                      [&](int own) { return leads_out_beside(own, from, way); });
}

}  // namespace anvil
