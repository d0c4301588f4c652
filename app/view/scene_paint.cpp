// Faces and edges painted over the part, in layers.
#include <Prs3d_LineAspect.hxx>
#include <Prs3d_PointAspect.hxx>

#include "app/view/kernel_looks.h"
#include "app/view/scene.h"
#include "part/coarsen.h"

namespace anvil::app {

bool Paint::operator==(const Paint& other) const {
  return colour == other.colour && transparency == other.transparency &&
         std::equal(shapes.begin(), shapes.end(), other.shapes.begin(), other.shapes.end(),
                    [](const TopoDS_Shape& a, const TopoDS_Shape& b) { return a.IsEqual(b); });
}

// One act may paint a layer several times, and often with what is there already.
void Scene::paint(Layer layer, std::vector<Paint> paints) {
  paints.erase(std::remove_if(paints.begin(), paints.end(), [](const Paint& p) { return p.shapes.empty(); }),
               paints.end());
  Painted& painted = painted_[static_cast<size_t>(layer)];
  if (painted.paints == paints) return;
  painted.paints = std::move(paints);
  painted.is_drawn = false;
  view_.redraw();
}

void Scene::display_painted() {
  for (size_t layer = 0; layer < painted_.size(); ++layer) {
    Painted& painted = painted_[layer];
    if (std::exchange(painted.is_drawn, true)) continue;
    clear(painted.objects);
    for (const Paint& paint : painted.paints) {
      painted.objects.push_back(painted_object(static_cast<Layer>(layer), paint));
      view_.context()->Display(painted.objects.back(), AIS_Shaded, -1, false);
    }
  }
}

// In steps of the depth buffer; what a light stand-in is off by, it may lie before what is painted.
float Scene::towards_eye(Layer layer) const {
  constexpr float kSteps = 1 << 24;
  const float off = drawn_as_ == As::kFromAfar ? static_cast<float>(kLightMesh.relative_deflection) : 0;
  return -2.0f - static_cast<float>(layer) - off * kSteps;
}

void Scene::let_paint_through() {
  for (size_t layer = 0; layer < painted_.size(); ++layer)
    for (const auto& object : painted_[layer].objects)
      object->SetPolygonOffsets(Aspect_POM_Fill, 1.0f, towards_eye(static_cast<Layer>(layer)));
}

Handle(AIS_Shape) Scene::painted_object(Layer layer, const Paint& paint) const {
  Handle(AIS_Shape) object = new AIS_Shape(compound_of(paint.shapes));
  object->Attributes()->SetAutoTriangulation(false);
  object->SetMaterial(matt());
  object->SetColor(kernel(paint.colour));
  object->SetTransparency(paint.transparency);
  object->SetWidth(3.5);
  object->Attributes()->SetPointAspect(new Prs3d_PointAspect(Aspect_TOM_BALL, kernel(paint.colour), 3.0));
  object->Attributes()->SetFaceBoundaryDraw(true);
  object->Attributes()->SetFaceBoundaryAspect(
      new Prs3d_LineAspect(kernel(paint.colour.darker(150)), Aspect_TOL_SOLID, 2.0));
  object->SetPolygonOffsets(Aspect_POM_Fill, 1.0f, towards_eye(layer));
  object->SetLocalTransformation(placement_);
  // What a correction takes out lies inside the material.
  if (layer >= Layer::kAdded) object->SetZLayer(Graphic3d_ZLayerId_Topmost);
  return object;
}

}  // namespace anvil::app
