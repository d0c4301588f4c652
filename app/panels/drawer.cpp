#include "app/panels/drawer.h"

#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QSortFilterProxyModel>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QToolButton>
#include <QTreeView>
#include <QVBoxLayout>
#include <functional>
#include <set>
#include <utility>

#include "app/panels/cutter_strip.h"
#include "app/panels/drawer_cells.h"
#include "app/theme.h"
#include "base/file.h"
#include "base/text_table.h"

namespace anvil::app {
Drawer::Drawer(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  stack_ = new QStackedWidget(this);
  strip_ = new CutterStrip(session_, this);
  corners_ = make_page(QStringLiteral("drawer.corners"),
                       {tr("Corner"), tr("Kind"), tr("Radius"), tr("Floor R"), tr("Fit"), tr("Left"),
                        tr("Passage"), tr("To Ø"), tr("Depth"), tr("Reach"), tr("Reach / Ø"), tr("Bottom"),
                        tr("Top"), tr("X"), tr("Y"), tr("From the list")},
                       strip_);
  corners_.view->setEditTriggers(QAbstractItemView::NoEditTriggers);  // not in cells that tell nothing either
  holes_ =
      make_page(QStringLiteral("drawer.holes"), {tr("Hole"), tr("Diameter"), tr("Depth"), tr("X"), tr("Y"),
                                                 tr("Z"), tr("Axis"), tr("Form"), tr("Could be")});
  planes_text_ = new QLabel(
      tr("Corners are looked for along each tool plane of the setups; a click looks along it."), this);
  planes_text_->setObjectName(QStringLiteral("planes.text"));
  planes_text_->setContentsMargins(8, 4, 8, 4);
  planes_ = make_page(QStringLiteral("drawer.planes"),
                      {tr("Setup"), tr("Tool plane"), tr("Smallest R"), tr("Sharp"), tr("Passage"),
                       tr("Cutter to Ø"), tr("From the list"), tr("Holes"), tr("Not judged"), tr("To know")},
                      planes_text_);
  offsets_ = make_page(QStringLiteral("drawer.offsets"),
                       {tr("Setup"), tr("Tool plane"), tr("Offset"), tr("Rotary"), tr("X"), tr("Y"), tr("Z"),
                        tr("Turn"), tr("Zero X"), tr("Zero Y"), tr("Zero Z"), tr("Look at")});
  soundness_ =
      make_page(QStringLiteral("drawer.soundness"), {tr("Finding"), tr("Body"), tr("How bad"), tr("X"),
                                                     tr("Y"), tr("Z"), tr("Healing"), tr("What is wrong")});
  comparison_ = make_page(QStringLiteral("drawer.comparison"),
                          {tr("Listed"), tr("Found"), tr("Result"), tr("dX"), tr("dY"), tr("dZ"),
                           tr("Position"), tr("Ø off"), tr("Depth off"), tr("Why")},
                          build_list_strip());
  build_row(layout);
  layout->addWidget(stack_, 1);
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    // What the cutter leaves is filled into its cells, whether they are seen or not.
    constexpr auto kShown = Changes(Change::kChecks) | Change::kJob | Change::kSoundness | Change::kList |
                            Change::kSurvey | Change::kPart;
    if (what & kShown) ++changes_;
    if (what & (Change::kChecks | Change::kJob | Change::kSoundness | Change::kList)) fill();
    if (what & Change::kLeft) {
      refill_left();
      align_heads();
    }
    if (what & Change::kSurvey) fill_survey();
  });
  connect(holes_.model, &QStandardItemModel::itemChanged, this, [this](const QStandardItem* cell) {
    if (!following_) take_hole_name(*cell);
  });
  const auto look_along = [this](const QModelIndex& index) {
    const QModelIndex row = index.siblingAtColumn(0);
    session_.desk().activate_plane(row.data(kSetupRole).toInt(), row.data(kPlaneRole).toInt());
  };
  connect(planes_.view, &QTreeView::clicked, this, look_along);
  connect(planes_.view, &QTreeView::activated, this, look_along);
  connect(strip_, &CutterStrip::cutter_changed, this, &Drawer::refill_corners);
  connect(strip_, &CutterStrip::grouping_changed, this, &Drawer::refill_corners);
  connect(strip_, &CutterStrip::cutters_wanted, this, &Drawer::cutters_wanted);
  close_tables();
  fill();
}

