#include "app/forms/form_place.h"

#include <QVBoxLayout>

namespace anvil::app {

FormPlace::FormPlace(QWidget* parent) : QScrollArea(parent) {
  setObjectName(QStringLiteral("forms"));
  setAccessibleName(tr("Form"));
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
  constexpr int kLeast = 140;
  setMinimumHeight(kLeast);
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
  show();
  updateGeometry();
  form->focus_first();
}

void FormPlace::close_form() {
  hide();
  if (QWidget* gone = takeWidget()) gone->deleteLater();
  form_ = nullptr;
}

QSize FormPlace::sizeHint() const {
  if (!widget()) return QScrollArea::sizeHint();
  const int wide = std::max(width(), minimumWidth());
  const int high =
      widget()->hasHeightForWidth() ? widget()->heightForWidth(wide) : widget()->sizeHint().height();
  return {wide, high + 2};
}

}  // namespace anvil::app
