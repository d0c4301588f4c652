#include "construct/hole_numbers.h"

#include <fmt/format.h>

#include <algorithm>

#include "inspect/hole_form.h"
#include "inspect/hole_text.h"
#include "inspect/standard_sizes.h"

namespace anvil {
namespace {

constexpr const char* kAsItIs = "as it is";

std::string choice(const Inputs& in, const char* id) {
  const auto at = in.choices.find(id);
  return at == in.choices.end() ? kAsItIs : at->second;
}

std::vector<Parameter> sizes(bool may_be_empty) {
  std::vector<Parameter> all{{"diameter", "Diameter", Quantity::kLength, may_be_empty ? "" : "6"},
                             {"depth", "Depth", Quantity::kLength, may_be_empty ? "" : "12"},
                             {"head_diameter", "Head Ø", Quantity::kLength, "", {}, true},
                             {"head_depth", "Head depth", Quantity::kLength, "", {}, true},
                             {"head_angle", "Head angle", Quantity::kAngle, "", {}, true},
                             {"tip_angle", "Point angle", Quantity::kAngle, "", {}, true}};
  for (Parameter& parameter : all) parameter.may_be_empty = may_be_empty || parameter.aside;
  return all;
}

// The uses that tables tell diameters for: "tap drill", "clearance", …
std::vector<std::string> uses() {
  std::vector<std::string> all{"typed"};
  for (const StandardSize& size : standard_sizes())
    if (std::find(all.begin(), all.end(), size.use) == all.end()) all.push_back(size.use);
  return all;
}

std::string trimmed(const std::string& text) {
  const size_t first = text.find_first_not_of(' ');
  return first == std::string::npos ? "" : text.substr(first, text.find_last_not_of(' ') - first + 1);
}

Result<std::optional<double>> standard_diameter(const Inputs& in) {
  const std::string use = choice(in, "use"), wanted = trimmed(choice(in, "size"));
  if (use == "typed" || use == kAsItIs) return std::optional<double>();
  std::string known;
  for (const StandardSize& size : standard_sizes()) {
    if (size.use != use) continue;
    if (size.size == wanted) return std::optional(size.nominal_mm);
    if (std::count(known.begin(), known.end(), ',') < 8) known += (known.empty() ? "" : ", ") + size.size;
  }
  return refuse(RefusalCode::kBadInput,
                fmt::format("no table tells the size \"{}\" for {}: {} … are told", wanted, use, known));
}

}  // namespace

std::optional<double> number_if_any(const Inputs& in, const char* id) {
  const auto at = in.numbers.find(id);
  return at == in.numbers.end() ? std::nullopt : std::optional(at->second);
}

std::vector<Parameter> numbers_of_a_hole_there() {
  std::vector<Parameter> all = sizes(true);
  all.insert(all.begin() + 2, {"end", "Goes", Quantity::kChoice, kAsItIs, {kAsItIs, "through", "blind"}});
  all.insert(all.begin() + 3,
             {"head", "Head", Quantity::kChoice, kAsItIs, {kAsItIs, "none", "counterbore", "countersink"}});
  all.insert(all.end() - 1,
             {"tip", "Bottom", Quantity::kChoice, kAsItIs, {kAsItIs, "drill point", "flat"}, true});
  return all;
}

std::vector<Parameter> numbers_of_a_new_hole() {
  std::vector<Parameter> all = sizes(false);
  all.insert(all.begin() + 1, {"end",
                               "Goes",
                               Quantity::kChoice,
                               "through",
                               {"through", "to the next void", "through every body", "blind"}});
  all.insert(all.begin() + 3,
             {"head", "Head", Quantity::kChoice, "none", {"none", "counterbore", "countersink"}});
  all.insert(all.end() - 1,
             {"tip", "Bottom", Quantity::kChoice, "drill point", {"drill point", "flat"}, true});
  all.push_back({"use", "Size for", Quantity::kChoice, "typed", uses(), true});
  all.push_back({"size", "Size", Quantity::kText, "M6", {}, true});
  return all;
}

Result<HoleWish> wish_from(const Inputs& in) {
  HoleWish wish;
  wish.diameter_mm = number_if_any(in, "diameter");
  wish.depth_mm = number_if_any(in, "depth");
  wish.head_diameter_mm = number_if_any(in, "head_diameter");
  wish.head_depth_mm = number_if_any(in, "head_depth");
  wish.head_angle_rad = number_if_any(in, "head_angle");
  wish.tip_angle_rad = number_if_any(in, "tip_angle");
  const std::string head = choice(in, "head"), end = choice(in, "end"), tip = choice(in, "tip");
  using Head = HoleWish::Head;
  wish.head = head == "none"          ? Head::kNone
              : head == "counterbore" ? Head::kCounterbore
              : head == "countersink" ? Head::kCountersink
                                      : Head::kAsItIs;
  wish.end = end == "blind"   ? HoleWish::End::kBlind
             : end == kAsItIs ? HoleWish::End::kAsItIs
                              : HoleWish::End::kThrough;
  wish.tip = tip == "flat"    ? HoleWish::Tip::kFlat
             : tip == kAsItIs ? HoleWish::Tip::kAsItIs
                              : HoleWish::Tip::kDrillPoint;
  const auto standard = standard_diameter(in);
  if (!standard) return refuse(standard);
  if (*standard) wish.diameter_mm = *standard;
  return wish;
}

std::string text_of(const HoleForm& form, Unit unit) {
  Hole hole;
  hole.steps = form.steps;
  hole.through = form.through;
  for (const HoleStep& step : form.steps) {
    if (step.kind == StepKind::kBore) hole.diameter_mm = step.diameter_mm;
    if (step.kind != StepKind::kTip) hole.depth_mm += step.depth_mm;
  }
  hole.long_mm = hole.short_mm = hole.diameter_mm;
  return form_text(hole, unit);
}

}  // namespace anvil
