#include "app/hand_over.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QDate>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextDocument>
#include <QUrl>

#include "base/file.h"
#include "geom/primitives.h"
#include "report/hole_list.h"
#include "report/setup_sheet.h"

namespace anvil::app {
namespace {

tl::unexpected<Refusal> not_checked() {
  return refuse(RefusalCode::kBadInput,
                "corners and holes are still being looked for: try again in a moment");
}

constexpr int kPictureWidth = 390;  // of the page's 700 units

QByteArray render_pdf(const SetupSheet& sheet, const QImage& picture) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  QPdfWriter writer(&buffer);
  writer.setPageSize(QPageSize(QPageSize::A4));
  writer.setPageMargins(QMarginsF(12, 12, 12, 12));
  writer.setResolution(96);
  writer.setTitle(QString::fromStdString(sheet.title));
  writer.setCreator(QStringLiteral("True Anvil"));
  QTextDocument page;
  page.documentLayout()->setPaintDevice(&writer);
  page.setPageSize(QSizeF(writer.width(), writer.height()));
  page.setDocumentMargin(0);
  page.addResource(QTextDocument::ImageResource, QUrl(QStringLiteral("part.png")), picture);
  page.setHtml(QString::fromStdString(setup_sheet_html(sheet, "part.png", kPictureWidth)));
  QPainter painter(&writer);
  page.drawContents(&painter, QRectF(0, 0, writer.width(), writer.height()));
  painter.end();
  return bytes;
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
      make_setup_sheet(session.job(), session.evaluation(), *session.holes(), *session.corners(),
                       QDate::currentDate().toString(Qt::ISODate).toStdString());
  const QByteArray bytes = render_pdf(sheet, picture);
  return write_file_atomically(path.toStdString(),
                               std::string(bytes.constData(), static_cast<size_t>(bytes.size())));
}

}  // namespace anvil::app
