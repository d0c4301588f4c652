// The most usual constructions, made as a new user would: picks with the mouse, then Enter, a number, or a
// click on an offer. Counts the acts.
#include <QDialogButtonBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include <gtest/gtest.h>
#include <TopExp_Explorer.hxx>

#include "app/view/datum_shapes.h"
#include "app/view/overlay.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::WindowDriver;

// Acts are separated by semicolons: a place by its name, "offer …" (clicked), "type …", "next".
struct Usual {
  const char* what;
  const char* acts;
  const char* construction;
  std::vector<double> expected;  // point, axis or plane with direction, or what was measured
};
std::ostream& operator<<(std::ostream& out, const Usual& u) {
  return out << u.what;
}

const double kHalf = std::sqrt(0.5);

// Block 120 x 60 x 20 with a step of 15 along its back, a row of three holes of 14 along y = 20, a boss of 20
// at (90, 20) and a chamfer of 10 along its right end.
TopoDS_Shape usual_part() {
  const auto hole = [](double x) { return demo::rod(gp_Ax2(gp_Pnt(x, 20, 20), gp_Dir(0, 0, -1)), 14, 20); };
  const TopoDS_Shape block = demo::join(demo::block({0, 0, 0}, {120, 60, 20}),
                                        {demo::block({0, 40, 20}, {110, 60, 35}),
                                         demo::rod(gp_Ax2(gp_Pnt(90, 20, 20), gp_Dir(0, 0, 1)), 20, 15)});
  gp_Trsf lean, shift;
  lean.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 0)), kPi / 4);
  shift.SetTranslation(gp_Vec(110, 0, 20));
  const TopoDS_Shape corner = demo::block({0, -10, 0}, {30, 80, 20}).Moved(TopLoc_Location(shift * lean));
  return demo::cut(block, {hole(20), hole(40), hole(60), corner});
}

gp_Pnt place(const std::string& name) {
  static const std::map<std::string, gp_Pnt> all{{"top", {75, 10, 20}},
                                                 {"upper", {60, 50, 35}},
                                                 {"wall", {70, 40, 30}},
                                                 {"front", {60, 0, 8}},
                                                 {"right", {120, 30, 5}},
                                                 {"slant", {115, 20, 15}},
                                                 {"boss", {90 + 10 * kHalf, 20 - 10 * kHalf, 26}},
                                                 {"bosstop", {90, 20, 35}},
                                                 {"hole1", {20 - 7 * kHalf, 20 + 7 * kHalf, 19}},
                                                 {"hole2", {40 - 7 * kHalf, 20 + 7 * kHalf, 19}},
                                                 {"hole3", {60 - 7 * kHalf, 20 + 7 * kHalf, 19}},
                                                 {"rim1", {20 + 7 * kHalf, 20 + 7 * kHalf, 20}},
                                                 {"edge", {30, 0, 20}},
                                                 {"edgemiddle", {55, 0, 20}},
                                                 {"endedge", {110, 12, 20}},
                                                 {"corner", {0, 0, 20}},
                                                 {"corner2", {110, 0, 20}},
                                                 {"corner3", {0, 40, 35}},
                                                 {"corner4", {120, 0, 10}}};
  return all.at(name);
}

