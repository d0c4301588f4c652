// The unit a file was really made in: a factor beyond what the file's own unit says, with the size it gives.
#pragma once

#include "app/forms/tray_form.h"
#include "app/state/session.h"

namespace anvil::app {

class UnitForm : public TrayForm {
  Q_OBJECT
 public:
  UnitForm(Session& session, std::function<void(size_t file, double scale)> rescale, QWidget* parent);

 private:
  void show_file();
  void show_size();
  [[nodiscard]] const SourceFile* file() const;  // null when the job is another one

  Session& session_;
  QComboBox* files_;
  QLabel *says_, *size_;
  QLineEdit* factor_;
};

}  // namespace anvil::app
