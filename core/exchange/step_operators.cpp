#include "exchange/step_operators.h"

#include <fmt/format.h>

#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Builder.hxx>
#include <StepGeom_CartesianPoint.hxx>
#include <StepGeom_CartesianTransformationOperator3d.hxx>
#include <StepGeom_Direction.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TopLoc_Datum3D.hxx>
#include <TopoDS_Iterator.hxx>
#include <cmath>

#include "geom/coordinate.h"

namespace anvil {
namespace {

using Operator = StepGeom_CartesianTransformationOperator3d;

std::optional<gp_XYZ> vector_of(const Handle(StepGeom_Direction) & direction) {
  if (direction.IsNull() || direction->NbDirectionRatios() < 3) return std::nullopt;
  const gp_XYZ v(direction->DirectionRatiosValue(1), direction->DirectionRatiosValue(2),
                 direction->DirectionRatiosValue(3));
  if (v.Modulus() < gp::Resolution()) return std::nullopt;
  return v.Normalized();
}

Handle(StepGeom_Direction) direction_of(const gp_XYZ& v) {
  Handle(TColStd_HArray1OfReal) ratios = new TColStd_HArray1OfReal(1, 3);
  ratios->SetValue(1, v.X());
  ratios->SetValue(2, v.Y());
  ratios->SetValue(3, v.Z());
  Handle(StepGeom_Direction) direction = new StepGeom_Direction;
  direction->Init(new TCollection_HAsciiString(""), ratios);
  return direction;
}

// base_axis(3, axis1, axis2, axis3): what is not given is as X, Y, Z would have it; nothing where two are in
// one line.
std::optional<gp_Mat> axes_of(const Operator& op) {
  constexpr double kInLine = 1e-9;
  const auto given = [](bool has, const Handle(StepGeom_Direction) & direction) {
    return has ? vector_of(direction) : std::nullopt;
  };
  const auto x = given(op.HasAxis1(), op.Axis1()), y = given(op.HasAxis2(), op.Axis2()),
             z = given(op.HasAxis3(), op.Axis3());
  const gp_XYZ third = z                                         ? *z
                       : x && y && (*x ^ *y).Modulus() > kInLine ? (*x ^ *y).Normalized()
                                                                 : gp_XYZ(0, 0, 1);
  gp_XYZ first = x ? *x : std::abs(third.X()) < 0.9 ? gp_XYZ(1, 0, 0) : gp_XYZ(0, 1, 0);
  first -= third * (first * third);
  if (first.Modulus() < kInLine) return std::nullopt;
  first.Normalize();
  gp_XYZ second = third ^ first;
  if (y) {
    const double along = *y * second;
    if (std::abs(along) < kInLine) return std::nullopt;
    if (along < 0) second.Reverse();
  }
  return gp_Mat(first, second, third);
}

// Turns that no file has, each another: one angle about axes spread over the sphere.
gp_Mat turn_number(size_t n) {
  constexpr double kAngle = 1.2345678, kGolden = 2.39996322972865332, kLowest = 0.123;
  const double z = kLowest + std::fmod(0.6180339887498949 * static_cast<double>(n + 1), 0.8);
  const double around = kGolden * static_cast<double>(n), r = std::sqrt(1 - z * z);
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(gp_Pnt(), gp_Dir(r * std::cos(around), r * std::sin(around), z)), kAngle);
  return turn.VectorialPart();
}

gp_Trsf transformation(const gp_Mat& m, const gp_XYZ& to) {
  gp_Trsf t;
  t.SetValues(m(1, 1), m(1, 2), m(1, 3), to.X(), m(2, 1), m(2, 2), m(2, 3), to.Y(), m(3, 1), m(3, 2), m(3, 3),
              to.Z());
  return t;
}

bool same(const gp_Mat& a, const gp_Mat& b) {
  constexpr double kSame = 1e-10;
  for (int i = 1; i <= 3; ++i)
    for (int k = 1; k <= 3; ++k)
      if (std::abs(a(i, k) - b(i, k)) > kSame) return false;
  return true;
}

gp_XYZ point_of(const Handle(StepGeom_CartesianPoint) & point) {
  gp_XYZ at;
  if (point.IsNull()) return at;
  for (int i = 1; i <= std::min(3, point->NbCoordinates()); ++i)
    set_coordinate(at, i - 1, point->CoordinatesValue(i));
  return at;
}

}  // namespace

