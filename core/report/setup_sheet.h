// What a setup sheet says, and the page itself as HTML (the subset that rich-text printers understand). The
// picture comes from whoever can draw one and is referred to by name.
#pragma once

#include <optional>
#include <string>

#include "inspect/corner_summary.h"
#include "inspect/holes.h"
#include "job/evaluate.h"
#include "setup/indexed_offsets.h"

namespace anvil {

// One tool plane of a setup, with what its corners allow.
struct SheetPlane {
  std::string name, angles, offset, remark, picture;  // picture: name of the image
  gp_Ax2 frame;                                       // read in the setup
  gp_Ax2 placed;                                      // where a picture along it is taken from
  std::optional<gp_Pnt> offset_in_machine;
  CornerSummary corners;
};

struct SetupSheet {
  std::string title;        // name of the frame: "OP10"
  std::string work_offset;  // "G54", or empty
  std::string source_file, checksum, unit, date;
  gp_XYZ box_min, box_max;     // of the part in the frame, mm
  gp_Pnt zero;                 // in placed coordinates
  HoleReport holes;            // in the frame
  CornerSummary corners;       // along the frame's Z
  std::string machine, stock;  // as told; empty: none
  std::vector<SheetPlane> planes;
  Display display;
};

// `holes` and `corners` in part coordinates; corners for the frame's Z.
SetupSheet make_setup_sheet(const Job& job, const Evaluation& evaluation, const HoleReport& holes,
                            const CornerSummary& corners, const std::string& date);

// One for every setup of the job, in order, each with its tool planes; corners are looked for along each of
// them. `holes` in part coordinates. Refuses when cancelled, and a job without setups (kUnknownName).
Result<std::vector<SetupSheet>> make_setup_sheets(const Job& job, const Evaluation& evaluation,
                                                  const HoleReport& holes, const std::string& date,
                                                  const Progress& progress = {});

// One page. `picture` is the name of the image resource.
std::string setup_sheet_html(const SetupSheet& sheet, const std::string& picture, int picture_width_px);

// All of them in one document, each from a new page. `source_of` gives what an image's name is written as;
// empty leaves it out.
std::string setup_sheets_html(const std::vector<SetupSheet>& sheets,
                              const std::function<std::string(const std::string& name)>& source_of,
                              int picture_width_px);

}  // namespace anvil
