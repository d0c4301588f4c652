#include "app/panels/drawer.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QSortFilterProxyModel>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <set>

#include "app/panels/drawer_cells.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "base/expression.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

constexpr int kTenthsPerMm = 10;

QVariantList face_list(const std::vector<int>& faces) {
  QVariantList list;
  for (int face : faces) list << face;
  return list;
}

QString corner_words(CornerKind kind) {
  switch (kind) {
    case CornerKind::kWallRound:
      return QObject::tr("wall, round");
    case CornerKind::kWallSharp:
      return QObject::tr("wall, sharp");
    case CornerKind::kTaper:
      return QObject::tr("wall, tapered");
    case CornerKind::kFloorRound:
      return QObject::tr("floor, round");
    case CornerKind::kFloorSharp:
      return QObject::tr("floor, sharp");
  }
  return {};
}

// What is less than the last digit reads as that digit, not as nothing.
QString deviation_text(double mm, const Display& display) {
  const int decimals = display.decimals + 1;
  const double least = mm_per(display.unit) * std::pow(10, -decimals);
  return QString::fromStdString(format_length(std::max(least, mm), {display.unit, decimals}));
}

// The form, and of holes stored as splines how closely they are what is told.
QString hole_words(const HoleReport& report, const Hole& hole, const Display& display) {
  const QString form = QString::fromStdString(report.groups[hole.group].form);
  return hole.deviation_mm > 0
             ? QObject::tr("%1 (within %2)").arg(form, deviation_text(hole.deviation_mm, display))
             : form;
}

}  // namespace

Drawer::Drawer(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  stack_ = new QStackedWidget(this);
  corners_ = make_page(QStringLiteral("drawer.corners"),
                       {tr("Corner"), tr("Kind"), tr("Radius"), tr("Fit"), tr("Angle"), tr("X"), tr("Y"),
                        tr("Bottom"), tr("Top"), tr("Depth"), tr("Reach"), tr("Pocket")});
  holes_ = make_page(QStringLiteral("drawer.holes"), {tr("Hole"), tr("Diameter"), tr("Depth"), tr("X"),
                                                      tr("Y"), tr("Z"), tr("Axis"), tr("Form")});
  offsets_ = make_page(QStringLiteral("drawer.offsets"),
                       {tr("Setup"), tr("Tool plane"), tr("Offset"), tr("Rotary"), tr("X"), tr("Y"), tr("Z"),
                        tr("Turn"), tr("Zero X"), tr("Zero Y"), tr("Zero Z"), tr("Look at")});
  soundness_ =
      make_page(QStringLiteral("drawer.soundness"), {tr("Finding"), tr("Body"), tr("How bad"), tr("X"),
                                                     tr("Y"), tr("Z"), tr("Healing"), tr("What is wrong")});
  build_row(layout);
  layout->addWidget(stack_, 1);
  connect(&session_, &Session::checks_changed, this, &Drawer::fill);
  connect(&session_, &Session::job_changed, this, &Drawer::fill);
  connect(&session_, &Session::soundness_changed, this, &Drawer::fill);
  close_tables();
  fill();
}

Drawer::Page Drawer::make_page(const QString& name, const QStringList& columns) {
  Page page;
  page.model = new QStandardItemModel(0, static_cast<int>(columns.size()), this);
  page.model->setHorizontalHeaderLabels(columns);
  page.proxy = new QSortFilterProxyModel(this);
  page.proxy->setSourceModel(page.model);
  page.proxy->setSortRole(kSortRole);
  page.proxy->setFilterKeyColumn(-1);
  page.proxy->setFilterCaseSensitivity(Qt::CaseInsensitive);
  page.view = new QTableView(this);
  page.view->setObjectName(name);
  page.view->setModel(page.proxy);
  page.view->setSortingEnabled(true);
  page.view->sortByColumn(-1, Qt::AscendingOrder);
  page.view->setSelectionBehavior(QAbstractItemView::SelectRows);
  page.view->setShowGrid(false);
  page.view->verticalHeader()->hide();
  page.view->verticalHeader()->setDefaultSectionSize(22);
  page.view->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  page.view->horizontalHeader()->setHighlightSections(false);
  stack_->addWidget(page.view);
  return page;
}

