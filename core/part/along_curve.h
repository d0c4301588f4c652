// Places along a curve by the length that has gone.
#pragma once

#include <Adaptor3d_Curve.hxx>
#include <optional>

namespace anvil {

// The parameter where `share` (0 to 1) of the curve's length has gone, within 1e-9 of its length; nothing
// where it cannot be measured.
std::optional<double> parameter_at_share(const Adaptor3d_Curve& curve, double share);

}  // namespace anvil
