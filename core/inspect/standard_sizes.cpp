#include "inspect/standard_sizes.h"

#include "base/text_table.h"
#include "inspect/standard_texts.h"

namespace anvil {
namespace {

constexpr double kEitherWay_mm = 0.02;

// A row of a table that comes with the program is as its test finds it; what is no number is left out.
void add_table(const char* text, std::vector<StandardSize>& sizes) {
  const auto table = read_table(text, "standard");
  if (!table) return;
  const double mm = mm_per(table->unit.value_or(Unit::kMillimetre));
  const int size = table->column({"size"}), nominal = table->column({"nominal"}),
            diameter = table->column({"diameter"}), series = table->column({"series"}),
            upper = table->column({"upper"});
  for (const TextTable::Row& row : table->rows) {
    const auto d = table->number(row, diameter), n = table->number(row, nominal);
    if (!d || !n) continue;
    StandardSize one{table->comment("standard"), table->comment("use"),  TextTable::cell(row, size), *n * mm,
                     *d * mm - kEitherWay_mm,    *d * mm + kEitherWay_mm};
    if (series >= 0) one.use += ", " + TextTable::cell(row, series);
    if (const auto above = upper >= 0 ? table->number(row, upper) : Result<double>(0.0);
        upper >= 0 && above) {
      one.low_mm = *d * mm - 1e-6;
      one.high_mm = (*d + *above) * mm + 1e-6;
    }
    sizes.push_back(std::move(one));
  }
}

}  // namespace

const std::vector<StandardSize>& standard_sizes() {
  static const std::vector<StandardSize> sizes = [] {
    std::vector<StandardSize> all;
    for (const char* text : kStandardTexts) add_table(text, all);
    return all;
  }();
  return sizes;
}

std::vector<StandardSize> could_be(double diameter_mm) {
  std::vector<StandardSize> found;
  for (const StandardSize& size : standard_sizes())
    if (diameter_mm >= size.low_mm && diameter_mm <= size.high_mm) found.push_back(size);
  return found;
}

std::string could_be_text(double diameter_mm) {
  std::string text;
  for (const StandardSize& size : could_be(diameter_mm))
    text += (text.empty() ? "" : "; ") + size.size + " " + size.use;
  return text;
}

}  // namespace anvil
