// What healing may do, and how far it may move anything.
#pragma once

#include <QDialog>

#include "part/heal.h"

class QCheckBox;
class QLineEdit;

namespace anvil::app {

class HealForm : public QDialog {
  Q_OBJECT
 public:
  HealForm(const HealOptions& start, QWidget* parent);
  [[nodiscard]] HealOptions options() const;

 private:
  HealOptions start_;
  QCheckBox *sew_, *fix_, *slivers_, *unify_, *recognise_;
  QLineEdit *tolerance_, *limit_;
};

}  // namespace anvil::app
