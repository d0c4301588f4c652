// What to write: kind of file, which bodies, and how fine a mesh. Where comes after, from the desktop's file
// dialog.
#pragma once

#include <QDialog>

#include "app/state/session.h"
#include "exchange/worker_client.h"

class QComboBox;
class QLineEdit;
class QListWidget;

namespace anvil::app {

class ExportForm : public QDialog {
  Q_OBJECT
 public:
  explicit ExportForm(const Session& session, QWidget* parent);
  [[nodiscard]] ExportRequest request() const;  // without the file
  [[nodiscard]] const Format& format() const;

 private:
  void refresh();

  const Session& session_;
  QComboBox* format_;
  QComboBox* unit_;
  QListWidget* bodies_ = nullptr;
  QLineEdit *deviation_, *angle_;
  QWidget *mesh_, *exact_;
};

}  // namespace anvil::app
