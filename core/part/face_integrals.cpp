#include "part/face_integrals.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "geom/primitives.h"

namespace anvil {
namespace {

// Area, its moment, volume, its moment.
using Sums = std::array<double, 8>;

Sums& operator+=(Sums& a, const Sums& b) {
  for (size_t i = 0; i < a.size(); ++i) a[i] += b[i];
  return a;
}
Sums operator*(const Sums& a, double factor) {
  Sums result = a;
  for (double& x : result) x *= factor;
  return result;
}

// Gauss-Legendre on -1 … 1 (Abramowitz and Stegun, table 25.4), the positive half: place and weight.
using Rule = std::vector<std::array<double, 2>>;
const Rule kEight{{0.183434642495650, 0.362683783378362},
                  {0.525532409916329, 0.313706645877887},
                  {0.796666477413627, 0.222381034453374},
                  {0.960289856497536, 0.101228536290376}};

template <class At>
Sums integral(double from, double to, const Rule& rule, const At& at) {
  const double middle = 0.5 * (from + to), half = 0.5 * (to - from);
  Sums sums{};
  for (const auto& [place, weight] : rule) {
    sums += at(middle - half * place) * (half * weight);
    sums += at(middle + half * place) * (half * weight);
  }
  return sums;
}

// Halves until one rule over the whole and over both halves agree within `close` in every sum.
template <class At>
Sums careful_integral(double from, double to, const Sums& whole, const Sums& close, int depth, const At& at) {
  const double middle = 0.5 * (from + to);
  const Sums left = integral(from, middle, kEight, at), right = integral(middle, to, kEight, at);
  Sums both = left;
  both += right;
  bool agree = true;
  for (size_t i = 0; i < both.size(); ++i) agree = agree && std::abs(both[i] - whole[i]) <= close[i];
  if (agree || depth == 0) return both;
  Sums halves = careful_integral(from, middle, left, close, depth - 1, at);
  halves += careful_integral(middle, to, right, close, depth - 1, at);
  return halves;
}

template <class At>
Sums careful_integral(const std::vector<double>& breaks, const Sums& close, const At& at) {
  constexpr int kHalvings = 12;
  Sums sums{};
  for (size_t i = 0; i + 1 < breaks.size(); ++i)
    sums += careful_integral(breaks[i], breaks[i + 1], integral(breaks[i], breaks[i + 1], kEight, at), close,
                             kHalvings, at);
  return sums;
}

// Turns are taken in quarters: that is how far eight points see a sine to the last digits.
void add_quarters(std::vector<double>& breaks) {
  const double from = breaks.front(), to = breaks.back();
  const int quarters = static_cast<int>(std::ceil((to - from) / M_PI_2 - 1e-9));
  for (int i = 1; i < quarters; ++i) breaks.push_back(from + (to - from) * i / quarters);
  std::sort(breaks.begin(), breaks.end());
}

template <class Adaptor>
std::vector<double> pieces_of_curve(const Adaptor& curve, double from, double to) {
  std::vector<double> breaks{from, to};
  const GeomAbs_CurveType type = curve.GetType();
  if (type == GeomAbs_Circle || type == GeomAbs_Ellipse) {
    add_quarters(breaks);
  } else if (type != GeomAbs_Line) {
    TColStd_Array1OfReal all(1, curve.NbIntervals(GeomAbs_CN) + 1);
    curve.Intervals(all, GeomAbs_CN);
    for (const double t : all)
      if (t > from && t < to) breaks.push_back(t);
    std::sort(breaks.begin(), breaks.end());
  }
  return breaks;
}

Sums closeness(double area, double distance) {
  constexpr double kClose = 1e-8;  // what halving tells is more than what is left wrong
  const double length = distance + std::sqrt(area), a = kClose * area;
  return {a,          a * length,          a * length,          a * length,
          a * length, a * length * length, a * length * length, a * length * length};
}

FaceIntegrals told(const Sums& s, double sense) {
  return {s[0], sense * s[4], gp_XYZ(s[1], s[2], s[3]), gp_XYZ(s[5], s[6], s[7]) * sense};
}

bool bounds(const TopoDS_Shape& edge) {
  return edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
}

double sense_of(const TopoDS_Shape& shape) {
  return shape.Orientation() == TopAbs_REVERSED ? -1 : 1;
}

// In a plane everything follows from the outline in space: area and its first moments, in the plane's own
// directions from a point of its own.
class InPlane {
 public:
  InPlane(const TopoDS_Face& face, const gp_Pln& plane, const gp_Pnt& about)
      : frame_(plane.Position()), about_(about), face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))) {
    const TopExp_Explorer vertices(face, TopAbs_VERTEX);
    const gp_Pnt near_it =
        vertices.More() ? BRep_Tool::Pnt(TopoDS::Vertex(vertices.Current())) : plane.Location();
    frame_.SetLocation(near_it);
    x_ = frame_.XDirection().XYZ();
    y_ = frame_.YDirection().XYZ();
  }

  [[nodiscard]] FaceIntegrals run(double sense) const {
    Sums sums{};
    for (TopExp_Explorer ex(face_, TopAbs_EDGE); ex.More(); ex.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(ex.Current());
      if (!bounds(edge) || BRep_Tool::Degenerated(edge)) continue;
      const BRepAdaptor_Curve curve(edge);
      const double size = curve.Value(curve.FirstParameter()).Distance(curve.Value(curve.LastParameter())) +
                          middle_of(curve).Distance(curve.Value(curve.FirstParameter()));
      const auto at = [&](double t) { return along(curve, t); };
      sums += careful_integral(pieces_of_curve(curve, curve.FirstParameter(), curve.LastParameter()),
                               closeness(size * size, 0), at) *
              sense_of(edge);
    }
    const double area = sums[0];
    const gp_XYZ from = frame_.Location().XYZ() - about_.XYZ();
    const gp_XYZ moment = from * area + x_ * sums[1] + y_ * sums[2];
    const gp_Dir normal = frame_.XDirection().Crossed(frame_.YDirection());
    const double height = from.Dot(normal.XYZ());
    return {area, sense * height * area / 3, moment, moment * (sense * height / 4)};
  }

 private:
  // ½ (x y' − y x'), ½ x² y', −½ y² x'.
  [[nodiscard]] Sums along(const BRepAdaptor_Curve& curve, double t) const {
    gp_Pnt p;
    gp_Vec d;
    curve.D1(t, p, d);
    const gp_XYZ r = p.XYZ() - frame_.Location().XYZ();
    const double x = r.Dot(x_), y = r.Dot(y_), dx = d.XYZ().Dot(x_), dy = d.XYZ().Dot(y_);
    return {0.5 * (x * dy - y * dx), 0.5 * x * x * dy, -0.5 * y * y * dx, 0, 0, 0, 0, 0};
  }

  gp_Ax3 frame_;
  gp_XYZ x_, y_;
  gp_Pnt about_;
  TopoDS_Face face_;
};

