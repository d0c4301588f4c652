#include "part/measure.h"

#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <TopLoc_Location.hxx>

namespace anvil {

Box exact_box(const TopoDS_Shape& shape, const gp_Trsf& placement) {
  Bnd_Box box;
  BRepBndLib::AddOptimal(shape.Moved(TopLoc_Location(placement)), box, false, false);
  if (box.IsVoid()) return {};
  box.SetGap(0.0);
  return {box.CornerMin(), box.CornerMax()};
}

VolumeProperties volume_properties(const TopoDS_Shape& solid) {
  GProp_GProps properties;
  BRepGProp::VolumeProperties(solid, properties);
  return {properties.Mass(), properties.CentreOfMass()};
}

AreaProperties area_properties(const TopoDS_Shape& faces) {
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(faces, properties);
  return {properties.Mass(), properties.CentreOfMass()};
}

}  // namespace anvil
