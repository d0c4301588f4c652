#include "app/hand_over.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QDate>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgRenderer>
#include <QTextDocument>
#include <QUrl>

#include "base/file.h"
#include "geom/primitives.h"
#include "job/setup_on_machine.h"
#include "report/hole_list.h"
#include "report/json_reports.h"

namespace anvil::app {
namespace {

tl::unexpected<Refusal> not_checked() {
  return refuse(RefusalCode::kBadInput,
                "corners and holes are still being looked for: try again in a moment");
}

bool ends_in(const QString& path, const char* suffix) {
  return path.endsWith(QLatin1String(suffix), Qt::CaseInsensitive);
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
  if (!session.checks().holes()) return not_checked();
  const gp_Trsf into = session.document().part_to_reading();
  const HoleReport report = moved(*session.checks().holes(), into);
  const std::string frame =
      reading_frame_name(session.document().job(), session.document().job().reading_frame);
  const Unit unit = session.document().job().display.unit;
  if (!ends_in(path, ".json"))
    return write_file_atomically(path.toStdString(), hole_list_csv(report, frame, unit));
  HoleAnswers answers;
  if (session.checks().survey()) answers.around = moved(session.checks().survey()->around, into);
  answers.comparison = session.checks().comparison().rows;
  return write_file_atomically(path.toStdString(),
                               holes_json(*session.document().part(), report, frame, unit, answers));
}

Result<void> write_drawing(const Drawing& drawing, const QString& path) {
  if (ends_in(path, ".svg")) return write_file_atomically(path.toStdString(), drawing_svg(drawing));
  if (ends_in(path, ".pdf")) {
    QSvgRenderer picture(QByteArray::fromStdString(drawing_svg(drawing)));
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QSizeF(drawing.sheet_width_mm, drawing.sheet_height_mm),
                                 QPageSize::Millimeter, QString(), QPageSize::ExactMatch));
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setTitle(QString::fromStdString(drawing.title));
    writer.setCreator(QStringLiteral("True Anvil"));
    QPainter painter(&writer);
    picture.render(&painter, QRectF(0, 0, writer.width(), writer.height()));
    painter.end();
    return write_bytes(path, bytes);
  }
  if (!ends_in(path, ".dxf"))
    return refuse(RefusalCode::kBadInput,
                  "a drawing is written as .dxf, .svg or .pdf: give its name one of these endings");
  return write_file_atomically(path.toStdString(), drawing_dxf(drawing));
}

Result<void> write_setup_sheet(const Session& session, const QImage& picture, const QString& path) {
  if (!session.checks().holes() || !session.checks().corners()) return not_checked();
  const SetupSheet sheet = make_setup_sheet(
      session.document().job(), session.document().evaluation(), *session.checks().holes(),
      summary_of(*session.checks().corners(), session.document().part()->topology().faces.size()), today());
  const std::string html = setup_sheet_html(sheet, "part.png", kPictureWidth);
  return write_bytes(path, render_pdf(QString::fromStdString(html), QString::fromStdString(sheet.title),
                                      {{"part.png", picture}}));
}

Result<void> write_setup_sheets(const std::vector<SetupSheet>& sheets, const Pictures& pictures,
                                const QString& path) {
  constexpr int kPairWidth = 330;  // two side by side
  if (ends_in(path, ".html")) {
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

Result<void> write_text_report(const Session& session, const TextReport& report, const QString& path) {
  const auto holes = session.checks().holes();
  if (report.of_holes && !holes) return not_checked();
  const auto text = report.write({session.document().job(),
                                  session.document().evaluation(),
                                  session.desk().setup_in_use(),
                                  holes.get(),
                                  session.document().job().display.unit,
                                  today(),
                                  {}});
  if (!text) return refuse(text);
  return write_file_atomically(path.toStdString(), *text);
}

Result<std::string> active_plane_text(const Session& session, OrientationForm form) {
  const Job& job = session.document().job();
  const Entry* entry = job.find(job.reading_frame);
  const auto at = entry ? session.document().evaluation().entries.find(entry->id)
                        : session.document().evaluation().entries.end();
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (!entry || !entry->setup() || at == session.document().evaluation().entries.end() || !at->second.setup ||
      plane >= at->second.setup->planes.size())
    return refuse(RefusalCode::kBadInput, "a tool plane belongs to a setup: read in one first");
  const auto on = setup_on_machine(job, session.document().evaluation(), entry->id);
  return orientation_text(form, at->second.setup->planes[plane], machine_of(job, *entry->setup()),
                          on ? on->offset_of(plane) : nullptr, job.display);
}

}  // namespace anvil::app
