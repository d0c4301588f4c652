#include "cli/cli_input.h"

#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstring>

#include "base/file.h"
#include "base/numbers.h"
#include "cli/console.h"
#include "exchange/read_here.h"
#include "geom/primitives.h"
#include "store/job_file.h"

namespace anvil::cli {
namespace {

// Numbers separated by commas, spaces or both; nothing when any of them is none.
std::optional<std::vector<double>> numbers_in(const std::string& text) {
  std::vector<double> numbers;
  for (std::string_view rest = text; !rest.empty();) {
    if (rest.front() == ',' || rest.front() == ' ' || rest.front() == '\t') {
      rest.remove_prefix(1);
      continue;
    }
    const auto value = take_number(rest);
    if (!value) return std::nullopt;
    numbers.push_back(*value);
  }
  return numbers;
}

std::optional<gp_XYZ> triple_in(const std::string& text) {
  const auto numbers = numbers_in(text);
  if (!numbers || numbers->size() != 3) return std::nullopt;
  return gp_XYZ((*numbers)[0], (*numbers)[1], (*numbers)[2]);
}

tl::unexpected<Refusal> bad_frame(const std::string& text) {
  return refuse(
      RefusalCode::kBadInput,
      "\"" + text + "\" is no frame: write origin=x,y,z;z=x,y,z;x=x,y,z or the name of a frame in a job");
}

// A reader that hangs is ended as one that crashes is.
constexpr unsigned kReadingSeconds = 600;

Result<PartPtr> read_part(const Common& common, bool surfaces_only) {
  limit_this_process({});
  ::alarm(kReadingSeconds);
  HereRequest request{common.file, common.scratch, 1.0, surfaces_only, {terminal_progress()}};
  request.reading.way = common.way;
  auto bodies = read_for_numbers(request);
  ::alarm(0);
  if (!bodies) return refuse(bodies);
  return PartPtr(std::make_shared<const Part>(std::move(bodies->source), std::move(bodies->bodies)));
}

Result<Input> load(const Common& common, bool surfaces_only) {
  Input input;
  if (std::filesystem::path(common.file).extension() == ".anvil") {
    const auto cache = std::make_shared<ResultCache>();
    auto loaded = load_job(common.file, terminal_progress(), cache);
    if (!loaded) return refuse(loaded);
    // Numbers of half a job would be taken for those of the whole.
    if (loaded->damaged) return refuse(RefusalCode::kUnreadable, loaded->notice);
    if (!loaded->notice.empty()) say(loaded->notice);
    input.job = std::move(loaded->job);
    input.evaluation = evaluate(input.job, nullptr, {.cache = cache});
    input.part = input.evaluation.part;
    return input;
  }
  auto part = read_part(common, surfaces_only);
  if (!part) return refuse(part);
  input.part = *part;
  return input;
}

Result<Input> with_part(Result<Input> input, const Common& common) {
  if (input && !input->part) return refuse(RefusalCode::kNoBody, common.file + " holds no part");
  return input;
}

}  // namespace

Result<Input> load_input(const Common& common) {
  return load(common, false);
}

Result<Input> load_with_part(const Common& common) {
  return with_part(load(common, false), common);
}

Result<Input> load_exact(const Common& common) {
  auto input = with_part(load(common, true), common);
  if (input && is_all_mesh(*input->part))
    return refuse(RefusalCode::kNoBody,
                  std::filesystem::path(common.file).filename().string() +
                      " holds triangles only: holes and corners are found on exact surfaces; ask "
                      "for the part as STEP, IGES or BREP.");
  return input;
}

Result<gp_Ax2> parse_frame(const std::string& text, const Input& input, Unit unit) {
  for (const Entry& entry : input.job.entries) {
    if (entry.name != text || (!entry.is_frame() && !entry.setup())) continue;
    const auto& evaluated = input.evaluation.entries.at(entry.id);
    if (!evaluated.fresh)
      return refuse(RefusalCode::kUnknownName, "frame " + text + " cannot be built: " + evaluated.reason);
    return std::get<FrameDatum>(*evaluated.value).frame;
  }
  if (text.find('=') == std::string::npos)
    return refuse(RefusalCode::kUnknownName, "there is no frame \"" + text + "\" in this file");
  std::optional<gp_XYZ> origin = gp_XYZ(0, 0, 0), z = gp_XYZ(0, 0, 1), x;
  std::stringstream parts(text);
  for (std::string part; std::getline(parts, part, ';');) {
    const size_t equals = part.find('=');
    const std::string key = part.substr(0, equals);
    const auto value = equals == std::string::npos ? std::nullopt : triple_in(part.substr(equals + 1));
    if (!value) return bad_frame(text);
    if (key == "origin")
      origin = *value * mm_per(unit);
    else if (key == "z")
      z = value;
    else if (key == "x")
      x = value;
    else
      return bad_frame(text);
  }
  if (z->Modulus() < 1e-9 || (x && x->Modulus() < 1e-9)) return bad_frame(text);
  const gp_Dir z_dir(*z), x_dir = x ? gp_Dir(*x) : square_to(z_dir, gp_Dir(1, 0, 0));
  if (parallel(z_dir, x_dir)) return refuse(RefusalCode::kBadInput, "z and x of the frame are parallel");
  return make_frame(gp_Pnt(*origin), z_dir, x_dir);
}

Result<gp_Dir> parse_direction(const std::string& text) {
  std::string name = text;
  std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) { return std::toupper(c); });
  const bool minus = !name.empty() && name.front() == '-';
  if (!name.empty() && (name.front() == '-' || name.front() == '+')) name.erase(0, 1);
  const double sense = minus ? -1 : 1;
  if (name == "X") return gp_Dir(sense, 0, 0);
  if (name == "Y") return gp_Dir(0, sense, 0);
  if (name == "Z") return gp_Dir(0, 0, sense);
  const auto vector = triple_in(text);
  if (!vector || vector->Modulus() < 1e-9)
    return refuse(RefusalCode::kBadInput, "\"" + text + "\" is no direction: write X,Y,Z as in 0,0,1, or +Z");
  return gp_Dir(*vector);
}

Result<gp_Trsf> parse_matrix(const std::string& text, Unit unit) {
  return rigid_motion_from(text, mm_per(unit));
}

}  // namespace anvil::cli