const std::vector<Usual>& usual() {
  static const std::vector<Usual> all{
      {"Point at a corner", "corner; Enter", "point.at", {0, 0, 20}},
      {"Middle of an edge", "edgemiddle; Enter", "point.at", {55, 0, 20}},
      {"Centre of a circle", "rim1; offer Point at; Enter", "point.at", {20, 20, 20}},
      {"Centre of a hole at its opening",
       "hole1; offer Centre of hole; Enter",
       "point.hole-end",
       {20, 20, 20}},
      {"Point along an edge, by ratio", "edge; type 0.25; Enter", "point.on-edge", {}},
      {"Where an axis meets a face", "boss; top; Enter", "point.axis-plane", {90, 20, 20}},
      {"Where three faces meet", "top; front; right; Enter", "point.three-planes", {120, 0, 20}},
      {"Halfway between two points",
       "corner; corner2; offer Point midway; Enter",
       "point.average",
       {55, 0, 20}},
      {"A step from a corner", "corner; type 12; Enter", "point.stepped", {12, 0, 20}},
      {"A corner brought onto an axis",
       "corner; boss; offer Point of ②; Enter",
       "point.on-axis",
       {90, 20, 20}},
      {"Axis of a hole", "hole1; Enter", "axis.of", {20, 20, 0, 0, 0, 1}},
      {"Axis along an edge", "edge; Enter", "axis.along-edge", {0, 0, 20, 1, 0, 0}},
      {"Axis through two points",
       "corner; corner3; offer Axis from; Enter",
       "axis.two-points",
       {0, 0, 20, 0, 40, 15}},
      {"Axis where two faces cross",
       "top; right; offer Axis where; Enter",
       "axis.of-two-planes",
       {120, 0, 20, 0, 1, 0}},
      {"Axis square to a face through a point",
       "corner; slant; offer Axis through ① square to ②; Enter",
       "axis.square-to-plane",
       {0, 0, 20, 1, 0, 1}},
      {"Axis midway between two holes",
       "hole1; hole2; offer Axis midway; Enter",
       "axis.midway",
       {30, 20, 0, 0, 0, 1}},
      {"Line of a row of holes", "hole1; hole2; hole3; Enter", "axis.best-line", {20, 20, 20, 1, 0, 0}},
      {"Plane on a face", "top; Enter", "plane.on-face", {0, 0, 20, 0, 0, 1}},
      {"Plane at a distance", "top; type 1/4in; Enter", "plane.offset", {0, 0, 26.35, 0, 0, 1}},
      {"Plane midway between two faces", "top; upper; Enter", "plane.midway", {0, 0, 27.5, 0, 0, 1}},
      {"Plane halving an angle", "top; slant; offer Plane halving; Enter", "plane.bisector", {}},
      {"Plane at an angle to a face", "top; endedge; type 30; Enter", "plane.turned", {}},
      {"Plane touching a boss", "boss; front; Enter", "plane.touching-parallel", {90, 10, 0, 0, 1, 0}},
      {"Plane touching where it was clicked",
       "boss; offer Plane touching; Enter",
       "plane.touching-where-clicked",
       {90 + 10 * kHalf, 20 - 10 * kHalf, 0, 1, -1, 0}},
      {"Plane through three points", "corner; corner3; corner4; Enter", "plane.three-points", {}},
      {"Plane through two hole axes",
       "hole1; hole2; offer Plane through; Enter",
       "plane.two-lines",
       {0, 20, 0, 0, 1, 0}},
      {"Plane through a point, parallel to a face",
       "corner; slant; Enter",
       "plane.parallel-through",
       {0, 0, 20, 1, 0, 1}},
      {"Plane through a corner, square to its edge",
       "corner; edge; Enter",
       "plane.square-to-line",
       {0, 0, 0, 1, 0, 0}},
      {"Rectangle drawn on a face", "top; corner; offer Rectangle drawn; Enter", "figure.rectangle", {}},
      {"Distance of two holes", "hole1; hole3; Enter", "measure.distance", {40}},
      {"Distance of two faces", "top; upper; offer Distance; Enter", "measure.distance", {15}},
      {"Angle of two faces", "top; slant; Enter", "measure.angle", {kPi / 4}},
      {"Pitch of two holes, along and across", "hole1; hole3; offer Pitch; Enter", "measure.pitch", {40}},
  };
  return all;
}

class UsualPart : public testing::Test {
 protected:
  app::Session& session() { return driver.window().session(); }

  void SetUp() override {
    Body body;
    body.name = "block";
    for (TopExp_Explorer solids(usual_part(), TopAbs_SOLID); solids.More(); solids.Next())
      body.shape = solids.Current();
    ASSERT_TRUE(driver.open(driver.step_file("usual.step", {body})));
  }

  WindowDriver driver;
};

class Datums : public UsualPart, public testing::WithParamInterface<Usual> {
 protected:
  void act(const QString& words) {
    if (words.startsWith(QLatin1String("offer "))) {
      EXPECT_TRUE(driver.choose_offer(words.mid(6))) << words.toStdString();
    } else if (words.startsWith(QLatin1String("type "))) {
      driver.type(words.mid(5));
    } else if (words == QLatin1String("Enter")) {
      driver.key(QStringLiteral("Return"));
    } else {
      const size_t before = session().tray().picks().size();
      driver.click_part(place(words.toStdString()));
      EXPECT_EQ(session().tray().picks().size(), before + 1) << words.toStdString();
    }
  }

