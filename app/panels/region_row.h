// Under the picks, for the last region of a scan among them or the one that was clicked there: how far its
// points may scatter, and as what it is fitted. The region grows anew while the slider moves.
#pragma once

#include <QTimer>
#include <QWidget>

#include "app/state/session.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QSlider;

namespace anvil::app {

class RegionRow : public QWidget {
  Q_OBJECT
 public:
  explicit RegionRow(Session& session, QWidget* parent = nullptr);

  bool focus();    // the keyboard into the tolerance; false when no region is picked
  void refresh();  // hides itself when no region is picked

 private:
  void build_fields();
  void typed();
  void ask();  // for a region as the fields say
  [[nodiscard]] const Pick* pick() const;

  Session& session_;
  int index_ = -1;        // of the pick
  double wanted_mm_ = 0;  // 0: as the scan scatters
  double middle_mm_ = 0;  // of the slider
  gp_Pnt seed_;           // whose middle it is
  bool refreshing_ = false;
  QTimer settle_;  // a region is not grown for every step of the slider on the way
  QLabel* heading_ = nullptr;
  QLabel* result_ = nullptr;
  QLineEdit* within_ = nullptr;
  QSlider* slider_ = nullptr;
  QComboBox* as_ = nullptr;
};

}  // namespace anvil::app
