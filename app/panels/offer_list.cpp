#include "app/panels/offer_list.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/panels/search_words.h"
#include "app/panels/wrapped_rows.h"
#include "app/theme.h"

namespace anvil::app {
namespace {

constexpr int kFoldRow = -1;

struct Group {
  Makes makes;
  const char* name;
};
constexpr Group kGroups[] = {
    {Makes::kPoint, QT_TRANSLATE_NOOP("OfferList", "Points")},
    {Makes::kAxis, QT_TRANSLATE_NOOP("OfferList", "Axes")},
    {Makes::kPlane, QT_TRANSLATE_NOOP("OfferList", "Planes")},
    {Makes::kFrame, QT_TRANSLATE_NOOP("OfferList", "Frames")},
    {Makes::kFigure, QT_TRANSLATE_NOOP("OfferList", "Drawn")},
    {Makes::kMeasurement, QT_TRANSLATE_NOOP("OfferList", "Measured")},
    {Makes::kPlacement, QT_TRANSLATE_NOOP("OfferList", "Placed")},
    {Makes::kCorrection, QT_TRANSLATE_NOOP("OfferList", "Corrected")},
};

}  // namespace

OfferList::OfferList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(5);
  auto* top = new QHBoxLayout;
  heading_ = new QLabel(tr("OFFERS"), this);
  heading_->setObjectName(QStringLiteral("heading"));
  top->addWidget(heading_);
  filter_ = new QLineEdit(this);
  filter_->setObjectName(QStringLiteral("tray.filter"));
  filter_->setAccessibleName(tr("Filter the offers"));
  filter_->setPlaceholderText(tr("type to filter"));
  filter_->setClearButtonEnabled(true);
  filter_->installEventFilter(this);
  top->addWidget(filter_, 1);
  layout->addLayout(top);
  build_groups(layout);
  list_ = sentence_list("tray.offers", tr("Offers"), this);
  list_->viewport()->installEventFilter(this);
  layout->addWidget(list_, 1);
  connect(filter_, &QLineEdit::textChanged, this, [this] { show_rows(); });
  connect(list_, &QListWidget::itemEntered, this,
          [this](QListWidgetItem* item) { session_.tray().preview(item->data(Qt::UserRole).toInt()); });
  connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) { take(list_->row(item)); });
}

void OfferList::build_groups(QVBoxLayout* layout) {
  groups_ = new QWidget(this);
  groups_->setObjectName(QStringLiteral("tray.groups"));
  group_row_ = new QHBoxLayout(groups_);
  group_row_->setContentsMargins(0, 0, 0, 0);
  group_row_->setSpacing(2);
  layout->addWidget(groups_);
}

// One button for the likely ones and one for each group that has anything ready.
void OfferList::show_groups() {
  while (QLayoutItem* item = group_row_->takeAt(0)) {
    if (QWidget* widget = item->widget()) {
      widget->hide();  // until it is gone it would lie under the new ones
      widget->deleteLater();
    }
    delete item;
  }
  const auto add = [this](const std::optional<Makes>& makes, const QIcon& symbol, const QString& text,
                          const QString& told) {
    auto* button = new QToolButton(groups_);
    button->setObjectName(QStringLiteral("tray.group.") +
                          (makes ? QString::fromUtf8(makes_name(*makes)) : QStringLiteral("likely")));
    button->setIcon(symbol);
    button->setText(text);
    button->setToolTip(told);
    button->setAccessibleName(told);
    button->setToolButtonStyle(makes ? Qt::ToolButtonIconOnly : Qt::ToolButtonTextOnly);
    button->setIconSize(QSize(18, 18));
    button->setCheckable(true);
    button->setProperty("makes", makes ? static_cast<int>(*makes) : -1);
    button->setFocusPolicy(Qt::NoFocus);
    button->setStyleSheet(QStringLiteral("padding: 2px 1px;"));
    button->setMinimumWidth(button->sizeHint().width());
    connect(button, &QToolButton::clicked, this, [this, makes] {
      group_ = makes;
      filter_->clear();
      show_rows();
    });
    group_row_->addWidget(button);
  };
  add(std::nullopt, {}, tr("Likely"), tr("The likely offers (Space: the next group)"));
  for (const Group& group : kGroups) {
    const auto& offers = session_.tray().offers();
    const auto ready = std::count_if(offers.begin(), offers.end(), [&](const Offer& offer) {
      return offer.state == Offer::State::kReady && offer.construction->makes == group.makes;
    });
    if (ready > 0)
      add(group.makes, icon(QString::fromUtf8(makes_name(group.makes)), theme().ink), {},
          QStringLiteral("%1: %2").arg(tr(group.name)).arg(ready));
  }
  group_row_->addStretch(1);
}

void OfferList::refresh() {
  group_.reset();
  unfolded_ = false;
  const QSignalBlocker quiet(filter_);
  filter_->clear();
  show_groups();
  show_rows();
}

bool OfferList::matches(const Offer& offer) const {
  return search_rank(filter_->text(), QString::fromStdString(offer.sentence),
                     synonyms_of(QString::fromStdString(offer.construction->id))) >= 0;
}