  void expect(const DatumValue& value, const std::vector<double>& e) {
    if (e.empty()) return;
    const gp_Pnt at = e.size() < 3 ? gp_Pnt() : gp_Pnt(e[0], e[1], e[2]);
    if (const auto* p = std::get_if<PointDatum>(&value)) {
      EXPECT_LT(p->point.Distance(at), 1e-6);
    }
    if (const auto* a = std::get_if<AxisDatum>(&value)) {
      EXPECT_LT(distance(a->axis, at), 1e-6);
      EXPECT_TRUE(parallel(a->axis.Direction(), gp_Dir(e[3], e[4], e[5]), 1e-6));
    }
    if (const auto* p = std::get_if<PlaneDatum>(&value)) {
      EXPECT_NEAR(height_over(p->plane, at), 0, 0.2);  // the place of a click is known to a pixel
      EXPECT_TRUE(parallel(p->plane.Axis().Direction(), gp_Dir(e[3], e[4], e[5]), 0.05));
    }
    if (const auto* m = std::get_if<Measurement>(&value)) {
      EXPECT_NEAR(m->value, e[0], 1e-6);
    }
  }
};

TEST_P(Datums, IsMadeInUnderFiveActs) {
  const QStringList acts = QString::fromUtf8(GetParam().acts).split(QStringLiteral("; "));
  EXPECT_LT(acts.size(), 5);
  for (const QString& words : acts) act(words);
  const Entry& kept = session().document().job().entries.back();
  ASSERT_TRUE(kept.datum()) << "nothing was kept";
  EXPECT_EQ(kept.datum()->recipe.construction, GetParam().construction);
  const Evaluated& evaluated = session().document().evaluation().entries.at(kept.id);
  EXPECT_EQ(evaluated.state, EntryState::kCurrent) << evaluated.reason;
  ASSERT_TRUE(evaluated.value);
  expect(*evaluated.value, GetParam().expected);
}

INSTANTIATE_TEST_SUITE_P(TheMostUsual, Datums, testing::ValuesIn(usual()));

TEST_F(UsualPart, NumbersAreDraggedToRoundOnesAndUpToWhatLiesThere) {
  driver.click_part(place("top"));
  driver.type(QStringLiteral("10"));
  const auto handle = [&] {
    const auto all = session().tray().handles();
    EXPECT_EQ(all.size(), 1u);
    return all.front();
  };
  const auto distance_mm = [&] {
    const auto& draft = *session().tray().draft();
    return std::get<PlaneDatum>(draft.solutions[draft.solution].value).plane.Location().Z() - 20;
  };
  EXPECT_NEAR(handle().at.Z(), 30, 1e-9);
  EXPECT_NEAR(handle().per_unit.Z(), 1, 1e-6);
  // Over empty space: to a round number. Over a corner: level with it, and no other number would do.
  const gp_Pnt at = handle().at;
  const QPointF from = driver.on_screen(at);
  driver.drag_view(from, from + (driver.on_screen(gp_Pnt(at.X(), at.Y(), 80)) - from));
  EXPECT_NEAR(distance_mm(), 60, 2.0);
  EXPECT_NEAR(distance_mm(), std::round(distance_mm() * 2) / 2, 1e-9);
  driver.drag_view(driver.on_screen(handle().at), driver.on_screen(place("corner3")));
  EXPECT_NEAR(distance_mm(), 15, 1e-9);
  // And to the other side, typed.
  driver.type(QStringLiteral("-4"));
  EXPECT_NEAR(distance_mm(), -4, 1e-12);
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().entries.back().name, "Plane 1");
}

TEST_F(UsualPart, APickIsExchangedForAnotherInItsPlace) {
  driver.click_part(place("top"));
  driver.click_part(place("slant"));
  auto* chips = driver.window().findChild<QListWidget*>(QStringLiteral("tray.picks"));
  driver.click_widget(chips->viewport(), chips->visualItemRect(chips->item(0)).center());
  EXPECT_TRUE(session().still_needed_text().contains(QStringLiteral("①")));
  driver.click_part(place("front"));
  ASSERT_EQ(session().tray().picks().size(), 2u);
  EXPECT_TRUE(session().tray().picks()[0].given.direction->IsEqual(gp_Dir(0, -1, 0), 1e-9));
  EXPECT_TRUE(session().tray().picks()[1].given.direction->IsEqual(gp_Dir(1, 0, 1), 1e-9));
  driver.click_part(place("right"));
  EXPECT_EQ(session().tray().picks().size(), 3u);
}

