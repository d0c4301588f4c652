// What corrections do to a job: datums that follow, order, storing, refusing; and whatever is tried.
#include <BRepCheck_Analyzer.hxx>
#include <random>

#include "part/settle.h"
#include "store/container.h"
#include "support/mending.h"

namespace anvil::test {
namespace {

// The operation knows where its faces went: a datum on the hole goes along with it, without asking.
TEST(Corrections, ADatumOnAMovedHoleGoesAlong) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  const int axis = m.keep("axis.of", {m.bore({25, 20, 10})});
  const int centre = m.keep("point.at", {m.centre({20, 25, 20})});
  const int side = m.keep("plane.on-face", {m.face({0, 20, 10})});
  m.keep("correct.move-by", {Mending::reading(), m.bore({25, 20, 10})}, {{"dx", "30"}});
  const Evaluation now = evaluate(m.job);
  EXPECT_NEAR(std::get<AxisDatum>(*current(now, axis).value).axis.Location().X(), 50, 1e-9);
  EXPECT_LT(std::get<PointDatum>(*current(now, centre).value).point.Distance({50, 20, 20}), 1e-9);
  EXPECT_NEAR(std::get<PlaneDatum>(*current(now, side).value).plane.Location().X(), 0, 1e-9);
}

TEST(Corrections, ADatumOnAClosedHoleSaysWithWhatItWent) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  const int axis = m.keep("axis.of", {m.bore({25, 20, 10})});
  m.keep("correct.close", {m.bore({25, 20, 10})});
  const Evaluated gone = evaluate(m.job).entries.at(axis);
  EXPECT_EQ(gone.state, EntryState::kRefused);
  EXPECT_NE(gone.reason.find("Closed 1"), std::string::npos) << gone.reason;
}

TEST(Corrections, OneLeansOnTheOtherAndNothingIsComputedTwice) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  m.keep("correct.move-by", {Mending::reading(), m.bore({25, 20, 10})}, {{"dx", "30"}});
  const int wider = m.keep("correct.resize", {m.bore({25, 20, 10})}, {{"diameter", "12"}});
  const Evaluation now = evaluate(m.job);
  current(now, wider);
  expect_same_part(now.part, drilled(plain(), {50, 20, 20}, 12, 20));
  const Evaluation again = evaluate(m.job, nullptr, {.cache = now.cache});
  EXPECT_EQ(again.computed, 0);
}

TEST(Corrections, OpeningAJobComputesNoneOfThem) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  m.keep("correct.move-by", {Mending::reading(), m.bore({25, 20, 10})}, {{"dx", "30"}});
  m.keep("correct.resize", {m.bore({25, 20, 10})}, {{"diameter", "12"}});
  const Evaluation now = evaluate(m.job);
  const TemporaryFolder folder;
  SaveOptions options;
  options.cache = now.cache;
  ASSERT_TRUE(save_job(m.job, folder.path() / "job.anvil", options));
  const auto cache = std::make_shared<ResultCache>();
  const auto loaded = load_job(folder.path() / "job.anvil", {}, cache);
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  // Nobody is there who could carry out a correction.
  const std::string worker = worker_program();
  ::setenv("TRUE_ANVIL_IMPORT", "/nowhere", 1);
  const Evaluation opened = evaluate(loaded->job, nullptr, {.cache = cache});
  ::setenv("TRUE_ANVIL_IMPORT", worker.c_str(), 1);
  for (const Entry& entry : loaded->job.entries)
    if (entry.is_correction()) current(opened, entry.id);
  expect_same_part(opened.part, drilled(plain(), {50, 20, 20}, 12, 20));
}

std::string keys_in(const std::filesystem::path& job) {
  const auto container = Container::open(job);
  return container ? (*container)->read("shapes/corrected/corrections.json").value_or("none") : "not there";
}

