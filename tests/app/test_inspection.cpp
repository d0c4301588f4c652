// Corners, cutters, what they leave, and the comparison with a list, through the window.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>
#include <QTreeView>
#include <nlohmann/json.hpp>

#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "base/file.h"
#include "base/units.h"
#include "demo/demo_part.h"
#include "inspect/section_stack.h"
#include "job/gate.h"
#include "job/setup_edits.h"
#include "support/fixtures.h"
#include "window_driver.h"

namespace anvil::test {
namespace {

using Table = app::Drawer::Table;

class InspectionWindow : public testing::Test {
 protected:
  void SetUp() override {
    ASSERT_TRUE(driver.open(driver.step_file("saddle-plate.step", plate().bodies)));
    // Zero and Z of the drawing, so that the tool looks into the pockets.
    const gp_Dir up = gp_Dir(0, 0, 1).Transformed(plate().placement);
    ASSERT_TRUE(up.IsEqual(gp_Dir(0, -1, 0), 1e-9));
    driver.session().document().act(QStringLiteral("Seat"), seated());
    ASSERT_TRUE(driver.wait([&] {
      return session().checks().corners() && !session().checks().checking().is_busy() &&
             session().checks().corners()->options.axis.IsEqual(up, 1e-6);
    }));
  }
  // The placement that undoes the assembly's.
  Job seated() const {
    Recipe step;
    step.construction = "place.face-down";
    const Part& part = *driver.session().document().part();
    const int bottom = face_at(part, gp_Pnt(120, 40, 0).Transformed(plate().placement), SurfaceKind::kPlane);
    step.inputs.push_back(
        {describe(part, driver.session().document().part_entry(), TopologyKind::kFace, bottom), {}});
    step.parameters = initial_parameters(*find_construction("place.face-down"));
    return with_placement_step(driver.session().document().job(), step);
  }
  void take_cutters(const std::string& list) {
    const auto cutters = read_cutters(list);
    ASSERT_TRUE(cutters);
    Inspection inspection = session().document().job().inspection;
    inspection.cutters = *cutters;
    session().document().act(QStringLiteral("Cutters"),
                             with_inspection(session().document().job(), inspection));
  }
  app::Session& session() const { return driver.session(); }
  QTreeView* table(Table which) { return driver.window().drawer().table(which); }
  QString cell(QTreeView* view, const QString& row, const QString& column) {
    const QAbstractItemModel& model = *view->model();
    for (int r = 0; r < model.rowCount(); ++r)
      for (int c = 0; c < model.columnCount(); ++c)
        if (model.index(r, 0).data().toString() == row &&
            model.headerData(c, Qt::Horizontal).toString() == column)
          return model.index(r, c).data().toString();
    ADD_FAILURE() << "no " << column.toStdString() << " of " << row.toStdString();
    return {};
  }
  // The row of the pocket this deep.
  QString pocket_with_depth(const QString& depth) {
    const QAbstractItemModel& model = *table(Table::kCorners)->model();
    for (int r = 0; r < model.rowCount(); ++r)
      if (QString name = model.index(r, 0).data().toString();
          cell(table(Table::kCorners), name, QStringLiteral("Depth")) == depth)
        return name;
    return {};
  }

