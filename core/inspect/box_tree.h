// Boxes in a tree, to be walked from the nearest on. Internal to core/inspect.
#pragma once

#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <boost/geometry.hpp>
#include <boost/geometry/index/rtree.hpp>
#include <gp_Pnt.hxx>
#include <set>
#include <utility>

#include "part/mesh.h"
#include "part/part.h"

namespace anvil {

namespace bg = boost::geometry;
using BoxPoint = bg::model::point<double, 3, bg::cs::cartesian>;
using Box3 = bg::model::box<BoxPoint>;
using BoxTree = bg::index::rtree<std::pair<Box3, int>, bg::index::rstar<16>>;

inline Box3 box_of(const TopoDS_Shape& shape) {
  Bnd_Box box;
  BRepBndLib::Add(shape, box, false);
  if (box.IsVoid()) return Box3(BoxPoint(0, 0, 0), BoxPoint(0, 0, 0));
  const gp_Pnt low = box.CornerMin(), high = box.CornerMax();
  return Box3(BoxPoint(low.X(), low.Y(), low.Z()), BoxPoint(high.X(), high.Y(), high.Z()));
}

inline Box3 box_between(const gp_Pnt& a, const gp_Pnt& b) {
  return Box3(BoxPoint(std::min(a.X(), b.X()), std::min(a.Y(), b.Y()), std::min(a.Z(), b.Z())),
              BoxPoint(std::max(a.X(), b.X()), std::max(a.Y(), b.Y()), std::max(a.Z(), b.Z())));
}

inline Box3 box_of(const Triangle& t) {
  Box3 box = box_between(t.a, t.b);
  bg::expand(box, BoxPoint(t.c.X(), t.c.Y(), t.c.Z()));
  return box;
}

// All triangles of the part's mesh, by their number in rays_of(part); made once a part and kept with it.
const BoxTree& triangles_in_tree(const Part& part);

// Calls see(distance of the box, index) from the nearest box on, until it returns false. In portions: the
// tree pays for all that it may be asked for.
template <class Geometry, class See>
void nearest_first(const BoxTree& tree, const Geometry& from, See&& see) {
  std::set<int> seen;
  for (size_t portion = 16; seen.size() < tree.size(); portion *= 8)
    for (auto it =
             tree.qbegin(bg::index::nearest(from, static_cast<unsigned>(std::min(portion, tree.size()))));
         it != tree.qend(); ++it)
      if (seen.insert(it->second).second && !see(bg::distance(from, it->first), it->second)) return;
}

}  // namespace anvil