Drawer::Page Drawer::make_page(const QString& name, const QStringList& columns, QWidget* strip) {
  Page page;
  page.model = new TableRows(0, static_cast<int>(columns.size()), this);
  page.model->setHorizontalHeaderLabels(columns);
  page.proxy = new QSortFilterProxyModel(this);
  page.proxy->setSourceModel(page.model);
  page.proxy->setSortRole(kSortRole);
  page.proxy->setFilterKeyColumn(-1);
  page.proxy->setFilterCaseSensitivity(Qt::CaseInsensitive);
  page.proxy->setRecursiveFilteringEnabled(true);
  page.view = new QTreeView(this);
  page.view->setObjectName(name);
  page.view->setAccessibleName(tr("Table: %1").arg(name.section(QLatin1Char('.'), 1)));
  page.view->setModel(page.proxy);
  page.view->setSortingEnabled(true);
  page.view->sortByColumn(-1, Qt::AscendingOrder);
  page.view->setSelectionMode(QAbstractItemView::ExtendedSelection);
  page.view->setUniformRowHeights(true);
  page.view->setAllColumnsShowFocus(true);
  page.view->header()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  page.view->header()->setHighlightSections(false);
  connect(page.view, &QTreeView::expanded, this, [view = page.view] { fit_columns(view); });
  page.shown = new QWidget(this);
  auto* layout = new QVBoxLayout(page.shown);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  if (strip) layout->addWidget(strip);
  layout->addWidget(page.view, 1);
  stack_->addWidget(page.shown);
  return page;
}

void Drawer::build_row(QVBoxLayout* layout) {
  auto* row = new QFrame(this);
  row->setObjectName(QStringLiteral("drawer_row"));
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(6, 2, 6, 2);
  for (const auto& [table, name] :
       {std::pair(Table::kCorners, "drawer.button.corners"), std::pair(Table::kHoles, "drawer.button.holes"),
        std::pair(Table::kPlanes, "drawer.button.planes"),
        std::pair(Table::kOffsets, "drawer.button.offsets"),
        std::pair(Table::kSoundness, "drawer.button.soundness"),
        std::pair(Table::kComparison, "drawer.button.comparison")}) {
    Page& page = page_of(table);
    page.button = new QToolButton(row);
    page.button->setObjectName(QString::fromLatin1(name));
    page.button->setCheckable(true);
    page.button->setFocusPolicy(Qt::NoFocus);
    line->addWidget(page.button);
    connect(page.button, &QToolButton::clicked, this,
            [this, table = table](bool on) { on ? open(table) : close_tables(); });
    connect(page.view->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            [this, table = table] { on_selection(page_of(table)); });
  }
  line->addSpacing(12);
  build_soundness_row(line);
  not_judged_ = new QToolButton(row);
  not_judged_->setObjectName(QStringLiteral("drawer.not-judged"));
  not_judged_->setToolTip(tr("Show the faces of free form, which no check of holes and corners understands"));
  not_judged_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(not_judged_);
  connect(not_judged_, &QToolButton::clicked, this, [this] {
    if (session_.checks().holes()) session_.checks().show_faces(session_.checks().holes()->not_judged);
  });
  line->addStretch(1);
  filter_ = new QLineEdit(row);
  filter_->setObjectName(QStringLiteral("drawer.filter"));
  filter_->setAccessibleName(tr("Filter the table"));
  filter_->setPlaceholderText(tr("Filter"));
  filter_->setFixedWidth(130);
  line->addWidget(filter_);
  pick_ = new QToolButton(row);
  pick_->setObjectName(QStringLiteral("drawer.pick"));
  pick_->setText(tr("Pick"));
  pick_->setToolTip(
      tr("Pick the holes of the selected rows: of a pattern all of them, to make its line, axis or plane"));
  pick_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(pick_);
  connect(pick_, &QToolButton::clicked, this, &Drawer::pick_selected);
  copy_ = new QToolButton(row);
  copy_->setText(tr("Copy"));
  copy_->setToolTip(tr("Copy the selected rows, or all, as text"));
  copy_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(copy_);
  csv_ = new QToolButton(row);
  csv_->setObjectName(QStringLiteral("drawer.csv"));
  csv_->setText(tr("CSV …"));
  csv_->setToolTip(tr("Write the selected rows, or all, as a table for a spreadsheet"));
  csv_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(csv_);
  connect(csv_, &QToolButton::clicked, this, &Drawer::csv_asked);
  layout->addWidget(row);
  connect(copy_, &QToolButton::clicked, this, &Drawer::copy);
  connect(filter_, &QLineEdit::textChanged, this, [this](const QString& text) {
    make_rows_to_filter();
    for (const Page* page : {&corners_, &holes_, &planes_, &offsets_, &soundness_, &comparison_})
      page->proxy->setFilterFixedString(text);
  });
}