  mutable WindowDriver driver;
};

// What a cutter of 8 leaves in the pockets whose corners are 1.5 (one sharp), and 3 over a floor rounded
// by 1.
double left_by_eight() {
  const auto corner = [](double r) { return (1 - kPi / 4) * (16 - r * r); };
  double volume = 6 * (3 * corner(1.5) + corner(0)) + 7 * 4 * corner(3);
  constexpr int kSlices = 1000;
  for (int i = 0; i < kSlices; ++i) {
    const double up = (i + 0.5) / kSlices, in = 1 - std::sqrt(1 - (1 - up) * (1 - up));
    volume += 4 * corner(3 - in) / kSlices;
  }
  return volume;
}

TEST_F(InspectionWindow, ACutterOfTheListIsChosenAndWhatItLeavesIsRead) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of corners")));
  QTreeView* corners = table(Table::kCorners);
  ASSERT_TRUE(driver.wait([&] { return corners->model()->rowCount() == 5; }));
  take_cutters(demo::cutters_csv());
  ASSERT_TRUE(driver.wait([&] {
    return session().checks().judged_cutters() && session().checks().judged_cutters()->size() == 5;
  }));

  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("12.000")), QStringLiteral("From the list")),
            QStringLiteral("T2 end mill Ø12"));
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("8.000")), QStringLiteral("From the list")),
            QStringLiteral("T5 end mill Ø6"));
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("6.000")), QStringLiteral("Fit")),
            QStringLiteral("✕ no"));
  EXPECT_TRUE(cell(corners, pocket_with_depth(QStringLiteral("22.000")), QStringLiteral("From the list"))
                  .startsWith(QStringLiteral("none: T7")));  // no flute is as long as the plate is thick

  auto* list = static_cast<QComboBox*>(driver.child(QStringLiteral("drawer.cutter-list")));
  list->setFocus();
  driver.type(QStringLiteral("T3"));
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait([&] {
    return session().checks().left() && std::abs(session().checks().left()->diameter_mm - 8) < 1e-9 &&
           !session().checks().leaving().is_busy();
  }));
  EXPECT_NEAR(session().checks().left()->volume_mm3, left_by_eight(), 0.02 * left_by_eight());
  // The pockets' shares are all of it; where the cutter fits nothing is left.
  double shares = 0;
  for (const double share : *session().checks().left_in_pockets()) shares += share;
  EXPECT_NEAR(shares, session().checks().left()->volume_mm3, 1e-6 * shares);
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("12.000")), QStringLiteral("Left")),
            QStringLiteral("0.0"));
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("12.000")), QStringLiteral("Fit")),
            QStringLiteral("✓ fits"));
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("8.000")), QStringLiteral("Fit")),
            QStringLiteral("✕ no"));

  // A typed diameter, with an expression.
  driver.click_widget(driver.child(QStringLiteral("drawer.cutter-diameter")), QPoint(-1, -1), 1, 2);
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("2*1.4"));
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait([&] {
    return session().checks().cutter_mm() && std::abs(*session().checks().cutter_mm() - 2.8) < 1e-9;
  }));
  EXPECT_EQ(cell(corners, pocket_with_depth(QStringLiteral("8.000")), QStringLiteral("Fit")),
            QStringLiteral("✓ fits"));

  // A pocket's row shows its passage on the part.
  for (int row = 0; row < corners->model()->rowCount(); ++row)
    if (const QModelIndex index = corners->model()->index(row, 0);
        index.data().toString() == pocket_with_depth(QStringLiteral("22.000")))
      driver.click_widget(corners->viewport(), corners->visualRect(index).center());
  ASSERT_TRUE(session().checks().shown_passage());
  EXPECT_NEAR(session().checks().shown_passage()->width_mm, 8, 1e-6);
  EXPECT_FALSE(session().checks().shown_faces().empty());
}

// All of it in a row: the cutters and the list come from files, nothing is mended, the drawing goes out.
TEST_F(InspectionWindow, FromTheCutterToTheListToTheDrawing) {
  const auto from_demo = [&](const char* name, const std::string& text) {
    QString path = driver.folder() + QLatin1Char('/') + QLatin1String(name);
    EXPECT_TRUE(write_file_atomically(path.toStdString(), text));
    return path;
  };
  take_cutters(*read_file(from_demo("cutters.csv", demo::cutters_csv()).toStdString()));
  driver.key(QStringLiteral("ctrl+shift+c"));
  ASSERT_TRUE(driver.wait(
      [&] { return session().checks().judged_cutters() && !session().checks().judged_cutters()->empty(); }));
  auto* list = static_cast<QComboBox*>(driver.child(QStringLiteral("drawer.cutter-list")));
  list->setFocus();
  driver.type(QStringLiteral("T3"));
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait(
      [&] { return session().checks().left_in_pockets() && session().checks().left()->diameter_mm == 8; }));
  const QString told = static_cast<QLabel*>(driver.child(QStringLiteral("drawer.cutter-told")))->text();
  EXPECT_TRUE(told.contains(QString::number(session().checks().left()->volume_mm3, 'f', 1)))
      << told.toStdString();
  // The list is in the coordinates of the file.
  session().document().act(QStringLiteral("As delivered"),
                           with_reading_frame(session().document().job(), kReadDelivered));
  driver.window().compare_with(from_demo("saddle-plate-holes.csv", demo::saddle_plate_holes_csv()));
  ASSERT_TRUE(driver.wait([&] { return table(Table::kComparison)->model()->rowCount() == 13; }));
  EXPECT_EQ(driver.child(QStringLiteral("drawer.button.comparison"))->property("text").toString(),
            QStringLiteral("Comparison ✕ 3"));
  const Job before = session().document().job();
  const QString drawing = driver.folder() + QStringLiteral("/plate.dxf");
  const gp_Dir up = gp_Dir(0, 0, 1).Transformed(plate().placement * gp_Trsf());
  driver.window().write_drill_drawing_to(drawing,
                                         up.Transformed(session().document().evaluation().placement));
  ASSERT_TRUE(driver.wait([&] { return QFileInfo::exists(drawing); }));
  const auto dxf = read_file(drawing.toStdString());
  ASSERT_TRUE(dxf);
  EXPECT_NE(dxf->find("H3.3"), std::string::npos);
  EXPECT_TRUE(same_job(before, session().document().job())) << "nothing was mended";
}