class OnSurface {
 public:
  OnSurface(const TopoDS_Face& face, const BRepAdaptor_Surface& surface, const gp_Pnt& about)
      : surface_(surface), about_(about), face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))) {}

  [[nodiscard]] std::optional<FaceIntegrals> run(double sense) {
    if (!take_outline()) return std::nullopt;
    find_pieces();
    Sums sums{};
    for (const Piece& piece : outline_) {
      const auto at = [&](double t) { return along(piece.curve, t); };
      sums += careful_integral(piece.breaks, close_, at) * piece.sense;
    }
    return told(sums, sense);
  }

 private:
  struct Piece {
    Geom2dAdaptor_Curve curve;
    std::vector<double> breaks;
    double sense;
  };

  bool take_outline() {
    bool first = true;
    for (TopExp_Explorer ex(face_, TopAbs_EDGE); ex.More(); ex.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(ex.Current());
      if (!bounds(edge)) continue;
      double from, to;
      const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face_, from, to);
      if (curve.IsNull()) return false;
      const Geom2dAdaptor_Curve adaptor(curve, from, to);
      for (const double t : {from, 0.5 * (from + to), to}) {
        const gp_Pnt2d p = adaptor.Value(t);
        u_low_ = first ? p.X() : std::min(u_low_, p.X());
        u_high_ = first ? p.X() : std::max(u_high_, p.X());
        v_low_ = first ? p.Y() : std::min(v_low_, p.Y());
        v_high_ = first ? p.Y() : std::max(v_high_, p.Y());
        first = false;
      }
      outline_.push_back({adaptor, pieces_of_curve(adaptor, from, to), sense_of(edge)});
    }
    return !outline_.empty();
  }

  [[nodiscard]] bool turns_in_u() const {
    const GeomAbs_SurfaceType type = surface_.GetType();
    return type == GeomAbs_Cylinder || type == GeomAbs_Cone || type == GeomAbs_Sphere ||
           type == GeomAbs_Torus || type == GeomAbs_SurfaceOfRevolution;
  }

  // Where the surface's own pieces meet, across it and along it.
  void find_pieces() {
    if (!turns_in_u()) {
      TColStd_Array1OfReal all(1, surface_.NbUIntervals(GeomAbs_CN) + 1);
      surface_.UIntervals(all, GeomAbs_CN);
      u_breaks_.assign(all.begin(), all.end());
    }
    if (surface_.GetType() == GeomAbs_BSplineSurface || surface_.GetType() == GeomAbs_SurfaceOfRevolution) {
      TColStd_Array1OfReal all(1, surface_.NbVIntervals(GeomAbs_CN) + 1);
      surface_.VIntervals(all, GeomAbs_CN);
      for (Piece& piece : outline_) add_crossings(piece, all);
    }
    gp_Pnt p;
    gp_Vec du, dv;
    surface_.D1(0.5 * (u_low_ + u_high_), 0.5 * (v_low_ + v_high_), p, du, dv);
    const double area = du.Crossed(dv).Magnitude() * (u_high_ - u_low_) * (v_high_ - v_low_);
    close_ = closeness(std::max(area, 1e-6), p.Distance(about_));
  }

  // Straight outlines cross the surface's pieces where that can be told at once; others find out by halving.
  static void add_crossings(Piece& piece, const TColStd_Array1OfReal& v_breaks) {
    if (piece.curve.GetType() != GeomAbs_Line) return;
    const gp_Lin2d line = piece.curve.Line();
    const double slope = line.Direction().Y();
    if (std::abs(slope) < 1e-9) return;
    const double from = piece.breaks.front(), to = piece.breaks.back();
    for (const double v : v_breaks) {
      const double t = (v - line.Location().Y()) / slope;
      if (t > from && t < to) piece.breaks.push_back(t);
    }
    std::sort(piece.breaks.begin(), piece.breaks.end());
  }

  [[nodiscard]] Sums along(const Geom2dAdaptor_Curve& curve, double t) const {
    gp_Pnt2d p;
    gp_Vec2d d;
    curve.D1(t, p, d);
    if (d.Y() == 0) return {};
    return across(p.X(), p.Y()) * d.Y();
  }

  // From the outline's lowest u to this one.
  [[nodiscard]] Sums across(double u, double v) const {
    if (u <= u_low_) return u == u_low_ ? Sums{} : span(u_low_, u, v);
    std::vector<double> breaks{u_low_, u};
    if (turns_in_u()) {
      add_quarters(breaks);
    } else {
      for (const double b : u_breaks_)
        if (b > u_low_ && b < u) breaks.push_back(b);
      std::sort(breaks.begin(), breaks.end());
    }
    Sums sums{};
    for (size_t i = 0; i + 1 < breaks.size(); ++i) sums += span(breaks[i], breaks[i + 1], v);
    return sums;
  }

  [[nodiscard]] Sums span(double from, double to, double v) const {
    return integral(from, to, kEight, [&](double u) { return at(u, v); });
  }

  [[nodiscard]] Sums at(double u, double v) const {
    gp_Pnt p;
    gp_Vec du, dv;
    surface_.D1(u, v, p, du, dv);
    const gp_XYZ n = du.XYZ().Crossed(dv.XYZ()), r = p.XYZ() - about_.XYZ();
    const double area = n.Modulus(), height = r.Dot(n);
    return {area,       area * r.X(),       area * r.Y(),       area * r.Z(),
            height / 3, height / 4 * r.X(), height / 4 * r.Y(), height / 4 * r.Z()};
  }

  const BRepAdaptor_Surface& surface_;
  gp_Pnt about_;
  TopoDS_Face face_;
  std::vector<Piece> outline_;
  std::vector<double> u_breaks_;
  double u_low_ = 0, u_high_ = 0, v_low_ = 0, v_high_ = 0;
  Sums close_{};
};

}  // namespace

std::optional<FaceIntegrals> integrals_over(const TopoDS_Face& face, const gp_Pnt& about) {
  if (!TopExp_Explorer(face, TopAbs_EDGE).More()) return std::nullopt;
  const BRepAdaptor_Surface surface(face, false);
  const double sense = sense_of(face);
  if (surface.GetType() == GeomAbs_Plane) return InPlane(face, surface.Plane(), about).run(sense);
  return OnSurface(face, surface, about).run(sense);
}

}  // namespace anvil