Drawer::Page& Drawer::page_of(Table which) {
  switch (which) {
    case Table::kCorners:
      return corners_;
    case Table::kHoles:
      return holes_;
    case Table::kPlanes:
      return planes_;
    case Table::kOffsets:
      return offsets_;
    case Table::kComparison:
      return comparison_;
    case Table::kSoundness:
      break;
  }
  return soundness_;
}

QTreeView* Drawer::table(Table which) const {
  return const_cast<Drawer*>(this)->page_of(which).view;
}

const Drawer::Page& Drawer::shown_page() const {
  for (const Page* page : {&corners_, &holes_, &planes_, &offsets_, &comparison_})
    if (stack_->currentWidget() == page->shown) return *page;
  return soundness_;
}

bool Drawer::is_open() const {
  return !stack_->isHidden();
}

void Drawer::open(Table which) {
  stack_->setCurrentWidget(page_of(which).shown);
  stack_->setVisible(true);
  setMinimumHeight(which == Table::kCorners || which == Table::kComparison ? 230 : 190);
  setMaximumHeight(QWIDGETSIZE_MAX);
  session_.checks().want_survey(which == Table::kHoles || which == Table::kPlanes);
  Q_EMIT table_shown(which, true);
  fill();
}

void Drawer::close_tables() {
  stack_->setVisible(false);
  setMinimumHeight(0);
  setMaximumHeight(34);
  session_.checks().show_faces({});
  session_.checks().show_place(std::nullopt);
  session_.checks().show_passage(std::nullopt);
  session_.checks().show_pattern(-1);
  session_.checks().want_survey(false);
  Q_EMIT table_shown(Table::kCorners, false);
  refresh_buttons();
}

void Drawer::refresh_buttons() {
  const auto is_shown = [&](const Page& page) { return is_open() && stack_->currentWidget() == page.shown; };
  const bool corners = is_shown(corners_), holes = is_shown(holes_), soundness = is_shown(soundness_);
  soundness_.button->setChecked(soundness);
  const bool nothing_to_check = !session_.document().part();
  soundness_.button->setText(nothing_to_check                 ? tr("Soundness")
                             : !session_.checks().soundness() ? tr("Soundness …")
                             : session_.checks().soundness()->empty()
                                 ? tr("Soundness ✓")
                                 : tr("Soundness %1").arg(session_.checks().soundness()->size()));
  soundness_row_->setVisible(soundness);
  corners_.button->setChecked(corners);
  holes_.button->setChecked(holes);
  offsets_.button->setChecked(is_shown(offsets_));
  planes_.button->setChecked(is_shown(planes_));
  planes_.button->setText(tr("Tool planes"));
  comparison_.button->setChecked(is_shown(comparison_));
  comparison_.button->setText(comparison_text());
  const int offsets = count_offsets();
  offsets_.button->setText(offsets > 0 ? tr("Offsets %1").arg(offsets) : tr("Offsets"));
  const bool exact =
      session_.document().part() && !is_all_mesh(*session_.document().part());  // triangles have neither
  corners_.button->setText(exact && session_.checks().corners()
                               ? tr("Corners %1").arg(session_.checks().corners()->corners.size())
                               : tr("Corners"));
  holes_.button->setText(
      exact && session_.checks().holes()
          ? tr("Holes %1")
                .arg(session_.checks().holes()->holes.size() + session_.checks().holes()->slots.size())
          : tr("Holes"));
  const size_t not_judged = session_.checks().holes() ? session_.checks().holes()->not_judged.size() : 0;
  not_judged_->setText(tr("Not judged %1").arg(not_judged));
  not_judged_->setVisible((corners || holes) && not_judged > 0);
  filter_->setVisible(is_open());
  copy_->setVisible(is_open());
  csv_->setVisible(is_open());
  pick_->setVisible(holes);
  session_.checks().think_of_cutter(
      corners && session_.checks().corners() ? std::optional(strip_->cutter_mm()) : std::nullopt);
  Q_EMIT cutter_changed(session_.checks().cutter_mm());
}