TEST_F(InspectionWindow, TheSliderIsFollowedAndTheFullAnswerComesBehind) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of corners")));
  ASSERT_TRUE(driver.wait([&] { return session().checks().left() != nullptr; }));
  auto* slider = static_cast<QSlider*>(driver.child(QStringLiteral("drawer.cutter")));
  slider->setFocus();
  for (int i = 0; i < 3; ++i) driver.key(QStringLiteral("Page_Up"));
  ASSERT_TRUE(driver.wait([&] {
    return !session().checks().leaving().is_busy() && session().checks().left() &&
           std::abs(session().checks().left()->diameter_mm - *session().checks().cutter_mm()) < 1e-9;
  }));
  const auto full = left_by_cutter(*session().checks().corners()->sections, *session().checks().cutter_mm());
  ASSERT_TRUE(full);
  EXPECT_NEAR(session().checks().left()->volume_mm3, full->volume_mm3, 1e-9);
  driver.window().drawer().close_tables();
  EXPECT_FALSE(session().checks().cutter_mm());
}

TEST_F(InspectionWindow, CornersAreGroupedByRadiusAndOpenToSingleOnes) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of corners")));
  auto* grouping = static_cast<QComboBox*>(driver.child(QStringLiteral("drawer.grouping")));
  grouping->setFocus();
  driver.key(QStringLiteral("Down"));
  QTreeView* corners = table(Table::kCorners);
  QStringList groups;
  for (int row = 0; row < corners->model()->rowCount(); ++row) {
    const QModelIndex group = corners->model()->index(row, 0);
    groups << group.data().toString();
    ASSERT_TRUE(corners->model()->hasChildren(group));
    corners->expand(group);
    driver.settle();
    const int told = groups.back().section(QString::fromUtf8("× "), 1).toInt();
    EXPECT_EQ(corners->model()->rowCount(group), told) << groups.back().toStdString();
  }
  for (const char* expected : {"R 1.500 × 3", "R 3.000 × 4", "R 4.000 × 4", "R 6.000 × 4"})
    EXPECT_TRUE(groups.contains(QString::fromUtf8(expected)))
        << expected << " in " << groups.join(QLatin1Char('|')).toStdString();
}

TEST_F(InspectionWindow, HolesAreComparedWithTheListAndTheWrongOnesTold) {
  session().document().act(QStringLiteral("As delivered"),
                           with_reading_frame(session().document().job(), kReadDelivered));
  ASSERT_TRUE(
      driver.wait([&] { return session().checks().holes() && !session().checks().checking().is_busy(); }));
  const QString list = driver.folder() + QStringLiteral("/saddle-plate-holes.csv");
  ASSERT_TRUE(write_file_atomically(list.toStdString(), demo::saddle_plate_holes_csv()));
  driver.window().compare_with(list);
  QTreeView* view = table(Table::kComparison);
  ASSERT_TRUE(view->isVisible());
  EXPECT_EQ(view->model()->rowCount(), 13);
  EXPECT_EQ(cell(view, QStringLiteral("B3"), QStringLiteral("Result")), QStringLiteral("✕ fail"));
  EXPECT_EQ(cell(view, QStringLiteral("B3"), QStringLiteral("Position")), QStringLiteral("0.700"));
  EXPECT_EQ(cell(view, QStringLiteral("T1"), QStringLiteral("Why")),
            QStringLiteral("depth 14.000 instead of 16.000"));
  EXPECT_EQ(cell(view, QStringLiteral("oil hole"), QStringLiteral("Result")), QStringLiteral("✕ missing"));
  EXPECT_EQ(cell(view, QStringLiteral("P1"), QStringLiteral("Result")), QStringLiteral("✓ pass"));
  driver.settle();
  // A row shows its hole; a list with a mistake names line and column, and the one that is open stays.
  driver.click_widget(view->viewport(), view->visualRect(view->model()->index(0, 0)).center());
  EXPECT_FALSE(session().checks().shown_faces().empty());
  const QString wrong = driver.folder() + QStringLiteral("/wrong.csv");
  ASSERT_TRUE(write_file_atomically(wrong.toStdString(), "x;y;z;Diameter\n1;2;3;six\n"));
  driver.window().compare_with(wrong);
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("line 2")));
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("Diameter")));
  EXPECT_EQ(view->model()->rowCount(), 13);
  driver.click_widget(driver.child(QStringLiteral("comparison.drop")));
  EXPECT_EQ(view->model()->rowCount(), 0);
}

