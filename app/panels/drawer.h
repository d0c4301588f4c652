// The drawer: tables of corners, holes, tool planes, work offsets, soundness and the comparison with a list
// under the view, closed until wanted. A selected row shows on the part; a picked face selects its row.
#pragma once

#include <QWidget>

#include "app/state/session.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;
class QSortFilterProxyModel;
class QStackedWidget;
class QStandardItem;
class QTreeView;
class QToolButton;
class QVBoxLayout;

namespace anvil::app {

class CutterStrip;
class TableRows;

class Drawer : public QWidget {
  Q_OBJECT
 public:
  explicit Drawer(Session& session, QWidget* parent = nullptr);

  enum class Table { kCorners, kHoles, kPlanes, kOffsets, kSoundness, kComparison };
  void open(Table table);
  void close_tables();
  [[nodiscard]] bool is_open() const;
  void select_faces(const std::vector<int>& faces);  // rows of the open table that own one of them
  bool rename_current();  // the hole in the table that has the focus; false where there is none
  void copy() const;      // the selected rows, or all, with their heads, as text
  Result<void> write_csv(const QString& path) const;  // the same, for a spreadsheet
  [[nodiscard]] QTreeView* table(Table table) const;

 Q_SIGNALS:
  void heal_wanted();
  void cutters_wanted();
  void table_shown(Table table, bool open);
  void list_wanted();                                    // of holes, to compare with
  void cutter_changed(std::optional<double> cutter_mm);  // nothing while the corners are not shown

 private:
  [[nodiscard]] QList<QStringList> shown_cells() const;
  void csv_asked();
  void align_heads();
  struct Page {
    QWidget* shown = nullptr;  // the table, with a strip over it where it has one
    QTreeView* view = nullptr;
    TableRows* model = nullptr;
    QSortFilterProxyModel* proxy = nullptr;
    QToolButton* button = nullptr;
    int filled_at = 0;  // after how many changes
  };
  Page make_page(const QString& name, const QStringList& columns, QWidget* strip = nullptr);
  [[nodiscard]] Page& page_of(Table which);
  void build_row(QVBoxLayout* layout);
  void fill();
  void fill_shown();
  void make_rows_to_filter();
  void fill_corners();
  void fill_holes();
  void fill_planes();
  void fill_survey();
  void refill_left();
  void refill_hole_details();
  void take_hole_name(const QStandardItem& cell);
  void pick_selected();
  void fill_offsets();
  [[nodiscard]] int count_offsets() const;
  void fill_soundness();
  void fill_comparison();
  void refill_corners();
  QWidget* build_list_strip();
  [[nodiscard]] QString comparison_text() const;
  void build_soundness_row(QHBoxLayout* line);
  [[nodiscard]] const Page& shown_page() const;
  void on_selection(Page& page);
  void refresh_buttons();

  Session& session_;
  Page corners_, holes_, planes_, offsets_, soundness_, comparison_;
  QStackedWidget* stack_ = nullptr;
  QLineEdit* filter_ = nullptr;
  CutterStrip* strip_ = nullptr;
  QLabel* list_text_ = nullptr;
  QToolButton* drop_list_ = nullptr;
  QToolButton *copy_ = nullptr, *csv_ = nullptr;
  QToolButton* pick_ = nullptr;
  QLabel* planes_text_ = nullptr;
  QToolButton* not_judged_ = nullptr;
  QWidget* soundness_row_ = nullptr;
  QLineEdit* tolerance_ = nullptr;
  bool following_ = false;
  int changes_ = 1;  // of what tables show
};

}  // namespace anvil::app
