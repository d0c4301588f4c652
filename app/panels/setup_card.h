// The card of a setup, in the tray: its work offset, zero, machine, stock and place in the machine, its tool
// planes with their angles, and the machine as it stands. What is changed takes effect at once.
#pragma once

#include <QWidget>

#include "app/state/session.h"

class QComboBox;
class QFormLayout;
class QGridLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace anvil::app {

class MachinePicture;

class SetupCard : public QWidget {
  Q_OBJECT
 public:
  explicit SetupCard(Session& session, QWidget* parent = nullptr);
  void refresh();

 Q_SIGNALS:
  void closed();

 private:
  void build_rows(QVBoxLayout* layout);
  void build_stock(QVBoxLayout* layout);
  void build_place(QVBoxLayout* layout);
  void build_planes(QVBoxLayout* layout);
  void build_proposals(QVBoxLayout* layout);
  void fill_proposals();
  void fill_frames(const Setup& setup);
  void fill_machines(const Setup& setup);
  void fill_stock(const Setup& setup);
  void build_plane_row(QVBoxLayout* layout);
  void change_plane(const QString& name, const std::function<void(ToolPlane&)>& how);
  void fill_planes(const Setup& setup, const SetupValue* value);
  void fill_poses(const PlaneValue& plane, const Machine* machine);
  void show_machine();
  void choose_machine(int index);
  void choose_stock(int index);
  void choose_pose(const std::string& key);
  void change(const QString& name, const std::function<void(Setup&)>& how);
  QLineEdit* add_text(QGridLayout* grid, int cell, const QString& label, const QString& object,
                      const std::string& text, const std::function<void(Setup&, const std::string&)>& set);
  [[nodiscard]] const Machine* machine() const;
  [[nodiscard]] int shown_plane() const;  // of this setup: the active one, if it is read in

  Session& session_;
  QLabel* title_ = nullptr;
  QLabel* problem_ = nullptr;
  QFormLayout* rows_ = nullptr;
  QLineEdit* offset_ = nullptr;
  QComboBox* frame_ = nullptr;
  QComboBox* machine_ = nullptr;
  QComboBox* stock_ = nullptr;
  QWidget* stock_fields_ = nullptr;
  QLabel* stock_text_ = nullptr;
  QToolButton* place_button_ = nullptr;
  QWidget* place_fields_ = nullptr;
  QListWidget* planes_ = nullptr;
  QWidget* poses_ = nullptr;
  QWidget* plane_row_ = nullptr;
  QLineEdit* plane_name_ = nullptr;
  QLineEdit* plane_offset_ = nullptr;
  MachinePicture* picture_ = nullptr;
  QWidget* proposals_ = nullptr;
  QListWidget* proposed_ = nullptr;
  QLabel* unreached_ = nullptr;
  std::shared_ptr<const Proposals> shown_proposals_;
  std::string shown_stock_;
  std::map<std::string, QLineEdit*> place_texts_, stock_texts_;
  bool refreshing_ = false;
};

}  // namespace anvil::app
