// What an edge is, and how the solid turns along it.
#pragma once

#include <TopoDS_Edge.hxx>
#include <gp_Circ.hxx>
#include <gp_Lin.hxx>
#include <optional>
#include <utility>

#include "part/face_info.h"

namespace anvil {

enum class CurveKind { kLine, kCircle, kEllipse, kOther };
enum class Convexity { kUnknown, kConvex, kConcave, kSmooth };
const char* convexity_name(Convexity convexity);

struct EdgeInfo {
  TopoDS_Edge edge;
  int body = -1;
  int face_a = -1, face_b = -1;  // -1: none (an open border); equal: a seam
  int vertex_a = -1, vertex_b = -1;
  CurveKind kind = CurveKind::kOther;    // as it is stored
  std::optional<gp_Dir> straight_along;  // of lines, and of other curves that are one within kRecognised_mm
  Convexity convexity = Convexity::kUnknown;
  gp_Pnt snap;               // the centre of a circle, the middle of a line; else undefined
  bool extra_faces = false;  // more than two faces meet here

  [[nodiscard]] bool is_seam() const { return face_a >= 0 && face_a == face_b; }
  [[nodiscard]] bool is_open() const { return face_b < 0; }
  [[nodiscard]] int other_face(int face) const { return face == face_a ? face_b : face_a; }
};

// `kind`, `snap` and `straight_along` of what `edge` lies on.
void describe_curve(const TopoDS_Edge& edge, EdgeInfo& info);

double length_of(const TopoDS_Edge& edge);
gp_Pnt middle_of(const TopoDS_Edge& edge);  // by its parameter

// How the solid turns across `edge`, of which `a` and `b` are the two faces holding it; its sense is the one
// it has in the outline of `a`, the orientation of `a` included. Measured from the outward normals in the
// middle of the edge; normals within kSmoothEdge_rad of each other count as smooth.
Convexity edge_convexity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b);

// The smallest angle between the two faces of a concave edge, through the void, radians; `a` and `b` as
// above, pi where it cannot be told. At nine places along it.
double void_angle(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b);

// Lowest and highest level of an edge along a direction, measured from the origin: exact for lines, circles
// and ellipses, within 1e-6 mm for other curves (sampled, then refined at the extremes).
std::pair<double, double> level_range(const TopoDS_Edge& edge, const gp_Dir& direction);

}  // namespace anvil
