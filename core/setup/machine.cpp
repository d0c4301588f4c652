#include "setup/machine.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>
#include <set>

#include "base/json_limits.h"
#include "base/quoted.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

using nlohmann::json;

const char* const kPrefers[] = {"least travel", "first positive", "first negative"};

// What is wrong, with the path of the field.
struct Wrong {
  std::string sentence;
};

[[noreturn]] void wrong(const std::string& field, const std::string& what) {
  throw Wrong{cut_short(field, 200) + ": " + what};
}

const json& field(const json& object, const std::string& path, const char* name) {
  if (!object.is_object()) wrong(path.empty() ? "the file" : path, "an object is wanted");
  if (!object.contains(name)) wrong(path.empty() ? name : path + "." + name, "is missing");
  return object.at(name);
}

std::string text(const json& j, const std::string& path) {
  if (!j.is_string() || j.get<std::string>().empty()) wrong(path, "a text is wanted");
  return j.get<std::string>();
}

gp_XYZ triple(const json& j, const std::string& path) {
  if (!j.is_array() || j.size() != 3 ||
      !std::all_of(j.begin(), j.end(), [](const json& n) { return n.is_number(); }))
    wrong(path, "three numbers are wanted");
  return {j[0].get<double>(), j[1].get<double>(), j[2].get<double>()};
}

Travel travel(const json& j, const std::string& path, double per) {
  if (!j.is_array() || j.size() != 2 || !j[0].is_number() || !j[1].is_number())
    wrong(path, "two numbers are wanted: from and to");
  const Travel t{j[0].get<double>() * per, j[1].get<double>() * per};
  if (!(t.from < t.to)) wrong(path, "the first number must be the smaller one");
  return t;
}

void known_fields(const json& object, const std::string& path, const std::set<std::string>& known) {
  for (const auto& [name, value] : object.items())
    if (!known.count(name))
      wrong(path.empty() ? name : fmt::format("{}.{}", path, name), "is not a field of a machine");
}

RotaryAxis rotary_from(const json& j, const std::string& path) {
  RotaryAxis rotary;
  rotary.name = text(field(j, path, "name"), path + ".name");
  known_fields(j, path, {"name", "stands", "axis", "point", "limits", "endless"});
  if (rotary.name != "A" && rotary.name != "B" && rotary.name != "C")
    wrong(path + ".name", in_quotes(rotary.name) + " is none of A, B, C");
  const std::string stands = text(field(j, path, "stands"), path + ".stands");
  if (stands != "table" && stands != "head")
    wrong(path + ".stands", in_quotes(stands) + " is neither table nor head");
  rotary.on_table = stands == "table";
  const gp_XYZ direction = triple(field(j, path, "axis"), path + ".axis");
  if (direction.Modulus() < 1e-9) wrong(path + ".axis", "0, 0, 0 is no direction");
  rotary.axis = gp_Ax1(gp_Pnt(triple(field(j, path, "point"), path + ".point")), gp_Dir(direction));
  const bool endless = j.value("endless", false);
  if (endless == j.contains("limits"))
    wrong(path, endless ? "it is endless and has limits: one of them" : "limits or endless is wanted");
  if (!endless) rotary.limits_rad = travel(j.at("limits"), path + ".limits", radians(1));
  return rotary;
}

Prefers prefers_from(const json& j) {
  const std::string name = text(j, "prefers");
  for (size_t i = 0; i < std::size(kPrefers); ++i)
    if (name == kPrefers[i]) return static_cast<Prefers>(i);
  wrong("prefers",
        fmt::format("{} is none of: {}, {}, {}", in_quotes(name), kPrefers[0], kPrefers[1], kPrefers[2]));
}

void check_pair(const std::vector<RotaryAxis>& rotary) {
  if (rotary.size() < 2) return;
  if (rotary[0].name == rotary[1].name)
    wrong("rotary[1].name", fmt::format("both rotary axes are called {}", rotary[0].name));
  if (parallel(rotary[0].axis.Direction(), rotary[1].axis.Direction(), 1e-3))
    wrong("rotary[1].axis",
          fmt::format("it is parallel to that of {}: together they tilt no more than one", rotary[0].name));
}

