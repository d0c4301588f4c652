// A frame from two lines: zero at their crossing, or, where they pass each other, at the point of the first
// nearest to the second; Z square to both; X along the first. Eight arrangements: which line leads, two
// senses of X, two of Z.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/frame_helpers.h"

namespace anvil {

namespace {

Solutions two_line_frames(const Inputs& in) {
  const gp_Ax1 lines[2] = {*in[0].axis, *in[1].axis};
  const Bridge between = bridge(lines[0], lines[1], in.tolerance.angular_rad);
  if (between.parallel) {
    Refusal refusal{RefusalCode::kGeometry,
                    fmt::format("{{1}} and {{2}} are parallel, {} apart: no crossing and no Z",
                                format_length(between.gap_mm, in.display))};
    refusal.facts["distance_mm"] = between.gap_mm;
    return refuse(refusal);
  }
  const std::string gap =
      between.gap_mm > in.tolerance.linear_mm
          ? fmt::format("they miss each other by {}", format_length(between.gap_mm, in.display))
          : "";
  const gp_Dir normal = lines[0].Direction().Crossed(lines[1].Direction());
  std::vector<Solution> solutions;
  for (int lead = 0; lead < 2; ++lead) {
    for (int z_sense : {1, -1}) {
      for (int x_sense : {1, -1}) {
        const gp_Dir z = z_sense > 0 ? normal : normal.Reversed();
        const gp_Dir x = x_sense > 0 ? lines[lead].Direction() : lines[lead].Direction().Reversed();
        const gp_Pnt zero = lead == 0 ? between.on_a : between.on_b;
        solutions.push_back(
            {FrameDatum{make_frame(zero, z, x)},
             fmt::format("x{}{}.z{}", lead + 1, x_sense > 0 ? "+" : "-", z_sense > 0 ? "+" : "-"), gap});
      }
    }
  }
  return solutions;
}

}  // namespace

Construction frame_of_two_lines() {
  return framing("frame.two-lines", "Frame: zero where {1} and {2} cross, X along {1}",
                 {Need::kAxis, Need::kAxis}, 10, two_line_frames);
}

}  // namespace anvil