StepOperators::StepOperators(const StepData_StepModel& model) {
  constexpr double kRigid = 1e-9;
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto op = Handle(Operator)::DownCast(model.Value(i));
    if (op.IsNull()) continue;
    const double scale = op->HasScale() ? op->Scale() : 1;
    const auto axes = axes_of(*op);
    if (!(scale > 0) || !std::isfinite(scale) || !axes) {
      sentences_.push_back(
          fmt::format("Instance #{} places something {}, which cannot be: what it places may have another "
                      "size or lie elsewhere.",
                      model.IdentLabel(op),
                      axes ? fmt::format("at {:g} times its size", scale) : "along axes in one line"));
      continue;
    }
    said_[op.get()] = {*axes * scale, point_of(op->LocalOrigin())};
    if (std::abs(scale - 1) < kRigid && axes->Determinant() > 0) continue;
    const gp_Mat turn = turn_number(marked_.size());
    marked_.push_back({turn, *axes * scale});
    op->SetScale(1);
    op->SetAxis1(direction_of(turn.Column(1)));
    op->SetAxis2(direction_of(turn.Column(2)));
    op->SetAxis3(direction_of(turn.Column(3)));
  }
}

std::optional<gp_Trsf> StepOperators::of(const Standard_Transient* instance, double mm) const {
  const auto at = said_.find(instance);
  if (at == said_.end()) return std::nullopt;
  return transformation(at->second.turn, at->second.local_origin * mm);
}

std::optional<gp_Trsf> StepOperators::said_for(const gp_Trsf& read) const {
  const gp_Mat turn = read.VectorialPart();
  for (const Marked& marked : marked_) {
    if (same(turn, marked.turn)) return transformation(marked.said, read.TranslationPart());
    // Where the file relates the two the other way round.
    if (same(turn, marked.turn.Transposed()))
      return transformation(marked.said, read.TranslationPart().Multiplied(marked.turn).Reversed())
          .Inverted();
  }
  return std::nullopt;
}

bool StepOperators::is_marked(const TopLoc_Location& location) const {
  for (TopLoc_Location at = location; !at.IsIdentity(); at = at.NextLocation())
    if (said_for(at.FirstDatum()->Transformation())) return true;
  return false;
}

// The first datum of a location is the innermost.
gp_Trsf StepOperators::placed(const TopLoc_Location& location) const {
  gp_Trsf all;
  for (TopLoc_Location at = location; !at.IsIdentity(); at = at.NextLocation()) {
    const gp_Trsf& read = at.FirstDatum()->Transformation();
    all.PreMultiply(said_for(read).value_or(read).Powered(at.FirstPower()));
  }
  return all;
}

bool StepOperators::holds_marked(const TopoDS_Shape& shape) const {
  if (is_marked(shape.Location())) return true;
  if (shape.ShapeType() > TopAbs_COMPSOLID) return false;
  for (TopoDS_Iterator it(shape, true, false); it.More(); it.Next())
    if (holds_marked(it.Value())) return true;
  return false;
}

TopoDS_Shape StepOperators::resolved(const TopoDS_Shape& shape) const {
  if (!holds_marked(shape)) return shape;
  TopoDS_Shape base = shape.Located(TopLoc_Location());
  if (base.ShapeType() <= TopAbs_COMPSOLID) {
    TopoDS_Shape rebuilt = base.EmptyCopied();
    for (TopoDS_Iterator it(base); it.More(); it.Next()) BRep_Builder().Add(rebuilt, resolved(it.Value()));
    base = rebuilt;
  }
  if (!is_marked(shape.Location())) return base.Located(shape.Location());
  return BRepBuilderAPI_Transform(base, placed(shape.Location()), true).Shape();
}

void StepOperators::apply(std::vector<Body>& bodies) const {
  if (marked_.empty()) return;
  for (Body& body : bodies) body.shape = resolved(body.shape);
}

}  // namespace anvil
