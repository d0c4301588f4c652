#include "cli/commands.h"

#include <gp_Quaternion.hxx>

#include "base/file.h"
#include "base/quoted.h"
#include "cli/cli_input.h"
#include "cli/cli_text.h"
#include "cli/console.h"
#include "exchange/worker_client.h"
#include "geom/primitives.h"
#include "inspect/left_in_pockets.h"

namespace anvil::cli {

Result<int> info(const Common& common) {
  auto input = load_with_part(common);
  if (!input) return refuse(input);
  return print(common.json ? info_json(*input->part, common.unit, common.tolerance_mm)
                           : info_text(*input->part, {common.unit}, common.tolerance_mm));
}

Result<int> any_axis(const Common& common) {
  auto input = load_exact(common);
  if (!input) return refuse(input);
  auto report = find_hollows(*input->part, terminal_progress());
  if (!report) return refuse(report);
  return print(common.json ? hollows_json(*input->part, *report, common.unit)
                           : hollows_text(*report, {common.unit}));
}

Result<int> corners(const Common& common, const CornersRequest& request) {
  if (request.axis.empty()) return any_axis(common);
  CornerAnswers answers;
  auto axis = parse_direction(request.axis);
  if (!axis) return refuse(axis);
  std::optional<double> diameter;
  if (!request.cutter.empty()) {
    auto length = evaluate_length(request.cutter, common.unit, {});
    if (!length || *length <= 0)
      return refuse(RefusalCode::kBadInput,
                    "--cutter " + in_quotes(request.cutter) + " is not a diameter above zero");
    diameter = *length;
  }
  if (!request.cutters.empty()) {
    auto text = read_file(request.cutters);
    if (!text) return refuse(text);
    auto cutters = read_cutters(*text, common.unit);
    if (!cutters) return refuse(RefusalCode::kUnreadable, request.cutters + ": " + cutters.error().sentence);
    answers.cutters = std::move(*cutters);
  }
  auto input = load_exact(common);
  if (!input) return refuse(input);
  CornerOptions options;
  options.axis = *axis;
  options.margin = request.margin;
  auto report = find_corners(*input->part, options, terminal_progress());
  if (!report) return refuse(report);
  if (!answers.cutters.empty()) answers.judged = judge_cutters(*input->part, *report, answers.cutters);
  if (diameter) {
    auto left = left_by_cutter(*report->sections, *diameter, LeftDetail::kFull, terminal_progress());
    if (!left) return refuse(left);
    answers.left_in_pockets = left_in_pockets(*input->part, *report, *left);
    answers.left = std::move(*left);
  }
  return print(common.json
                   ? corners_json(*input->part, *report, common.unit, answers)
                   : corners_text(*report, input->part->topology().faces.size(), {common.unit}, answers));
}

Result<int> orient(const Common& common, const OrientRequest& request) {
  gp_Trsf motion;
  std::optional<gp_Dir> up;
  if (request.up) {
    auto direction = parse_direction(*request.up);
    if (!direction) return refuse(direction);
    up = *direction;
  }
  if (request.matrix) {
    auto matrix = parse_matrix(*request.matrix, common.unit);
    if (!matrix) return refuse(matrix);
    motion = *matrix;
  }
  auto input = load_with_part(common);
  if (!input) return refuse(input);
  if (up) {
    const gp_Dir z(0, 0, 1);
    const double angle = up->Angle(z);
    const gp_Dir about = angle < 1e-12 || M_PI - angle < 1e-9 ? gp_Dir(1, 0, 0) : up->Crossed(z);
    motion.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), about), angle);
  }
  if (request.frame) {
    auto frame = parse_frame(*request.frame, *input, common.unit);
    if (!frame) return refuse(frame);
    motion = into_frame(*frame);
  }
  ExportRequest wanted;
  wanted.file = request.out;
  wanted.placement = motion * input->evaluation.placement;
  wanted.options.unit = common.unit == Unit::kInch ? "INCH" : "MM";
  auto written = export_part(*in_chosen_colours(input->part, input->job), wanted, terminal_progress());
  if (!written) return refuse(written);
  return common.json ? print(written_json(request.out, "STEP", common.unit, *written)) : kDone;
}

Result<int> convert(const Common& common, const std::string& out) {
  const Format* format = format_by_suffix(out);
  if (!format || !format->write)
    return refuse(RefusalCode::kBadInput,
                  out + " ends in nothing that can be written: .step, .igs, .brep and .stl can");
  auto input = load_with_part(common);
  if (!input) return refuse(input);
  ExportRequest wanted;
  wanted.file = out;
  wanted.format = format->id;
  wanted.placement = input->evaluation.placement;
  wanted.options.unit = common.unit == Unit::kInch ? "INCH" : "MM";
  auto written = export_part(*in_chosen_colours(input->part, input->job), wanted, terminal_progress());
  if (!written) return refuse(written);
  return common.json ? print(written_json(out, format->name, common.unit, *written)) : kDone;
}

Result<int> list_job(const Common& common) {
  auto input = load_input(common);
  if (!input) return refuse(input);
  return print(common.json ? job_list_json(input->job, input->evaluation, common.unit)
                           : job_text(input->job, input->evaluation));
}

}  // namespace anvil::cli