TEST_F(InspectionWindow, AHolesRowOpensIsNamedAndItsPatternIsPicked) {
  driver.key(QStringLiteral("ctrl+shift+h"));
  QTreeView* holes = table(Table::kHoles);
  ASSERT_TRUE(driver.wait([&] { return session().checks().survey() != nullptr; }));
  // What is found later does not take the selection away.
  holes->setCurrentIndex(holes->model()->index(2, 0));
  session().bus().announce(app::Change::kSurvey);
  EXPECT_TRUE(holes->selectionModel()->isRowSelected(2));
  const QModelIndex first = holes->model()->index(0, 0);
  const QString name = first.data().toString();
  driver.click_widget(holes->viewport(), holes->visualRect(first).center());
  driver.key(QStringLiteral("Right"));  // opens it
  ASSERT_TRUE(driver.wait([&] { return holes->model()->rowCount(first) > 4; }));
  QMap<QString, QString> told;
  for (int row = 0; row < holes->model()->rowCount(first); ++row)
    told[holes->model()->index(row, 0, first).data().toString()] =
        holes->model()->index(row, 7, first).data().toString();
  // The countersunk row: 20 apart, 8 from the edge; Ø9 at the top.
  EXPECT_EQ(told[QStringLiteral("next hole")], QStringLiteral("H1.2, 20.000 from axis to axis"));
  EXPECT_EQ(told[QStringLiteral("edge")], QStringLiteral("8.000 from the axis"));
  EXPECT_EQ(told[QStringLiteral("wall")], QStringLiteral("3.500 to the next face"));
  EXPECT_TRUE(told.contains(QStringLiteral("other opening")));
  // A name, typed in place, is one act and stays with the hole.
  driver.key(QStringLiteral("Left"));
  driver.key(QStringLiteral("F2"));
  driver.type(QStringLiteral("rim 1"));
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait([&] { return session().document().job().hole_names.size() == 1; }));
  EXPECT_EQ(holes->model()->index(0, 0).data().toString(), QStringLiteral("rim 1"));
  session().document().undo();
  EXPECT_EQ(holes->model()->index(0, 0).data().toString(), name);
  // The row of four with one 0.35 off: its holes are picked by its row, and the offers say which is off.
  QModelIndex pattern;
  for (int row = 0; row < holes->model()->rowCount(); ++row)
    if (holes->model()->index(row, 7).data().toString().startsWith(QStringLiteral("row of 4")))
      pattern = holes->model()->index(row, 0);
  ASSERT_TRUE(pattern.isValid());
  holes->scrollTo(pattern);
  driver.settle();
  driver.click_widget(holes->viewport(), holes->visualRect(pattern).center());
  driver.click_widget(driver.child(QStringLiteral("drawer.pick")));
  ASSERT_EQ(session().tray().picks().size(), 4u);
  const auto& offers = session().tray().offers();
  const auto line_up = std::find_if(offers.begin(), offers.end(), [](const Offer& offer) {
    return offer.construction->id == "measure.line-up";
  });
  ASSERT_NE(line_up, offers.end());
  EXPECT_EQ(line_up->state, Offer::State::kReady);
}

