#include "app/panels/drawer_cells.h"

#include <QHeaderView>
#include <algorithm>
#include <array>
#include <functional>
#include <vector>

namespace anvil::app {
namespace {

// Cells of a column by the number of their letters. Letters are not equally wide, so that the longest few
// are measured.
struct Longest {
  struct Cell {
    qsizetype letters = -1;
    QModelIndex index;
    int depth = 0;
  };
  std::array<Cell, 4> cells;

  void add(const Cell& cell) {
    if (cell.letters <= cells.back().letters) return;
    cells.back() = cell;
    std::sort(cells.begin(), cells.end(), [](const Cell& a, const Cell& b) { return a.letters > b.letters; });
  }
};

void add_rows(const QTreeView& view, const QModelIndex& parent, int depth, std::vector<Longest>& columns) {
  const QAbstractItemModel& model = *view.model();
  for (int row = 0; row < model.rowCount(parent); ++row) {
    for (int column = 0; column < static_cast<int>(columns.size()); ++column) {
      const QModelIndex index = model.index(row, column, parent);
      columns[static_cast<size_t>(column)].add({index.data().toString().size(), index, depth});
    }
    const QModelIndex first = model.index(row, 0, parent);
    if (view.isExpanded(first)) add_rows(view, first, depth + 1, columns);
  }
}

}  // namespace

void fit_columns(QTreeView* view) {
  view->ensurePolished();
  std::vector<Longest> columns(static_cast<size_t>(std::max(0, view->model()->columnCount() - 1)));
  add_rows(*view, {}, 1, columns);
  for (int column = 0; column < static_cast<int>(columns.size()); ++column) {
    int width = view->header()->sectionSizeHint(column);
    for (const Longest::Cell& cell : columns[static_cast<size_t>(column)].cells)
      if (cell.index.isValid())
        width = std::max(width, view->sizeHintForIndex(cell.index).width() +
                                    (column == 0 ? cell.depth * view->indentation() : 0));
    view->header()->resizeSection(column, width);
  }
}

}  // namespace anvil::app
