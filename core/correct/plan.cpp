#include "correct/plan.h"

#include <BRepTools.hxx>
#include <TopExp.hxx>
#include <sstream>

#include "part/element_content.h"

namespace anvil {
namespace {

class Adder {
 public:
  Adder(KeyMaker& maker, const Part& part, int body) : maker_(maker), places_(part, body) {}

  void operator()(const CloseFeature& step) {
    maker_.add("close");
    for (const Feature& feature : step.tries) add(feature);
    maker_.add(static_cast<int>(step.expected));
  }
  void operator()(const MoveFaces& step) {
    maker_.add("faces");
    for (const MovedFaces& set : step.sets) {
      add(set.faces);
      add_to(maker_, set.by.XYZ());
    }
    maker_.add(step.with_walls);
  }
  void operator()(const RoundAnew& step) {
    maker_.add("radius");
    add(step.faces);
    maker_.add(step.radius_mm);
  }
  void operator()(const CombineWith& step) {
    maker_.add("combine");
    maker_.add(static_cast<int>(step.how));
    for (const TopoDS_Shape& tool : step.tools) maker_.add(text_of(tool));
  }
  void operator()(const LayFaces& step) {
    maker_.add("lay");
    add(step.faces);
    maker_.add(text_of(step.onto));
  }
  void operator()(const SplitFaces& step) {
    maker_.add("split");
    add(step.faces);
    add(step.at.Position().Ax2());
  }
  void operator()(const RemakeHoles& step) {
    maker_.add("holes");
    add(step.closed);
    maker_.add(step.made.size());
    for (const HoleToMake& hole : step.made) {
      add(hole.form);
      add(hole.at);
      maker_.add(hole.above_mm);
      maker_.add(hole.below_mm);
      maker_.add(hole.instead_of.has_value());
      if (!hole.instead_of) continue;
      add(hole.instead_of->form);
      add(hole.instead_of->at);
      add(hole.instead_of->faces);
    }
  }

 private:
  void add(const std::vector<int>& faces) {
    maker_.add(faces.size());
    for (const int face : faces) maker_.add(places_.of(face));
  }
  void add(const Feature& feature) {
    add(feature.faces);
    maker_.add(feature.stands_free);
  }
  void add(const gp_Ax2& at) {
    for (const gp_XYZ& xyz : {at.Location().XYZ(), at.Direction().XYZ(), at.XDirection().XYZ()})
      add_to(maker_, xyz);
  }
  void add(const HoleForm& form) {
    maker_.add(form.through);
    maker_.add(form.steps.size());
    for (const HoleStep& step : form.steps) {
      maker_.add(static_cast<int>(step.kind));
      for (const double number : {step.diameter_mm, step.end_diameter_mm, step.depth_mm, step.angle_rad})
        maker_.add(number);
    }
  }

  KeyMaker& maker_;
  FacePlaces places_;
};

}  // namespace

FacePlaces::FacePlaces(const Part& part, int body) : topology_(part.topology()) {
  TopExp::MapShapes(part.bodies()[body].shape, TopAbs_FACE, faces_);
}

std::string text_of(const TopoDS_Shape& shape) {
  std::ostringstream text;
  BRepTools::Write(shape, text, false, false, TopTools_FormatVersion_CURRENT);
  return text.str();
}

void add_step(KeyMaker& maker, const Part& part, const PlanStep& step) {
  std::visit(Adder(maker, part, step.body), step.what);
}

}  // namespace anvil
