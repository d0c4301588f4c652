// Where curves and surfaces meet anew when a face is moved: points and curves near to where they were.
#pragma once

#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Trsf.hxx>
#include <optional>
#include <vector>

namespace anvil {

// Two things meet when they come as near as this.
inline constexpr double kMeets_mm = 1e-7;

// In the coordinates of the shape, wherever it is located.
Handle(Geom_Curve) curve_of(const TopoDS_Edge& edge);
Handle(Geom_Surface) surface_of(const TopoDS_Face& face);

bool lies_on(const Handle(Geom_Surface) & surface, const gp_Pnt& point);
// The natural normal at the place of the surface nearest to a point; nothing where it has none.
std::optional<gp_Dir> normal_near(const Handle(Geom_Surface) & surface, const gp_Pnt& point);
// Along the part of the curve between two parameters.
bool lies_on(const Handle(Geom_Surface) & surface, const Handle(Geom_Curve) & curve, double from, double to);

// Where the curve, lengthened as far as its kind goes on, meets the surface nearest to a place.
std::optional<gp_Pnt> meeting(const Handle(Geom_Curve) & curve, const Handle(Geom_Surface) & surface,
                              const gp_Pnt& near);

// The curve in which two surfaces meet that passes nearest to a place; null when they do not.
Handle(Geom_Curve)
    meeting(const Handle(Geom_Surface) & a, const Handle(Geom_Surface) & b, const gp_Pnt& near);

// An edge on the curve from one vertex to another, through the middle as near as can be to `middle`; with one
// vertex twice all the way round. Null where they do not lie on the curve.
TopoDS_Edge edge_on(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to,
                    const gp_Pnt& middle);

}  // namespace anvil
