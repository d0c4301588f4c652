#include "report/hole_list.h"

#include "base/text_table.h"
#include "inspect/hole_text.h"

namespace anvil {

std::string hole_list_csv(const HoleReport& report, const std::string& frame, Unit unit) {
  const Display display{unit, 4};
  const auto mm = [&](double v) { return format_length(v, display); };
  std::string csv =
      "# unit: " + std::string(unit_name(unit)) + "\n" + written_cell("# frame: " + frame) + "\n";
  csv += "name,x,y,z,diameter,depth,through,axis_x,axis_y,axis_z,form\n";
  const Display plain{Unit::kMillimetre, 6};
  for (const Hole& h : report.holes) {
    csv += written_cell(h.name) + "," + mm(h.entry.X()) + "," + mm(h.entry.Y()) + "," + mm(h.entry.Z()) +
           "," + mm(h.diameter_mm) + "," + mm(h.depth_mm) + "," + (h.through ? "yes" : "no");
    for (const double d : {h.axis.X(), h.axis.Y(), h.axis.Z()}) csv += "," + format_length(d, plain);
    csv += "," + written_cell(form_text(report, h.group, unit)) + "\n";
  }
  return csv;
}

}  // namespace anvil
