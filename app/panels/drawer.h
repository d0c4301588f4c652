// The drawer: tables of corners, holes, work offsets and soundness under the view, closed until wanted. A
// selected row shows on the part; a picked face selects its row.
#pragma once

#include <QWidget>

#include "app/session.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;
class QSlider;
class QSortFilterProxyModel;
class QStackedWidget;
class QStandardItemModel;
class QTableView;
class QToolButton;
class QVBoxLayout;

namespace anvil::app {

class Drawer : public QWidget {
  Q_OBJECT
 public:
  explicit Drawer(Session& session, QWidget* parent = nullptr);

  enum class Table { kCorners, kHoles, kOffsets, kSoundness };
  void open(Table table);
  void close_tables();
  [[nodiscard]] bool is_open() const;
  void select_faces(const std::vector<int>& faces);  // rows of the open table that own one of them
  void copy() const;                                 // the selected rows, or all, as text
  [[nodiscard]] QTableView* table(Table table) const;

 Q_SIGNALS:
  void heal_wanted();
  void cutter_changed(std::optional<double> cutter_mm);  // nothing while the corners are not shown

 private:
  struct Page {
    QTableView* view = nullptr;
    QStandardItemModel* model = nullptr;
    QSortFilterProxyModel* proxy = nullptr;
    QToolButton* button = nullptr;
  };
  Page make_page(const QString& name, const QStringList& columns);
  void build_row(QVBoxLayout* layout);
  void fill();
  void fill_corners();
  void fill_holes();
  void fill_offsets();
  void fill_soundness();
  void build_soundness_row(QHBoxLayout* line);
  [[nodiscard]] const Page& shown_page() const;
  void on_selection(Page& page);
  void tell_cutter();
  void refresh_buttons();

  Session& session_;
  Page corners_, holes_, offsets_, soundness_;
  QStackedWidget* stack_ = nullptr;
  QLineEdit* filter_ = nullptr;
  QSlider* cutter_ = nullptr;
  QLabel* cutter_text_ = nullptr;
  QWidget* cutter_row_ = nullptr;
  QToolButton* copy_ = nullptr;
  QToolButton* not_judged_ = nullptr;
  QWidget* soundness_row_ = nullptr;
  QLineEdit* tolerance_ = nullptr;
  bool following_ = false;
  std::shared_ptr<const CornerReport> ranged_for_;
};

}  // namespace anvil::app
