// A quiet line over the view for what the user must know, with an act where there is one; never a dialog. And
// the line that shows long work with its phase and a way to cancel.
#pragma once

#include <QElapsedTimer>
#include <QFrame>
#include <QTimer>
#include <functional>
#include <vector>

#include "app/background.h"

class QLabel;
class QHBoxLayout;

namespace anvil::app {

class WorkBar;

class NoticeBar : public QFrame {
  Q_OBJECT
 public:
  explicit NoticeBar(QWidget* parent = nullptr);
  struct Act {
    QString label;
    std::function<void()> run;
  };
  void tell(const QString& sentence, const std::vector<Act>& acts = {});
  void confirm(const QString& sentence);  // goes away by itself
  [[nodiscard]] QString text() const;

 private:
  QLabel* text_;
  QHBoxLayout* layout_;
  std::vector<QWidget*> buttons_;
  QString question_;  // what the buttons answer
  QTimer leaving_;
};

class ProgressLine : public QFrame {
  Q_OBJECT
 public:
  ProgressLine(Background& background, QWidget* parent = nullptr);
  [[nodiscard]] qint64 runs_for_ms() const { return since_.elapsed(); }
  void cancel() { background_.cancel_by_user(); }

 private:
  void show_where();

  struct Where {
    QString text;
    double share = -1;
  };
  Background& background_;
  QElapsedTimer since_;
  Where where_;  // as last told, which may be a thousand times a second
  QLabel* text_;
  WorkBar* bar_;
  QTimer delay_;  // work that is over within 0.3 s is not shown
  QTimer showing_;
};

// Progress lines over the lower edge of a widget: what lies under the pointer does not move when one comes or
// goes.
class ProgressStack : public QWidget {
 public:
  ProgressStack(const std::vector<ProgressLine*>& lines, QWidget* over);
  void cancel_newest();  // of what is shown

 protected:
  bool event(QEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void place();
  std::vector<ProgressLine*> lines_;
};

}  // namespace anvil::app
