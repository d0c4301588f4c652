#include "setup/stock.h"

#include <fmt/format.h>

#include <array>
#include <cmath>

#include "geom/coordinate.h"

namespace anvil {
namespace {

constexpr const char* kAxes[] = {"x", "y", "z"};
constexpr double kFits_mm = 1e-6;

struct Reader {
  const Stock& stock;
  Unit typed_in;
  const Names& names;

  Result<double> operator()(const std::string& id) const {
    const auto text = stock.texts.find(id);
    std::string initial = "0mm", label = id;
    for (const StockField& field : stock_fields(stock))
      if (field.id == id) std::tie(initial, label) = std::tuple(field.initial, field.label);
    auto value = evaluate_length(text == stock.texts.end() ? initial : text->second, typed_in, names);
    if (!value) return refuse(RefusalCode::kBadInput, "Stock, " + label + ": " + value.error().sentence);
    return value;
  }
};

// The axes of a round bar: its own first, then the two across it.
std::array<int, 3> bar_axes(char along) {
  const int own = along - 'X';
  return {own, (own + 1) % 3, (own + 2) % 3};
}

Result<Box> with_allowance(const Stock& stock, const Box& part, const Reader& read) {
  Box box = part;
  if (!stock.round) {
    for (int i = 0; i < 3; ++i) {
      const auto below = read(std::string(kAxes[i]) + "-"), above = read(std::string(kAxes[i]) + "+");
      if (!below) return refuse(below);
      if (!above) return refuse(above);
      set_coordinate(box.min, i, coordinate(part.min, i) - *below);
      set_coordinate(box.max, i, coordinate(part.max, i) + *above);
    }
    return box;
  }
  const auto side = read("side"), below = read("-"), above = read("+");
  for (const auto* value : {&side, &below, &above})
    if (!*value) return refuse(*value);
  const auto [own, u, v] = bar_axes(stock.along);
  // Round the corners of the part's box.
  const double radius = std::hypot(coordinate(part.size(), u), coordinate(part.size(), v)) / 2 + *side;
  const gp_XYZ centre = part.centre().XYZ();
  box.min = gp_Pnt(centre - gp_XYZ(radius, radius, radius));
  box.max = gp_Pnt(centre + gp_XYZ(radius, radius, radius));
  set_coordinate(box.min, own, coordinate(part.min, own) - *below);
  set_coordinate(box.max, own, coordinate(part.max, own) + *above);
  return box;
}

// The part in the middle, but for the way up, where it is said how much lies over it.
Result<Box> with_sizes(const Stock& stock, const Box& part, const Reader& read) {
  gp_XYZ size;
  if (stock.round) {
    const auto diameter = read("diameter"), length = read("length");
    if (!diameter) return refuse(diameter);
    if (!length) return refuse(length);
    size = gp_XYZ(*diameter, *diameter, *diameter);
    set_coordinate(size, bar_axes(stock.along)[0], *length);
  } else {
    for (int i = 0; i < 3; ++i) {
      const auto value = read(kAxes[i]);
      if (!value) return refuse(value);
      set_coordinate(size, i, *value);
    }
  }
  const auto top = read("top");
  if (!top) return refuse(top);
  Box box{gp_Pnt(part.centre().XYZ() - size / 2), gp_Pnt(part.centre().XYZ() + size / 2)};
  box.max.SetZ(part.max.Z() + *top);
  box.min.SetZ(box.max.Z() - size.Z());
  return box;
}

Result<void> holds(const Box& box, const Box& part, const Display& display) {
  for (int i = 0; i < 3; ++i)
    for (const bool above : {false, true}) {
      const double over = above ? coordinate(part.max, i) - coordinate(box.max, i)
                                : coordinate(box.min, i) - coordinate(part.min, i);
      if (over <= kFits_mm) continue;
      Refusal refusal{RefusalCode::kGeometry,
                      fmt::format("the part stands {} out of the stock at {}{}", format_length(over, display),
                                  above ? '+' : '-', "XYZ"[i])};
      refusal.facts["out_mm"] = over;
      return refuse(std::move(refusal));
    }
  return {};
}

}  // namespace

std::vector<StockField> stock_fields(const Stock& stock) {
  if (stock.kind == Stock::Kind::kAllowance && stock.round)
    return {{"side", "Round it", "1mm"}, {"-", "At the lower end", "1mm"}, {"+", "At the upper end", "1mm"}};
  if (stock.kind == Stock::Kind::kAllowance)
    return {{"x-", "−X", "1mm"}, {"x+", "+X", "1mm"}, {"y-", "−Y", "1mm"},
            {"y+", "+Y", "1mm"}, {"z-", "−Z", "1mm"}, {"z+", "+Z", "1mm"}};
  if (stock.kind == Stock::Kind::kSizes && stock.round)
    return {
        {"diameter", "Diameter", "100mm"}, {"length", "Length", "100mm"}, {"top", "Over the part", "1mm"}};
  if (stock.kind == Stock::Kind::kSizes)
    return {{"x", "X", "100mm"}, {"y", "Y", "100mm"}, {"z", "Z", "50mm"}, {"top", "Over the part", "1mm"}};
  return {};
}

Result<StockBlock> stock_block(const Stock& stock, const gp_Ax2& frame, const Box& part, Unit typed_in,
                               const Display& display, const Names& names) {
  const Reader read{stock, typed_in, names};
  const Result<Box> box = stock.kind == Stock::Kind::kAllowance ? with_allowance(stock, part, read)
                          : stock.kind == Stock::Kind::kSizes   ? with_sizes(stock, part, read)
                                                                : Result<Box>(part);
  if (!box) return refuse(box);
  if (auto fits = holds(*box, part, display); !fits) return refuse(fits);
  return StockBlock{frame, *box, stock.round, stock.along};
}

double stock_diameter(const StockBlock& block) {
  return coordinate(block.box.size(), bar_axes(block.along)[1]);
}

std::string stock_text(const StockBlock& block, const Display& display) {
  const gp_XYZ size = block.box.size();
  if (block.round)
    return fmt::format("Ø {} × {}", format_length(stock_diameter(block), display),
                       format_length(coordinate(size, block.along - 'X'), display));
  return fmt::format("{} × {} × {}", format_length(size.X(), display), format_length(size.Y(), display),
                     format_length(size.Z(), display));
}

}  // namespace anvil