void Drawer::build_row(QVBoxLayout* layout) {
  auto* row = new QFrame(this);
  row->setObjectName(QStringLiteral("drawer_row"));
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(6, 2, 6, 2);
  for (auto& [page, name] : {std::pair<Page*, const char*>{&corners_, "drawer.button.corners"},
                             {&holes_, "drawer.button.holes"},
                             {&offsets_, "drawer.button.offsets"},
                             {&soundness_, "drawer.button.soundness"}}) {
    page->button = new QToolButton(row);
    page->button->setObjectName(QString::fromLatin1(name));
    page->button->setCheckable(true);
    page->button->setFocusPolicy(Qt::NoFocus);
    line->addWidget(page->button);
    const Table table = page == &corners_   ? Table::kCorners
                        : page == &holes_   ? Table::kHoles
                        : page == &offsets_ ? Table::kOffsets
                                            : Table::kSoundness;
    connect(page->button, &QToolButton::clicked, this,
            [this, table](bool on) { on ? open(table) : close_tables(); });
    connect(page->view->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            [this, page = page] { on_selection(*page); });
  }
  line->addSpacing(12);
  cutter_row_ = new QWidget(row);
  auto* cutter = new QHBoxLayout(cutter_row_);
  cutter->setContentsMargins(0, 0, 0, 0);
  cutter_text_ = new QLabel(cutter_row_);
  cutter_text_->setMinimumWidth(250);
  cutter_ = new QSlider(Qt::Horizontal, cutter_row_);
  cutter_->setObjectName(QStringLiteral("drawer.cutter"));
  cutter_->setRange(5, 200);
  cutter_->setValue(60);
  cutter_->setFixedWidth(150);
  cutter->addWidget(new QLabel(tr("Cutter"), cutter_row_));
  cutter->addWidget(cutter_);
  cutter->addWidget(cutter_text_);
  line->addWidget(cutter_row_);
  build_soundness_row(line);
  not_judged_ = new QToolButton(row);
  not_judged_->setObjectName(QStringLiteral("drawer.not-judged"));
  not_judged_->setToolTip(tr("Show the faces of free form, which no check of holes and corners understands"));
  not_judged_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(not_judged_);
  connect(not_judged_, &QToolButton::clicked, this, [this] {
    if (session_.holes()) session_.show_faces(session_.holes()->not_judged);
  });
  line->addStretch(1);
  filter_ = new QLineEdit(row);
  filter_->setObjectName(QStringLiteral("drawer.filter"));
  filter_->setPlaceholderText(tr("Filter"));
  filter_->setFixedWidth(130);
  line->addWidget(filter_);
  copy_ = new QToolButton(row);
  copy_->setText(tr("Copy"));
  copy_->setToolTip(tr("Copy the selected rows, or all, as text"));
  copy_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(copy_);
  layout->addWidget(row);
  connect(cutter_, &QSlider::valueChanged, this, &Drawer::fill);
  connect(cutter_, &QSlider::valueChanged, this, &Drawer::tell_cutter);
  connect(copy_, &QToolButton::clicked, this, &Drawer::copy);
  connect(filter_, &QLineEdit::textChanged, this, [this](const QString& text) {
    for (const Page* page : {&corners_, &holes_, &offsets_, &soundness_})
      page->proxy->setFilterFixedString(text);
  });
}

void Drawer::build_soundness_row(QHBoxLayout* line) {
  soundness_row_ = new QWidget(this);
  auto* row = new QHBoxLayout(soundness_row_);
  row->setContentsMargins(0, 0, 0, 0);
  row->addWidget(new QLabel(tr("Tolerance"), soundness_row_));
  tolerance_ = new QLineEdit(soundness_row_);
  tolerance_->setObjectName(QStringLiteral("soundness.tolerance"));
  tolerance_->setFont(number_font());
  tolerance_->setFixedWidth(90);
  row->addWidget(tolerance_);
  auto* heal = new QToolButton(soundness_row_);
  heal->setObjectName(QStringLiteral("soundness.heal"));
  heal->setText(tr("Heal …"));
  heal->setFocusPolicy(Qt::NoFocus);
  row->addWidget(heal);
  line->addWidget(soundness_row_);
  connect(heal, &QToolButton::clicked, this, &Drawer::heal_wanted);
  connect(tolerance_, &QLineEdit::editingFinished, this, [this] {
    const auto typed = evaluate_length(tolerance_->text().toStdString(), session_.job().display.unit, {});
    if (typed && *typed > 0) session_.set_soundness_tolerance(*typed);
    fill();
  });
}

