#include "app/state/change_bus.h"

#include <utility>

#include "geom/guard.h"

namespace anvil::app {

void ChangeBus::announce(Changes what) {
  if (held_ > 0) {
    waiting_ |= what;
    return;
  }
  if (!what) return;
  // Nothing may be thrown out of the end of a hold: the program would end there.
  const auto shown = guarded("Showing what changed", [&]() -> Result<void> {
    Q_EMIT changed(what);
    return {};
  });
  if (!shown) tell(tr("%1. What is open can be saved.").arg(QString::fromStdString(shown.error().sentence)));
}

ChangeBus::Hold::~Hold() {
  if (--bus_.held_ == 0) bus_.announce(std::exchange(bus_.waiting_, {}));
}

}  // namespace anvil::app
