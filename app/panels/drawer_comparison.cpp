// The drawer's table of comparison: what a list asks for beside what the part has.
#include <QHBoxLayout>
#include <QLabel>
#include <QStandardItemModel>
#include <QToolButton>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"

namespace anvil::app {

QWidget* Drawer::build_list_strip() {
  auto* strip = new QWidget(this);
  auto* line = new QHBoxLayout(strip);
  line->setContentsMargins(6, 2, 6, 2);
  auto* open_list = new QToolButton(strip);
  open_list->setObjectName(QStringLiteral("comparison.open"));
  open_list->setText(tr("Open a list …"));
  open_list->setFocusPolicy(Qt::NoFocus);
  line->addWidget(open_list);
  drop_list_ = new QToolButton(strip);
  drop_list_->setObjectName(QStringLiteral("comparison.drop"));
  drop_list_->setText(tr("Put it away"));
  drop_list_->setFocusPolicy(Qt::NoFocus);
  line->addWidget(drop_list_);
  list_text_ = new QLabel(strip);
  list_text_->setTextFormat(Qt::PlainText);
  line->addWidget(list_text_, 1);
  connect(open_list, &QToolButton::clicked, this, &Drawer::list_wanted);
  connect(drop_list_, &QToolButton::clicked, this, [this] { session_.checks().drop_list(); });
  return strip;
}

QString Drawer::comparison_text() const {
  if (!session_.checks().hole_list()) return tr("Comparison");
  const auto& rows = session_.checks().comparison().rows;
  const auto wrong = std::count_if(rows.begin(), rows.end(), [](const ComparedHole& row) {
    return row.state != ComparedHole::State::kPass;
  });
  return wrong > 0 ? tr("Comparison ✕ %1").arg(wrong) : tr("Comparison ✓");
}

void Drawer::fill_comparison() {
  QStandardItemModel made;
  drop_list_->setVisible(session_.checks().hole_list().has_value());
  if (!session_.checks().hole_list()) {
    list_text_->setText(
        tr("A table of the holes that should be there: name, x, y, z, diameter, depth, "
           "tolerances. It is read in the reading frame."));
    return show_rows(comparison_.view, *comparison_.model, made);
  }
  const Display& d = session_.document().job().display;
  const auto mm = [&](double v) { return number(v, format_length(v, d)); };
  const Checks::Compared& compared = session_.checks().comparison();
  const auto into_part = session_.document().part_to_reading().Inverted();
  for (const ComparedHole& r : compared.rows) {
    const ListedHole* listed =
        r.listed_index >= 0 ? &session_.checks().hole_list()->holes[static_cast<size_t>(r.listed_index)]
                            : nullptr;
    const bool both = r.state == ComparedHole::State::kPass || r.state == ComparedHole::State::kFail;
    auto* state = words(QString::fromUtf8(r.state == ComparedHole::State::kPass ? "✓ " : "✕ ") +
                        QString::fromLatin1(state_name(r.state)));
    state->setData(QString::fromLatin1(state_name(r.state)), kSortRole);
    state->setForeground(r.state == ComparedHole::State::kPass ? theme().fits : theme().does_not_fit);
    QList<QStandardItem*> row{words(QString::fromStdString(r.listed)), words(QString::fromStdString(r.found)),
                              state};
    for (const double v :
         {r.deviation.X(), r.deviation.Y(), r.deviation.Z(), r.true_position_mm, r.diameter_deviation_mm})
      row << (both ? mm(v) : words({}));
    row << (both && r.depth_deviation_mm ? mm(*r.depth_deviation_mm) : words({}));
    row << words(both && listed ? QString::fromStdString(failure_text(r, *listed, d)) : QString());
    if (r.found_index >= 0)
      row.front()->setData(
          face_list(session_.checks().holes()->holes[static_cast<size_t>(r.found_index)].faces), kFacesRole);
    if (listed) {
      const gp_Pnt at = listed->at.Transformed(into_part);
      row.front()->setData(QVariantList{at.X(), at.Y(), at.Z()}, kPlaceRole);
    }
    made.appendRow(row);
  }
  QString told = tr("%1, %2 holes")
                     .arg(session_.checks().hole_list_name())
                     .arg(session_.checks().hole_list()->holes.size());
  if (!session_.checks().hole_list()->frame.empty())
    told += tr(", in %1").arg(QString::fromStdString(session_.checks().hole_list()->frame));
  if (compared.shift)
    told += tr(" · moved by X %1 Y %2 Z %3 the largest position would be %4 (not applied)")
                .arg(QString::fromStdString(format_length(compared.shift->shift.X(), d)),
                     QString::fromStdString(format_length(compared.shift->shift.Y(), d)),
                     QString::fromStdString(format_length(compared.shift->shift.Z(), d)),
                     QString::fromStdString(format_length(compared.shift->largest_true_position_mm, d)));
  list_text_->setText(told);
  show_rows(comparison_.view, *comparison_.model, made);
}

}  // namespace anvil::app
