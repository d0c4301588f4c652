// What the commands read and how they answer: files, frames, exit numbers.
#pragma once

#include <string>

#include "cli/commands.h"
#include "job/evaluate.h"

namespace anvil::cli {

// A part file, or the first part of a job with its placement.
struct Input {
  PartPtr part;
  Job job;  // empty for a part file
  Evaluation evaluation;
};
// Reads in this process, which a bad file may end: see supervised.h.
Result<Input> load_input(const Common& common);
Result<Input> load_with_part(const Common& common);  // refuses (kNoBody) a job without one
// Refuses (kNoBody) triangles only, too: there is nothing in them that holes and corners are found by. A part
// file comes neither checked nor meshed.
Result<Input> load_exact(const Common& common);

// "origin=x,y,z;z=x,y,z;x=x,y,z" in `unit`, or the name of a frame in the job. Refuses (kUnknownName) a name
// the job does not have, (kBadInput) text that is neither.
Result<gp_Ax2> parse_frame(const std::string& text, const Input& input, Unit unit);

// "0,0,1", or "+Z", "-y". Refuses (kBadInput) anything else and a vector of no length.
Result<gp_Dir> parse_direction(const std::string& text);

// Sixteen numbers, row by row, the last row 0 0 0 1; lengths in `unit`. Refuses mirror images and scaling.
Result<gp_Trsf> parse_matrix(const std::string& text, Unit unit);

// How the program ends when nothing went wrong, and when what was checked is not as it should be.
inline constexpr int kDone = 0, kCheckFailed = 1;

}  // namespace anvil::cli
