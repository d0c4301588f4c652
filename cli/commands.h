// One function per command; each prints its result and returns the exit status, or the refusal that main()
// tells.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "base/units.h"
#include "exchange/format.h"

namespace anvil::cli {

struct Common {
  std::string file;
  ReadingWay way = ReadingWay::kUsual;  // how a part file is read
  std::filesystem::path scratch;        // a folder for what reading leaves on the disk
  bool json = false;
  bool only_answers = true;  // it writes no file: when nobody reads the answer, it may end
  Unit unit = Unit::kMillimetre;
  double tolerance_mm = 0.02;
};

struct OrientRequest {
  std::string out;
  std::optional<std::string> up, frame, matrix;
};

Result<int> info(const Common& common);
struct HolesRequest {
  std::string frame;
  std::string compare;  // a list
  std::string drawing;  // a file to write: .svg or .dxf
  std::string axis;     // that it is seen along; empty: the frame's Z
  bool surroundings = false;
};
Result<int> holes(const Common& common, const HolesRequest& request);
struct CornersRequest {
  std::string axis;  // empty: whichever way a tool comes
  double margin = 1.0;
  std::string cutters;  // a list
  std::string cutter;   // a diameter: what would it leave?
};
Result<int> corners(const Common& common, const CornersRequest& request);
Result<int> orient(const Common& common, const OrientRequest& request);
Result<int> convert(const Common& common, const std::string& out);
Result<int> list_job(const Common& common);
Result<int> proposals(const Common& common, const std::string& machine_file);
// Every entry that is not current, a line each; status 1 when there is one.
Result<int> check_job(const Common& common);
// KIND: one of export_kinds(). What concerns one setup wants its name when the job has several.
struct JobExport {
  std::string kind, out, setup;
};
Result<int> export_job(const Common& common, const JobExport& request);
const std::vector<std::string>& export_kinds();
std::string all_export_kinds();  // "offsets, setups, …"

}  // namespace anvil::cli
