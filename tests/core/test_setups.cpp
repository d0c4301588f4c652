// Setups in a job: offsets, stock, tool planes, copies and flips, and jobs from before there were any.
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "job/names.h"
#include "job/setup_on_machine.h"
#include "setup/shipped_machines.h"
#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

Reference entry(int id, int element = 0) {
  return {EntryReference{id, element}, {}};
}

class Setups : public testing::Test {
 protected:
  const Evaluated& of(int id) {
    last = evaluate(f.job, &last);
    return last.entries.at(id);
  }
  const SetupValue& value(int id) { return *of(id).setup; }
  anvil::Setup setup(int id) { return *f.job.find(id)->setup(); }
  void stock(int id, Stock::Kind kind, std::map<std::string, std::string> texts, bool round = false) {
    anvil::Setup changed = setup(id);
    changed.stock = {};
    changed.stock.kind = kind;
    changed.stock.round = round;
    changed.stock.texts = std::move(texts);
    f.job = with_setup_changed(f.job, id, changed);
  }
  void put_on(int id, const char* machine) {
    for (const Machine& known : shipped_machines())
      if (known.id == machine) f.job = with_machine(f.job, known);
    anvil::Setup changed = setup(id);
    changed.machine = machine;
    f.job = with_setup_changed(f.job, id, changed);
  }
  // On the side that looks to −Y, X along the length.
  int frame_on_front() {
    return f.keep(JobFixture::recipe("frame.on-face", {f.face({40, 0, 10}), entry(kReadPlaced)},
                                     {{"zero", "box centre"}, {"x", "X of the reading frame"}}));
  }

  JobFixture f;
  Evaluation last;
};

TEST_F(Setups, AreNamedNumberedAndReadIn) {
  const int op10 = f.setup_on_top();
  EXPECT_EQ(f.job.find(op10)->name, "OP10");
  EXPECT_EQ(f.job.reading_frame, op10);
  EXPECT_EQ(reading_frame_name(f.job, op10), "OP10 · G54");
  int op20 = 0;
  f.job = with_copied_setup(f.job, op10, &op20);
  EXPECT_EQ(reading_frame_name(f.job, op20), "OP20 · G55");
  EXPECT_LT(reading_frame(f.job, evaluate(f.job)).Location().Distance(gp_Pnt(0, 0, 20)), 1e-9);
}

TEST_F(Setups, OffsetThatIsUsedTwiceOnOneMachineIsNoticed) {
  const int op10 = f.setup_on_top();
  int op20 = 0;
  f.job = with_copied_setup(f.job, op10, &op20);
  anvil::Setup same = setup(op20);
  same.offset = "g 54";
  f.job = with_setup_changed(f.job, op20, same);
  EXPECT_EQ(of(op20).state, EntryState::kAttention);
  EXPECT_EQ(of(op20).reason, "OP10 and OP20 would both be written to G54");
  put_on(op20, "cradle-ac");
  EXPECT_EQ(of(op20).state, EntryState::kCurrent);
  same.offset = "G53";
  f.job = with_setup_changed(f.job, op20, same);
  EXPECT_NE(of(op20).reason.find("G54.1"), std::string::npos);
}

TEST_F(Setups, StockIsMeasuredInTheSetupAndItsPointsAndSidesArePicks) {
  const int op10 = f.setup_on_top();
  stock(op10, Stock::Kind::kAllowance,
        {{"x-", "2"}, {"x+", "3"}, {"y-", "1"}, {"y+", "1"}, {"z-", "5"}, {"z+", "1/4in"}});
  const StockBlock block = *value(op10).stock;
  EXPECT_LT(block.box.min.Distance(gp_Pnt(-2, -1, -25)), 1e-6);
  EXPECT_LT(block.box.max.Distance(gp_Pnt(83, 41, 6.35)), 1e-6);
  const auto far = give(f.job, last, entry(op10, 27));
  ASSERT_TRUE(far);
  EXPECT_LT(far->point->Distance(gp_Pnt(83, 41, 26.35)), 1e-6);
  const auto top = give(f.job, last, entry(op10, 33));
  ASSERT_TRUE(top);
  EXPECT_TRUE(top->plane->Axis().Direction().IsEqual(gp_Dir(0, 0, 1), 1e-12));
  EXPECT_NEAR(height_over(*top->plane, gp_Pnt(0, 0, 26.35)), 0, 1e-6);
  EXPECT_EQ(pick_name(f.job, {op10, 27}), "OP10 · stock X+ Y+ Z+");
  EXPECT_EQ(pick_name(f.job, {op10, 28}), "OP10 · stock side -X");
  // Everything with a stock can be picked by name, and named in expressions.
  EXPECT_EQ(pickable(last, op10).size(), 34u);
  const int half =
      f.keep(JobFixture::recipe("plane.offset", {entry(op10, 28)}, {{"distance", "-stock.x/2"}}));
  EXPECT_NEAR(std::get<PlaneDatum>(*of(half).value).plane.Location().X(), 40.5, 1e-6);
}

