#include "app/state/change_bus.h"

#include <utility>

namespace anvil::app {

void ChangeBus::announce(Changes what) {
  if (held_ > 0)
    waiting_ |= what;
  else if (what)
    Q_EMIT changed(what);
}

ChangeBus::Hold::~Hold() {
  if (--bus_.held_ == 0) bus_.announce(std::exchange(bus_.waiting_, {}));
}

}  // namespace anvil::app