QTableView* Drawer::table(Table which) const {
  switch (which) {
    case Table::kCorners:
      return corners_.view;
    case Table::kHoles:
      return holes_.view;
    case Table::kOffsets:
      return offsets_.view;
    case Table::kSoundness:
      break;
  }
  return soundness_.view;
}

const Drawer::Page& Drawer::shown_page() const {
  for (const Page* page : {&corners_, &holes_, &offsets_})
    if (stack_->currentWidget() == page->view) return *page;
  return soundness_;
}

bool Drawer::is_open() const {
  return !stack_->isHidden();
}

void Drawer::open(Table which) {
  stack_->setCurrentWidget(table(which));
  stack_->setVisible(true);
  setMinimumHeight(190);
  setMaximumHeight(QWIDGETSIZE_MAX);
  refresh_buttons();
}

void Drawer::close_tables() {
  stack_->setVisible(false);
  setMinimumHeight(0);
  setMaximumHeight(34);
  session_.show_faces({});
  session_.show_place(std::nullopt);
  refresh_buttons();
}

void Drawer::refresh_buttons() {
  const bool corners = is_open() && stack_->currentWidget() == corners_.view,
             holes = is_open() && stack_->currentWidget() == holes_.view,
             soundness = is_open() && stack_->currentWidget() == soundness_.view;
  soundness_.button->setChecked(soundness);
  const bool nothing_to_check = !session_.part();
  soundness_.button->setText(nothing_to_check        ? tr("Soundness")
                             : !session_.soundness() ? tr("Soundness …")
                             : session_.soundness()->empty()
                                 ? tr("Soundness ✓")
                                 : tr("Soundness %1").arg(session_.soundness()->size()));
  soundness_row_->setVisible(soundness);
  corners_.button->setChecked(corners);
  holes_.button->setChecked(holes);
  offsets_.button->setChecked(is_open() && stack_->currentWidget() == offsets_.view);
  offsets_.button->setText(offsets_.model->rowCount() ? tr("Offsets %1").arg(offsets_.model->rowCount())
                                                      : tr("Offsets"));
  const bool exact = session_.part() && !is_all_mesh(*session_.part());  // triangles have neither
  corners_.button->setText(
      exact && session_.corners() ? tr("Corners %1").arg(session_.corners()->corners.size()) : tr("Corners"));
  holes_.button->setText(
      exact && session_.holes()
          ? tr("Holes %1").arg(session_.holes()->holes.size() + session_.holes()->slots.size())
          : tr("Holes"));
  cutter_row_->setVisible(corners);
  const size_t not_judged = session_.holes() ? session_.holes()->not_judged.size() : 0;
  not_judged_->setText(tr("Not judged %1").arg(not_judged));
  not_judged_->setVisible((corners || holes) && not_judged > 0);
  filter_->setVisible(is_open());
  copy_->setVisible(is_open());
  tell_cutter();
}

void Drawer::tell_cutter() {
  const bool shown = is_open() && stack_->currentWidget() == corners_.view && session_.corners();
  const double diameter = static_cast<double>(cutter_->value()) / kTenthsPerMm;
  if (shown) {
    int states[3] = {0, 0, 0};
    for (const Corner& corner : session_.corners()->corners)
      if (corner.is_wall() && !corner.undercut) ++states[corner_fit(corner, diameter)];
    const Display& display = session_.job().display;
    cutter_text_->setText(tr("Ø %1 %2:  ✓ %3 fit  ≈ %4 tight  ✕ %5 do not")
                              .arg(QString::fromStdString(format_length(diameter, display)),
                                   QString::fromUtf8(unit_name(display.unit)))
                              .arg(states[0])
                              .arg(states[1])
                              .arg(states[2]));
  }
  Q_EMIT cutter_changed(shown ? std::optional<double>(diameter) : std::nullopt);
}

void Drawer::fill() {
  following_ = true;
  // A new report sets the slider to the cutter that just goes into the smallest corner.
  if (session_.corners() && session_.corners() != ranged_for_) {
    ranged_for_ = session_.corners();
    const QSignalBlocker quiet(cutter_);
    if (ranged_for_->largest_cutter_mm)
      cutter_->setValue(static_cast<int>(*ranged_for_->largest_cutter_mm * kTenthsPerMm));
  }
  fill_corners();
  fill_holes();
  fill_offsets();
  fill_soundness();
  following_ = false;
  refresh_buttons();
}

