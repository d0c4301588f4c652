#include "app/panels/region_row.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QVBoxLayout>

#include "app/theme.h"
#include "construct/solve.h"
#include "job/names.h"

namespace anvil::app {
namespace {

// Steps to each side; at the end the tolerance is ten times as wide, or a tenth.
constexpr int kSteps = 100;
constexpr int kSettle_ms = 60;

}  // namespace

RegionRow::RegionRow(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  build_fields();
  settle_.setSingleShot(true);
  settle_.setInterval(kSettle_ms);
  connect(&settle_, &QTimer::timeout, this, &RegionRow::ask);
  connect(&session_.tray().growing(), &Background::cancelled, this, &RegionRow::refresh);
  connect(within_, &QLineEdit::editingFinished, this, &RegionRow::typed);
  connect(within_, &QLineEdit::returnPressed, within_, &QWidget::clearFocus);
  connect(slider_, &QSlider::valueChanged, this, [this] {
    if (refreshing_) return;
    wanted_mm_ = middle_mm_ * std::pow(10, static_cast<double>(slider_->value()) / kSteps);
    settle_.start();
  });
  connect(as_, &QComboBox::currentIndexChanged, this, [this] {
    if (!refreshing_) ask();
  });
}

void RegionRow::build_fields() {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  auto* first = new QHBoxLayout;
  heading_ = new QLabel(this);
  within_ = new QLineEdit(this);
  within_->setObjectName(QStringLiteral("region.within"));
  within_->setFont(number_font());
  within_->setToolTip(
      tr("How far its points may lie off the surface; empty: four times what the scan scatters there"));
  result_ = new QLabel(this);
  result_->setObjectName(QStringLiteral("quiet"));
  first->addWidget(heading_);
  first->addWidget(within_, 1);
  first->addWidget(result_);
  rows->addLayout(first);
  slider_ = new QSlider(Qt::Horizontal, this);
  slider_->setObjectName(QStringLiteral("region.slider"));
  slider_->setAccessibleName(tr("How far its points may scatter"));
  slider_->setRange(-kSteps, kSteps);
  slider_->setFocusPolicy(Qt::NoFocus);
  rows->addWidget(slider_);
  auto* second = new QHBoxLayout;
  as_ = new QComboBox(this);
  as_->setObjectName(QStringLiteral("region.as"));
  as_->addItem(tr("whichever surface fits"), QString());
  for (const SurfaceKind kind : region_kinds()) {
    const QString name = QString::fromUtf8(surface_name(kind));
    as_->addItem(name, name);
  }
  second->addWidget(new QLabel(tr("fitted as"), this));
  second->addWidget(as_, 1);
  rows->addLayout(second);
}

const Pick* RegionRow::pick() const {
  const auto& picks = session_.tray().picks();
  const bool there = index_ >= 0 && index_ < static_cast<int>(picks.size());
  return there && picks[static_cast<size_t>(index_)].given.region ? &picks[static_cast<size_t>(index_)]
                                                                  : nullptr;
}

bool RegionRow::focus() {
  if (!pick()) return false;
  within_->setFocus();
  within_->selectAll();
  return true;
}

void RegionRow::refresh() {
  index_ = -1;
  for (size_t i = 0; i < session_.tray().picks().size(); ++i)
    if (session_.tray().picks()[i].given.region) index_ = static_cast<int>(i);
  const int clicked = session_.tray().replacing();
  if (clicked >= 0 && session_.tray().picks()[static_cast<size_t>(clicked)].given.region) index_ = clicked;
  setVisible(index_ >= 0);
  // While it grows the fields say what is wanted, not what was.
  if (index_ < 0 || settle_.isActive() || session_.tray().growing().is_busy()) return;
  refreshing_ = true;
  const RegionWish& wish = std::get<RegionReference>(pick()->reference.target).wish;
  wanted_mm_ = wish.within_mm;
  const Display& display = session_.document().job().display;
  const double within_mm = pick()->given.region->within_mm;
  if (middle_mm_ <= 0 || seed_.Distance(wish.at) > 0) {
    middle_mm_ = within_mm;
    seed_ = wish.at;
  }
  heading_->setText(tr("%1 grows within").arg(QString::fromStdString(circled(index_ + 1))));
  if (!within_->hasFocus() || !within_->isModified())
    within_->setText(QString::fromStdString(format_length(within_mm, display)));
  result_->setText(QString::fromUtf8(unit_name(display.unit)));
  if (!slider_->isSliderDown())
    slider_->setValue(static_cast<int>(std::lround(kSteps * std::log10(within_mm / middle_mm_))));
  as_->setCurrentIndex(wish.as ? as_->findData(QString::fromUtf8(surface_name(*wish.as))) : 0);
  refreshing_ = false;
}

void RegionRow::typed() {
  if (!pick() || refreshing_ || !within_->isModified()) return;
  within_->setModified(false);
  const std::string text = within_->text().trimmed().toStdString();
  const auto mm = text.empty()
                      ? Result<double>(0.0)
                      : evaluate_length(text, session_.document().job().display.unit,
                                        names_for(session_.document().job(), session_.document().evaluation(),
                                                  {{"within", text}}, 0));
  if (mm && (*mm > 0 || text.empty())) {
    wanted_mm_ = *mm;
    return ask();
  }
  Q_EMIT session_.bus().told(mm ? tr("A region needs some tolerance above 0.")
                                : QString::fromStdString(mm.error().sentence));
  refresh();
}

void RegionRow::ask() {
  settle_.stop();
  if (pick())
    session_.tray().regrow(index_, wanted_mm_, region_kind_from(as_->currentData().toString().toStdString()));
}

}  // namespace anvil::app
