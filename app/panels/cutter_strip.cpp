#include "app/panels/cutter_strip.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QSlider>
#include <QToolButton>
#include <cmath>

#include "app/theme.h"
#include "base/expression.h"
#include "job/edits.h"

namespace anvil::app {
namespace {

constexpr int kSteps = 500;

QString length_text(double mm, const Display& display) {
  return QString::fromStdString(format_length(mm, display));
}

}  // namespace

CutterStrip::CutterStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* line = new QHBoxLayout(this);
  line->setContentsMargins(6, 2, 6, 2);
  line->setSpacing(6);
  list_ = new QComboBox(this);
  list_->setObjectName(QStringLiteral("drawer.cutter-list"));
  list_->setFixedWidth(150);
  list_->setToolTip(tr("A cutter of the job's list; what it fails in is told in the table"));
  line->addWidget(new QLabel(tr("Cutter"), this));
  line->addWidget(list_);
  auto* edit = new QToolButton(this);
  edit->setObjectName(QStringLiteral("drawer.cutters"));
  edit->setText(tr("List …"));
  edit->setToolTip(tr("Read, edit or save the list of cutters that is kept in the job"));
  edit->setFocusPolicy(Qt::NoFocus);
  line->addWidget(edit);
  diameter_ = field("drawer.cutter-diameter", tr("Ø"), 70);
  slider_ = new QSlider(Qt::Horizontal, this);
  slider_->setObjectName(QStringLiteral("drawer.cutter"));
  slider_->setAccessibleName(tr("Diameter of the cutter in mind"));
  slider_->setRange(0, kSteps);
  slider_->setFixedWidth(130);
  line->addWidget(slider_);
  margin_ = field("drawer.margin", tr("Margin"), 46);
  margin_->setToolTip(
      tr("How much of a corner's radius a cutter may fill; 0.9 keeps it from dwelling there"));
  holder_ = field("drawer.holder", tr("Holder Ø"), 62);
  holder_->setToolTip(tr("What stands within this diameter around a corner counts for its reach"));
  grouping_ = new QComboBox(this);
  grouping_->setObjectName(QStringLiteral("drawer.grouping"));
  grouping_->addItems({tr("by pocket"), tr("by radius")});
  line->addWidget(grouping_);
  told_ = new QLabel(this);
  told_->setObjectName(QStringLiteral("drawer.cutter-told"));
  told_->setTextFormat(Qt::PlainText);
  told_->setMinimumWidth(60);
  told_->setWordWrap(true);
  // As tall for one line as for two: the table below does not jump while the cutter is dragged.
  told_->setMinimumHeight(2 * told_->fontMetrics().lineSpacing());
  line->addWidget(told_, 1);
  connect(edit, &QToolButton::clicked, this, &CutterStrip::cutters_wanted);
  connect(grouping_, &QComboBox::currentIndexChanged, this, &CutterStrip::grouping_changed);
  connect(list_, &QComboBox::activated, this, [this](int index) {
    if (index > 0) set_cutter(listed_[static_cast<size_t>(index) - 1].diameter_mm, false);
  });
  connect(slider_, &QSlider::valueChanged, this, [this](int step) {
    const double tenth = mm_per(session_.document().job().display.unit) /
                         (session_.document().job().display.unit == Unit::kInch ? 100 : 10);
    const double mm = least_mm_ + (most_mm_ - least_mm_) * step / kSteps;
    set_cutter(std::max(tenth, std::round(mm / tenth) * tenth), true);
  });
  connect(diameter_, &QLineEdit::editingFinished, this, &CutterStrip::take_typed);
  connect(margin_, &QLineEdit::editingFinished, this, &CutterStrip::take_settings);
  connect(holder_, &QLineEdit::editingFinished, this, &CutterStrip::take_settings);
  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & Change::kLeft) show_numbers();
  });
}

QLineEdit* CutterStrip::field(const char* name, const QString& label, int width) {
  auto* edit = new QLineEdit(this);
  edit->setObjectName(QString::fromLatin1(name));
  edit->setAccessibleName(label);
  edit->setFont(number_font());
  edit->setFixedWidth(width);
  layout()->addWidget(new QLabel(label, this));
  layout()->addWidget(edit);
  return edit;
}

CutterStrip::Grouping CutterStrip::grouping() const {
  return grouping_->currentIndex() == 1 ? Grouping::kByRadius : Grouping::kByPocket;
}

void CutterStrip::set_cutter(double mm, bool dragging) {
  cutter_mm_ = mm;
  show_numbers();
  session_.checks().think_of_cutter(isVisible() ? std::optional(mm) : std::nullopt, dragging);
  Q_EMIT cutter_changed();
}