Machine machine_from(const json& j, const std::string& id) {
  if (field(j, "", "format") != "true-anvil-machine") wrong("format", "\"true-anvil-machine\" is wanted");
  if (field(j, "", "version") != 1) wrong("version", "only 1 is known");
  known_fields(j, "", {"format", "version", "name", "linear", "rotary", "prefers", "further_offsets"});
  Machine machine;
  machine.id = id;
  machine.name = text(field(j, "", "name"), "name");
  const json& linear = field(j, "", "linear");
  for (const char* axis : {"X", "Y", "Z"})
    machine.linear_mm[axis] = travel(field(linear, "linear", axis), std::string("linear.") + axis, 1);
  known_fields(linear, "linear", {"X", "Y", "Z"});
  const json& rotary = field(j, "", "rotary");
  if (!rotary.is_array() || rotary.size() > 2) wrong("rotary", "a list of at most two axes is wanted");
  for (size_t i = 0; i < rotary.size(); ++i)
    machine.rotary.push_back(rotary_from(rotary[i], fmt::format("rotary[{}]", i)));
  check_pair(machine.rotary);
  if (j.contains("prefers")) machine.prefers = prefers_from(j["prefers"]);
  if (j.contains("further_offsets")) {
    const std::string how = text(j["further_offsets"], "further_offsets");
    const auto known = further_offsets_from(how);
    if (!known) wrong("further_offsets", in_quotes(how) + " is none of: unwritten, G10 L20, G10 L2 from P7");
    machine.further_offsets = *known;
  }
  return machine;
}

json numbers(const gp_XYZ& p) {
  return json::array({p.X(), p.Y(), p.Z()});
}

}  // namespace

Result<Machine> machine_from_json(const std::string& text, const std::string& id) {
  try {
    const auto all = json_from(text);
    if (!all) wrong("the file", all.error().sentence);
    if (const std::string beyond = beyond_limits(*all, ""); !beyond.empty()) throw Wrong{beyond};
    return machine_from(*all, id);
  } catch (const Wrong& found) {
    return refuse(RefusalCode::kUnreadable, fmt::format("machine {}: {}", id, found.sentence));
  } catch (const json::exception& error) {
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("machine {}: not readable as JSON ({})", id, cut_short(error.what(), 200)));
  }
}

std::string machine_to_json(const Machine& machine) {
  json linear, rotary = json::array();
  for (const auto& [axis, t] : machine.linear_mm) linear[axis] = {t.from, t.to};
  for (const RotaryAxis& axis : machine.rotary) {
    json j{{"name", axis.name},
           {"stands", axis.on_table ? "table" : "head"},
           {"axis", numbers(axis.axis.Direction().XYZ())},
           {"point", numbers(axis.axis.Location().XYZ())}};
    if (axis.limits_rad)
      j["limits"] = {degrees(axis.limits_rad->from), degrees(axis.limits_rad->to)};
    else
      j["endless"] = true;
    rotary.push_back(j);
  }
  return json{{"format", "true-anvil-machine"},
              {"version", 1},
              {"name", machine.name},
              {"linear", linear},
              {"rotary", rotary},
              {"prefers", kPrefers[static_cast<int>(machine.prefers)]},
              {"further_offsets", further_offsets_name(machine.further_offsets)}}
             .dump(2) +
         "\n";
}

bool operator==(const Machine& a, const Machine& b) {
  return a.id == b.id && machine_to_json(a) == machine_to_json(b);
}

std::string machine_summary(const Machine& machine) {
  std::string summary;
  for (const RotaryAxis& axis : machine.rotary) {
    summary +=
        fmt::format("{}{} {}", summary.empty() ? "" : ", ", axis.on_table ? "table" : "head", axis.name);
    summary += axis.limits_rad
                   ? fmt::format(" {:g}…{:g}°", degrees(axis.limits_rad->from), degrees(axis.limits_rad->to))
                   : " endless";
  }
  return summary.empty() ? "no rotary axes" : summary;
}

}  // namespace anvil
