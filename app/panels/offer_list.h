// What the picks determine: a few likely offers first, the others behind the group of what comes out, all of
// them while something is typed. What does not fit or needs more is folded away.
#pragma once

#include <QWidget>
#include <optional>

#include "app/state/session.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QVBoxLayout;

namespace anvil::app {

class OfferList : public QWidget {
  Q_OBJECT
 public:
  explicit OfferList(Session& session, QWidget* parent = nullptr);

  void refresh();                  // other picks: the likely ones again, nothing typed
  void type(const QString& text);  // into the line that filters
  void next_group(int by);         // 1: the next, -1: the one before
  void walk(int by);               // the marked row, with its ghost
  bool take_marked();              // false when none is marked
  [[nodiscard]] bool is_filtered() const;
  void end_filter();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void build_groups(QVBoxLayout* layout);
  void show_groups();
  void mark_group();
  void add_heading();
  void show_rows();
  void add_row(size_t offer);
  void add_fold(const std::vector<size_t>& folded);
  [[nodiscard]] bool matches(const Offer& offer) const;
  [[nodiscard]] bool is_in_group(const Offer& offer) const;
  void take(int row);

  Session& session_;
  std::optional<Makes> group_;  // none: the likely ones
  bool unfolded_ = false;
  QLabel* heading_ = nullptr;
  QLineEdit* filter_ = nullptr;
  QWidget* groups_ = nullptr;
  QHBoxLayout* group_row_ = nullptr;
  QListWidget* list_ = nullptr;
};

}  // namespace anvil::app