void Drawer::fill_corners() {
  QStandardItemModel& model = *corners_.model;
  model.removeRows(0, model.rowCount());
  if (!session_.corners()) return;
  const Display& d = session_.job().display;
  const gp_Trsf into = into_frame(session_.frame()) * session_.evaluation().placement;
  // Levels in the report count from the origin of the file; in the table from the zero of the reading frame.
  const gp_Pnt zero = gp_Pnt(0, 0, 0).Transformed(into.Inverted());
  const double base = zero.XYZ().Dot(session_.corners()->options.axis.XYZ());
  const double cutter = static_cast<double>(cutter_->value()) / kTenthsPerMm;
  const TopologyIndex& topology = session_.part()->topology();
  for (const Corner& c : session_.corners()->corners) {
    const gp_Pnt at = c.position.Transformed(into);
    const auto mm = [&](double v) { return number(v, format_length(v, d)); };
    auto* fit = words(QStringLiteral("–"));
    if (c.undercut) {
      fit->setText(tr("undercut"));
    } else if (c.is_wall()) {
      static const char* const kFits[] = {"✓ fits", "≈ tight", "✕ no"};
      const size_t state = corner_fit(c, cutter);
      fit->setText(QString::fromUtf8(kFits[state]));
      fit->setForeground(state == 0 ? theme().fits : state == 1 ? theme().tight : theme().does_not_fit);
    }
    fit->setData(fit->text(), kSortRole);
    if (c.deviation_mm > 0)
      fit->setToolTip(tr("Stored as a spline; it is this within %1").arg(deviation_text(c.deviation_mm, d)));
    QList<QStandardItem*> row{
        words(QString::fromStdString(c.name)),
        words(corner_words(c.kind)),
        mm(c.radius_mm),
        fit,
        number(c.angle_rad, format_angle(c.angle_rad, {d.unit, d.decimals, 1})),
        mm(at.X()),
        mm(at.Y()),
        mm(c.bottom_mm - base),
        mm(c.top_mm - base),
        mm(c.depth_mm),
        mm(c.reach_mm),
        words(c.pocket >= 0 ? QString::fromStdString(session_.corners()->pockets[c.pocket].name)
                            : QString())};
    std::vector<int> faces = c.faces;
    if (faces.empty())
      for (int edge : c.edges)
        for (int face : {topology.edges[edge].face_a, topology.edges[edge].face_b}) faces.push_back(face);
    row.front()->setData(face_list(faces), kFacesRole);
    model.appendRow(row);
  }
  corners_.view->resizeColumnsToContents();
}

void Drawer::fill_holes() {
  QStandardItemModel& model = *holes_.model;
  model.removeRows(0, model.rowCount());
  if (!session_.holes()) return;
  const Display& d = session_.job().display;
  const HoleReport report =
      moved(*session_.holes(), into_frame(session_.frame()) * session_.evaluation().placement);
  const auto mm = [&](double v) { return number(v, format_length(v, d)); };
  for (const Hole& h : report.holes) {
    QList<QStandardItem*> row{words(QString::fromStdString(h.name)),
                              mm(h.diameter_mm),
                              mm(h.depth_mm),
                              mm(h.entry.X()),
                              mm(h.entry.Y()),
                              mm(h.entry.Z()),
                              words(QString::fromStdString(direction_text(h.axis))),
                              words(hole_words(report, h, d))};
    row.front()->setData(face_list(h.faces), kFacesRole);
    model.appendRow(row);
  }
  for (const Slot& s : report.slots) {
    const gp_Pnt middle = midpoint(s.centre_a, s.centre_b);
    const QString form = tr("slot %1 × %2%3")
                             .arg(QString::fromStdString(format_length(s.width_mm, d)),
                                  QString::fromStdString(format_length(s.length_mm, d)),
                                  s.through ? tr(" through") : QString());
    QList<QStandardItem*> row{words(QString::fromStdString(s.name)),
                              mm(s.width_mm),
                              mm(s.depth_mm),
                              mm(middle.X()),
                              mm(middle.Y()),
                              mm(middle.Z()),
                              words(QString::fromStdString(direction_text(s.axis))),
                              words(form)};
    row.front()->setData(face_list(s.faces), kFacesRole);
    model.appendRow(row);
  }
  holes_.view->resizeColumnsToContents();
  holes_.view->horizontalHeader()->setStretchLastSection(true);
}

