// The guide, page by page, beside the work: a link that names an act of the window shows where it is.
#pragma once

#include <QWidget>

class QTextBrowser;

namespace anvil::app {

class GuidePane : public QWidget {
  Q_OBJECT
 public:
  explicit GuidePane(QWidget* parent = nullptr);
  void open(const QString& page = QStringLiteral("index.md"));
  void show_text(const QString& markdown);

 Q_SIGNALS:
  void act_spoken_of(const QString& action);
  void closed();

 private:
  QTextBrowser* text_ = nullptr;
};

}  // namespace anvil::app
