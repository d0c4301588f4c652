// Setups in the window: from the housing to offsets in the simulated control, and what networks do wrong.
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProcess>
#include <QPushButton>
#include <QScrollArea>
#include <QTableWidget>
#include <QTcpServer>
#include <QTcpSocket>
#include <QToolButton>

#include <gtest/gtest.h>

#include "app/dialogs/control_panel.h"
#include "app/panels/drawer.h"
#include "app/panels/setup_card.h"
#include "app/view/machine_picture.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/demo_part.h"
#include "geom/primitives.h"
#include "job/setup_edits.h"
#include "setup/shipped_machines.h"
#include "stand-ins/control/probe.h"
#include "store/job_file.h"

namespace anvil {
namespace {

using test::WindowDriver;

// The control as the user starts it, on a free port.
class ControlProcess {
 public:
  explicit ControlProcess(const QStringList& arguments) {
    process_.start(QStringLiteral(ANVIL_BIN_FOLDER "/true-anvil-control"), arguments);
    if (process_.waitForReadyRead(20000))
      port_ = QString::fromUtf8(process_.readLine()).trimmed().section(QLatin1Char(' '), -1);
  }
  ~ControlProcess() {
    process_.kill();
    process_.waitForFinished();
  }
  [[nodiscard]] QString port() const { return port_; }

 private:
  QProcess process_;
  QString port_;
};

class Setups : public testing::Test {
 protected:
  app::Session& session() { return driver.session(); }

  void open_housing() {
    ASSERT_TRUE(
        driver.open(driver.step_file("declination-housing.step", demo::declination_housing().bodies)));
  }
  template <class Widget>
  Widget* child(const char* name) {
    return driver.window().findChild<Widget*>(QLatin1String(name));
  }
  // What was done has been evaluated, checks and all.
  bool done() {
    return driver.wait([&] {
      return !session().document().evaluating().is_busy() && !session().checks().checking().is_busy() &&
             session().checks().holes() && session().checks().corners();
    });
  }
  void choose(QComboBox* box, const QString& beginning) {
    ASSERT_TRUE(box);
    for (int i = 0; i < box->count(); ++i)
      if (box->itemText(i).startsWith(beginning)) {
        box->setCurrentIndex(i);
        Q_EMIT box->activated(i);
        ASSERT_TRUE(done());
        return;
      }
    FAIL() << beginning.toStdString();
  }
  // Scrolled to, as a user would; then clicked.
  void click(QWidget* widget) {
    ASSERT_TRUE(widget);
    auto* area = child<QScrollArea>("setup.area");
    if (area->isAncestorOf(widget)) area->ensureWidgetVisible(widget);
    driver.settle();
    driver.click_widget(widget);
  }
  void type_into(QLineEdit* field, const QString& text) {
    click(field);
    driver.key(QStringLiteral("ctrl+a"));
    driver.type(text);
    driver.key(QStringLiteral("Tab"));
    ASSERT_TRUE(done());
  }
  // Seated, and OP10 from the top and the edge along X.
  void make_op10() {
    open_housing();
    session().checks().suggest_seats();
    session().checks().take_seat(0);
    ASSERT_TRUE(done());
    driver.window().view_pane().look_from(app::ViewPane::Side::kIso);
    driver.settle();
    driver.click_part(gp_Pnt(10, -44, 80));
    driver.click_part(gp_Pnt(20, -50, 80));
    ASSERT_EQ(session().tray().picks().size(), 2u);
    ASSERT_TRUE(driver.choose_offer(QStringLiteral("Frame on ①, Z out of it, X along ②")));
    driver.click_widget(child<QPushButton>("tray.as_setup"));
    ASSERT_TRUE(done());
    ASSERT_TRUE(session().desk().opened_setup());
  }
  QString said() { return child<QLabel>("control.said")->text(); }
  void connect_to(const QString& port) {
    if (!driver.window().findChild<app::ControlPanel*>()) {
      ASSERT_TRUE(driver.run_command(QStringLiteral("control")));
    }
    auto* field = child<QLineEdit>("control.port");
    driver.click_widget(field);
    driver.key(QStringLiteral("ctrl+a"));
    driver.type(port);
    driver.click_widget(child<QPushButton>("control.connect"));
  }