// What was computed and what was stored are known by the same keys, so that opening computes nothing; and
// what was opened is saved as it was.
TEST(Corrections, OpeningAndSavingWithoutAChangeChangesNoByte) {
  const TopoDS_Shape shape = cut(drilled(plain(), {20, 20, 20}, 10, 20),
                                 {pocket(gp_Ax2(gp_Pnt(60, 20, 20), gp_Dir(0.1, 0, 1)), small_pocket())});
  settle(shape);  // as the import worker hands over
  Mending m(shape);
  m.keep("correct.move-by", {Mending::reading(), m.bore({25, 20, 10})}, {{"dx", "7.1"}, {"dy", "0.3"}});
  m.keep("correct.resize", {m.bore({25, 20, 10})}, {{"diameter", "9.7"}});
  m.keep("correct.face-push", {m.face({0, 20, 10})}, {{"distance", "1.3"}});
  const int frame = m.keep("frame.on-face", {m.face({40, 0, 10}), {EntryReference{kReadPlaced}, {}}},
                           {{"zero", "centroid"}, {"x", "longest edge"}});
  const int block = m.keep("correct.own-block", {{EntryReference{frame}, {}}}, {{"x", "3.3"}});
  m.keep("correct.again-along", {m.edge({40, 0, 20}), {EntryReference{block}, {}}},
         {{"length", "7.7"}, {"places", "5"}});
  m.keep("correct.face-push", {m.face({80, 20, 10})}, {{"distance", "0.7"}});
  const TemporaryFolder folder;
  const auto path = folder.path() / "job.anvil";
  SaveOptions options;
  Evaluation now = evaluate(m.job);
  options.cache = now.cache;
  ASSERT_TRUE(save_job(m.job, path, options));
  const std::string keys = keys_in(path);
  const std::string first = *read_file(path);
  for (int cycle = 0; cycle < 3; ++cycle) {
    const auto cache = std::make_shared<ResultCache>();
    const auto loaded = load_job(path, {}, cache);
    ASSERT_TRUE(loaded);
    const Evaluation opened = evaluate(loaded->job, nullptr, {.cache = cache});
    options.cache = cache;
    ASSERT_TRUE(save_job(loaded->job, path, options));
    EXPECT_EQ(keys_in(path), keys) << "cycle " << cycle;
    EXPECT_TRUE(*read_file(path) == first) << "cycle " << cycle;
  }
}

TEST(Corrections, WhatStandsBeforeACorrectionFollowsItUnlessItLeansOnIt) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  const int free = m.keep("axis.of", {m.bore({25, 20, 10})});
  const int plane = m.keep("plane.midway", {m.face({0, 20, 10}), m.face({80, 20, 10})});
  const int moved =
      m.keep("correct.move-to",
             {m.bore({25, 20, 10}), {EntryReference{m.keep("point.at", {m.vertex({80, 40, 20})})}, {}}});
  std::vector<int> order;
  for (const Entry& entry : m.job.entries) order.push_back(entry.id);
  const auto place = [&](int id) { return std::find(order.begin(), order.end(), id) - order.begin(); };
  EXPECT_LT(place(moved), place(free));
  EXPECT_LT(place(moved), place(plane));
}

TEST(Corrections, WhatCannotBeIsRefusedAndThePartStaysAsItIs) {
  Mending m(drilled(plain(), {20, 20, 20}, 10, 20));
  const int whole = m.keep("correct.close", {m.face({0, 20, 10})});
  const int off = m.keep("correct.move-by", {Mending::reading(), m.bore({25, 20, 10})}, {{"dx", "500"}});
  const Evaluation now = evaluate(m.job);
  for (const int id : {whole, off}) {
    EXPECT_EQ(now.entries.at(id).state, EntryState::kRefused);
    EXPECT_FALSE(now.entries.at(id).reason.empty());
  }
  expect_same_part(now.part, drilled(plain(), {20, 20, 20}, 10, 20));
}

TEST(Corrections, AHoleThatWouldLieBesideThePartIsTold) {
  Mending m(drilled(plain(), {10, 20, 20}, 6, 20));
  const int id =
      m.keep("correct.repeat-along", {m.edge({40, 0, 20}), m.bore({13, 20, 10})}, {{"places", "6"}});
  const Evaluated beside = evaluate(m.job).entries.at(id);
  EXPECT_EQ(beside.state, EntryState::kRefused);
  EXPECT_NE(beside.reason.find("X 90.000"), std::string::npos) << beside.reason;
}

TEST(Corrections, NoFaceIsPushedThroughAnother) {
  Mending m(cut(plain(), {pocket(gp_Ax2(gp_Pnt(60, 20, 20), gp_Dir(0, 0, 1)), small_pocket())}));
  const int id = m.keep("correct.face-push", {m.face({60, 20, 12})}, {{"distance", "-20"}});
  const Evaluated through = evaluate(m.job).entries.at(id);
  EXPECT_EQ(through.state, EntryState::kRefused);
  EXPECT_NE(through.reason.find("run into a face"), std::string::npos) << through.reason;
}

// Moving there and back gives the part it was, wherever it stops on the way.
TEST(Corrections, ThereAndBackIsWhereItWas) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> way(-6, 6);
  const TopoDS_Shape start = counterbored(plain(), {30, 20, 20});
  for (int turn = 0; turn < 10; ++turn) {
    Mending m(start);
    const double dx = way(random), dy = way(random);
    SCOPED_TRACE(testing::Message() << "seed 7, by " << dx << ", " << dy);
    const auto by = [&](double sign) {
      return ParameterTexts{{"dx", std::to_string(sign * dx)}, {"dy", std::to_string(sign * dy)}};
    };
    m.keep("correct.move-by", {Mending::reading(), m.bore({35.5, 20, 17})}, by(1));
    const int back = m.keep("correct.move-by", {Mending::reading(), m.bore({35.5, 20, 17})}, by(-1));
    const Evaluation now = evaluate(m.job);
    current(now, back);
    expect_same_part(now.part, start);
  }
}

