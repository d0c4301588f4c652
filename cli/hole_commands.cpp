// The command "holes".
#include "base/file.h"
#include "base/quoted.h"
#include "cli/cli_input.h"
#include "cli/cli_text.h"
#include "cli/commands.h"
#include "cli/console.h"
#include "geom/primitives.h"
#include "job/hole_names.h"
#include "report/drill_drawing.h"

namespace anvil::cli {
namespace {

bool ends_in(const std::string& name, const std::string& suffix) {
  return name.size() > suffix.size() && name.compare(name.size() - suffix.size(), suffix.size(), suffix) == 0;
}

Result<void> write_drawing(const Input& input, const HoleReport& holes, const DrillView& view,
                           const std::string& path) {
  const auto drawing = drill_drawing(*input.part, holes, view, terminal_progress());
  if (!drawing) return refuse(drawing);
  if (ends_in(path, ".svg")) return write_file_atomically(path, drawing_svg(*drawing));
  return write_file_atomically(path, drawing_dxf(*drawing));
}

}  // namespace

Result<int> holes(const Common& common, const HolesRequest& request) {
  DrillView view;
  if (!request.axis.empty()) {
    auto axis = parse_direction(request.axis);
    if (!axis) return refuse(axis);
    view.towards_eye = *axis;
  }
  if (!request.drawing.empty() && !ends_in(request.drawing, ".svg") && !ends_in(request.drawing, ".dxf"))
    return refuse(RefusalCode::kBadInput,
                  "--drawing " + in_quotes(request.drawing) + " ends in neither .svg nor .dxf");
  auto input = load_exact(common);
  if (!input) return refuse(input);
  const std::string frame = request.frame.empty() ? "file" : request.frame;
  view.frame = world_frame();
  if (!request.frame.empty()) {
    auto read = parse_frame(request.frame, *input, common.unit);
    if (!read) return refuse(read);
    view.frame = *read;
  }
  if (request.axis.empty()) view.towards_eye = view.frame.Direction();
  view.placement = input->evaluation.placement;
  view.frame_name = frame;
  view.part_name = input->part->source().file_name;
  view.display = {common.unit};
  auto found = find_holes(*input->part, terminal_progress());
  if (!found) return refuse(found);
  give_names(input->job, input->evaluation.states, *found);
  const gp_Trsf into = into_frame(view.frame) * view.placement;
  const HoleReport report = moved(*found, into);
  HoleAnswers answers;
  if (request.surroundings) {
    auto around = look_around(*input->part, *found, terminal_progress());
    if (!around) return refuse(around);
    answers.around = moved(*around, into);
  }
  if (!request.compare.empty()) {
    auto text = read_file(request.compare);
    if (!text) return refuse(text);
    auto listed = parse_hole_list(*text, common.unit);
    if (!listed) return refuse(RefusalCode::kUnreadable, request.compare + ": " + listed.error().sentence);
    answers.comparison = compare_holes(report.holes, listed->holes);
  }
  if (!request.drawing.empty())
    if (const auto written = write_drawing(*input, *found, view, request.drawing); !written)
      return refuse(written);
  if (auto printed = print(common.json ? holes_json(*input->part, report, frame, common.unit, answers)
                                       : holes_text(report, input->part->topology().faces.size(), frame,
                                                    {common.unit}, answers));
      !printed)
    return printed;
  const bool all_pass =
      std::all_of(answers.comparison.begin(), answers.comparison.end(),
                  [](const ComparedHole& row) { return row.state == ComparedHole::State::kPass; });
  return all_pass ? kDone : kCheckFailed;
}

}  // namespace anvil::cli