  WindowDriver driver;
};

TEST_F(Setups, FromTheHousingToTheControlAndTheSheet) {
  make_op10();
  EXPECT_EQ(session().document().job().find(session().desk().opened_setup_id())->name, "OP10");
  EXPECT_LT(session().document().frame().Direction().Angle(gp_Dir(0, 0, 1)), 1e-9);

  // Proposals: five axes, the setup's own among them; three are kept.
  click(child<QPushButton>("setup.propose"));
  ASSERT_TRUE(driver.wait([&] { return session().desk().proposals() != nullptr; }));
  auto* proposed = child<QListWidget>("setup.proposed");
  ASSERT_EQ(proposed->count(), 5);
  EXPECT_TRUE(proposed->item(0)->text().contains(QStringLiteral("that is OP10")))
      << proposed->item(0)->text().toStdString();
  for (int row = 0; row < proposed->count(); ++row)
    if (session().desk().proposals()->axes[static_cast<size_t>(row)].towards_tool.IsEqual(gp_Dir(0, 0, 1),
                                                                                          1e-6))
      proposed->item(row)->setCheckState(Qt::Unchecked);  // the hole into the bore waits for another setup
  click(child<QPushButton>("setup.keep_proposed"));
  ASSERT_TRUE(done());
  ASSERT_EQ(session().desk().opened_setup()->planes.size(), 3u);

  // On the cradle, where the work zero stands over the table.
  choose(child<QComboBox>("setup.machine"), QStringLiteral("Cradle"));
  click(child<QToolButton>("setup.place"));
  type_into(child<QLineEdit>("setup.place.z"), QStringLiteral("-380"));
  type_into(child<QLineEdit>("setup.place.y"), QStringLiteral("1/4in"));

  // The plane of boss A leans 30°: the cradle has two ways to it. The other one is taken.
  const SetupValue* value = session().desk().opened_setup_value();
  int leaning = 0;
  for (size_t i = 1; i < value->planes.size(); ++i)
    if (std::abs(value->planes[i].in_setup.Direction().Z() - std::cos(radians(30))) < 1e-6)
      leaning = static_cast<int>(i);
  ASSERT_GT(leaning, 0);
  session().desk().activate_plane(session().desk().opened_setup_id(), leaning);
  ASSERT_TRUE(done());
  EXPECT_NEAR(
      degrees(session().desk().opened_setup_value()->planes[static_cast<size_t>(leaning)].pose()->angles[0]),
      -30, 1e-6);
  const gp_Dir eye = driver.window().view_pane().seen().Direction();
  EXPECT_LT(
      eye.Angle(active_tool_plane(session().document().job(), session().document().evaluation()).Direction()),
      1e-6);
  click(child<QPushButton>("setup.pose.1"));
  ASSERT_TRUE(done());
  const Angles other =
      session().desk().opened_setup_value()->planes[static_cast<size_t>(leaning)].pose()->angles;
  EXPECT_NEAR(degrees(other[0]), 30, 1e-6);
  // It is called by its boss, and keeps an offset of its own.
  type_into(child<QLineEdit>("setup.plane.name"), QStringLiteral("Boss A"));
  type_into(child<QLineEdit>("setup.plane.offset"), QStringLiteral("g54.1 p12"));
  EXPECT_EQ(session().desk().opened_setup()->planes[static_cast<size_t>(leaning) - 1].name, "Boss A");
  EXPECT_TRUE(
      session().document().evaluation().entries.at(session().desk().opened_setup_id()).reason.empty());
  auto* picture = child<app::MachinePicture>("machine_picture");
  ASSERT_TRUE(driver.wait([&] { return !picture->is_moving(); }));
  EXPECT_EQ(picture->shown_angles(), other);

  // To the control and back.
  const ControlProcess control({QStringLiteral("--machine"), QStringLiteral("cradle-ac")});
  ASSERT_FALSE(control.port().isEmpty());
  connect_to(control.port());
  ASSERT_TRUE(driver.wait([&] { return child<QPushButton>("control.send")->isEnabled(); }))
      << said().toStdString();
  driver.click_widget(child<QPushButton>("control.send"));
  ASSERT_TRUE(driver.wait([&] { return said().contains(QStringLiteral("taken the offsets")); }))
      << said().toStdString();
  driver.click_widget(child<QPushButton>("control.read"));
  ASSERT_TRUE(driver.wait([&] { return said() == QStringLiteral("The control has what is here."); }))
      << said().toStdString();
  auto* table = child<QTableWidget>("control.offsets");
  ASSERT_EQ(table->rowCount(), 4);
  for (int row = 0; row < 4; ++row) EXPECT_EQ(table->item(row, 4)->text(), QStringLiteral("✓ same"));
  driver.click_widget(child<QPushButton>("control.go"));
  ASSERT_TRUE(driver.wait([&] { return said().contains(QStringLiteral("stands at")); }))
      << said().toStdString();
  EXPECT_TRUE(said().contains(QStringLiteral("A30.000000")));

  // A changed place differs from what the control has.
  driver.window().findChild<app::ControlPanel*>()->hide();
  type_into(child<QLineEdit>("setup.place.x"), QStringLiteral("2"));
  driver.window().findChild<app::ControlPanel*>()->show();
  driver.click_widget(child<QPushButton>("control.read"));
  ASSERT_TRUE(driver.wait([&] { return said().contains(QStringLiteral("differ")); })) << said().toStdString();

  // The sheet of all setups, with a picture along each plane.
  const QString sheet = driver.folder() + QStringLiteral("/sheets.html"),
                pdf = driver.folder() + QStringLiteral("/sheets.pdf");
  for (const QString& path : {sheet, pdf}) {
    driver.window().write_setup_sheets_to(path);
    ASSERT_TRUE(driver.wait([&] { return QFile::exists(path); }));
  }
  QFile written(sheet);
  ASSERT_TRUE(written.open(QIODevice::ReadOnly));
  const QByteArray html = written.readAll();
  EXPECT_EQ(html.count("<img src=\"data:image/png;base64,"), 4);
  for (const char* text : {"OP10 · G54", "Cradle A with rotary table C", "Boss A", "G55", "G54.1 P12"})
    EXPECT_TRUE(html.contains(text)) << text;
}

// The cursor still stands in a field when the window goes: its edit must not reach a session that is gone.
TEST_F(Setups, WindowGoesWhileAFieldIsBeingTypedIn) {
  make_op10();
  click(child<QToolButton>("setup.place"));
  auto* field = child<QLineEdit>("setup.place.z");
  click(field);
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("-300"));
  ASSERT_TRUE(driver.wait([&] { return field->text() == QStringLiteral("-300"); }));
  EXPECT_TRUE(field->hasFocus());
}

TEST_F(Setups, PartIsProbedWhereItReallyLiesAndTheSetupFollows) {
  make_op10();
  choose(child<QComboBox>("setup.machine"), QStringLiteral("Cradle"));
  click(child<QToolButton>("setup.place"));
  type_into(child<QLineEdit>("setup.place.z"), QStringLiteral("-300"));
  const QString job = driver.folder() + QStringLiteral("/housing.anvil");
  ASSERT_TRUE(save_job(session().document().job(), job.toStdString()));
  const ControlProcess control({QStringLiteral("--job"), job, QStringLiteral("--spread"),
                                QStringLiteral("0.001"), QStringLiteral("--off"), QStringLiteral("1"),
                                QStringLiteral("--turned"), QStringLiteral("0"), QStringLiteral("--seed"),
                                QStringLiteral("4")});
  ASSERT_FALSE(control.port().isEmpty());
  driver.click_part(gp_Pnt(10, -44, 80));
  driver.click_part(gp_Pnt(-30, -50, 60));
  driver.click_part(gp_Pnt(70, -10, 60));
  ASSERT_EQ(session().tray().picks().size(), 3u);
  connect_to(control.port());
  ASSERT_TRUE(driver.wait([&] { return child<QPushButton>("control.probe")->isEnabled(); }))
      << said().toStdString();
  driver.click_widget(child<QPushButton>("control.probe"));
  ASSERT_TRUE(driver.wait([&] { return child<QPushButton>("control.take_place")->isVisible(); }))
      << said().toStdString();
  const QString found = child<QLabel>("control.found")->text();
  EXPECT_TRUE(found.contains(QStringLiteral("6 of 6 freedoms"))) << found.toStdString();
  const size_t entries = session().document().job().entries.size();
  driver.click_widget(child<QPushButton>("control.keep_frame"));
  ASSERT_TRUE(done());
  EXPECT_EQ(session().document().job().entries.size(), entries + 13);  // twelve touches and the frame
  const Entry& frame = session().document().job().entries.back();
  const Evaluated& evaluated = session().document().evaluation().entries.at(frame.id);
  ASSERT_EQ(evaluated.state, EntryState::kCurrent) << evaluated.reason;
  // In it the work zero has the coordinates that the panel told, but for the spread of the touches.
  const gp_Pnt read =
      read_in(std::get<FrameDatum>(*evaluated.value).frame, session().document().frame().Location());
  driver.click_widget(child<QPushButton>("control.take_place"));
  ASSERT_TRUE(done());
  const auto place = place_of(*session().document().job().find(session().desk().setup_in_use())->setup(), {});
  ASSERT_TRUE(place);
  EXPECT_LT(place->zero.Distance(read), 0.02);
  // Where the control put it down, by the same seed.
  const gp_Pnt truth = gp_Pnt(0, 0, -300).Transformed(control::put_down_by_hand(gp_Pnt(0, 0, -300), 1, 0, 4));
  EXPECT_LT(place->zero.Distance(truth), 0.01);
  EXPECT_LT(std::abs(degrees(place->turn_rad)), 0.01);
}

TEST_F(Setups, NetworkTroubleGivesAMessageNeverAHang) {
  make_op10();
  choose(child<QComboBox>("setup.machine"), QStringLiteral("Cradle"));
  QTcpServer server;
  ASSERT_TRUE(server.listen(QHostAddress::LocalHost));
  const QString port = QString::number(server.serverPort());
  QTcpSocket* line = nullptr;
  QObject::connect(&server, &QTcpServer::newConnection, [&] { line = server.nextPendingConnection(); });
  const auto expect_trouble = [&](const char* words) {
    EXPECT_TRUE(driver.wait([&] { return said().contains(QLatin1String(words)); }, 8))
        << words << ": " << said().toStdString();
    EXPECT_TRUE(driver.wait(
        [&] { return child<QPushButton>("control.connect")->text() == QStringLiteral("Connect"); }, 8));
    EXPECT_FALSE(child<QPushButton>("control.send")->isEnabled());
  };
  // Silent.
  connect_to(port);
  driver.window().findChild<app::ControlPanel*>()->client().set_patience(400);
  expect_trouble("has not answered");
  // Garbage, and a line without an end.
  for (const QByteArray& garbage : {QByteArray("\x01\x02 what\n"), QByteArray(9000, 'x')}) {
    line = nullptr;
    connect_to(port);
    ASSERT_TRUE(driver.wait([&] { return line != nullptr; }));
    line->write(garbage);
    expect_trouble(garbage.endsWith('\n') ? "not understood" : "does not end");
  }
  // Cut in the middle of a question.
  line = nullptr;
  connect_to(port);
  ASSERT_TRUE(driver.wait([&] { return line && line->canReadLine(); }));
  line->write("OK control 1\n");
  ASSERT_TRUE(driver.wait([&] { return child<QPushButton>("control.send")->isEnabled(); }));
  driver.click_widget(child<QPushButton>("control.send"));
  line->abort();
  expect_trouble("cut the line");
  // Nobody there.
  server.close();
  connect_to(port);
  expect_trouble("Nothing listens");
  connect_to(QStringLiteral("99999"));
  EXPECT_TRUE(said().contains(QStringLiteral("1 to 65535")));
}

// Proposed axes name faces by number: of the part they were found on.
TEST_F(Setups, ProposalsGoWithTheirPartAlsoWhenTheyComeLate) {
  make_op10();
  session().desk().propose_planes();
  ASSERT_TRUE(session().desk().proposing().is_busy());
  driver.window().keeper().new_job();
  ASSERT_TRUE(driver.wait([&] { return !session().desk().proposing().is_busy(); }));
  driver.settle();
  EXPECT_EQ(session().desk().proposals(), nullptr);
  make_op10();
  session().desk().propose_planes();
  ASSERT_TRUE(driver.wait([&] { return session().desk().proposals() != nullptr; }));
  session().document().act(QStringLiteral("delete"),
                           without(session().document().job(), session().document().part_entry()));
  driver.settle();
  EXPECT_EQ(session().desk().proposals(), nullptr);
  session().desk().point_at_proposal(0);
  EXPECT_TRUE(session().checks().shown_faces().empty());
}

// A server that answers as it likes.
class Liar {
 public:
  Liar() {
    EXPECT_TRUE(server_.listen(QHostAddress::LocalHost));
    QObject::connect(&server_, &QTcpServer::newConnection, [this] {
      QTcpSocket* line = server_.nextPendingConnection();
      QObject::connect(line, &QTcpSocket::readyRead, line, [this, line] {
        while (line->canReadLine()) {
          const QString asked = QString::fromUtf8(line->readLine()).trimmed();
          ++questions;
          line->write(
              (asked.startsWith(QLatin1String("HELLO")) ? QStringLiteral("OK control 1 Liar") : answer(asked))
                  .toUtf8() +
              '\n');
        }
      });
    });
  }
  [[nodiscard]] QString port() const { return QString::number(server_.serverPort()); }
  std::function<QString(const QString&)> answer = [](const QString&) { return QStringLiteral("OK"); };
  int questions = 0;