// All holes of a plate closed at once give the plate they were drilled into, wherever they stand, blind or
// through, with and without heads.
TEST(Corrections, AllHolesClosedGiveThePlainPart) {
  std::mt19937 random(23);
  const auto from = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  for (int turn = 0; turn < 8; ++turn) {
    SCOPED_TRACE(testing::Message() << "seed 23, plate " << turn);
    TopoDS_Shape plate = plain();
    std::vector<gp_Pnt> walls;
    for (int i = 0; i < 6; ++i) {  // each in a field of its own, 20 x 20
      const int column = i % 3, row = i / 3;
      const double radius = from(1, 4), depth = from(3, 25);
      const gp_Pnt top(10 + 20 * column + from(-3, 3), 10 + 20 * row + from(-3, 3), 20);
      plate = drilled(plate, top, 2 * radius, depth);
      if (from(0, 1) < 0.5) plate = drilled(plate, top, 2 * radius + from(0.5, 4), 2);
      walls.emplace_back(top.X() + radius, top.Y(), 20 - std::min(depth, 20.0) * 0.9);
    }
    Mending m(plate);
    std::vector<Reference> picks;
    picks.reserve(walls.size());
    for (const gp_Pnt& wall : walls) picks.push_back(m.bore(wall));
    const int id = m.keep("correct.close", picks);
    const Evaluation now = evaluate(m.job);
    current(now, id);
    expect_same_part(now.part, plain());
  }
}

// Whatever is tried on the plate: what is kept is a valid closed solid whose volume is what was told, what is
// refused says why. CORRECTIONS=500 CORRECTIONS_SEED=3 tries more of them.
TEST(Corrections, WhatIsKeptIsSoundWhateverIsTried) {
  const char* wanted = std::getenv("CORRECTIONS");
  const char* told = std::getenv("CORRECTIONS_SEED");
  const unsigned seed = told ? static_cast<unsigned>(std::atoi(told)) : 11;
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> way(-12, 12), size(0.5, 14);
  const PartPtr part = part_of(plate());
  const auto faces = part->topology().faces.size();
  const double start_mm3 = volume_properties(part->shape()).volume_mm3;
  const char* const tried[] = {"correct.close", "correct.move-by", "correct.resize", "correct.face-push",
                               "correct.radius"};
  int kept = 0, refused = 0;
  for (int turn = 0; turn < (wanted ? std::atoi(wanted) : 40); ++turn) {
    const char* id = tried[random() % std::size(tried)];
    const auto face = static_cast<int>(random() % faces);
    SCOPED_TRACE(testing::Message() << "seed " << seed << ", turn " << turn << ": " << id << " on face "
                                    << face);
    ParameterTexts numbers = initial_parameters(*find_construction(id));
    for (const char* length : {"dx", "dy", "dz", "distance"})
      if (numbers.count(length)) numbers[length] = std::to_string(way(random));
    for (const char* length : {"diameter", "radius"})
      if (numbers.count(length)) numbers[length] = std::to_string(size(random));
    const Given pick = given_by_face(*part, face, gp_Trsf());
    Given frame;
    frame.frame = gp_Ax2();
    std::vector<const Given*> picks{&pick};
    if (std::string(id) == "correct.move-by") picks.insert(picks.begin(), &frame);
    if (!gives(pick, need_of(*find_construction(id), picks.size() - 1))) continue;
    const Solutions planned = solve(*find_construction(id), picks, numbers, {});
    if (!planned) {
      EXPECT_FALSE(planned.error().sentence.empty());
      continue;
    }
    for (const PlanStep& step : std::get<PlannedCorrection>(planned->front().value).plan->steps) {
      // Of many some do not end: they are the worker's, and count as refused.
      const auto done = wanted ? carry_out_apart(*part, step, {}, WorkerLimits{std::chrono::seconds(60)})
                               : carry_out(*part, step);
      if (!done) {
        ++refused;
        EXPECT_FALSE(done.error().sentence.empty());
        continue;
      }
      ++kept;
      EXPECT_TRUE(BRepCheck_Analyzer(done->shape).IsValid());
      EXPECT_EQ(count_open_edges(done->shape), 0);
      const double gained = volume_properties(done->shape).volume_mm3 - start_mm3;
      EXPECT_NEAR(done->added_mm3 - done->removed_mm3, gained, 1e-6 * start_mm3);
    }
  }
  EXPECT_GT(kept, 0);
  RecordProperty("kept", kept);
  RecordProperty("refused", refused);
}

}  // namespace
}  // namespace anvil::test
