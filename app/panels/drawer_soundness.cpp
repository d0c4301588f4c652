// The drawer's table of soundness.
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QStandardItemModel>
#include <QToolButton>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "base/expression.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"

namespace anvil::app {

void Drawer::build_soundness_row(QHBoxLayout* line) {
  soundness_row_ = new QWidget(this);
  auto* row = new QHBoxLayout(soundness_row_);
  row->setContentsMargins(0, 0, 0, 0);
  row->addWidget(new QLabel(tr("Tolerance"), soundness_row_));
  tolerance_ = new QLineEdit(soundness_row_);
  tolerance_->setObjectName(QStringLiteral("soundness.tolerance"));
  tolerance_->setAccessibleName(tr("Tolerance of soundness"));
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
    const auto typed =
        evaluate_length(tolerance_->text().toStdString(), session_.document().job().display.unit, {});
    if (typed && *typed > 0) session_.checks().set_soundness_tolerance(*typed);
    fill();
  });
}

void Drawer::fill_soundness() {
  QStandardItemModel made;
  const Display& d = session_.document().job().display;
  if (!tolerance_->hasFocus())
    tolerance_->setText(QString::fromStdString(
        format_length(session_.checks().soundness_tolerance_mm(), {d.unit, d.decimals + 1})));
  if (!session_.checks().soundness() || !session_.document().part())
    return show_rows(soundness_.view, *soundness_.model, made);
  const gp_Trsf into = session_.document().part_to_reading();
  for (const Finding& f : *session_.checks().soundness()) {
    QList<QStandardItem*> row{
        words(QString::fromLatin1(finding_name(f.kind)).replace(QLatin1Char('-'), QLatin1Char(' '))),
        words(f.body >= 0 ? QString::fromStdString(session_.document().part()->bodies()[f.body].name)
                          : QString()),
        f.amount ? number(*f.amount, format_length(*f.amount, {d.unit, d.decimals + 2})) : words(QString())};
    for (int axis = 0; axis < 3; ++axis) {
      const double v = f.where ? coordinate(f.where->Transformed(into), axis) : 0;
      row << (f.where ? number(v, format_length(v, d)) : words(QString()));
    }
    row << words(f.mendable ? tr("can mend it") : tr("cannot")) << words(QString::fromStdString(f.text));
    std::vector<int> faces;
    if (f.face >= 0) faces.push_back(f.face);
    if (f.edge >= 0) faces.push_back(session_.document().part()->topology().edges[f.edge].face_a);
    row.front()->setData(face_list(faces), kFacesRole);
    if (f.where) row.front()->setData(QVariantList{f.where->X(), f.where->Y(), f.where->Z()}, kPlaceRole);
    made.appendRow(row);
  }
  show_rows(soundness_.view, *soundness_.model, made);
}

}  // namespace anvil::app
