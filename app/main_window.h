// The window: menu bar, top strip, ledger, view, tray, drawer. Wires them to the session and the job keeper.
#pragma once

#include <QMainWindow>
#include <vector>

#include "app/actions.h"
#include "app/dialogs/preferences.h"
#include "app/job_keeper.h"
#include "app/state/session.h"

class QComboBox;

namespace anvil::app {

class Drawer;
class Finder;
class FormPlace;
struct Findable;
class GuidePane;
class Ledger;
class NoticeBar;
class ProgressLine;
class ProgressStack;
class Tray;
class ViewPane;
class Welcome;

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  MainWindow();
  ~MainWindow() override;

  [[nodiscard]] Session& session() { return session_; }
  [[nodiscard]] JobKeeper& keeper() { return keeper_; }
  [[nodiscard]] ViewPane& view_pane() { return *view_; }
  [[nodiscard]] Drawer& drawer() { return *drawer_; }
  [[nodiscard]] Ledger& ledger() { return *ledger_; }
  [[nodiscard]] FormPlace& forms() { return *forms_; }
  [[nodiscard]] NoticeBar& notice() { return *notice_; }
  [[nodiscard]] Actions& actions() { return actions_; }

  void set_dark(bool dark);
  void apply(const Preferences& preferences);
  void open_files(const QStringList& paths);        // the first opens, the others join its job
  void compare_with(const QString& path);           // a list of holes
  void write_setup_sheets_to(const QString& path);  // all setups; the corners of every tool plane come first
  void write_setup_sheet_to(const QString& path);
  void write_hole_list_to(const QString& path);                                 // CSV, or JSON by its suffix
  void write_drill_drawing_to(const QString& path, const gp_Dir& towards_eye);  // .dxf, .svg or .pdf

 protected:
  void closeEvent(QCloseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void build_actions();
  void build_job_actions();
  void build_edit_actions();
  void build_view_actions();
  void build_construction_actions();
  void build_setup_actions();
  void setup_sheets_asked();
  void drill_drawing_asked(const std::optional<gp_Dir>& towards_eye);
  void build_hand_over_actions();
  void build_help_actions();
  void apply_to_view(const Preferences& preferences);
  void build_welcome();
  void place_welcome();  // over the view, while there is no part
  void open_demo();
  void keep_picture();                   // of what was opened, for the list of recent files
  void show_act(const QString& action);  // where it is in the menus
  void run_act(const QString& action);
  [[nodiscard]] QString keys_as_text() const;
  bool take_letter(QKeyEvent* event);  // typed while offers are shown: it filters them
  void build_menus();
  std::vector<Findable> named_things();  // for the finder
  void add_named_picks(std::vector<Findable>& named);
  void add_entries(std::vector<Findable>& named);
  void add_corners(std::vector<Findable>& named);
  void add_settings(std::vector<Findable>& named);
  void build_strip();
  QWidget* build_panels(QWidget* parent);
  void build_progress();
  void refresh();
  void focus_draft();
  void refresh_frames();
  void tell_written(const Result<void>& written, const QString& path);
  void open_asked();
  void compare_asked();
  void add_asked();
  void export_asked();
  void heal_asked();
  void scale_asked();
  void tolerances_asked();
  void keep_view_asked();
  void fill_recent(QMenu* menu);
  void fill_kept_views(QMenu* menu);
  void build_display_actions();
  bool save_asked(std::function<void()> then = {});
  void leave_job(std::function<void()> then);  // asks when there is something to lose
  void confirm_and_open(const QString& path);

  Session session_;
  JobKeeper keeper_;
  Actions actions_;
  Ledger* ledger_ = nullptr;
  ViewPane* view_ = nullptr;
  Tray* tray_ = nullptr;
  const Construction* drafted_ = nullptr;  // what was being made when it was looked at last
  Drawer* drawer_ = nullptr;
  Finder* finder_ = nullptr;
  GuidePane* guide_ = nullptr;
  FormPlace* forms_ = nullptr;
  Welcome* welcome_ = nullptr;
  NoticeBar* notice_ = nullptr;
  ProgressLine* progress_ = nullptr;
  ProgressLine* checking_ = nullptr;
  ProgressLine* evaluating_ = nullptr;
  ProgressLine* drafting_ = nullptr;
  ProgressLine* growing_ = nullptr;
  ProgressLine* proposing_ = nullptr;
  ProgressLine* surveying_ = nullptr;
  ProgressLine* reporting_ = nullptr;
  ProgressLine* writing_ = nullptr;
  ProgressLine* saving_ = nullptr;
  ProgressLine* healing_ = nullptr;
  ProgressStack* works_ = nullptr;
  QComboBox* frames_ = nullptr;
  QComboBox* units_ = nullptr;
  QComboBox* styles_ = nullptr;
  QMenu* recent_menu_ = nullptr;
  QMenu* views_menu_ = nullptr;
  bool refreshing_ = false;
  bool closing_ = false;
};

}  // namespace anvil::app
