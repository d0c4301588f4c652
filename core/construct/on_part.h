// Places on picked edges and faces. Internal to core/construct.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <optional>

#include "construct/construction.h"
#include "part/measure.h"

namespace anvil {

struct PlaceOnEdge {
  gp_Pnt point;
  gp_Dir along;  // in the sense of the curve
};

// At a share of the edge's length. Refuses (kBadInput) one off the edge, 0..1, and an edge without length.
Result<PlaceOnEdge> place_along(const TopoDS_Edge& edge, double ratio);
// Nearest to the point.
Result<PlaceOnEdge> nearest_on_edge(const TopoDS_Edge& edge, const gp_Pnt& to);

bool lies_on_edge(const Given& edge, const gp_Pnt& point);

struct PlaceOnFace {
  gp_Pnt point;
  gp_Dir normal;  // out of the material
};

// Of the face, not of the endless surface. Refuses a place without a normal (the tip of a cone).
Result<PlaceOnFace> nearest_on_face(const TopoDS_Face& face, const gp_Pnt& to);

// The direction of the longest straight edge of the outline, turned towards the positive side of the axis it
// is nearest to.
std::optional<gp_Dir> longest_edge(const TopoDS_Face& face);

// The rectangle around a flat face, in a frame whose XY plane is parallel to it.
struct FaceBounds {
  gp_Ax2 frame;
  double x0 = 1e300, x1 = -1e300, y0 = 1e300, y1 = -1e300;
  // 0..1 along X and Y; in the frame's XY plane.
  [[nodiscard]] gp_Pnt at(double x_share, double y_share) const;
};
FaceBounds bounds_of(const TopoDS_Shape& face, const gp_Ax2& frame);
// In the plane of the pick, X along its longest edge.
gp_Ax2 face_frame_of(const Given& flat_face);

// Of a picked face: of scans by their triangles, else exact.
AreaProperties area_of(const Given& face);

// What a shortest distance is measured to; endless things are cut off far from `near`.
TopoDS_Shape measurable_shape(const Given& given, const gp_Pnt& near);

}  // namespace anvil
