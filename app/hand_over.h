// Files that leave the window: STEP in the reading frame, the hole list, the setup sheet.
#pragma once

#include <QImage>
#include <QString>

#include "app/state/session.h"
#include "report/drawing.h"
#include "report/setup_sheet.h"
#include "report/text_reports.h"
#include "setup/orientation.h"

namespace anvil::app {

// CSV, or by the file's ending JSON with everything that is known of the holes.
Result<void> write_hole_list(const Session& session, const QString& path);

// By the file's ending DXF, SVG or PDF. Refuses other endings.
Result<void> write_drawing(const Drawing& drawing, const QString& path);

using Pictures = std::map<std::string, QImage>;

// All setups in one document, PDF or (by the file's ending) HTML with the pictures in it.
Result<void> write_setup_sheets(const std::vector<SetupSheet>& sheets, const Pictures& pictures,
                                const QString& path);

// About the setup in use, where it is about one. Refuses what the report refuses, and those of holes while
// these are still being looked for.
Result<void> write_text_report(const Session& session, const TextReport& report, const QString& path);

// The active tool plane in one of the neutral forms.
Result<std::string> active_plane_text(const Session& session, OrientationForm form);

// One page, A4, with a picture of the part in the reading frame. Refuses when the checks are not done yet.
Result<void> write_setup_sheet(const Session& session, const QImage& picture, const QString& path);

}  // namespace anvil::app