void Drawer::fill_soundness() {
  QStandardItemModel& model = *soundness_.model;
  model.removeRows(0, model.rowCount());
  const Display& d = session_.job().display;
  if (!tolerance_->hasFocus())
    tolerance_->setText(
        QString::fromStdString(format_length(session_.soundness_tolerance_mm(), {d.unit, d.decimals + 1})));
  if (!session_.soundness() || !session_.part()) return;
  const gp_Trsf into = into_frame(session_.frame()) * session_.evaluation().placement;
  for (const Finding& f : *session_.soundness()) {
    QList<QStandardItem*> row{
        words(QString::fromLatin1(finding_name(f.kind)).replace(QLatin1Char('-'), QLatin1Char(' '))),
        words(f.body >= 0 ? QString::fromStdString(session_.part()->bodies()[f.body].name) : QString()),
        f.amount ? number(*f.amount, format_length(*f.amount, {d.unit, d.decimals + 2})) : words(QString())};
    for (int axis = 1; axis <= 3; ++axis) {
      const double v = f.where ? f.where->Transformed(into).Coord(axis) : 0;
      row << (f.where ? number(v, format_length(v, d)) : words(QString()));
    }
    row << words(f.mendable ? tr("can mend it") : tr("cannot")) << words(QString::fromStdString(f.text));
    std::vector<int> faces;
    if (f.face >= 0) faces.push_back(f.face);
    if (f.edge >= 0) faces.push_back(session_.part()->topology().edges[f.edge].face_a);
    row.front()->setData(face_list(faces), kFacesRole);
    if (f.where) row.front()->setData(QVariantList{f.where->X(), f.where->Y(), f.where->Z()}, kPlaceRole);
    model.appendRow(row);
  }
  soundness_.view->resizeColumnsToContents();
  soundness_.view->horizontalHeader()->setStretchLastSection(true);
}

void Drawer::on_selection(Page& page) {
  if (following_) return;
  if (&page == &soundness_) {
    const QModelIndexList rows = page.view->selectionModel()->selectedRows();
    const QVariantList place = rows.isEmpty() ? QVariantList() : rows.front().data(kPlaceRole).toList();
    session_.show_place(place.size() == 3 ? std::optional(gp_Pnt(place[0].toDouble(), place[1].toDouble(),
                                                                 place[2].toDouble()))
                                          : std::nullopt);
  }
  std::vector<int> faces;
  for (const QModelIndex& index : page.view->selectionModel()->selectedRows())
    for (const QVariant& face : index.data(kFacesRole).toList()) faces.push_back(face.toInt());
  session_.show_faces(std::move(faces));
}

void Drawer::select_faces(const std::vector<int>& faces) {
  if (!is_open() || faces.empty()) return;
  const Page& page = shown_page();
  const std::set<int> wanted(faces.begin(), faces.end());
  QItemSelection selection;
  for (int row = 0; row < page.proxy->rowCount(); ++row) {
    const QModelIndex index = page.proxy->index(row, 0);
    const QVariantList own = index.data(kFacesRole).toList();
    if (std::any_of(own.begin(), own.end(), [&](const QVariant& f) { return wanted.count(f.toInt()) > 0; }))
      selection.select(index, page.proxy->index(row, page.proxy->columnCount() - 1));
  }
  if (selection.isEmpty()) return;
  following_ = true;
  page.view->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
  page.view->scrollTo(selection.indexes().front());
  following_ = false;
}

void Drawer::copy() const {
  const Page& page = shown_page();
  QModelIndexList rows = page.view->selectionModel()->selectedRows();
  if (rows.isEmpty())
    for (int row = 0; row < page.proxy->rowCount(); ++row) rows << page.proxy->index(row, 0);
  QStringList lines, head;
  for (int column = 0; column < page.proxy->columnCount(); ++column)
    head << page.proxy->headerData(column, Qt::Horizontal).toString();
  lines << head.join(QLatin1Char('\t'));
  for (const QModelIndex& row : rows) {
    QStringList cells;
    for (int column = 0; column < page.proxy->columnCount(); ++column)
      cells << row.siblingAtColumn(column).data().toString();
    lines << cells.join(QLatin1Char('\t'));
  }
  QApplication::clipboard()->setText(lines.join(QLatin1Char('\n')) + QLatin1Char('\n'));
}

}  // namespace anvil::app