// An entry is opened again with its picks, and given another one.
TEST_F(UsualPart, EntryIsEditedInItsPicksAsWellAsItsNumbers) {
  driver.click_part(place("top"));
  driver.type(QStringLiteral("7"));
  driver.key(QStringLiteral("Return"));
  const int id = session().document().job().entries.back().id;
  session().tray().edit(id);
  session().tray().replace_pick_next(0);
  driver.click_part(place("upper"));
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().entries.back().id, id);
  const auto& value = *session().document().evaluation().entries.at(id).value;
  EXPECT_NEAR(std::get<PlaneDatum>(value).plane.Location().Z(), 42, 1e-9);
}

TEST_F(UsualPart, PicksAreMadeByNameAndTheWorstIsLeftOut) {
  ASSERT_TRUE(driver.wait([&] { return session().checks().holes() != nullptr; }));
  for (const char* hole : {"hole h1.1", "hole h1.2", "hole h1.3"})
    ASSERT_TRUE(driver.run_command(QLatin1String(hole))) << hole;
  ASSERT_EQ(session().tray().picks().size(), 3u);
  for (const app::Pick& pick : session().tray().picks()) EXPECT_TRUE(pick.given.hole);
  driver.click_part(place("corner"));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Line that fits")));
  auto* button = driver.window().findChild<QPushButton*>(QStringLiteral("tray.leave_out"));
  ASSERT_TRUE(button->isVisible());
  const int worst = session().tray().draft()->solutions.front().worst_role;
  const Reference left_out = session().tray().picks()[static_cast<size_t>(worst)].reference;
  EXPECT_TRUE(button->text().contains(QString::fromStdString(circled(worst + 1))));
  driver.click_widget(button);
  EXPECT_FALSE(session().tray().is_picked(left_out));
  EXPECT_EQ(session().tray().picks().size(), 3u);
  EXPECT_FALSE(button->isVisible());
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().entries.back().datum()->recipe.construction, "axis.best-line");
  ASSERT_TRUE(driver.run_command(QStringLiteral("pick axis 1")));
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_TRUE(session().tray().picks().front().given.axis);
}

TEST_F(UsualPart, EachStepOfAPointHasAHandleOfItsOwn) {
  driver.click_part(place("corner2"));
  driver.type(QStringLiteral("-20"));
  const double arm = app::Overlay::kHandleArm_px * driver.window().view_pane().view().mm_per_pixel();
  const auto handles = session().tray().handles();  // dragging makes them anew
  for (const NumberHandle& handle : handles)
    if (handle.parameter == "y") {
      const gp_Pnt knob = handle.knob(arm);
      driver.drag_view(driver.on_screen(knob), driver.on_screen(knob.Translated(gp_Vec(0, 8, 0))));
    }
  const auto& draft = *session().tray().draft();
  const gp_Pnt point = std::get<PointDatum>(draft.solutions[draft.solution].value).point;
  EXPECT_NEAR(point.X(), 90, 1e-9);
  EXPECT_NEAR(point.Y(), 8, 1.0);
  EXPECT_NEAR(point.Z(), 20, 1e-9);
}

TEST_F(UsualPart, AngleIsDraggedRoundItsAxis) {
  driver.click_part(place("top"));
  driver.click_part(place("endedge"));
  driver.type(QStringLiteral("30"));
  const auto handles = session().tray().handles();
  ASSERT_EQ(handles.size(), 1u);
  EXPECT_EQ(handles.front().parameter, "angle");
  const gp_Pnt axis(110, 0, 20), far = handles.front().at;
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(axis, gp_Dir(0, 1, 0)), far.X() < axis.X() ? radians(10) : radians(-10));
  const gp_Pnt target = far.Transformed(turn);
  driver.drag_view(driver.on_screen(far), driver.on_screen(target));
  const auto& draft = *session().tray().draft();
  const gp_Dir normal = std::get<PlaneDatum>(draft.solutions[draft.solution].value).plane.Axis().Direction();
  const double angle = degrees(normal.Angle(gp_Dir(0, 0, 1)));
  EXPECT_GT(std::abs(angle - 30), 5) << angle;
  EXPECT_NEAR(angle, std::round(angle * 10) / 10, 1e-5);
}