TEST_F(Setups, StockBySizesIsRefusedWhereThePartStandsOut) {
  const int op10 = f.setup_on_top();
  stock(op10, Stock::Kind::kSizes, {{"x", "90"}, {"y", "50"}, {"z", "25"}, {"top", "2"}});
  EXPECT_LT(value(op10).stock->box.min.Distance(gp_Pnt(-5, -5, -23)), 1e-6);
  stock(op10, Stock::Kind::kSizes, {{"x", "90"}, {"y", "38"}, {"z", "25"}, {"top", "2"}});
  EXPECT_EQ(of(op10).state, EntryState::kAttention);
  EXPECT_EQ(of(op10).reason, "the part stands 1.000 out of the stock at -Y");
  stock(op10, Stock::Kind::kSizes, {{"x", "nonsense"}});
  EXPECT_EQ(of(op10).reason.rfind("Stock, X: ", 0), 0u) << of(op10).reason;
}

TEST_F(Setups, RoundStockGoesRoundTheCornersOfThePart) {
  const int op10 = f.setup_on_top();
  stock(op10, Stock::Kind::kAllowance, {{"side", "1"}, {"-", "2"}, {"+", "3"}}, true);
  const StockBlock block = *value(op10).stock;
  EXPECT_NEAR(stock_diameter(block), std::hypot(80, 40) + 2, 1e-6);
  EXPECT_NEAR(block.box.max.Z(), 3, 1e-6);
  EXPECT_NEAR(block.box.min.Z(), -22, 1e-6);
}

TEST_F(Setups, FlippedSetupTurnsTheFrameAndKeepsTheStockWhereItIs) {
  const int op10 = f.setup_on_top();
  stock(op10, Stock::Kind::kAllowance, {{"z+", "4"}});
  int op20 = 0;
  f.job = with_flipped_setup(f.job, op10, 'X', &op20);
  const gp_Ax2 frame = value(op20).frame;
  EXPECT_TRUE(frame.Direction().IsEqual(gp_Dir(0, 0, -1), 1e-12));
  EXPECT_TRUE(frame.XDirection().IsEqual(gp_Dir(1, 0, 0), 1e-12));
  EXPECT_EQ(setup(op20).offset, "G55");
  const auto corner = [&](int id) { return give(f.job, last, entry(id, 27))->point.value(); };
  EXPECT_LT(corner(op10).Distance(corner(op20)), 1e-9);
  stock(op10, Stock::Kind::kAllowance, {{"z+", "9"}});
  of(op20);
  EXPECT_NEAR(corner(op20).Z(), 29, 1e-6);
}

TEST_F(Setups, ToolPlanesTellTheirAnglesOneAfterTheOther) {
  const int op10 = f.setup_on_top();
  const int front = frame_on_front();
  f.job = with_tool_plane(f.job, op10, front);
  put_on(op10, "cradle-ac");
  const SetupValue& v = value(op10);
  ASSERT_EQ(v.planes.size(), 2u);
  EXPECT_EQ(v.planes[0].pose()->angles, (Angles{0, 0}));
  EXPECT_LT(v.planes[1].in_setup.Location().Distance(gp_Pnt(40, 0, -10)), 1e-9);
  // −Y up: A −90 after half a turn of C.
  EXPECT_NEAR(degrees(v.planes[1].pose()->angles[0]), -90, 1e-9);
  EXPECT_NEAR(std::abs(degrees(v.planes[1].pose()->angles[1])), 180, 1e-9);
  anvil::Setup other = setup(op10);
  other.planes[0].pose = v.planes[1].poses[1].key;
  f.job = with_setup_changed(f.job, op10, other);
  EXPECT_EQ(of(op10).state, EntryState::kAttention);
  EXPECT_EQ(of(op10).reason, "Frame 2: A 90.000° is beyond -120…30°");
  put_on(op10, "bench-3axis");
  EXPECT_NE(of(op10).reason.find("90.000° are missing"), std::string::npos) << of(op10).reason;
}

