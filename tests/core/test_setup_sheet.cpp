#include "report/setup_sheet.h"

#include <gtest/gtest.h>

#include "report/hole_list.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

TEST(SetupSheet, TellsTheFrameTheOffsetTheHolesAndTheSize) {
  JobFixture f;
  f.setup_on_top();
  const Evaluation evaluation = evaluate(f.job);
  const SetupSheet sheet = make_setup_sheet(f.job, evaluation, *find_holes(*f.part),
                                            summary_of(*find_corners(*f.part, {}), 7), "2026-01-01");
  EXPECT_EQ(sheet.work_offset, "G54");
  EXPECT_LT((sheet.box_min - gp_XYZ(0, 0, -20)).Modulus(), 1e-9);
  EXPECT_LT((sheet.box_max - gp_XYZ(80, 40, 0)).Modulus(), 1e-9);
  ASSERT_EQ(sheet.holes.holes.size(), 1u);
  EXPECT_LT(sheet.holes.holes.front().entry.Distance(gp_Pnt(20, 20, 0)), 1e-9);
  const std::string html = setup_sheet_html(sheet, "part.png", 300);
  for (const char* text : {"OP10 · G54", "80.000 × 40.000 × 20.000", "Ø10 through", "body.step", "part.png"})
    EXPECT_NE(html.find(text), std::string::npos) << text;
}

TEST(SetupSheet, NamesAreEscaped) {
  JobFixture f;
  const int frame = f.frame_on_top();
  f.job = with_reading_frame(with_name(f.job, frame, "<b>&"), frame);
  const SetupSheet sheet = make_setup_sheet(f.job, evaluate(f.job), {}, {}, "");
  EXPECT_NE(setup_sheet_html(sheet, "p", 1).find("&lt;b&gt;&amp;"), std::string::npos);
}

TEST(HoleList, IsCsvInTheFrameAndUnit) {
  JobFixture f;
  const HoleReport report = *find_holes(*f.part);
  const std::string csv = hole_list_csv(report, "OP10, first", Unit::kInch);
  EXPECT_NE(csv.find("# unit: inch\n"), std::string::npos);
  EXPECT_NE(
      csv.find(
          "H1.1,0.78740,0.78740,0.78740,0.39370,0.78740,yes,0.000000,0.000000,1.000000,Ø0.3937 through\n"),
      std::string::npos)
      << csv;
}

}  // namespace
}  // namespace anvil
