// Work offsets to and from a control, and probing where the part really lies.
#pragma once

#include <QDialog>

#include "app/control_client.h"
#include "app/state/session.h"
#include "job/setup_on_machine.h"
#include "setup/probing.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;
class QTableWidget;
class QVBoxLayout;

namespace anvil::app {

class ControlPanel : public QDialog {
  Q_OBJECT
 public:
  ControlPanel(Session& session, QWidget* parent);
  [[nodiscard]] ControlClient& client() { return client_; }

 private:
  QPushButton* add_button(QHBoxLayout* row, const QString& text, const char* name,
                          void (ControlPanel::*act)());
  void build_offsets(QVBoxLayout* layout);
  void build_probing(QVBoxLayout* layout);
  [[nodiscard]] Result<SetupOnMachine> in_use() const;
  void refresh();
  void show_offsets();
  void send_offsets();
  void read_back();
  void go_to_plane();
  void probe_picks();
  void probe_next();
  void show_probed();
  void keep_as_frame();
  void take_as_place();
  void tell(const QString& text, bool bad = false);

  Session& session_;
  ControlClient client_;
  QLineEdit* port_ = nullptr;
  QPushButton* connect_ = nullptr;
  QPushButton* send_ = nullptr;
  QPushButton* read_ = nullptr;
  QPushButton* go_ = nullptr;
  QPushButton* probe_ = nullptr;
  QPushButton* keep_ = nullptr;
  QPushButton* take_ = nullptr;
  QSpinBox* touches_per_face_ = nullptr;
  QTableWidget* table_ = nullptr;
  QLabel* said_ = nullptr;
  QLabel* found_ = nullptr;
  // Whatever was begun is of the part and the setup that were there then.
  struct Began {
    int job = 0;
    PartPtr part;
    int setup = 0;
    gp_Trsf lies;
    bool operator==(const Began& other) const;
  };
  [[nodiscard]] std::optional<Began> now() const;
  bool is_still_so();  // else what was probed is dropped, and told
  void stop_probing(const QString& why);
  void mark_read_as_old();
  void take_offset(int row, const IndexedOffset& sent, const gp_Pnt& read);

  std::optional<Began> began_;  // of the probing under way, or of what was found
  std::vector<ProbeMove> moves_;
  std::vector<Touch> touched_;
  int missed_ = 0;
  std::optional<ProbedPlace> probed_;
};

}  // namespace anvil::app
