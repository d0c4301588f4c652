// Files that leave the window: STEP in the reading frame, the hole list, the setup sheet.
#pragma once

#include <QImage>
#include <QString>

#include "app/session.h"

namespace anvil::app {

Result<void> write_hole_list(const Session& session, const QString& path);

// One page, A4, with a picture of the part in the reading frame. Refuses when the checks are not done yet.
Result<void> write_setup_sheet(const Session& session, const QImage& picture, const QString& path);

}  // namespace anvil::app