TEST_F(InspectionWindow, TheDrawingAndTheHolesAreHandedOver) {
  const QString folder = driver.folder();
  for (const char* suffix : {"dxf", "svg", "pdf"}) {
    const QString path = folder + QStringLiteral("/plate.") + QLatin1String(suffix);
    driver.window().write_drill_drawing_to(path, session().document().frame().Direction());
    ASSERT_TRUE(driver.wait([&] { return QFileInfo::exists(path); })) << suffix;
    EXPECT_GT(QFileInfo(path).size(), 2000) << suffix;
  }
  EXPECT_TRUE(driver.window().notice().text().startsWith(QStringLiteral("Written: plate.pdf")));
  driver.window().write_drill_drawing_to(folder + QStringLiteral("/plate.dwx"), gp_Dir(0, 0, 1));
  ASSERT_TRUE(driver.wait(
      [&] { return driver.window().notice().text().contains(QStringLiteral(".dxf, .svg or .pdf")); }));
  const QString list = folder + QStringLiteral("/holes.json");
  driver.window().write_hole_list_to(list);
  const auto text = read_file(list.toStdString());
  ASSERT_TRUE(text);
  EXPECT_EQ(nlohmann::json::parse(*text).at("holes").size(), session().checks().holes()->holes.size());
}

TEST_F(InspectionWindow, ToolPlanesStandSideBySideAndAClickLooksAlongOne) {
  driver.key(QStringLiteral("ctrl+shift+g"));
  QTreeView* planes = table(Table::kPlanes);
  EXPECT_EQ(planes->model()->rowCount(), 0) << "there is no setup yet";
  const auto frame_on = [&](const gp_Pnt& in_drawing) {
    Recipe recipe;
    recipe.construction = "frame.on-face";
    const Part& part = *session().document().part();
    const int face = face_at(part, in_drawing.Transformed(plate().placement), SurfaceKind::kPlane);
    recipe.inputs = {{describe(part, session().document().part_entry(), TopologyKind::kFace, face), {}},
                     {EntryReference{kReadPlaced}, {}}};
    recipe.parameters = {{"zero", "box centre"}, {"x", "X of the reading frame"}};
    int id = 0;
    session().document().act(QStringLiteral("Frame"), with_datum(session().document().job(), recipe, &id));
    return id;
  };
  const int top = frame_on(gp_Pnt(120, 40, 22)), bottom = frame_on(gp_Pnt(120, 40, 0));
  int setup = 0;
  session().document().act(QStringLiteral("Setup"), with_setup(session().document().job(), top, &setup));
  session().document().act(QStringLiteral("Tool plane"),
                           with_tool_plane(session().document().job(), setup, bottom));
  ASSERT_TRUE(driver.wait([&] { return planes->model()->rowCount() == 2; }));
  EXPECT_EQ(planes->model()->index(0, 2).data().toString(), QStringLiteral("1.500"));
  EXPECT_NE(planes->model()->index(1, 2).data().toString(), QStringLiteral("1.500"));
  driver.click_widget(planes->viewport(), planes->visualRect(planes->model()->index(1, 1)).center());
  ASSERT_TRUE(driver.wait([&] { return session().document().job().tool_plane == 1; }));
  EXPECT_EQ(session().document().job().reading_frame, setup);
}

TEST_F(InspectionWindow, CuttersAreEditedInTheirFormAndStayInTheJob) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("cutters of this job")));
  QWidget* form = nullptr;
  ASSERT_TRUE(
      driver.wait([&] { return (form = driver.child(QStringLiteral("cutters"))) && form->isVisible(); }));
  auto* cutters = form->findChild<QTableWidget*>(QStringLiteral("cutters.table"));
  driver.click_widget(form->findChild<QWidget*>(QStringLiteral("cutters.add")));
  ASSERT_EQ(cutters->rowCount(), 1);
  const char* const cells[] = {"T9", "drill mill", "1/4in", "", "18", "30", "25"};
  for (int column = 0; column < 7; ++column)
    cutters->setItem(0, column, new QTableWidgetItem(QString::fromLatin1(cells[column])));
  driver.click_widget(form->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
  ASSERT_TRUE(driver.wait([&] { return session().document().job().inspection.cutters.size() == 1; }));
  EXPECT_NEAR(session().document().job().inspection.cutters.front().diameter_mm, 6.35, 1e-9);
  session().document().undo();
  EXPECT_TRUE(session().document().job().inspection.cutters.empty());
}

}  // namespace
}  // namespace anvil::test
