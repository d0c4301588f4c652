#include "app/forms/export_form.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "base/expression.h"

namespace anvil::app {

ExportForm::ExportForm(Session& session, std::function<bool(const ExportRequest&, const Format&)> write,
                       QWidget* parent)
    : TrayForm("export_form", tr("Write the part"), parent), session_(session) {
  told_ = say({});
  format_ = choice(tr("Kind"), {}, "export.format");
  for (const Format& format : formats())
    if (format.write) format_->addItem(QString::fromLatin1(format.name), QString::fromLatin1(format.id));
  unit_ = choice(tr("Unit of the file"), {QStringLiteral("MM"), QStringLiteral("INCH")}, "export.unit");
  deviation_ = field(tr("Largest deviation"), QStringLiteral("0.05mm"), "export.deviation");
  angle_ = field(tr("Largest angle, degrees"), QStringLiteral("12"), "export.angle");
  bodies_ = new QListWidget(this);
  bodies_->setObjectName(QStringLiteral("export.bodies"));
  constexpr int kHigh = 120;
  bodies_->setMaximumHeight(kHigh);
  add_row(tr("Bodies"), bodies_);
  ends_with(tr("Choose the file …"), [this, write = std::move(write)] {
    if (QString why = wrong(); !why.isEmpty()) return why;
    return write(request(), format()) ? QString() : tr("No file was chosen: nothing is written.");
  });
  connect(format_, &QComboBox::currentIndexChanged, this, &ExportForm::refresh);
  connect(&session.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & (Change::kPart | Change::kBodies)) fill_bodies();
    if (what & Change::kJob) refresh();
  });
  fill_bodies();
  refresh();
}

const Format& ExportForm::format() const {
  return *format_by_id(format_->currentData().toString().toStdString());
}

void ExportForm::fill_bodies() {
  bodies_->clear();
  if (const PartPtr part = session_.document().part())
    for (const Body& body : part->bodies()) {
      auto* item = new QListWidgetItem(QString::fromStdString(body.name), bodies_);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
      item->setCheckState(session_.document().is_shown(body) ? Qt::Checked : Qt::Unchecked);
    }
  show_row(bodies_, bodies_->count() > 1);
}

void ExportForm::refresh() {
  const Job& job = session_.document().job();
  told_->setText(tr("Read in %1. The file is read back and compared before it is kept.")
                     .arg(QString::fromStdString(reading_frame_name(job, job.reading_frame))));
  show_row(unit_, format().names_its_unit);
  show_row(deviation_, format().is_of_triangles());
  show_row(angle_, format().is_of_triangles());
}

Result<double> ExportForm::deviation_mm() const {
  return evaluate_length(deviation_->text().toStdString(), session_.document().job().display.unit, {});
}

Result<double> ExportForm::angle_rad() const {
  return evaluate_angle(angle_->text().toStdString(), {});
}

QString ExportForm::wrong() const {
  if (!session_.document().part()) return tr("There is no part to write.");
  if (bodies_->count() > 1 && request().bodies.empty()) return tr("No body is ticked: tick one.");
  if (!format().is_of_triangles()) return {};
  const auto deviation = deviation_mm();
  const auto angle = angle_rad();
  if (!deviation) return QString::fromStdString(deviation.error().sentence);
  if (!angle) return QString::fromStdString(angle.error().sentence);
  if (!(*deviation > 0) || !(*angle > 0)) return tr("Deviation and angle are above zero.");
  return {};
}

ExportRequest ExportForm::request() const {
  ExportRequest request;
  request.format = format().id;
  request.options.unit = unit_->currentText().toStdString();
  const auto deviation = deviation_mm();
  const auto angle = angle_rad();
  if (deviation && *deviation > 0) request.options.mesh_deviation_mm = *deviation;
  if (angle && *angle > 0) request.options.mesh_angle_rad = *angle;
  for (int i = 0; bodies_->count() > 1 && i < bodies_->count(); ++i)
    if (bodies_->item(i)->checkState() == Qt::Checked) request.bodies.push_back(i);
  return request;
}

}  // namespace anvil::app