// From half of what limits most to half as much again as what limits least.
void CutterStrip::range_for(const CornerReport& report) {
  double least = 1e9, most = 0;
  const auto limit = [&](double mm) {
    least = std::min(least, mm);
    most = std::max(most, mm);
  };
  for (const Corner& corner : report.corners)
    if (corner.is_wall() && !corner.undercut && corner.radius_mm > 0) limit(2 * corner.radius_mm);
  for (const Pocket& pocket : report.pockets)
    if (!pocket.undercut && pocket.largest_cutter_mm) limit(*pocket.largest_cutter_mm);
  if (most == 0) return;
  least_mm_ = least / 2;
  most_mm_ = 1.5 * most;
}

void CutterStrip::refresh() {
  const Inspection& by = session_.document().job().inspection;
  const Display& display = session_.document().job().display;
  const auto report = session_.checks().corners();
  if (report && report != ranged_for_) {
    const bool another = !ranged_for_ || ranged_for_->options.margin == report->options.margin;
    ranged_for_ = report;
    range_for(*report);
    if (another && report->largest_cutter_mm) cutter_mm_ = *report->largest_cutter_mm;
  }
  if (by.cutters != listed_ || list_->count() == 0) {
    listed_ = by.cutters;
    list_->clear();
    list_->addItem(tr("any diameter"));
    for (const Cutter& cutter : listed_) list_->addItem(QString::fromStdString(cutter_text(cutter, display)));
  }
  if (!margin_->hasFocus()) margin_->setText(QString::fromStdString(format_plain(by.margin)));
  if (!holder_->hasFocus()) holder_->setText(length_text(by.holder_mm, display));
  show_numbers();
}

void CutterStrip::take_typed() {
  const auto typed =
      evaluate_length(diameter_->text().toStdString(), session_.document().job().display.unit, {});
  if (typed && *typed > 0 && std::abs(*typed - cutter_mm_) > 1e-9)
    set_cutter(*typed, false);
  else if (!typed)
    session_.bus().tell(QString::fromStdString(typed.error().sentence));
  diameter_->setModified(false);
  show_numbers();
}

void CutterStrip::take_settings() {
  Inspection next = session_.document().job().inspection;
  const auto margin = evaluate_number(margin_->text().toStdString(), {});
  const auto holder =
      evaluate_length(holder_->text().toStdString(), session_.document().job().display.unit, {});
  if (!margin || *margin <= 0 || *margin > 1)
    session_.bus().tell(tr("The margin is a number above 0 and up to 1."));
  else
    next.margin = *margin;
  if (!holder || *holder <= 0)
    session_.bus().tell(tr("The holder's diameter is a length above zero."));
  else if (std::abs(*holder - next.holder_mm) > 1e-6)
    next.holder_mm = *holder;
  session_.document().act(tr("How corners are judged"),
                          with_inspection(session_.document().job(), std::move(next)),
                          QStringLiteral("inspection"));
  refresh();
}

void CutterStrip::show_numbers() {
  const Display& display = session_.document().job().display;
  if (!diameter_->hasFocus() || !diameter_->isModified())
    diameter_->setText(length_text(cutter_mm_, display));
  const QSignalBlocker quiet(slider_), still(list_);
  slider_->setValue(
      static_cast<int>(std::lround((cutter_mm_ - least_mm_) / (most_mm_ - least_mm_) * kSteps)));
  int known = 0;
  for (size_t i = 0; i < listed_.size(); ++i)
    if (std::abs(listed_[i].diameter_mm - cutter_mm_) < 1e-6 && known == 0) known = static_cast<int>(i) + 1;
  list_->setCurrentIndex(known);
  const auto left = session_.checks().left();
  if (!session_.checks().corners() || !session_.checks().cutter_mm()) return told_->clear();
  if (!left) return told_->setText(tr("looking where it goes …"));
  if (left->layers.empty())
    return told_->setText(tr("Ø %1 leaves nothing").arg(length_text(left->diameter_mm, display)));
  const double unit3 = std::pow(mm_per(display.unit), 3);
  const QString volume = QString::fromStdString(
      format_length(left->volume_mm3 / unit3 * mm_per(display.unit), {display.unit, 1}));
  told_->setText(tr("Ø %1 leaves %2 %3³, up to %4 thick")
                     .arg(length_text(left->diameter_mm, display), volume,
                          QString::fromLatin1(unit_name(display.unit)),
                          length_text(left->largest_thickness_mm, {display.unit, 2})));
  told_->setToolTip(tr("Outlines within %1; levels stand for what lies between them.")
                        .arg(length_text(left->bound_mm, {display.unit, display.decimals + 1})));
}

}  // namespace anvil::app
