// The tables that come with the program, against the formulas they follow from.
#include "inspect/standard_sizes.h"

#include <gtest/gtest.h>

#include <cmath>

#include "base/text_table.h"
#include "inspect/standard_texts.h"

namespace anvil {
namespace {

TextTable table_of(const std::string& standard) {
  for (const char* text : kStandardTexts) {
    auto table = read_table(text, "standard");
    EXPECT_TRUE(table);
    if (table && table->comment("standard").rfind(standard, 0) == 0) return *table;
  }
  ADD_FAILURE() << "no table of " << standard;
  return {};
}

double number(const TextTable& table, const TextTable::Row& row, const char* column) {
  const auto value = table.number(row, table.column({column}));
  EXPECT_TRUE(value) << column << " in line " << row.line;
  return value ? *value : 0;
}

// A tap drill is the nominal diameter less the pitch, rounded to a drill there is.
TEST(StandardSizes, TapDrillsAreNominalLessPitch) {
  for (const char* standard :
       {"ISO 2306, threads of ISO 261, coarse", "ISO 2306, threads of ISO 261, fine"}) {
    const TextTable table = table_of(standard);
    EXPECT_GT(table.rows.size(), 10u);
    for (const auto& row : table.rows)
      EXPECT_NEAR(number(table, row, "diameter"), number(table, row, "nominal") - number(table, row, "pitch"),
                  0.0501)
          << row.cells.front();
  }
  const TextTable unified = table_of("ASME B1.1");
  for (const auto& row : unified.rows) {
    const double pitch = 1 / number(unified, row, "threads_per_inch");
    EXPECT_NEAR(number(unified, row, "diameter"), number(unified, row, "nominal") - pitch, 0.2 * pitch)
        << row.cells.front();
  }
}

// D1 = D - 1.280654 P for the Whitworth profile of 55 degrees (ISO 228-1).
TEST(StandardSizes, PipeThreadBoresFollowFromTheirProfile) {
  const TextTable table = table_of("ISO 228-1");
  for (const auto& row : table.rows)
    EXPECT_NEAR(number(table, row, "diameter"),
                number(table, row, "nominal") - 1.280654 * number(table, row, "pitch"), 1.5e-3)
        << row.cells.front();
}

// IT7 = 16 i with i = 0.45 D^(1/3) + 0.001 D micrometres, D the mean of its range (ISO 286-1), rounded to
// whole ones and generously below 3 mm; the next range is 2 away at least.
TEST(StandardSizes, ReamingTolerancesAreSixteenUnits) {
  const TextTable table = table_of("ISO 286-2");
  const double limits[] = {1, 3, 6, 10, 18, 30, 50};
  for (const auto& row : table.rows) {
    const double nominal = number(table, row, "nominal");
    int range = 0;
    while (nominal > limits[range + 1]) ++range;
    const double mean = std::sqrt(limits[range] * limits[range + 1]),
                 unit = 0.45 * std::cbrt(mean) + 0.001 * mean;
    EXPECT_NEAR(number(table, row, "upper") * 1000, 16 * unit, 1.4) << row.cells.front();
  }
}

// Clearance grows with the series and never binds.
TEST(StandardSizes, ClearanceIsAboveTheThread) {
  const TextTable table = table_of("ISO 273");
  double before = 0, of = 0;
  for (const auto& row : table.rows) {
    const double nominal = number(table, row, "nominal"), diameter = number(table, row, "diameter");
    EXPECT_GT(diameter, nominal);
    EXPECT_LT(diameter, 1.31 * nominal);
    EXPECT_TRUE(nominal != of || diameter > before) << row.cells.front();
    before = diameter;
    of = nominal;
  }
}

TEST(StandardSizes, ADiameterIsToldAsWhatItCouldBe) {
  EXPECT_EQ(could_be_text(6.6), "M6 clearance, medium");
  EXPECT_EQ(could_be_text(5.0), "M6 tap drill; 5 H7 reamed");
  EXPECT_EQ(could_be_text(8.01), "8 H7 reamed");
  EXPECT_EQ(could_be_text(0.201 * 25.4), "1/4-20 UNC tap drill");
  EXPECT_EQ(could_be_text(7.77), "");
}

}  // namespace
}  // namespace anvil
