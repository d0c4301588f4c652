#include "part/along_curve.h"

#include <GCPnts_AbscissaPoint.hxx>

namespace anvil {

std::optional<double> parameter_at_share(const Adaptor3d_Curve& curve, double share) {
  // The kernel's usual tolerance leaves 1e-7 on curves without a closed form, as ellipses.
  constexpr double kTolerance = 1e-10;
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  const double length = GCPnts_AbscissaPoint::Length(curve, kTolerance);
  const GCPnts_AbscissaPoint at(curve, share * length, first, first + share * (last - first), kTolerance);
  return at.IsDone() ? std::optional(at.Parameter()) : std::nullopt;
}

}  // namespace anvil