// Drawn on the top, then one of its corners picked in the view, and the step from there.
TEST_F(UsualPart, FigureIsDrawnOnAFaceAndItsCornersAndEdgesArePicked) {
  driver.click_part(place("top"));
  driver.click_part(place("corner"));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Rectangle drawn")));
  driver.type(QStringLiteral("64"));
  driver.key(QStringLiteral("Tab"));
  driver.type(QStringLiteral("24"));
  driver.key(QStringLiteral("Return"));
  const int rectangle = session().document().job().entries.back().id;
  EXPECT_EQ(session().document().job().entries.back().name, "Rectangle 1");
  driver.click_part(gp_Pnt(32, 12, 20));
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_LT(session().tray().picks().front().given.point->Distance(gp_Pnt(32, 12, 20)), 1e-9);
  EXPECT_EQ(session().tray().picks().front().text, QStringLiteral("Rectangle 1 · start of edge 3"));
  driver.click_part(gp_Pnt(32, 5, 20));
  ASSERT_EQ(session().tray().picks().size(), 2u);
  EXPECT_TRUE(std::get<EntryReference>(session().tray().picks()[1].reference.target) ==
              (EntryReference{rectangle, 2, Snap::kWhole}));
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().entries.back().datum()->recipe.construction, "plane.square-to-line");
  ASSERT_TRUE(driver.run_command(QStringLiteral("rectangle 1 · middle of edge 4")));
  EXPECT_LT(session().tray().picks().front().given.point->Distance(gp_Pnt(-32, 0, 20)), 1e-9);
}

TEST_F(UsualPart, QuadrantOfARimIsAPick) {
  driver.click_part(gp_Pnt(33, 20, 20));  // of the second hole, 14 across, at x = 40
  ASSERT_EQ(session().tray().picks().size(), 1u);
  ASSERT_TRUE(session().tray().picks().front().given.point)
      << session().tray().picks().front().text.toStdString();
  EXPECT_LT(session().tray().picks().front().given.point->Distance(gp_Pnt(33, 20, 20)), 1e-9);
  EXPECT_TRUE(session().tray().picks().front().text.startsWith(QStringLiteral("quadrant of circle")));
}

// A frame of one arrangement: a click on the tip of Y brings X there, one on the tip of Z turns it over.
TEST_F(UsualPart, FrameIsTurnedByTheTipsOfItsAxes) {
  driver.click_part(place("corner"));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Frame dropped on")));
  const auto frame = [&] {
    const app::Draft& draft = *session().tray().draft();
    return std::get<FrameDatum>(draft.solutions[draft.solution].value).frame;
  };
  const double arm = app::kFrameArm_px * driver.window().view_pane().view().mm_per_pixel();
  const auto tip = [&](const gp_Dir& axis) {
    return driver.on_screen(frame().Location().Translated(gp_Vec(axis) * arm));
  };
  driver.click_view(tip(frame().YDirection()));
  EXPECT_TRUE(frame().XDirection().IsEqual(gp_Dir(0, 1, 0), 1e-9));
  EXPECT_EQ(session().tray().draft()->parameters.at("rz"), "90");
  driver.click_view(tip(frame().Direction()));
  EXPECT_TRUE(frame().Direction().IsEqual(gp_Dir(0, 0, -1), 1e-9));
}

// What is seen is what is kept: a plane parallel to the screen, and a frame that looks at the eye.
TEST_F(UsualPart, ViewGivesItsDirections) {
  driver.window().view_pane().look_from(app::ViewPane::Side::kFront);
  driver.settle();
  driver.click_part(place("corner"));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Frame at ①, as it is seen")));
  driver.key(QStringLiteral("Return"));
  const auto& value =
      *session().document().evaluation().entries.at(session().document().job().entries.back().id).value;
  EXPECT_TRUE(std::get<FrameDatum>(value).frame.Direction().IsEqual(gp_Dir(0, -1, 0), 1e-6));
  EXPECT_TRUE(std::get<FrameDatum>(value).frame.XDirection().IsEqual(gp_Dir(1, 0, 0), 1e-6));
}

TEST_F(UsualPart, StepsAreTypedOneAfterTheOther) {
  const auto last = [&] {
    EXPECT_TRUE(driver.wait([&] { return !session().document().evaluating().is_busy(); }));
    return std::get<PointDatum>(*session()
                                     .document()
                                     .evaluation()
                                     .entries.at(session().document().job().entries.back().id)
                                     .value)
        .point;
  };
  driver.click_part(place("corner"));
  driver.type(QStringLiteral("10"));
  driver.key(QStringLiteral("shift+Return"));  // once more from the corner
  EXPECT_LT(last().Distance(gp_Pnt(10, 0, 20)), 1e-9);
  driver.type(QStringLiteral("25"));
  driver.key(QStringLiteral("ctrl+Return"));  // on from the new point
  EXPECT_LT(last().Distance(gp_Pnt(25, 0, 20)), 1e-9);
  driver.type(QStringLiteral("-5"));
  driver.key(QStringLiteral("Tab"));
  driver.type(QStringLiteral("7"));
  driver.key(QStringLiteral("Return"));
  EXPECT_LT(last().Distance(gp_Pnt(20, 7, 20)), 1e-9);
  EXPECT_EQ(session().document().job().entries.back().name, "Point 3");
  EXPECT_TRUE(session().tray().picks().empty());
  EXPECT_FALSE(session().tray().draft());
}

