// What helps on the way: the welcome over an empty view, the guide, the keys, the demo job; and where an act
// is in the menus.
#include <QBuffer>
#include <QFileDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMenuBar>
#include <QPdfWriter>
#include <QStandardPaths>
#include <QTextDocument>
#include <QTimer>

#include "app/dialogs/key_form.h"
#include "app/key_bindings.h"
#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/first_look_card.h"
#include "app/panels/guide_pane.h"
#include "app/panels/offer_list.h"
#include "app/panels/tray.h"
#include "app/panels/welcome.h"
#include "app/view/view_pane.h"
#include "base/file.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "store/job_file.h"

namespace anvil::app {
namespace {

// Opens the menus down to the one that holds the action, with it marked.
bool open_menu_of(QMenu* menu, QAction* action, const QPoint& at) {
  if (menu->actions().contains(action)) {
    menu->popup(at);
    menu->setActiveAction(action);
    return true;
  }
  for (QAction* one : menu->actions())
    if (one->menu() && open_menu_of(one->menu(), action, at)) return true;
  return false;
}

}  // namespace

void MainWindow::build_help_actions() {
  actions_.add(QStringLiteral("help.guide"), tr("Guide"), QKeySequence::HelpContents,
               [this] { guide_->open(); });
  actions_.add(QStringLiteral("help.keys"), tr("Keys and mouse"), QKeySequence(QStringLiteral("Shift+F1")),
               [this] { guide_->show_text(keys_as_text()); });
  actions_.add(QStringLiteral("help.keys-pdf"), tr("Keys on a page, as PDF …"), {}, [this] {
    const QString path = QFileDialog::getSaveFileName(this, tr("Write the keys"), QStringLiteral("keys.pdf"),
                                                      tr("PDF (*.pdf)"));
    if (path.isEmpty()) return;
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    QTextDocument text;
    text.setMarkdown(keys_as_text());
    text.print(&writer);
    const auto written = write_file_atomically(path.toStdString(), bytes.toStdString());
    if (!written) return notice_->tell(QString::fromStdString(written.error().sentence));
    notice_->confirm(tr("Written: %1.").arg(QFileInfo(path).fileName()));
  });
  actions_.add(QStringLiteral("edit.keys"), tr("Keys of all acts …"), {},
               [this] { (new KeyForm(actions_, this))->show(); });
  actions_.add(QStringLiteral("help.demo"), tr("Open the demo job"), {},
               [this] { leave_job([this] { open_demo(); }); });
  apply_own_keys(actions_);
  connect(guide_, &GuidePane::closed, guide_, &QWidget::hide);
  connect(guide_, &GuidePane::act_spoken_of, this, &MainWindow::show_act);
  connect(&tray_->first_look(), &FirstLookCard::asked, this, &MainWindow::run_act);
}

void MainWindow::run_act(const QString& action) {
  if (QAction* found = actions_.find(action); found && found->isEnabled()) found->trigger();
}

void MainWindow::show_act(const QString& name) {
  QAction* action = actions_.find(name);
  if (!action) return;
  for (QAction* title : menuBar()->actions()) {
    const QRect place = menuBar()->actionGeometry(title);
    if (title->menu() && open_menu_of(title->menu(), action, menuBar()->mapToGlobal(place.bottomLeft())))
      return;
  }
}

// Every act that has a key, by the menu it stands in; then what the mouse does.
QString MainWindow::keys_as_text() const {
  QString text = tr("# Keys and mouse\n\n");
  const std::pair<const char*, QString> rooms[] = {
      {"job.", tr("Job")},         {"edit.", tr("Edit")},       {"tray.", tr("Tray")},
      {"view.", tr("View")},       {"define.", tr("Define")},   {"orient.", tr("Orient")},
      {"inspect.", tr("Inspect")}, {"correct.", tr("Correct")}, {"hand-over.", tr("Hand over")},
      {"help.", tr("Help")}};
  for (const auto& [prefix, title] : rooms) {
    QString rows;
    for (const QAction* action : actions_.all()) {
      if (!action->objectName().startsWith(QLatin1String(prefix)) || action->shortcut().isEmpty()) continue;
      rows += QStringLiteral("| %1 | %2 |\n").arg(keys_text(*action), plain_text(*action));
    }
    if (!rows.isEmpty())
      text += tr("## %1\n\n| key | act |\n|---|---|\n").arg(title) + rows + QLatin1Char('\n');
  }
  return text +
         tr("## While offers are shown\n\n"
            "Letters filter them; Space goes to the next group, Shift+Space to the one before; up and down "
            "walk the rows, Enter takes the marked one or the first; a number opens the first that takes "
            "one.\n\n"
            "## Mouse\n\n"
            "- A click picks; again at the same place it walks on to what lies behind; a right click lists "
            "what lies there. Ctrl and the wheel walk before the click.\n"
            "- Two quick clicks take what goes on smoothly from a face or edge, three the hole, pocket or "
            "boss.\n"
            "- A drag to the right takes what is wholly inside, one to the left what it touches; with Ctrl "
            "it "
            "draws what is to fill the view.\n"
            "- Middle drag turns about what was picked last, Shift and middle drag pans, the wheel zooms at "
            "the cursor.\n");
}

// --- the empty window

void MainWindow::build_welcome() {
  welcome_ = new Welcome(view_);
  connect(welcome_, &Welcome::open_asked, this, &MainWindow::open_asked);
  connect(welcome_, &Welcome::file_chosen, this, &MainWindow::confirm_and_open);
  connect(welcome_, &Welcome::demo_asked, this, [this] { run_act(QStringLiteral("help.demo")); });
  connect(welcome_, &Welcome::guide_asked, this, [this] { run_act(QStringLiteral("help.guide")); });
  welcome_->fill();
  // Once the part has stood on the screen for a moment, however many changes came before.
  constexpr int kMoment_ms = 1500;
  auto* standing = new QTimer(this);
  standing->setSingleShot(true);
  standing->setInterval(kMoment_ms);
  connect(standing, &QTimer::timeout, this, &MainWindow::keep_picture);
  connect(&session_.bus(), &ChangeBus::changed, standing, [standing](Changes what) {
    if (what & Change::kPart) standing->start();
  });
}

void MainWindow::place_welcome() {
  if (!welcome_) return;
  const bool empty = !session_.document().part() && !session_.document().is_importing();
  if (empty && !welcome_->isVisible()) welcome_->fill();
  welcome_->setGeometry(view_->view().geometry());
  welcome_->setVisible(empty);
}

void MainWindow::keep_picture() {
  const QStringList recent = JobKeeper::recent_files();
  if (session_.document().part() && !recent.isEmpty())
    Welcome::keep_picture(recent.front(), view_->picture());
}

// The saddle plate as a programmer would leave it, in a folder of the user's own.
void MainWindow::open_demo() {
  const QString folder =
      QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/demo");
  using Written = Result<std::string>;
  keeper_.output().start<Written>(
      tr("Making the demo job"),
      [folder = std::filesystem::path(folder.toStdString())](const Progress&) -> Written {
        std::filesystem::create_directories(folder);
        const demo::DemoPart part = demo::saddle_plate();
        WriteOptions options;
        options.product = part.bodies.front().name;
        const auto file = folder / part.file_name;
        if (auto written = write_step(part.bodies, options, file); !written) return refuse(written);
        auto job = demo::saddle_plate_job(file);
        if (!job) return refuse(job);
        const auto path = folder / "saddle-plate.anvil";
        if (auto saved = save_job(*job, path); !saved) return refuse(saved);
        return path.string();
      },
      [this](const Written& written) {
        if (!written) return notice_->tell(QString::fromStdString(written.error().sentence));
        keeper_.open(QString::fromStdString(*written));
      });
}

// --- letters

// A letter typed while offers are shown filters them, wherever the keyboard is but in a field; Space walks
// their groups, the arrows their rows.
bool MainWindow::take_letter(QKeyEvent* event) {
  if (!tray_ || !tray_->shows_offers()) return false;
  QWidget* focus = focusWidget();
  if (focus && (focus->inherits("QLineEdit") || focus->inherits("QAbstractSpinBox") ||
                focus->inherits("QComboBox") || focus->inherits("QTextEdit")))
    return false;
  if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier)) return false;
  const QString text = event->text();
  const bool letter = text.size() == 1 && text[0].isLetter();
  const int key = event->key();
  if (!letter && key != Qt::Key_Space && key != Qt::Key_Up && key != Qt::Key_Down) return false;
  if (event->type() == QEvent::ShortcutOverride) {
    event->accept();
    return true;
  }
  OfferList& offers = tray_->offers();
  if (letter)
    offers.type(text);
  else if (key == Qt::Key_Space)
    offers.next_group(event->modifiers() & Qt::ShiftModifier ? -1 : 1);
  else
    offers.walk(key == Qt::Key_Down ? 1 : -1);
  return true;
}

}  // namespace anvil::app