 private:
  QTcpServer server_;
};

TEST_F(Setups, AnAnswerToAnotherQuestionIsNotTaken) {
  make_op10();
  choose(child<QComboBox>("setup.machine"), QStringLiteral("Cradle"));
  driver.click_part(gp_Pnt(10, -44, 80));
  Liar liar;
  connect_to(liar.port());
  auto* read = child<QPushButton>("control.read");
  ASSERT_TRUE(driver.wait([&] { return read->isEnabled(); })) << said().toStdString();
  auto* table = child<QTableWidget>("control.offsets");
  const auto answered = [&](const char* button, const QString& answer) {
    liar.answer = [answer](const QString&) { return answer; };
    const int before = liar.questions;
    driver.click_widget(child<QPushButton>(button));
    return driver.wait([&] { return liar.questions > before && read->isEnabled(); }, 8);
  };
  ASSERT_TRUE(answered("control.read", QStringLiteral("OFFSET G54 X0 Y0 Z0")));
  const QString known = table->item(0, 3)->text();
  EXPECT_FALSE(known.isEmpty());
  // Another offset, no numbers, four hundred digits: told, the buttons work, and what was read before is old.
  for (const QString& lie : {QStringLiteral("OFFSET G57 X1 Y2 Z3"), QStringLiteral("OFFSET G54 X. Y. Z."),
                             QStringLiteral("OFFSET G54 X%1 Y0 Z0").arg(QString(400, QLatin1Char('1')))}) {
    ASSERT_TRUE(answered("control.read", lie)) << lie.toStdString();
    EXPECT_TRUE(said().contains(QStringLiteral("asked for the offset G54"))) << said().toStdString();
    EXPECT_EQ(table->item(0, 3)->text(), known + QStringLiteral(" (read before)"));
  }
  ASSERT_TRUE(answered("control.go", QStringLiteral("AT G54 A17 C90")));
  EXPECT_TRUE(said().contains(QStringLiteral("does not stand where it was sent"))) << said().toStdString();
  ASSERT_TRUE(answered("control.send", QStringLiteral("OK 1 lines")));
  EXPECT_TRUE(said().contains(QStringLiteral("read back"))) << said().toStdString();
  liar.answer = [](const QString& asked) {
    return asked.startsWith(QLatin1String("PROBE")) ? QStringLiteral("TOUCH X5000 Y0 Z0")
                                                    : QStringLiteral("AT G54 A0 C0");
  };
  driver.click_widget(child<QPushButton>("control.probe"));
  ASSERT_TRUE(driver.wait([&] { return said().contains(QStringLiteral("on the line from")); }))
      << said().toStdString();
  EXPECT_TRUE(child<QPushButton>("control.probe")->isEnabled());
}

TEST_F(Setups, ANewJobWhileProbingDropsWhatWasTouched) {
  make_op10();
  choose(child<QComboBox>("setup.machine"), QStringLiteral("Cradle"));
  driver.click_part(gp_Pnt(10, -44, 80));
  Liar liar;
  connect_to(liar.port());
  ASSERT_TRUE(driver.wait([&] { return child<QPushButton>("control.probe")->isEnabled(); }))
      << said().toStdString();
  int touches = 0;
  liar.answer = [&](const QString& asked) {
    if (!asked.startsWith(QLatin1String("PROBE"))) return QStringLiteral("AT G54 A0 C0");
    if (++touches == 3) driver.window().keeper().new_job();
    return QStringLiteral("MISS");
  };
  driver.click_widget(child<QPushButton>("control.probe"));
  ASSERT_TRUE(driver.wait([&] { return touches == 3 && !session().document().part(); }));
  driver.settle();
  EXPECT_EQ(touches, 3);
  EXPECT_FALSE(child<QPushButton>("control.take_place")->isVisible());
  EXPECT_TRUE(child<QLabel>("control.found")->text().isEmpty());
}

}  // namespace
}  // namespace anvil
