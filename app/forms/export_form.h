// What to write: kind of file, which bodies, and how fine a mesh. Where comes after, from the desktop's file
// dialog.
#pragma once

#include "app/forms/tray_form.h"
#include "app/state/session.h"
#include "exchange/worker_client.h"

class QListWidget;

namespace anvil::app {

class ExportForm : public TrayForm {
  Q_OBJECT
 public:
  // `write` asks for the file: false when none was chosen, and the form stays.
  ExportForm(Session& session, std::function<bool(const ExportRequest&, const Format&)> write,
             QWidget* parent);
  [[nodiscard]] ExportRequest request() const;  // without the file
  [[nodiscard]] const Format& format() const;

 private:
  void refresh();
  void fill_bodies();
  [[nodiscard]] Result<double> deviation_mm() const;
  [[nodiscard]] Result<double> angle_rad() const;
  [[nodiscard]] QString wrong() const;  // why what is typed cannot be taken

  Session& session_;
  QLabel* told_;
  QComboBox* format_;
  QComboBox* unit_;
  QListWidget* bodies_;
  QLineEdit *deviation_, *angle_;
};

}  // namespace anvil::app
