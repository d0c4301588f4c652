#include "correct/hole_tool.h"

#include <fmt/format.h>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>

#include "geom/guard.h"
#include "geom/primitives.h"
#include "part/measure.h"

namespace anvil {
namespace {

constexpr double kNothing_mm = 1e-7;
constexpr double kSameLevel_mm = 1e-4;

// Half of the section through the axis: corners by radius and height, each line with its step.
class Profile {
 public:
  explicit Profile(const gp_Ax2& at) : at_(at) {}

  void start(double height) { last_ = point(0, height), height_ = height; }
  void line_to(double radius, double height, StepFace step) {
    const gp_Pnt next = point(radius, height);
    if (next.Distance(last_) > kNothing_mm) add(BRepBuilderAPI_MakeEdge(last_, next), step);
    last_ = next;
    radius_ = radius;
    height_ = height;
  }
  // A quarter turn to the axis, as deep as the ball goes.
  void ball_to(double depth, StepFace step) {
    const double r = (radius_ * radius_ + depth * depth) / (2 * depth);
    const gp_Pnt tip = point(0, height_ - depth), centre = point(0, height_ - depth + r);
    const gp_Vec half = gp_Vec(centre, last_) + gp_Vec(centre, tip);
    const gp_Pnt middle = centre.Translated(half.Normalized() * r);
    const Handle(Geom_TrimmedCurve) arc = GC_MakeArcOfCircle(last_, middle, tip).Value();
    add(BRepBuilderAPI_MakeEdge(arc), step);
    last_ = tip;
    radius_ = 0;
    height_ -= depth;
  }
  [[nodiscard]] double radius() const { return radius_; }
  [[nodiscard]] double height() const { return height_; }

  HoleTool revolved() {
    const gp_Pnt top = edges_start_;
    if (last_.Distance(top) > kNothing_mm) wire_.Add(BRepBuilderAPI_MakeEdge(last_, top).Edge());
    BRepPrimAPI_MakeRevol revolution(BRepBuilderAPI_MakeFace(wire_.Wire(), true).Face(), at_.Axis());
    HoleTool tool{revolution.Shape(), {}};
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(tool.solid, TopAbs_FACE, faces);
    tool.step_of_face.assign(faces.Extent(), StepFace());
    for (const auto& [edge, step] : steps_)
      for (const TopoDS_Shape& face : revolution.Generated(edge))
        if (const int place = faces.FindIndex(face); place > 0) tool.step_of_face[place - 1] = step;
    return tool;
  }

 private:
  [[nodiscard]] gp_Pnt point(double radius, double height) const {
    return at_.Location().Translated(gp_Vec(at_.XDirection()) * radius + gp_Vec(at_.Direction()) * height);
  }
  void add(const TopoDS_Edge& edge, StepFace step) {
    if (steps_.empty()) edges_start_ = last_;
    wire_.Add(edge);
    steps_.emplace_back(wire_.Edge(), step);  // as it stands in the wire, with the vertices it shares
  }

  gp_Ax2 at_;
  BRepBuilderAPI_MakeWire wire_;
  std::vector<std::pair<TopoDS_Edge, StepFace>> steps_;
  gp_Pnt last_, edges_start_;
  double radius_ = 0, height_ = 0;
};

Result<void> check(const HoleForm& form) {
  if (form.steps.empty()) return refuse(RefusalCode::kGeometry, "the hole has no steps that can be read");
  for (const HoleStep& step : form.steps) {
    const bool flat = step.kind == StepKind::kFlat;
    if (!flat && !(std::max(step.diameter_mm, step.end_diameter_mm) > kNothing_mm))
      return refuse(RefusalCode::kBadInput, fmt::format("the {} has no diameter", step_name(step.kind)));
    if (!flat && !(step.depth_mm > kNothing_mm))
      return refuse(RefusalCode::kBadInput, fmt::format("the {} has no depth", step_name(step.kind)));
  }
  return {};
}

}  // namespace

HoleForm form_of(const Hole& hole) {
  return {hole.steps, hole.through};
}

StepFace step_face_of(const HoleForm& form, const gp_Ax2& at, const TopoDS_Face& face, bool is_flat) {
  const gp_Pnt middle = area_properties(face).centroid;
  const double depth = -gp_Vec(at.Location(), middle).Dot(gp_Vec(at.Direction()));
  double top = 0;
  for (size_t i = 0; i < form.steps.size(); ++i) {
    const double bottom = top + form.steps[i].depth_mm;
    const auto number = static_cast<int>(i);
    if (is_flat && i > 0 && std::abs(depth - top) < kSameLevel_mm && form.steps[i].kind != StepKind::kFlat)
      return {number, true};
    if (!is_flat && depth > top && depth < bottom) return {number};
    top = bottom;
  }
  if (is_flat && !form.through && std::abs(depth - top) < kSameLevel_mm)
    return {static_cast<int>(form.steps.size()), true};
  return {};
}

double depth_of(const HoleForm& form) {
  double depth = 0;
  for (const HoleStep& step : form.steps) depth += step.depth_mm;
  return depth;
}

double volume_of(const HoleForm& form) {
  double volume = 0;
  for (const HoleStep& step : form.steps) {
    const double a = step.diameter_mm / 2, b = step.end_diameter_mm / 2, h = step.depth_mm;
    if (step.kind == StepKind::kBall)
      volume += kPi * h * (3 * a * a + h * h) / 6;
    else
      volume += kPi * h * (a * a + a * b + b * b) / 3;
  }
  return volume;
}

Result<HoleTool> hole_tool(const HoleForm& form, const gp_Ax2& at, double above_mm, double below_mm) {
  if (auto good = check(form); !good) return refuse(good);
  return guarded("building the hole", [&]() -> Result<HoleTool> {
    Profile profile(at);
    profile.start(above_mm);
    profile.line_to(form.steps.front().diameter_mm / 2, above_mm, {});
    for (size_t i = 0; i < form.steps.size(); ++i) {
      const HoleStep& step = form.steps[i];
      const auto number = static_cast<int>(i);
      if (step.kind == StepKind::kFlat) continue;
      if (step.kind == StepKind::kBall) {
        profile.ball_to(step.depth_mm, {number});
        continue;
      }
      const double top = i == 0 ? 0 : profile.height();
      const double beyond = form.through && i + 1 == form.steps.size() ? below_mm : 0;
      const bool is_straight = step.diameter_mm == step.end_diameter_mm;
      if (i == 0 && !is_straight) profile.line_to(profile.radius(), 0, {});
      if (i > 0) profile.line_to(step.diameter_mm / 2, top, {number, true});
      profile.line_to(step.end_diameter_mm / 2, top - step.depth_mm - (is_straight ? beyond : 0), {number});
      if (!is_straight && beyond > 0) profile.line_to(profile.radius(), profile.height() - beyond, {});
    }
    const auto last = static_cast<int>(form.steps.size());
    profile.line_to(0, profile.height(), form.through ? StepFace() : StepFace{last, true});
    return profile.revolved();
  });
}

}  // namespace anvil
