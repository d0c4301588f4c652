// Pieces the files of the setup card share.
#pragma once

#include <QLabel>
#include <QLayout>
#include <QWidget>

namespace anvil::app {

inline QString told(const std::string& text) {
  return QString::fromStdString(text);
}

// What is replaced may be the very widget whose click is being answered: it goes when that is over.
inline void clear(QWidget* area) {
  for (QWidget* widget : area->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
    widget->hide();
    widget->setObjectName(QString());
    if (area->layout()) area->layout()->removeWidget(widget);
    widget->deleteLater();
  }
}

inline QLabel* heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setObjectName(QStringLiteral("heading"));
  return label;
}

}  // namespace anvil::app
