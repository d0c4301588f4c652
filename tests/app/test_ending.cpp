// Long work is ended by Esc and with the window: the program itself, as a process with its workers.
#include <QDir>
#include <QElapsedTimer>
#include <QProcess>
#include <QTemporaryDir>
#include <QThread>

#include <gtest/gtest.h>
#include <unistd.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <gp_Circ.hxx>

#include "demo/shapes.h"
#include "exchange/step_format.h"
#include "store/job_file.h"
#include "support/mending.h"
#include "support/process.h"

namespace anvil::test {
namespace {

// What a process and all it started have used of the processor, in seconds.
double processor_s(qint64 process) {
  QFile stat(QStringLiteral("/proc/%1/stat").arg(process));
  if (!stat.open(QIODevice::ReadOnly)) return 0;
  const QByteArray text = stat.readAll();
  const QList<QByteArray> fields = text.mid(text.lastIndexOf(')') + 2).split(' ');
  double used = 0;
  for (int field = 11; field < 15; ++field)  // its own, and that of those which have ended
    used += fields.at(field).toDouble() / static_cast<double>(sysconf(_SC_CLK_TCK));
  const QDir tasks(QStringLiteral("/proc/%1/task").arg(process));
  for (const QString& task : tasks.entryList(QDir::Dirs | QDir::NoDotAndDotDot)) {
    QFile children(tasks.filePath(task + QStringLiteral("/children")));
    if (!children.open(QIODevice::ReadOnly)) continue;
    for (const QByteArray& child : children.readAll().split(' '))
      if (!child.trimmed().isEmpty()) used += processor_s(child.trimmed().toLongLong());
  }
  return used;
}

constexpr double kAtRest = 0.1;

class Program {
 public:
  explicit Program(const QString& file) {
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(QStringLiteral("HOME"), home_.path());
    environment.insert(QStringLiteral("XDG_CONFIG_HOME"), home_.filePath(QStringLiteral("config")));
    environment.insert(QStringLiteral("XDG_DATA_HOME"), home_.filePath(QStringLiteral("data")));
    process_.setProcessEnvironment(environment);
    process_.start(QString::fromStdString(program("true-anvil")), {file});
    process_.waitForStarted();
    // Without a window manager nobody else gives it the keys.
    xdotool({"search", "--sync", "--onlyvisible", "--name", "True Anvil", "windowfocus", "--sync"});
  }
  ~Program() {
    process_.kill();
    process_.waitForFinished();
  }
  // Of two processors, over the next so many seconds.
  double load(double over_s) {
    const double before = processor_s(process_.processId());
    QElapsedTimer clock;
    clock.start();
    QThread::msleep(static_cast<unsigned long>(over_s * 1000));
    return (processor_s(process_.processId()) - before) / (static_cast<double>(clock.elapsed()) / 1000);
  }
  // Whether the program worked all the time since it came, and still does.
  bool works_for(int seconds) {
    for (int second = 0; second < seconds; ++second)
      if (load(1) < kAtRest) return false;
    return process_.state() == QProcess::Running;
  }
  void key(const char* keys) { xdotool({"key", QLatin1String(keys)}); }
  bool ends_within(int seconds) { return process_.waitForFinished(seconds * 1000); }
  bool rests_within(int seconds) {
    for (int fifth = 0; fifth < 5 * seconds; ++fifth)
      if (load(0.2) < kAtRest) return true;
    return false;
  }

 private:
  static void xdotool(const QStringList& arguments) {
    QProcess::execute(QStringLiteral("xdotool"), arguments);
  }
  QTemporaryDir home_;
  QProcess process_;
};

using Makes = std::function<void(const std::filesystem::path&)>;

// Holes that all run into each other.
void crowded_holes(const std::filesystem::path& path) {
  Mending m(plain());
  const int hole =
      m.keep("correct.add-clicked", {m.clicked(m.face({40, 20, 20}), {30, 15, 20})}, {{"diameter", "6"}});
  m.keep("correct.again-along", {m.edge({40, 0, 20}), {EntryReference{hole}, {}}},
         {{"length", "0.01"}, {"places", "200"}});
  ASSERT_TRUE(save_job(m.job, path));
}

template <int holes>
void plate_of_holes(const std::filesystem::path& path) {
  constexpr double kPitch = 8, kSide = holes * kPitch;
  BRepBuilderAPI_MakeFace face(gp_Pln(gp::XOY()), 0, kSide, 0, kSide);
  for (int i = 0; i < holes * holes; ++i) {
    const int column = i % holes, row = i / holes;
    const gp_Pnt middle((column + 0.5) * kPitch, (row + 0.5) * kPitch, 0);
    const TopoDS_Edge round = BRepBuilderAPI_MakeEdge(gp_Circ(gp_Ax2(middle, kDown), 2.5));
    face.Add(BRepBuilderAPI_MakeWire(round));
  }
  Body body;
  body.shape = BRepPrimAPI_MakePrism(face, gp_Vec(0, 0, 12));
  ASSERT_TRUE(write_step({body}, {}, path));
}

struct LongWork {
  const char* name;
  const char* file;
  Makes make;
  int after_s;
};
void PrintTo(const LongWork& work, std::ostream* out) {
  *out << work.name;
}

class Ending : public testing::TestWithParam<LongWork> {
 protected:
  std::string made() {
    const auto path = std::filesystem::path(folder_.path().toStdString()) / GetParam().file;
    GetParam().make(path);
    return path.string();
  }
  QTemporaryDir folder_;
};

constexpr int kPatience_s = 5;  // a fraction of what the work takes

const LongWork kCorrecting{"Correcting", "holes.anvil", crowded_holes, 4},
    kReading{"Reading", "plate.step", plate_of_holes<60>, 1},
    kChecking{"Checking", "plate.step", plate_of_holes<25>, 4};
const auto name_of = [](const auto& each) { return each.param.name; };

class WithTheWindow : public Ending {};
TEST_P(WithTheWindow, NothingIsLeftBehind) {
  Program program(QString::fromStdString(made()));
  ASSERT_TRUE(program.works_for(GetParam().after_s)) << "not long enough to end it";
  program.key("ctrl+q");
  EXPECT_TRUE(program.ends_within(kPatience_s));
}
INSTANTIATE_TEST_SUITE_P(LongWork, WithTheWindow, testing::Values(kCorrecting, kReading, kChecking), name_of);

class ByEsc : public Ending {};
TEST_P(ByEsc, NothingGoesOn) {
  Program program(QString::fromStdString(made()));
  ASSERT_TRUE(program.works_for(GetParam().after_s)) << "not long enough to end it";
  program.key("Escape");
  EXPECT_TRUE(program.rests_within(kPatience_s));
}
INSTANTIATE_TEST_SUITE_P(LongWork, ByEsc, testing::Values(kCorrecting, kReading), name_of);

}  // namespace
}  // namespace anvil::test
