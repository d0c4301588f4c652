#include "app/forms/unit_form.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

#include "base/expression.h"
#include "part/part_box.h"

namespace anvil::app {

UnitForm::UnitForm(Session& session, std::function<void(size_t, double)> rescale, QWidget* parent)
    : TrayForm("unit_form", tr("Unit of the file"), parent), session_(session) {
  files_ = choice(tr("File"), {}, "unit.file");
  if (const Entry* entry = session.document().job().first_part())
    for (const SourceFile& source : entry->part()->sources)
      files_->addItem(QString::fromStdString(source.part->source().file_name));
  says_ = say({});
  factor_ = field(tr("Its lengths times"), {}, "unit.factor");
  factor_->setToolTip(tr("25.4 where inches were meant, 1/25.4 the other way"));
  size_ = say({});
  show_row(files_, files_->count() > 1);
  connect(files_, &QComboBox::currentIndexChanged, this, &UnitForm::show_file);
  connect(factor_, &QLineEdit::textChanged, this, &UnitForm::show_size);
  ends_with(tr("Resize"), [this, rescale = std::move(rescale)] {
    const auto scale = evaluate_number(factor_->text().toStdString(), {});
    if (!scale || !(*scale > 0)) return tr("\"%1\" is not a factor above zero.").arg(factor_->text());
    if (!file()) return tr("The job is another one by now.");
    rescale(static_cast<size_t>(files_->currentIndex()), *scale);
    return QString();
  });
  show_file();
}

const SourceFile* UnitForm::file() const {
  const Entry* entry = session_.document().job().first_part();
  const auto index = static_cast<size_t>(std::max(0, files_->currentIndex()));
  if (!entry || index >= entry->part()->sources.size()) return nullptr;
  const SourceFile& source = entry->part()->sources[index];
  return source.part->source().file_name == files_->currentText().toStdString() ? &source : nullptr;
}

void UnitForm::show_file() {
  const SourceFile* source = file();
  if (!source) return;
  says_->setText(tr("%1 says its unit is %2. 25.4 where inches were meant, 1/25.4 the other way.")
                     .arg(files_->currentText(), QString::fromStdString(source->part->source().unit_name)));
  factor_->setText(QString::number(source->scale, 'g', 12));
  show_size();
}

void UnitForm::show_size() {
  const SourceFile* source = file();
  const auto scale = evaluate_number(factor_->text().toStdString(), {});
  if (!source || !scale || !(*scale > 0)) return size_->setText({});
  const gp_XYZ size = vertex_box(*source->part).size() * *scale;
  Display mm = session_.document().job().display;
  QStringList told;
  for (const Unit unit : {Unit::kMillimetre, Unit::kInch}) {
    mm.unit = unit;
    const auto text = [&](double length_mm) { return QString::fromStdString(format_length(length_mm, mm)); };
    told << tr("%1 × %2 × %3 %4")
                .arg(text(size.X()), text(size.Y()), text(size.Z()), QString::fromLatin1(unit_name(unit)));
  }
  size_->setText(tr("Its corners then lie within %1, that is %2.").arg(told[0], told[1]));
}

}  // namespace anvil::app
