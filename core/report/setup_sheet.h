// What a setup sheet says, and the page itself as HTML (the subset that rich-text printers understand). The
// picture comes from whoever can draw one and is referred to by name.
#pragma once

#include <optional>
#include <string>

#include "inspect/corners.h"
#include "inspect/holes.h"
#include "job/evaluate.h"

namespace anvil {

struct SetupSheet {
  std::string title;        // name of the frame: "OP10"
  std::string work_offset;  // "G54", or empty
  std::string source_file, checksum, unit, date;
  gp_XYZ box_min, box_max;  // of the part in the frame, mm
  gp_Pnt zero;              // in placed coordinates
  HoleReport holes;         // in the frame
  std::optional<double> smallest_radius_mm, largest_cutter_mm;
  int sharp_corners = 0;
  Display display;
};

// `holes` and `corners` in part coordinates; corners for the frame's Z.
SetupSheet make_setup_sheet(const Job& job, const Evaluation& evaluation, const HoleReport& holes,
                            const CornerReport& corners, const std::string& date);

// One page. `picture` is the name of the image resource.
std::string setup_sheet_html(const SetupSheet& sheet, const std::string& picture, int picture_width_px);

}  // namespace anvil