// Whoever writes or sends offsets reads the place as the evaluation did, names of entries included; planes of
// one name keep their own offsets.
TEST_F(Setups, OnTheirMachineAreToldInOnePlace) {
  const int op10 = f.setup_on_top();
  EXPECT_FALSE(setup_on_machine(f.job, evaluate(f.job), op10));  // no machine
  EXPECT_FALSE(setup_on_machine(f.job, evaluate(f.job), 0));
  put_on(op10, "cradle-ac");
  const int front = frame_on_front();
  f.job = with_tool_plane(f.job, op10, front);
  anvil::Setup same = setup(op10);
  same.planes[0].name = "OP10";
  same.place = {{"x", "Frame1.z * 2"}};  // the frame's zero stands at Z 20
  f.job = with_setup_changed(f.job, op10, same);
  EXPECT_EQ(of(op10).state, EntryState::kCurrent) << of(op10).reason;
  const auto on = setup_on_machine(f.job, last, op10);
  ASSERT_TRUE(on) << on.error().sentence;
  EXPECT_NEAR(on->place.zero.X(), 40, 1e-9);
  ASSERT_TRUE(on->offset_of(0) && on->offset_of(1));
  EXPECT_EQ(work_offset_text(on->offset_of(0)->offset), "G54");
  EXPECT_EQ(work_offset_text(on->offset_of(1)->offset), "G55");
  EXPECT_EQ(on->offset_of(2), nullptr);
}

TEST_F(Setups, ActivePlaneIsWhatTheToolLooksAlong) {
  const int op10 = f.setup_on_top();
  const int front = frame_on_front();
  f.job = with_tool_plane(f.job, op10, front);
  EXPECT_TRUE(active_tool_plane(f.job, evaluate(f.job)).Direction().IsEqual(gp_Dir(0, 0, 1), 1e-12));
  f.job = with_active_plane(f.job, 1);
  EXPECT_TRUE(active_tool_plane(f.job, evaluate(f.job)).Direction().IsEqual(gp_Dir(0, -1, 0), 1e-12));
  EXPECT_TRUE(reading_frame(f.job, evaluate(f.job)).Direction().IsEqual(gp_Dir(0, 0, 1), 1e-12));
  EXPECT_EQ(with_active_plane(f.job, 5).tool_plane, 1);
  f.job = with_reading_frame(f.job, kReadPlaced);
  EXPECT_EQ(f.job.tool_plane, 0);
}

TEST_F(Setups, AreRecomputedOnlyWhenWhatTheyAreMadeFromChanges) {
  const int op10 = f.setup_on_top();
  stock(op10, Stock::Kind::kAllowance, {});
  put_on(op10, "cradle-ac");
  of(op10);
  f.job = with_name(f.job, op10, "First side");
  const Evaluation renamed = evaluate(f.job, &last);
  EXPECT_EQ(renamed.computed, 0);
  EXPECT_EQ(renamed.entries.at(op10).setup->planes.front().name, "First side");
  stock(op10, Stock::Kind::kAllowance, {{"x-", "7"}});
  EXPECT_EQ(evaluate(f.job, &last).computed, 1);
}

TEST_F(Setups, OutliveTheJobFileAndLeaveWithTheirFrame) {
  const int op10 = f.setup_on_top();
  const int front = frame_on_front();
  f.job = with_tool_plane(f.job, op10, front);
  stock(op10, Stock::Kind::kSizes, {{"diameter", "100"}, {"length", "30"}}, true);
  put_on(op10, "nutating-bc");
  f.job = with_active_plane(f.job, 1);
  const SourceFile source = f.job.first_part()->part()->sources.front();
  const JobLoader load{[&](const std::string&, double) -> Result<SourceFile> { return source; }};
  const auto again = job_from_json(job_to_json(f.job), load);
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_TRUE(*again->find(op10)->setup() == setup(op10));
  EXPECT_EQ(again->tool_plane, 1);
  EXPECT_EQ(job_to_json(*again), job_to_json(f.job));
  const int frame = std::get<EntryReference>(setup(op10).frame.target).entry;
  const Job left = without(f.job, frame);
  EXPECT_EQ(left.find(op10), nullptr);
  EXPECT_EQ(left.reading_frame, kReadPlaced);
}