bool OfferList::is_in_group(const Offer& offer) const {
  return !group_ || offer.construction->makes == *group_;
}

void OfferList::mark_group() {
  for (int i = 0; i < group_row_->count(); ++i)
    if (auto* button = qobject_cast<QToolButton*>(group_row_->itemAt(i)->widget()))
      button->setChecked(!is_filtered() &&
                         button->property("makes").toInt() == (group_ ? static_cast<int>(*group_) : -1));
}

void OfferList::show_rows() {
  list_->clear();
  mark_group();
  if (group_ && !is_filtered()) add_heading();
  const auto& offers = session_.tray().offers();
  std::vector<size_t> rows, folded;
  if (!is_filtered() && !group_) rows = session_.tray().likely();
  const bool all = is_filtered() || group_;
  for (size_t i = 0; i < offers.size(); ++i) {
    if (is_filtered() ? !matches(offers[i]) : !is_in_group(offers[i])) continue;
    if (offers[i].state != Offer::State::kReady)
      folded.push_back(i);
    else if (all)
      rows.push_back(i);
  }
  for (const size_t row : rows) add_row(row);
  if (!folded.empty()) add_fold(folded);
  heading_->setVisible(!offers.empty());
  filter_->setVisible(!offers.empty());
}

void OfferList::add_heading() {
  for (const Group& group : kGroups) {
    if (group.makes != *group_) continue;
    auto* item = new QListWidgetItem(tr(group.name).toUpper());
    item->setFlags(Qt::NoItemFlags);
    item->setForeground(theme().quiet_ink);
    item->setData(Qt::UserRole, kFoldRow);
    list_->addItem(item);
  }
}

void OfferList::add_row(size_t offer) {
  const Offer& shown = session_.tray().offers()[offer];
  QString text = QString::fromStdString(shown.sentence);
  if (!shown.note.empty()) text += QStringLiteral("\n") + QString::fromStdString(shown.note);
  const bool ready = shown.state == Offer::State::kReady;
  auto* item = new QListWidgetItem(icon(QString::fromUtf8(makes_name(shown.construction->makes)),
                                        ready ? theme().accent : theme().quiet_ink),
                                   text);
  item->setData(Qt::UserRole, static_cast<int>(offer));
  if (!ready) item->setForeground(theme().quiet_ink);
  list_->addItem(item);
}

// What is searched for is shown where nothing else is found.
void OfferList::add_fold(const std::vector<size_t>& folded) {
  const bool open = unfolded_ || (is_filtered() && list_->count() == 0);
  auto* item = new QListWidgetItem(open ? tr("▾ need more, or do not fit")
                                        : tr("▸ %1 need more, or do not fit").arg(folded.size()));
  item->setData(Qt::UserRole, kFoldRow);
  item->setForeground(theme().quiet_ink);
  list_->addItem(item);
  if (!open) return;
  for (const size_t row : folded) add_row(row);
}

void OfferList::take(int row) {
  const int offer = list_->item(row)->data(Qt::UserRole).toInt();
  if (offer != kFoldRow) return session_.tray().choose(offer);
  unfolded_ = !unfolded_;
  show_rows();
  list_->scrollToItem(list_->item(row), QAbstractItemView::PositionAtTop);
}

bool OfferList::is_filtered() const {
  return !filter_->text().trimmed().isEmpty();
}

void OfferList::end_filter() {
  filter_->clear();
  filter_->clearFocus();
}

void OfferList::type(const QString& text) {
  filter_->setFocus();
  filter_->setText(filter_->text() + text);
}

void OfferList::next_group(int by) {
  QList<QToolButton*> shown;
  for (int i = 0; i < group_row_->count(); ++i)
    if (auto* button = qobject_cast<QToolButton*>(group_row_->itemAt(i)->widget())) shown << button;
  for (int i = 0; i < shown.size(); ++i)
    if (shown[i]->isChecked()) return shown[(i + by + shown.size()) % shown.size()]->click();
}

void OfferList::walk(int by) {
  if (list_->count() == 0) return;
  int row = std::clamp(list_->currentRow() + by, 0, list_->count() - 1);
  if (!(list_->item(row)->flags() & Qt::ItemIsSelectable)) row = std::min(row + 1, list_->count() - 1);
  list_->setCurrentRow(row);
  session_.tray().preview(list_->item(row)->data(Qt::UserRole).toInt());
}

bool OfferList::take_marked() {
  const int row = list_->currentRow();
  if (row < 0) {
    if (!is_filtered() || list_->count() == 0) return false;
    take(0);
    return true;
  }
  take(row);
  return true;
}

bool OfferList::eventFilter(QObject* watched, QEvent* event) {
  if (watched == list_->viewport() && event->type() == QEvent::Leave) session_.tray().preview(-1);
  if (watched != filter_ || event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
  switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Down:
      walk(1);
      return true;
    case Qt::Key_Up:
      walk(-1);
      return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      take_marked();
      return true;
    case Qt::Key_Escape:
      end_filter();
      return true;
    default:
      return false;
  }
}

}  // namespace anvil::app
