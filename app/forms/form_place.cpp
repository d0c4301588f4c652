#include "app/forms/form_place.h"

#include <QEvent>
#include <QVBoxLayout>

namespace anvil::app {

FormPlace::FormPlace(QWidget* parent) : QScrollArea(parent) {
  setObjectName(QStringLiteral("forms"));
  setAccessibleName(tr("Form"));
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  viewport()->setObjectName(QStringLiteral("panel"));
  viewport()->setAttribute(Qt::WA_StyledBackground);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  hide();
}

void FormPlace::open(TrayForm* form) {
  auto* padded = new QWidget;
  padded->setObjectName(QStringLiteral("panel"));
  padded->setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(padded);
  layout->setContentsMargins(10, 10, 10, 10);
  layout->addWidget(form);
  layout->addStretch(1);
  setWidget(padded);  // and lets go of the one before
  form_ = form;
  // Said from within one of its own buttons.
  connect(form, &TrayForm::left, this, &FormPlace::close_form, Qt::QueuedConnection);
  padded->installEventFilter(this);
  show();
  fit();
  form->focus_first();
}

void FormPlace::close_form() {
  hide();
  if (QWidget* gone = takeWidget()) gone->deleteLater();
  form_ = nullptr;
}

// As high as the form, so that its buttons are in sight; in a low window it is scrolled.
void FormPlace::fit() {
  if (!form_ || !widget()) return;
  constexpr double kMostOfColumn = 0.62;
  const int high = widget()->hasHeightForWidth() ? widget()->heightForWidth(viewport()->width())
                                                 : widget()->sizeHint().height();
  const int most = parentWidget() ? static_cast<int>(parentWidget()->height() * kMostOfColumn) : high;
  setMaximumHeight(high + 2);
  setMinimumHeight(std::min(high + 2, most));
}

bool FormPlace::eventFilter(QObject* watched, QEvent* event) {
  if (watched == widget() && event->type() == QEvent::LayoutRequest)
    QMetaObject::invokeMethod(this, &FormPlace::fit, Qt::QueuedConnection);
  return QScrollArea::eventFilter(watched, event);
}

void FormPlace::resizeEvent(QResizeEvent* event) {
  QScrollArea::resizeEvent(event);
  fit();
}

}  // namespace anvil::app
