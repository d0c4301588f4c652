// Lists of sentences: rows that wrap. Internal to app/panels.
#pragma once

#include <QListWidget>
#include <QStyledItemDelegate>
#include <QTreeView>
#include <algorithm>

namespace anvil::app {

// Rows as tall as their words need. The style's padding narrows the words, but not the width it wraps them in
// when it is asked how tall they are, so that the last word of some would be cut off.
class WrappedRows : public QStyledItemDelegate {
 public:
  explicit WrappedRows(QListWidget* list) : QStyledItemDelegate(list), list_(list) {}
  [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    constexpr int kPadding = 12;  // of both sides, in theme.cpp
    QStyleOptionViewItem narrower = option;
    narrower.rect.setWidth(list_->viewport()->width() - kPadding);
    return QStyledItemDelegate::sizeHint(narrower, index);
  }

 private:
  QListWidget* list_;
};

// The same for a tree, in the column that stretches.
class WrappedTreeRows : public QStyledItemDelegate {
 public:
  explicit WrappedTreeRows(QTreeView* tree) : QStyledItemDelegate(tree), tree_(tree) {}
  [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    constexpr int kPadding = 12;
    int depth = 1;
    for (QModelIndex above = index.parent(); above.isValid(); above = above.parent()) ++depth;
    QStyleOptionViewItem narrower = option;
    // The style wraps only in a whole rectangle.
    narrower.rect =
        QRect(0, 0, tree_->columnWidth(index.column()) - depth * tree_->indentation() - kPadding, 1000);
    return QStyledItemDelegate::sizeHint(narrower, index);
  }

 private:
  QTreeView* tree_;
};

// A list of sentences that can be pointed at.
inline QListWidget* sentence_list(const char* name, const QString& accessible_name, QWidget* parent) {
  auto* list = new QListWidget(parent);
  list->setObjectName(QLatin1String(name));
  list->setAccessibleName(accessible_name);
  list->setMouseTracking(true);
  list->setWordWrap(true);
  list->setResizeMode(QListView::Adjust);  // rows wrap anew when a scroll bar takes some of the width
  list->setItemDelegate(new WrappedRows(list));
  list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  return list;
}

// A list as tall as its rows, up to a limit.
inline void fit_height(QListWidget* list, int most) {
  int height = 6;
  for (int i = 0; i < list->count(); ++i) height += list->sizeHintForRow(i);
  list->setFixedHeight(std::clamp(height, 0, most));
}

}  // namespace anvil::app