// The open table alone: the others are filled when they are opened.
void Drawer::fill() {
  following_ = true;
  strip_->refresh();
  if (is_open()) {
    fill_shown();
    make_rows_to_filter();
    align_heads();
  }
  following_ = false;
  refresh_buttons();
}

// What was filled after the last change of anything it shows stands as it is.
void Drawer::fill_shown() {
  const QWidget* shown = stack_->currentWidget();
  for (Page* page : {&corners_, &holes_, &planes_, &offsets_, &soundness_, &comparison_})
    if (shown == page->shown && std::exchange(page->filled_at, changes_) == changes_) return;
  if (shown == corners_.shown) fill_corners();
  if (shown == holes_.shown) fill_holes();
  if (shown == planes_.shown) fill_planes();
  if (shown == offsets_.shown) fill_offsets();
  if (shown == soundness_.shown) fill_soundness();
  if (shown == comparison_.shown) fill_comparison();
}

void Drawer::fill_survey() {
  if (!is_open()) return;
  following_ = true;
  if (stack_->currentWidget() == holes_.shown) refill_hole_details();
  if (stack_->currentWidget() == planes_.shown) fill_planes();
  following_ = false;
}

void Drawer::refill_corners() {
  following_ = true;
  fill_corners();
  following_ = false;
  Q_EMIT cutter_changed(session_.checks().cutter_mm());
}

void Drawer::on_selection(Page& page) {
  if (following_) return;
  const QModelIndexList rows = page.view->selectionModel()->selectedRows();
  if (&page == &soundness_ || &page == &comparison_ || &page == &holes_) {
    const QVariantList place = rows.isEmpty() ? QVariantList() : rows.front().data(kPlaceRole).toList();
    session_.checks().show_place(
        place.size() == 3
            ? std::optional(gp_Pnt(place[0].toDouble(), place[1].toDouble(), place[2].toDouble()))
            : std::nullopt);
  }
  if (&page == &corners_) {
    const QVariant pocket = rows.isEmpty() ? QVariant() : rows.front().data(kPocketRole);
    const auto report = session_.checks().corners();
    const bool known =
        report && pocket.isValid() && pocket.toInt() < static_cast<int>(report->pockets.size());
    session_.checks().show_passage(known ? report->pockets[pocket.toInt()].narrowest : std::nullopt);
  }
  if (&page == &holes_) {
    const QVariant pattern = rows.isEmpty() ? QVariant() : rows.front().data(kPatternRole);
    session_.checks().show_pattern(pattern.isValid() ? pattern.toInt() : -1);
  }
  std::vector<int> faces;
  for (const QModelIndex& index : rows)
    for (const int role : {kFacesRole, kShowRole})
      for (const QVariant& face : index.data(role).toList()) faces.push_back(face.toInt());
  session_.checks().show_faces(std::move(faces));
}

namespace {

// Every row of a tree, each before what is under it; the details of holes where they were opened.
void each_row(QAbstractItemModel& model, const QModelIndex& parent,
              const std::function<void(const QModelIndex&)>& see) {
  for (int row = 0; row < model.rowCount(parent); ++row) {
    const QModelIndex index = model.index(row, 0, parent);
    see(index);
    if (index.data(kHoleRole).isValid() && model.canFetchMore(index)) continue;
    model.fetchMore(index);
    each_row(model, index, see);
  }
}

}  // namespace

