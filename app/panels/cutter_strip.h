// The strip over the table of corners: the cutter in mind (from the list, typed, or by the slider, whose
// range comes from the part), the margin and the holder that corners are judged by, and how the table is
// grouped.
#pragma once

#include <QWidget>

#include "app/state/session.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QSlider;
class QToolButton;

namespace anvil::app {

class CutterStrip : public QWidget {
  Q_OBJECT
 public:
  explicit CutterStrip(Session& session, QWidget* parent = nullptr);

  enum class Grouping { kByPocket, kByRadius };
  [[nodiscard]] Grouping grouping() const;
  [[nodiscard]] double cutter_mm() const { return cutter_mm_; }
  // From the report and the job; a new report sets the cutter to the largest that goes everywhere.
  void refresh();

 Q_SIGNALS:
  void cutter_changed();
  void grouping_changed();
  void cutters_wanted();  // the list, to be read or edited

 private:
  QLineEdit* field(const char* name, const QString& label, int width);
  void set_cutter(double mm, bool dragging);
  void range_for(const CornerReport& report);
  void take_typed();
  void take_settings();
  void show_numbers();

  Session& session_;
  QComboBox *list_ = nullptr, *grouping_ = nullptr;
  QLineEdit *diameter_ = nullptr, *margin_ = nullptr, *holder_ = nullptr;
  QSlider* slider_ = nullptr;
  QLabel* told_ = nullptr;
  double cutter_mm_ = 6, least_mm_ = 0.5, most_mm_ = 20;
  std::shared_ptr<const CornerReport> ranged_for_;
  std::vector<Cutter> listed_;
};

}  // namespace anvil::app
