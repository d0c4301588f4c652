// While nothing is picked: what came, how it could stand, what limits cutters, its holes, and what would
// usually come next. Each row that can be pointed at shows its place on the part; a click takes it.
#pragma once

#include <QWidget>
#include <functional>
#include <vector>

#include "app/state/session.h"

class QListWidget;

namespace anvil::app {

class FirstLookCard : public QWidget {
  Q_OBJECT
 public:
  explicit FirstLookCard(Session& session, QWidget* parent = nullptr);

 Q_SIGNALS:
  void asked(const QString& action);  // an act of the window, by its id

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  struct Row {
    std::function<void()> point, take;
  };
  void fill();
  void add_heading(const QString& text);
  void add_row(const QString& symbol, const QString& text, Row row, bool needs_attention = false);
  void add_what_came();
  void add_soundness();
  void add_seats();
  void add_directions();
  void add_holes();
  void add_next();
  void point_at(int row);
  void take(int row);

  Session& session_;
  QListWidget* list_ = nullptr;
  bool all_seats_ = false;
  PartPtr judged_;  // whose unit was looked at, and what looks wrong with it
  QString unit_suspicion_;
  std::vector<Row> rows_;
};

}  // namespace anvil::app
