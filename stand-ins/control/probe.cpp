#include "stand-ins/control/probe.h"

#include <BRepIntCurveSurface_Inter.hxx>
#include <TopLoc_Location.hxx>
#include <algorithm>
#include <gp_Ax1.hxx>
#include <gp_Lin.hxx>

namespace anvil::control {

Probe::Probe(const TopoDS_Shape& shape, const gp_Trsf& lies, double spread_mm, unsigned seed)
    : shape_(shape.Moved(TopLoc_Location(lies))),
      generator_(seed),
      spread_(0, spread_mm > 0 ? spread_mm : 1e-300) {}

std::optional<gp_Pnt> Probe::touch(const gp_Pnt& start, const gp_Dir& along, double reach_mm) {
  BRepIntCurveSurface_Inter meets;
  double nearest = 2 * reach_mm;
  for (meets.Init(shape_, gp_Lin(start, along), 1e-7); meets.More(); meets.Next())
    if (meets.W() >= 0) nearest = std::min(nearest, meets.W());
  if (nearest > reach_mm) return std::nullopt;
  return start.Translated(gp_Vec(along) * (nearest + spread_(generator_)));
}

gp_Trsf put_down_by_hand(const gp_Pnt& about, double most_mm, double most_rad, unsigned seed) {
  std::mt19937 generator(seed);
  std::uniform_real_distribution<double> off(-1, 1);
  gp_Trsf motion;
  for (const gp_Dir& axis : {gp_Dir(1, 0, 0), gp_Dir(0, 1, 0), gp_Dir(0, 0, 1)}) {
    gp_Trsf turn, shift;
    turn.SetRotation(gp_Ax1(about, axis), most_rad * off(generator));
    shift.SetTranslation(gp_Vec(axis) * (most_mm * off(generator)));
    motion = shift * turn * motion;
  }
  return motion;
}

}  // namespace anvil::control