// A filter looks at what is there.
void Drawer::make_rows_to_filter() {
  if (filter_->text().isEmpty()) return;
  each_row(*shown_page().model, {}, [](const QModelIndex&) {});
}

// The rows that own one of the faces: single corners and holes rather than what they are grouped in.
void Drawer::select_faces(const std::vector<int>& faces) {
  if (!is_open() || faces.empty()) return;
  const Page& page = shown_page();
  const std::set<int> wanted(faces.begin(), faces.end());
  QItemSelection groups, single;
  each_row(*page.proxy, {}, [&](const QModelIndex& index) {
    const QVariantList own = index.data(kFacesRole).toList();
    if (std::none_of(own.begin(), own.end(), [&](const QVariant& f) { return wanted.count(f.toInt()) > 0; }))
      return;
    const QModelIndex last = index.siblingAtColumn(page.proxy->columnCount() - 1);
    const bool is_group = page.proxy->hasChildren(index) && !index.data(kHoleRole).isValid();
    (is_group ? groups : single).select(index, last);
  });
  const QItemSelection& selection = single.isEmpty() ? groups : single;
  if (selection.isEmpty()) return;
  following_ = true;
  page.view->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
  page.view->scrollTo(selection.indexes().front());
  following_ = false;
}

// The heads, then the selected rows, or all.
QList<QStringList> Drawer::shown_cells() const {
  const Page& page = shown_page();
  QModelIndexList rows = page.view->selectionModel()->selectedRows();
  if (rows.isEmpty()) each_row(*page.proxy, {}, [&](const QModelIndex& index) { rows << index; });
  QList<QStringList> lines(1);
  for (int column = 0; column < page.proxy->columnCount(); ++column)
    lines.front() << page.proxy->headerData(column, Qt::Horizontal).toString();
  for (const QModelIndex& row : rows) {
    QStringList cells;
    for (int column = 0; column < page.proxy->columnCount(); ++column)
      cells << row.siblingAtColumn(column).data().toString();
    lines << cells;
  }
  return lines;
}

void Drawer::copy() const {
  QString text;
  for (QStringList cells : shown_cells()) {
    for (QString& cell : cells) cell = QString::fromStdString(cell_text(cell.toStdString()));
    text += cells.join(QLatin1Char('\t')) + QLatin1Char('\n');
  }
  QApplication::clipboard()->setText(text);
}

// RFC 4180.
Result<void> Drawer::write_csv(const QString& path) const {
  QString text;
  for (QStringList cells : shown_cells()) {
    for (QString& cell : cells) cell = QString::fromStdString(written_cell(cell.toStdString()));
    text += cells.join(QLatin1Char(',')) + QStringLiteral("\r\n");
  }
  return write_file_atomically(path.toStdString(), text.toStdString());
}

void Drawer::csv_asked() {
  const QString path = QFileDialog::getSaveFileName(this, tr("Write the table"), QStringLiteral("table.csv"),
                                                    tr("Tables (*.csv)"));
  if (path.isEmpty()) return;
  const auto written = write_csv(path);
  session_.bus().tell(written ? tr("Written: %1.").arg(QFileInfo(path).fileName())
                              : QString::fromStdString(written.error().sentence));
}

// Over columns of numbers the heads stand to the right as these do.
void Drawer::align_heads() {
  QStandardItemModel& model = *shown_page().model;
  for (int column = 0; column < model.columnCount(); ++column) {
    const QStandardItem* cell = nullptr;
    for (int row = 0; row < model.rowCount() && !cell; ++row) cell = model.item(row, column);
    const bool to_the_right = cell && cell->textAlignment().testFlag(Qt::AlignRight);
    if (to_the_right && !model.headerData(column, Qt::Horizontal, Qt::TextAlignmentRole).isValid())
      model.setHeaderData(column, Qt::Horizontal, QVariant(Qt::AlignRight | Qt::AlignVCenter),
                          Qt::TextAlignmentRole);
  }
}

}  // namespace anvil::app