TEST_F(Setups, LoseAPlaneWithItsFrameAndNothingElse) {
  const int op10 = f.setup_on_top();
  const int front = frame_on_front();
  f.job = with_active_plane(with_tool_plane(f.job, op10, front), 1);
  const int on_front = f.keep(JobFixture::recipe("plane.on-face", {entry(front)}));
  EXPECT_EQ(lost_with(f.job, front), std::vector<int>{on_front});
  EXPECT_EQ(dependents(f.job, front).size(), 2u);
  f.job = without(f.job, front);
  EXPECT_EQ(f.job.find(on_front), nullptr);
  EXPECT_TRUE(setup(op10).planes.empty());
  EXPECT_EQ(f.job.tool_plane, 0);
  EXPECT_EQ(of(op10).state, EntryState::kCurrent);
}

TEST_F(Setups, ThatNobodyWaitedForAreMarked) {
  const int frame = f.frame_on_top();
  of(frame);
  int op10 = 0;
  f.job = with_setup(f.job, frame, &op10);
  Evaluating known;
  known.only_known = true;
  EXPECT_TRUE(evaluate(f.job, &last, known).entries.at(op10).stopped);
  of(op10);
  EXPECT_FALSE(evaluate(f.job, &last, known).entries.at(op10).stopped);
}

TEST_F(Setups, FrameWithAWorkOffsetInAnOldJobBecomesASetup) {
  const int frame =
      f.keep(JobFixture::recipe("frame.on-face", {f.face({60, 20, 20})},
                                {{"zero", "corner −X −Y"}, {"x", "X of the part"}, {"work_offset", "G56"}}));
  f.job = with_reading_frame(with_name(f.job, frame, "OP30"), frame);
  std::string old = job_to_json(f.job);
  old.replace(old.find("\"version\": "), 12, "\"version\": 2");
  const SourceFile source = f.job.first_part()->part()->sources.front();
  const auto loaded =
      job_from_json(old, {[&](const std::string&, double) -> Result<SourceFile> { return source; }});
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  const Entry& made = loaded->entries.back();
  ASSERT_TRUE(made.setup());
  EXPECT_EQ(made.name, "OP30");
  EXPECT_EQ(made.setup()->offset, "G56");
  EXPECT_EQ(loaded->reading_frame, made.id);
  const Evaluation e = evaluate(*loaded);
  EXPECT_EQ(e.entries.at(made.id).state, EntryState::kCurrent) << e.entries.at(made.id).reason;
  EXPECT_LT(reading_frame(*loaded, e).Location().Distance(gp_Pnt(0, 0, 20)), 1e-9);
}

TEST_F(Setups, AreReorderedAmongThemselvesButNotBeforeWhatTheyAreMadeFrom) {
  const int op10 = f.setup_on_top();
  int op20 = 0, op30 = 0;
  f.job = with_copied_setup(f.job, op10, &op20);
  f.job = with_flipped_setup(f.job, op20, 'Y', &op30);
  const auto order = [&](const Job& job) {
    std::string names;
    for (const Entry& e : job.entries)
      if (e.setup()) names += e.name + " ";
    return names;
  };
  const auto moved = with_moved(f.job, op20, -1);
  ASSERT_TRUE(moved);
  EXPECT_EQ(order(*moved), "OP20 OP10 OP30 ");
  stock(op10, Stock::Kind::kAllowance, {});
  anvil::Setup sharing = setup(op20);
  sharing.stock = {};
  sharing.stock.kind = Stock::Kind::kOfSetup;
  sharing.stock.setup = op10;
  f.job = with_setup_changed(f.job, op20, sharing);
  const auto refused = with_moved(f.job, op20, -1);
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().sentence, "OP20 is made from OP10 and must stay after it");
}

}  // namespace
}  // namespace anvil
