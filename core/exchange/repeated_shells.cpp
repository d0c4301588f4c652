#include "exchange/repeated_shells.h"

#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <array>
#include <cmath>
#include <set>

namespace anvil {
namespace {

// Where a face is: the mean of its corners and how many it has, to a thousandth of a millimetre.
using Place = std::array<long, 4>;

std::vector<Place> places_of(const TopoDS_Shape& shape) {
  std::vector<Place> places;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    TopTools_IndexedMapOfShape corners;
    TopExp::MapShapes(faces.Current(), TopAbs_VERTEX, corners);
    gp_XYZ mean;
    for (int i = 1; i <= corners.Extent(); ++i)
      mean += BRep_Tool::Pnt(TopoDS::Vertex(corners(i))).XYZ() / corners.Extent();
    places.push_back({std::lround(mean.X() * 1e3), std::lround(mean.Y() * 1e3), std::lround(mean.Z() * 1e3),
                      corners.Extent()});
  }
  return places;
}

// Rounding may tell neighbours of half a thousandth apart, so the cells around count too.
bool holds(const std::multiset<Place>& places, const Place& place) {
  for (long x = -1; x <= 1; ++x)
    for (long y = -1; y <= 1; ++y)
      for (long z = -1; z <= 1; ++z)
        if (places.count({place[0] + x, place[1] + y, place[2] + z, place[3]})) return true;
  return false;
}

}  // namespace

int drop_repeated_shells(std::vector<Body>& bodies) {
  const auto is_shell = [](const Body& body) { return body.kind == BodyKind::kShell; };
  if (std::none_of(bodies.begin(), bodies.end(), is_shell)) return 0;
  std::vector<std::multiset<Place>> solids;
  for (const Body& body : bodies) {
    if (body.kind != BodyKind::kSolid) continue;
    const std::vector<Place> places = places_of(body.shape);
    solids.emplace_back(places.begin(), places.end());
  }
  const auto repeats = [&](const Body& body) {
    if (!is_shell(body)) return false;
    const std::vector<Place> places = places_of(body.shape);
    return std::any_of(solids.begin(), solids.end(), [&](const std::multiset<Place>& solid) {
      return places.size() == solid.size() &&
             std::all_of(places.begin(), places.end(), [&](const Place& p) { return holds(solid, p); });
    });
  };
  const auto gone = std::remove_if(bodies.begin(), bodies.end(), repeats);
  const int count = static_cast<int>(bodies.end() - gone);
  bodies.erase(gone, bodies.end());
  return count;
}

}  // namespace anvil
