// Over the empty view: what to do first. A part or a job is dropped here or opened, a recent one is taken up
// again, the demo job or the guide is looked at.
#pragma once

#include <QImage>
#include <QWidget>

class QListWidget;

namespace anvil::app {

class Welcome : public QWidget {
  Q_OBJECT
 public:
  explicit Welcome(QWidget* parent);

  void fill();  // with the recent files, and their pictures

  // The small picture of a file that was open; kept beside the user's other caches.
  static void keep_picture(const QString& path, const QImage& picture);

 Q_SIGNALS:
  void open_asked();
  void file_chosen(const QString& path);
  void demo_asked();
  void guide_asked();

 private:
  QListWidget* recent_ = nullptr;
  QWidget* recent_heading_ = nullptr;
};

}  // namespace anvil::app
