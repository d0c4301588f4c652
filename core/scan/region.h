// A region of a scan: what belongs to one plane, cylinder, cone or sphere around the place that was clicked,
// grown over neighbouring triangles.
//
// How it grows (after Besl and Jain, Segmentation through variable-order surface fitting, 1988): a small
// patch around the seed gives the first surface of each kind; what lies within the tolerance of it and faces
// as it does is added, neighbour by neighbour, and the surface is fitted again, until nothing more comes. The
// simplest kind wins whose region is not much smaller than that of the others. Of what scatters the outermost
// triangles are left out, because fillets begin within any tolerance.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Circ.hxx>
#include <memory>

#include "base/progress.h"
#include "geom/fits_round.h"
#include "part/face_info.h"
#include "scan/mesh_graph.h"

namespace anvil {

struct RegionWish {
  gp_Pnt at;                           // on the scan
  gp_Dir seen_from;                    // towards the eye: of a thin wall that side is meant
  double within_mm = 0;                // of the surface; 0: four times what the scan scatters there
  std::optional<SurfaceKind> as = {};  // plane, cylinder, cone or sphere; none: whichever fits
};
// What a region can be fitted as, simplest first, and by its name ("cylinder").
const std::vector<SurfaceKind>& region_kinds();
std::optional<SurfaceKind> region_kind_from(const std::string& name);

struct Region {
  Surface surface;       // what was fitted, with its normal or side as the triangles face; kMesh: nothing
                         // fits, and it is the patch that faces one way
  FitQuality quality;    // of the surface, over all points; `worst` counts them
  double within_mm = 0;  // it grew with
  gp_Pnt seed;           // the place of the scan nearest to the one asked for,
  double off_mm = 0;     // and how far it is from there
  std::vector<int> triangles;  // of the mesh
  std::vector<gp_Pnt> points;  // their corners, each once
  gp_Pnt average;              // of the points
  gp_Pnt centroid;             // of the area
  double area_mm2 = 0;         // of the triangles
  TopoDS_Shape mesh;           // the triangles alone, to be drawn
  TopoDS_Face face;            // the surface as far as the region reaches; null for kMesh

  // Through the same points, or why there is none; of cylinders and cones at the middle of the points.
  Result<Fit<gp_Circ>> circle;
};
using RegionPtr = std::shared_ptr<const Region>;

// Fits look at no more points than this, evenly taken; their quality is told over all.
inline constexpr size_t kMostFitted = 50000;

// Refuses (kGeometry) a place off the scan by more than a tenth of its diagonal, and a wished kind that does
// not fit there; kCancelled when stopped.
Result<Region> grow_region(const MeshGraph& graph, const RegionWish& wish, const Progress& progress = {});

// Whether a place lies on its triangles, within what it may scatter.
bool covers(const Region& region, const gp_Pnt& place);

// Everything in it moved.
Region moved_region(const Region& region, const gp_Trsf& motion);

}  // namespace anvil
