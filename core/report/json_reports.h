// The JSON documents of the command line. Their shape is a contract: names and meaning stay, fields may be
// added. Lengths are in the unit named at the top, angles in degrees, vectors [x,y,z]; numbers are rounded to
// nine decimals so that two runs are byte-identical.
#pragma once

#include <filesystem>
#include <string>

#include "exchange/format.h"
#include "inspect/any_axis.h"
#include "inspect/corners.h"
#include "inspect/cutters.h"
#include "inspect/hole_comparison.h"
#include "inspect/hole_surroundings.h"
#include "inspect/holes.h"
#include "inspect/left_by_cutter.h"
#include "job/evaluate.h"
#include "part/soundness.h"

namespace anvil {

// What was written, by orient and convert.
std::string written_json(const std::filesystem::path& file, const std::string& format, Unit unit,
                         const ExportReport& report);
std::string info_json(const Part& part, Unit unit, double tolerance_mm);
// What was asked beside the holes themselves, in the coordinates of their report.
struct HoleAnswers {
  std::vector<ComparedHole> comparison;
  std::vector<HoleSurroundings> around;  // one for each hole, or none
};
std::string holes_json(const Part& part, const HoleReport& report, const std::string& frame, Unit unit,
                       const HoleAnswers& answers = {});
// What was asked beside the corners themselves.
struct CornerAnswers {
  std::vector<Cutter> cutters;
  std::vector<PocketCutters> judged;
  std::optional<LeftByCutter> left;
  std::vector<double> left_in_pockets;  // mm³ of each pocket
};
std::string corners_json(const Part& part, const CornerReport& report, Unit unit,
                         const CornerAnswers& answers = {});
std::string hollows_json(const Part& part, const HollowReport& report, Unit unit);
std::string job_list_json(const Job& job, const Evaluation& evaluation, Unit unit);

// One line for people: "X 12.000 Y -40.000 Z 0.000"; what the ledger shows beside an entry.
std::string value_text(const Job& job, const Evaluation& evaluation, const Entry& entry);
// "X 12.000  Y -40.000  Z 0.000" in the reading frame.
std::string point_text(const gp_Pnt& point, const gp_Ax2& frame, const Display& display);

}  // namespace anvil
