#include "app/panels/welcome.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QStandardPaths>
#include <QVBoxLayout>

#include "app/job_keeper.h"
#include "app/panels/wrapped_rows.h"
#include "app/theme.h"
#include "exchange/format.h"

namespace anvil::app {
namespace {

constexpr QSize kPicture(112, 70);

QString picture_of(const QString& path) {
  const QByteArray name = QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha1).toHex();
  return QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + QStringLiteral("/pictures/") +
         QString::fromLatin1(name) + QStringLiteral(".png");
}

QPushButton* button(const QString& text, const char* name, QWidget* parent) {
  auto* made = new QPushButton(text, parent);
  made->setObjectName(QLatin1String(name));
  return made;
}

}  // namespace

Welcome::Welcome(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("welcome"));
  setAttribute(Qt::WA_StyledBackground);
  auto* outer = new QVBoxLayout(this);
  outer->addStretch(1);
  auto* middle = new QWidget(this);
  middle->setMaximumWidth(560);
  auto* layout = new QVBoxLayout(middle);
  layout->setSpacing(10);
  auto* title = new QLabel(tr("Drop a part or a job here"), middle);
  QFont large = title->font();
  large.setPixelSize(text_size_px() * 8 / 5);
  title->setFont(large);
  title->setAlignment(Qt::AlignCenter);
  layout->addWidget(title);
  auto* formats = new QLabel(tr("Solids from %1; scans from %2; jobs.\nThe file itself is never changed.")
                                 .arg(QString::fromStdString(format_names(Format::Holds::kSolids)),
                                      QString::fromStdString(format_names(Format::Holds::kTriangles))),
                             middle);
  formats->setObjectName(QStringLiteral("quiet"));
  formats->setWordWrap(true);
  formats->setAlignment(Qt::AlignCenter);
  layout->addWidget(formats);
  auto* buttons = new QHBoxLayout;
  buttons->addStretch(1);
  auto* open = button(tr("Open …"), "primary", middle);
  auto* demo = button(tr("Look at the demo job"), "welcome.demo", middle);
  auto* guide = button(tr("Read the guide"), "welcome.guide", middle);
  for (QPushButton* one : {open, demo, guide}) buttons->addWidget(one);
  buttons->addStretch(1);
  layout->addLayout(buttons);
  auto* heading = new QLabel(tr("RECENT"), middle);
  heading->setObjectName(QStringLiteral("heading"));
  recent_heading_ = heading;
  layout->addWidget(heading);
  recent_ = new QListWidget(middle);
  recent_->setObjectName(QStringLiteral("welcome.recent"));
  recent_->setAccessibleName(tr("Recent parts and jobs"));
  recent_->setIconSize(kPicture);
  layout->addWidget(recent_);
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(middle, 8);
  row->addStretch(1);
  outer->addLayout(row);
  outer->addStretch(2);
  connect(open, &QPushButton::clicked, this, &Welcome::open_asked);
  connect(demo, &QPushButton::clicked, this, &Welcome::demo_asked);
  connect(guide, &QPushButton::clicked, this, &Welcome::guide_asked);
  const auto choose = [this](QListWidgetItem* item) {
    Q_EMIT file_chosen(item->data(Qt::UserRole).toString());
  };
  connect(recent_, &QListWidget::itemClicked, this, choose);
  connect(recent_, &QListWidget::itemActivated, this, choose);
}

void Welcome::fill() {
  recent_->clear();
  QPixmap none(kPicture);
  none.fill(Qt::transparent);
  for (const QString& path : JobKeeper::recent_files()) {
    const QFileInfo info(path);
    if (!info.exists()) continue;
    const QPixmap picture(picture_of(path));
    auto* item = new QListWidgetItem(QIcon(picture.isNull() ? none : picture),
                                     info.fileName() + QLatin1Char('\n') + info.dir().dirName());
    item->setData(Qt::UserRole, path);
    item->setToolTip(path);
    recent_->addItem(item);
  }
  fit_height(recent_, 5 * (kPicture.height() + 12));
  recent_->setVisible(recent_->count() > 0);
  recent_heading_->setVisible(recent_->count() > 0);
}

void Welcome::keep_picture(const QString& path, const QImage& picture) {
  if (path.isEmpty() || picture.isNull()) return;
  const QString file = picture_of(QFileInfo(path).absoluteFilePath());
  QDir().mkpath(QFileInfo(file).path());
  picture.scaled(2 * kPicture, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation)
      .copy(0, 0, 2 * kPicture.width(), 2 * kPicture.height())
      .save(file);
}

}  // namespace anvil::app
