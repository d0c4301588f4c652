// What a shop would have beside the saddle plate: the list of its holes, and of its cutters.
#include <fmt/format.h>

#include "demo/demo_part.h"

namespace anvil::demo {
namespace {

// As it was designed: the third counterbored hole in its row, the tapped one deeper, and an oil hole more.
struct Wanted {
  const char* name;
  double x, y, diameter, depth;  // depth 0: through
};
const Wanted kWanted[] = {
    {"B1", 18, 82, 6.6, 0},      {"B2", 66, 82, 6.6, 0}, {"B3", 114, 82, 6.6, 0}, {"B4", 162, 82, 6.6, 0},
    {"P1", 10, 20, 8, 0},        {"P2", 170, 20, 8, 0},  {"T1", 140, 30, 5, 16},  {"S1", 30, 8, 4.5, 0},
    {"S2", 50, 8, 4.5, 0},       {"S3", 70, 8, 4.5, 0},  {"S4", 90, 8, 4.5, 0},   {"S5", 110, 8, 4.5, 0},
    {"oil hole", 160, 35, 3, 0},
};

}  // namespace

std::string saddle_plate_holes_csv() {
  const DemoPart plate = saddle_plate();
  constexpr double kTop = 22;
  std::string csv =
      "# saddle plate, Tarn Hollow Observatory; coordinates of the assembly\n# unit: mm\n"
      "Name;X;Y;Z;Diameter;Depth;Tolerance;Diameter tolerance;Depth tolerance\n";
  for (const Wanted& hole : kWanted) {
    const gp_Pnt at = gp_Pnt(hole.x, hole.y, kTop).Transformed(plate.placement);
    csv += fmt::format("{};{:.4f};{:.4f};{:.4f};{};{};0.2;0.05;0.2\n", hole.name, at.X(), at.Y(), at.Z(),
                       hole.diameter, hole.depth > 0 ? fmt::format("{}", hole.depth) : "through");
  }
  return csv;
}

std::string cutters_csv() {
  return "# unit: mm\n"
         "number,name,diameter,corner_radius,flute_length,reach,holder_diameter\n"
         "T1,end mill,16,0,36,60,40\n"
         "T2,end mill,12,0,26,45,32\n"
         "T3,end mill,8,0,20,35,28\n"
         "T4,corner mill,8,1,20,35,28\n"
         "T5,end mill,6,0,14,25,25\n"
         "T6,end mill,4,0,12,20,22\n"
         "T7,end mill,3,0,9,18,20\n"
         "T8,end mill,3,0,5,12,20\n";
}

}  // namespace anvil::demo
