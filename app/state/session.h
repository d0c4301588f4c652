// One open job in the window, as four objects: the document, what is picked and made of it, what was found
// out about it, and the setups at work. Panels show these and call them; nothing else holds truth.
#pragma once

#include "app/state/setup_desk.h"

namespace anvil::app {

class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(QObject* parent = nullptr)
      : QObject(parent),
        document_(bus_),
        checks_(document_, bus_),
        tray_(document_, bus_),
        desk_(document_, tray_, checks_, bus_) {
    tray_.set_leaning([this] { return leaning(); });
  }

  [[nodiscard]] ChangeBus& bus() { return bus_; }
  [[nodiscard]] Document& document() { return document_; }
  [[nodiscard]] const Document& document() const { return document_; }
  [[nodiscard]] PickTray& tray() { return tray_; }
  [[nodiscard]] const PickTray& tray() const { return tray_; }
  [[nodiscard]] Checks& checks() { return checks_; }
  [[nodiscard]] const Checks& checks() const { return checks_; }
  [[nodiscard]] SetupDesk& desk() { return desk_; }
  [[nodiscard]] const SetupDesk& desk() const { return desk_; }

  // What is nearest at hand: seats, the draft, the picks, the setup's card. False: there was nothing.
  bool drop();
  [[nodiscard]] QString still_needed_text() const;

 private:
  [[nodiscard]] Leaning leaning() const;

  ChangeBus bus_;
  Document document_;
  Checks checks_;
  PickTray tray_;
  SetupDesk desk_;
};

}  // namespace anvil::app
