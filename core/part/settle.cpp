#include "part/settle.h"

#include <BRep_CurveRepresentation.hxx>
#include <BRep_ListIteratorOfListOfCurveRepresentation.hxx>
#include <BRep_TEdge.hxx>
#include <BRep_TFace.hxx>
#include <BinTools_Curve2dSet.hxx>
#include <BinTools_CurveSet.hxx>
#include <BinTools_OStream.hxx>
#include <BinTools_SurfaceSet.hxx>
#include <Geom2d_Conic.hxx>
#include <Geom2d_Line.hxx>
#include <Geom2d_OffsetCurve.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <Geom_Conic.hxx>
#include <Geom_ElementarySurface.hxx>
#include <Geom_Line.hxx>
#include <Geom_OffsetCurve.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <sstream>
#include <unordered_set>

#include "geom/coordinate.h"

namespace anvil {
namespace {

// --- the kernel's own writing and reading of one piece of geometry

template <class Handle, class Write>
std::string written_by(Write write, const Handle& geometry) {
  std::ostringstream out;
  BinTools_OStream stream(out);
  write(geometry, stream);
  return out.str();
}
std::string written(const Handle(Geom_Surface) & s) {
  return written_by(BinTools_SurfaceSet::WriteSurface, s);
}
std::string written(const Handle(Geom_Curve) & c) {
  return written_by(BinTools_CurveSet::WriteCurve, c);
}
std::string written(const Handle(Geom2d_Curve) & c) {
  return written_by(BinTools_Curve2dSet::WriteCurve2d, c);
}

void read(std::istream& from, Handle(Geom_Surface) & s) {
  BinTools_SurfaceSet::ReadSurface(from, s);
}
void read(std::istream& from, Handle(Geom_Curve) & c) {
  BinTools_CurveSet::ReadCurve(from, c);
}
void read(std::istream& from, Handle(Geom2d_Curve) & c) {
  BinTools_Curve2dSet::ReadCurve2d(from, c);
}

// --- what of it holds directions: taking them from another, and moving them by a few of the last digits

// A few units of the last digit, more the longer it takes, another for each try: the same every time.
double few_units(int how, int axis) {
  constexpr double kUnit = 1.1e-16;
  const unsigned mixed = (static_cast<unsigned>(how) * 3U + static_cast<unsigned>(axis) + 1U) * 2654435761U;
  const int more = 1 + how / 100, units = static_cast<int>((mixed >> 16U) % 9U) - 4;
  return kUnit * more * units;
}

gp_Dir nudged(const gp_Dir& direction, int how) {
  gp_XYZ v = direction.XYZ();
  for (int axis = 0; axis < 3; ++axis) set_coordinate(v, axis, coordinate(v, axis) + few_units(how, axis));
  return gp_Dir(v);
}
gp_Ax3 nudged(const gp_Ax3& at, int how) {
  gp_Ax3 moved(at.Location(), nudged(at.Direction(), how), nudged(at.XDirection(), how + 7919));
  if (!at.Direct()) moved.YReverse();
  return moved;
}
gp_Ax2 nudged(const gp_Ax2& at, int how) {
  return {at.Location(), nudged(at.Direction(), how), nudged(at.XDirection(), how + 7919)};
}
gp_Ax1 nudged(const gp_Ax1& at, int how) {
  return {at.Location(), nudged(at.Direction(), how)};
}

gp_Dir2d nudged(const gp_Dir2d& d, int how) {
  return {d.X() + few_units(how, 0), d.Y() + few_units(how, 1)};
}
gp_Ax2d nudged(const gp_Ax2d& at, int how) {
  return {at.Location(), nudged(at.Direction(), how)};
}
gp_Ax22d nudged(const gp_Ax22d& at, int how) {
  return {at.Location(), nudged(at.XDirection(), how), at.YDirection()};
}

template <class Change>
void change(const Handle(Geom_Surface) & to, const Handle(Geom_Surface) & from, Change how) {
  if (auto s = Handle(Geom_ElementarySurface)::DownCast(to); !s.IsNull())
    s->SetPosition(how(Handle(Geom_ElementarySurface)::DownCast(from)->Position()));
  if (auto s = Handle(Geom_SurfaceOfRevolution)::DownCast(to); !s.IsNull())
    s->SetAxis(how(Handle(Geom_SurfaceOfRevolution)::DownCast(from)->Axis()));
  if (auto s = Handle(Geom_SurfaceOfLinearExtrusion)::DownCast(to); !s.IsNull())
    s->SetDirection(how(Handle(Geom_SurfaceOfLinearExtrusion)::DownCast(from)->Direction()));
}

template <class Change>
void change(const Handle(Geom_Curve) & to, const Handle(Geom_Curve) & from, Change how) {
  if (auto c = Handle(Geom_Line)::DownCast(to); !c.IsNull())
    c->SetPosition(how(Handle(Geom_Line)::DownCast(from)->Position()));
  if (auto c = Handle(Geom_Conic)::DownCast(to); !c.IsNull())
    c->SetPosition(how(Handle(Geom_Conic)::DownCast(from)->Position()));
}

struct Same {
  template <class Axes>
  Axes operator()(const Axes& axes) const {
    return axes;
  }
};
struct Nudge {
  int how;
  template <class Axes>
  Axes operator()(const Axes& axes) const {
    return nudged(axes, how);
  }
};

template <class Change>
void change(const Handle(Geom2d_Curve) & to, const Handle(Geom2d_Curve) & from, Change how) {
  if (auto c = Handle(Geom2d_Line)::DownCast(to); !c.IsNull())
    c->SetPosition(how(Handle(Geom2d_Line)::DownCast(from)->Position()));
  if (auto c = Handle(Geom2d_Conic)::DownCast(to); !c.IsNull())
    c->SetAxis(how(Handle(Geom2d_Conic)::DownCast(from)->Position()));
}

// --- bringing it there

// Most come to rest after one or two rounds; a few go to and fro between two numbers for ever, until they are
// moved a little.
template <class Geometry>
void settle_own(const Geometry& geometry) {
  constexpr int kTries = 8000, kRounds = 4;
  const std::string first = written(geometry);
  std::string before = first;
  Geometry at_rest;
  for (int attempt = 0; attempt < kTries; ++attempt) {
    for (int round = 0; round < kRounds; ++round) {
      std::istringstream in(before);
      read(in, at_rest);
      std::string again = written(at_rest);
      if (again == before) {
        if (again != first) change(geometry, at_rest, Same{});
        return;
      }
      before = std::move(again);
    }
    change(at_rest, at_rest, Nudge{attempt});
    before = written(at_rest);
  }
}

class Settler {
 public:
  void add(const Handle(Geom_Surface) & surface) {
    if (surface.IsNull() || !seen_.insert(surface.get()).second) return;
    if (auto s = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface); !s.IsNull())
      return add(s->BasisSurface());
    if (auto s = Handle(Geom_OffsetSurface)::DownCast(surface); !s.IsNull()) return add(s->BasisSurface());
    if (auto s = Handle(Geom_SweptSurface)::DownCast(surface); !s.IsNull()) add(s->BasisCurve());
    const bool has = surface->IsKind(STANDARD_TYPE(Geom_ElementarySurface)) ||
                     surface->IsKind(STANDARD_TYPE(Geom_SweptSurface));
    if (has) settle_own(surface);
  }
  void add(const Handle(Geom_Curve) & curve) {
    if (curve.IsNull() || !seen_.insert(curve.get()).second) return;
    if (auto c = Handle(Geom_TrimmedCurve)::DownCast(curve); !c.IsNull()) return add(c->BasisCurve());
    if (auto c = Handle(Geom_OffsetCurve)::DownCast(curve); !c.IsNull()) return add(c->BasisCurve());
    if (curve->IsKind(STANDARD_TYPE(Geom_Line)) || curve->IsKind(STANDARD_TYPE(Geom_Conic)))
      settle_own(curve);
  }
  void add(const Handle(Geom2d_Curve) & curve) {
    if (curve.IsNull() || !seen_.insert(curve.get()).second) return;
    if (auto c = Handle(Geom2d_TrimmedCurve)::DownCast(curve); !c.IsNull()) return add(c->BasisCurve());
    if (auto c = Handle(Geom2d_OffsetCurve)::DownCast(curve); !c.IsNull()) return add(c->BasisCurve());
    if (curve->IsKind(STANDARD_TYPE(Geom2d_Line)) || curve->IsKind(STANDARD_TYPE(Geom2d_Conic)))
      settle_own(curve);
  }
  void add_edge(const TopoDS_Shape& edge) {
    const Handle(BRep_TEdge) told = Handle(BRep_TEdge)::DownCast(edge.TShape());
    for (BRep_ListIteratorOfListOfCurveRepresentation it(told->ChangeCurves()); it.More(); it.Next()) {
      const Handle(BRep_CurveRepresentation)& curve = it.Value();
      if (curve->IsCurve3D()) add(curve->Curve3D());
      if (!curve->IsCurveOnSurface()) continue;
      add(curve->Surface());  // also those that no face lies on any more: they are written all the same
      add(curve->PCurve());
      if (curve->IsCurveOnClosedSurface()) add(curve->PCurve2());
    }
  }

 private:
  std::unordered_set<const Standard_Transient*> seen_;
};

}  // namespace

void settle(const TopoDS_Shape& shape) {
  Settler settler;
  TopTools_IndexedMapOfShape faces, edges;
  TopExp::MapShapes(shape, TopAbs_FACE, faces);
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= faces.Extent(); ++i)
    settler.add(Handle(BRep_TFace)::DownCast(faces(i).TShape())->Surface());
  for (int i = 1; i <= edges.Extent(); ++i) settler.add_edge(edges(i));
}

TopLoc_Location settled(const TopLoc_Location& location) {
  constexpr int kRounds = 20;
  if (location.IsIdentity()) return location;
  gp_Trsf motion = location.Transformation();
  for (int round = 0; round < kRounds; ++round) {
    const auto rows = rows_of(motion);
    gp_Trsf again;
    again.SetValues(rows[0], rows[1], rows[2], rows[3], rows[4], rows[5], rows[6], rows[7], rows[8], rows[9],
                    rows[10], rows[11]);
    motion = again;  // also where only the sign of a zero is another
    if (rows_of(again) == rows) break;
  }
  return TopLoc_Location(motion);
}

}  // namespace anvil