// With no patience at all every evaluation comes later, as that of a large job.
TEST_F(UsualPart, SlowEvaluationComesLaterAndCanBeGivenUp) {
  session().document().set_patience(std::chrono::milliseconds(0));
  const auto state = [&] {
    return session().document().evaluation().entries.at(session().document().job().entries.back().id);
  };
  const auto keep_offset = [&] {
    driver.click_part(place("top"));
    driver.type(QStringLiteral("7"));
    driver.key(QStringLiteral("Return"));
  };
  keep_offset();
  EXPECT_TRUE(session().tray().picks().empty());
  ASSERT_TRUE(driver.wait([&] { return !session().document().evaluating().is_busy(); }));
  EXPECT_EQ(state().state, EntryState::kCurrent);
  // Given up while it is under way: nothing of the job is lost, only this entry is not computed. Both threads
  // are kept from it for so long.
  const auto held = std::make_shared<std::promise<void>>();
  const std::shared_future<void> let_go = held->get_future().share();
  for (int i = 0; i < 2; ++i)
    session().document().evaluating().start<int>(
        QStringLiteral("held"), [let_go](const Progress&) { return let_go.wait(), 0; }, [](int) {});
  Recipe other = session().document().job().entries.back().datum()->recipe;
  other.parameters["distance"] = "8";
  session().document().act(QStringLiteral("Another"), with_datum(session().document().job(), other));
  ASSERT_TRUE(session().document().evaluating().is_busy());
  session().document().evaluating().cancel_by_user();
  EXPECT_TRUE(state().stopped);
  EXPECT_EQ(state().state, EntryState::kAttention);
  held->set_value();
  session().document().compute_stopped();
  ASSERT_TRUE(driver.wait([&] { return !session().document().evaluating().is_busy(); }));
  EXPECT_EQ(state().state, EntryState::kCurrent);
}

TEST_F(UsualPart, WhatTakesTimeIsComputedWhileTheWindowLives) {
  session().document().set_patience(std::chrono::milliseconds(0));
  driver.click_part(place("top"));
  session().tray().start("measure.body");
  ASSERT_TRUE(session().tray().draft());
  ASSERT_TRUE(driver.wait([&] { return !session().tray().drafting().is_busy(); }));
  ASSERT_EQ(session().tray().draft()->solutions.size(), 1u) << session().tray().draft()->reason.toStdString();
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait([&] { return !session().document().evaluating().is_busy(); }));
  EXPECT_EQ(session().document().job().entries.back().name, "Volume 1");
}

TEST_F(UsualPart, TolerancesAreWidenedForTheJobWithinReason) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("tolerances of this job")));
  auto* form = driver.window().findChild<QWidget*>(QStringLiteral("tolerances"));
  ASSERT_TRUE(form);
  auto* linear = form->findChild<QLineEdit*>(QStringLiteral("tolerances.linear"));
  linear->setText(QStringLiteral("5"));
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().tolerance.linear_mm,
            kExact.linear_mm);  // told in the form, which stays
  EXPECT_TRUE(form->isVisible());
  linear->setText(QStringLiteral("1/100"));
  driver.key(QStringLiteral("Return"));
  EXPECT_NEAR(session().document().job().tolerance.linear_mm, 0.01, 1e-12);
}

TEST(DraggedAngles, StopAtPicksThenQuartersThenFifteensThenDegrees) {
  constexpr double kStep = 0.5;  // of three pixels
  EXPECT_EQ(snapped_degrees(37.4, kStep, {36.2, 126.2}), 36.2);
  EXPECT_EQ(snapped_degrees(91.7, kStep, {36.2}), 90);
  EXPECT_EQ(snapped_degrees(-178.5, kStep, {}), -180);
  EXPECT_EQ(snapped_degrees(44.2, kStep, {}), 45);
  EXPECT_EQ(snapped_degrees(38.3, kStep, {}), 38);
  EXPECT_EQ(snapped_degrees(37.2, 2, {}), 38);  // far away a degree is less than can be pointed at
}

TEST(DatumsList, HasThirtyAndMore) {
  EXPECT_GE(usual().size(), 30u);
}

}  // namespace
}  // namespace anvil
