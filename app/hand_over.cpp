#include "app/hand_over.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QDate>
#include <QPageSize>
#include <QPdfWriter>
#include <QTextDocument>
#include <QUrl>

#include "base/file.h"
#include "geom/primitives.h"
#include "job/setup_on_machine.h"
#include "report/hole_list.h"

namespace anvil::app {
namespace {

tl::unexpected<Refusal> not_checked() {
  return refuse(RefusalCode::kBadInput,
                "corners and holes are still being looked for: try again in a moment");
}

constexpr int kPictureWidth = 390;  // of the page's 700 units

QByteArray render_pdf(const QString& html, const QString& title, const Pictures& pictures) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  QPdfWriter writer(&buffer);
  writer.setPageSize(QPageSize(QPageSize::A4));
  writer.setPageMargins(QMarginsF(12, 12, 12, 12));
  writer.setResolution(96);
  writer.setTitle(title);
  writer.setCreator(QStringLiteral("True Anvil"));
  QTextDocument page;
  page.documentLayout()->setPaintDevice(&writer);
  page.setPageSize(QSizeF(writer.width(), writer.height()));
  page.setDocumentMargin(0);
  for (const auto& [name, picture] : pictures)
    page.addResource(QTextDocument::ImageResource, QUrl(QString::fromStdString(name)), picture);
  page.setHtml(html);
  page.print(&writer);
  return bytes;
}

// Pictures go into the page itself, so that one file is all there is to hand over.
std::string data_url(const QImage& picture) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  picture.save(&buffer, "PNG");
  return "data:image/png;base64," + bytes.toBase64().toStdString();
}

std::string today() {
  return QDate::currentDate().toString(Qt::ISODate).toStdString();
}

Result<void> write_bytes(const QString& path, const QByteArray& bytes) {
  return write_file_atomically(path.toStdString(),
                               std::string(bytes.constData(), static_cast<size_t>(bytes.size())));
}

}  // namespace

Result<void> write_hole_list(const Session& session, const QString& path) {
  if (!session.holes()) return not_checked();
  const HoleReport report =
      moved(*session.holes(), into_frame(session.frame()) * session.evaluation().placement);
  return write_file_atomically(
      path.toStdString(),
      hole_list_csv(report, reading_frame_name(session.job(), session.job().reading_frame),
                    session.job().display.unit));
}

Result<void> write_setup_sheet(const Session& session, const QImage& picture, const QString& path) {
  if (!session.holes() || !session.corners()) return not_checked();
  const SetupSheet sheet =
      make_setup_sheet(session.job(), session.evaluation(), *session.holes(), *session.corners(), today());
  const std::string html = setup_sheet_html(sheet, "part.png", kPictureWidth);
  return write_bytes(path, render_pdf(QString::fromStdString(html), QString::fromStdString(sheet.title),
                                      {{"part.png", picture}}));
}

Result<void> write_setup_sheets(const std::vector<SetupSheet>& sheets, const Pictures& pictures,
                                const QString& path) {
  constexpr int kPairWidth = 330;  // two side by side
  if (path.endsWith(QLatin1String(".html"), Qt::CaseInsensitive)) {
    const std::string html = setup_sheets_html(
        sheets,
        [&](const std::string& name) {
          const auto picture = pictures.find(name);
          return picture == pictures.end() ? std::string() : data_url(picture->second);
        },
        kPairWidth);
    return write_file_atomically(path.toStdString(), html);
  }
  const std::string html = setup_sheets_html(
      sheets, [&](const std::string& name) { return pictures.count(name) ? name : std::string(); },
      kPairWidth);
  return write_bytes(path,
                     render_pdf(QString::fromStdString(html), QStringLiteral("Setup sheets"), pictures));
}

Result<void> write_offsets(const Session& session, const QString& path) {
  const auto on = setup_on_machine(session.job(), session.evaluation(), session.setup_in_use());
  if (!on) return refuse(on);
  return write_file_atomically(path.toStdString(), offsets_program(on->entry->name, *on->machine, on->place,
                                                                   on->offsets, session.job().display.unit));
}

Result<std::string> active_plane_text(const Session& session, OrientationForm form) {
  const Job& job = session.job();
  const Entry* entry = job.find(job.reading_frame);
  const auto at = entry ? session.evaluation().entries.find(entry->id) : session.evaluation().entries.end();
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (!entry || !entry->setup() || at == session.evaluation().entries.end() || !at->second.setup ||
      plane >= at->second.setup->planes.size())
    return refuse(RefusalCode::kBadInput, "a tool plane belongs to a setup: read in one first");
  const auto on = setup_on_machine(job, session.evaluation(), entry->id);
  return orientation_text(form, at->second.setup->planes[plane], machine_of(job, *entry->setup()),
                          on ? on->offset_of(plane) : nullptr, job.display);
}

}  // namespace anvil::app
