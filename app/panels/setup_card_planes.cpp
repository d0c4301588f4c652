// The card's tool planes: the list, the plane that is looked along, what is proposed, the machine as it
// stands.
#include <fmt/format.h>

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/panels/setup_card.h"
#include "app/panels/setup_card_parts.h"
#include "app/theme.h"
#include "app/view/machine_picture.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "report/json_reports.h"
#include "setup/orientation.h"

namespace anvil::app {
namespace {

// The rotation as a matrix and as Euler angles.
std::string plane_numbers(const PlaneValue& plane) {
  const EulerAngles euler = euler_angles(plane.in_setup);
  const auto angles = [](const double(&a)[3]) {
    return fmt::format("{:.4f}°  {:.4f}°  {:.4f}°", degrees(a[0]) + 0.0, degrees(a[1]) + 0.0,
                       degrees(a[2]) + 0.0);
  };
  std::string text;
  const gp_Dir columns[] = {plane.in_setup.XDirection(), plane.in_setup.YDirection(),
                            plane.in_setup.Direction()};
  for (int row = 0; row < 3; ++row)
    text += fmt::format("{:9.6f}  {:9.6f}  {:9.6f}\n", coordinate(columns[0], row),
                        coordinate(columns[1], row), coordinate(columns[2], row));
  return text + "Euler Z-X-Z  " + angles(euler.zxz) + "\nfixed X-Y-Z  " + angles(euler.fixed_xyz);
}

}  // namespace

void SetupCard::build_planes(QVBoxLayout* layout) {
  auto* row = new QHBoxLayout;
  row->addWidget(heading(tr("TOOL PLANES"), this), 1);
  auto* propose = new QPushButton(tr("Propose"), this);
  propose->setObjectName(QStringLiteral("setup.propose"));
  propose->setToolTip(tr("Tool axes that reach every hole and every wall corner"));
  propose->setFocusPolicy(Qt::NoFocus);
  propose->setStyleSheet(QStringLiteral("padding: 3px 8px;"));
  row->addWidget(propose);
  layout->addLayout(row);
  planes_ = new QListWidget(this);
  planes_->setObjectName(QStringLiteral("setup.planes"));
  planes_->setAccessibleName(tr("Tool planes"));
  planes_->setWordWrap(true);
  planes_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  planes_->setMinimumHeight(150);
  layout->addWidget(planes_, 1);
  build_plane_row(layout);
  poses_ = new QWidget(this);
  new QVBoxLayout(poses_);
  poses_->layout()->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(poses_);
  picture_ = new MachinePicture(this);
  layout->addWidget(picture_);
  build_proposals(layout);
  connect(propose, &QPushButton::clicked, &session_.desk(), &SetupDesk::propose_planes);
  connect(planes_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
    session_.desk().activate_plane(session_.desk().opened_setup_id(), planes_->row(item));
  });
}

// Name and work offset of the plane that is looked along.
void SetupCard::build_plane_row(QVBoxLayout* layout) {
  plane_row_ = new QWidget(this);
  auto* row = new QHBoxLayout(plane_row_);
  row->setContentsMargins(0, 0, 0, 0);
  plane_name_ = new QLineEdit(plane_row_);
  plane_name_->setObjectName(QStringLiteral("setup.plane.name"));
  plane_name_->setAccessibleName(tr("Name of the tool plane"));
  plane_offset_ = new QLineEdit(plane_row_);
  plane_offset_->setObjectName(QStringLiteral("setup.plane.offset"));
  plane_offset_->setAccessibleName(tr("Work offset of the tool plane"));
  plane_offset_->setPlaceholderText(tr("next free"));
  plane_offset_->setFont(number_font());
  row->addWidget(plane_name_, 1);
  row->addWidget(new QLabel(tr("Offset"), plane_row_));
  row->addWidget(plane_offset_, 1);
  layout->addWidget(plane_row_);
  connect(plane_name_, &QLineEdit::editingFinished, this, [this] {
    const std::string name = plane_name_->text().trimmed().toStdString();
    if (!name.empty()) change_plane(tr("Rename a tool plane"), [&](ToolPlane& plane) { plane.name = name; });
  });
  connect(plane_offset_, &QLineEdit::editingFinished, this, [this] {
    const std::string offset = plane_offset_->text().trimmed().toStdString();
    change_plane(tr("Offset of a tool plane"), [&](ToolPlane& plane) { plane.offset = offset; });
  });
}

void SetupCard::change_plane(const QString& name, const std::function<void(ToolPlane&)>& how) {
  const int plane = shown_plane();
  if (refreshing_ || plane < 1) return;
  change(name, [&](Setup& s) {
    if (plane <= static_cast<int>(s.planes.size())) how(s.planes[static_cast<size_t>(plane) - 1]);
  });
}

void SetupCard::build_proposals(QVBoxLayout* layout) {
  proposals_ = new QWidget(this);
  auto* box = new QVBoxLayout(proposals_);
  box->setContentsMargins(0, 0, 0, 0);
  box->addWidget(heading(tr("PROPOSED"), proposals_));
  proposed_ = new QListWidget(proposals_);
  proposed_->setObjectName(QStringLiteral("setup.proposed"));
  proposed_->setAccessibleName(tr("Proposed tool axes"));
  proposed_->setWordWrap(true);
  proposed_->setMouseTracking(true);
  proposed_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  proposed_->setMinimumHeight(150);
  box->addWidget(proposed_, 1);
  unreached_ = new QLabel(proposals_);
  unreached_->setObjectName(QStringLiteral("setup.unreached"));
  unreached_->setWordWrap(true);
  box->addWidget(unreached_);
  auto* buttons = new QHBoxLayout;
  auto* keep = new QPushButton(tr("Keep the ticked"), proposals_);
  keep->setObjectName(QStringLiteral("setup.keep_proposed"));
  auto* drop = new QPushButton(tr("Drop"), proposals_);
  for (QPushButton* button : {keep, drop}) {
    button->setFocusPolicy(Qt::NoFocus);
    buttons->addWidget(button);
  }
  box->addLayout(buttons);
  layout->addWidget(proposals_, 2);
  connect(proposed_, &QListWidget::itemEntered, this,
          [this](QListWidgetItem* item) { session_.desk().point_at_proposal(proposed_->row(item)); });
  connect(drop, &QPushButton::clicked, &session_.desk(), &SetupDesk::drop_proposals);
  connect(keep, &QPushButton::clicked, this, [this] {
    std::vector<int> axes;
    for (int row = 0; row < proposed_->count(); ++row)
      if (proposed_->item(row)->checkState() == Qt::Checked) axes.push_back(row);
    session_.desk().keep_proposals(axes);
  });
}

// What each would reach; what is there already needs no tick.
void SetupCard::fill_proposals() {
  const auto& found = session_.desk().proposals();
  proposals_->setVisible(found != nullptr);
  if (!found || found == shown_proposals_) return;
  shown_proposals_ = found;
  proposed_->clear();
  const SetupValue* value = session_.desk().opened_setup_value();
  for (const ProposedAxis& axis : found->axes) {
    const gp_Dir placed = axis.towards_tool.Transformed(session_.document().evaluation().placement);
    const int there = session_.desk().plane_along(axis);
    QString text = QStringLiteral("Z ") +
                   told(direction_text(value ? read_in(value->frame, placed) : placed)) +
                   QStringLiteral("\n") + told(axis.summary);
    if (there >= 0) text += tr("; that is %1").arg(told(value->planes[static_cast<size_t>(there)].name));
    auto* item = new QListWidgetItem(text, proposed_);
    if (there >= 0) {
      item->setFlags(Qt::ItemIsEnabled);
      item->setForeground(theme().quiet_ink);
    } else {
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable);
      item->setCheckState(Qt::Checked);
    }
  }
  QStringList missed;
  for (size_t i = 0; i < found->unreached.size(); ++i)
    missed << told(found->features[found->unreached[i]].name) + QStringLiteral(": ") + told(found->why[i]);
  unreached_->setVisible(!missed.isEmpty());
  unreached_->setText(tr("%n not reached by any", nullptr, static_cast<int>(missed.size())));
  unreached_->setToolTip(missed.join(QLatin1Char('\n')));
  unreached_->setStyleSheet(QStringLiteral("color: %1;").arg(theme().does_not_fit.name()));
}

void SetupCard::fill_planes(const Setup& setup, const SetupValue* value) {
  planes_->clear();
  const int looked_along = shown_plane();
  plane_row_->setVisible(looked_along > 0);
  if (looked_along > 0 && looked_along <= static_cast<int>(setup.planes.size())) {
    const ToolPlane& plane = setup.planes[static_cast<size_t>(looked_along) - 1];
    if (!plane_name_->hasFocus()) plane_name_->setText(told(plane.name));
    if (!plane_offset_->hasFocus()) plane_offset_->setText(told(plane.offset));
  }
  if (!value) return;
  const Machine* on = machine();
  for (const PlaneValue& plane : value->planes) {
    QString text =
        told(plane.name) + QStringLiteral("   Z ") + told(direction_text(plane.in_setup.Direction()));
    if (!plane.problem.empty())
      text += QStringLiteral("\n") + told(plane.problem);
    else if (on && plane.pose() && !plane.pose()->angles.empty())
      text += QStringLiteral("\n") + told(angles_text(*on, plane.pose()->angles)) +
              (plane.pose()->is_singular()
                   ? tr("  (singular)")
                   : tr("  moves %1")
                         .arg(told(format_angle(plane.pose()->travel_rad, {Unit::kMillimetre, 3, 1}))));
    text += tr("\nzero %1")
                .arg(told(
                    point_text(plane.in_setup.Location(), world_frame(), session_.document().job().display)));
    auto* item = new QListWidgetItem(text);
    item->setToolTip(told(plane_numbers(plane)));
    if (!plane.problem.empty()) item->setForeground(theme().does_not_fit);
    planes_->addItem(item);
  }
  planes_->setCurrentRow(shown_plane());
  const auto shown = static_cast<size_t>(shown_plane());
  fill_poses(value->planes[std::min(shown, value->planes.size() - 1)], on);
}

// Both solutions of the plane that is looked along, where there are two.
void SetupCard::fill_poses(const PlaneValue& plane, const Machine* on) {
  clear(poses_);
  poses_->setVisible(on && plane.poses.size() > 1 && shown_plane() > 0);
  if (poses_->isHidden()) return;
  for (size_t i = 0; i < plane.poses.size(); ++i) {
    const Pose& pose = plane.poses[i];
    auto* button = new QPushButton(poses_);
    button->setObjectName(QStringLiteral("setup.pose.%1").arg(i));
    button->setCheckable(true);
    button->setChecked(i == plane.chosen);
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    button->setFocusPolicy(Qt::NoFocus);
    button->setStyleSheet(
        QStringLiteral("text-align: left; padding: 4px 8px;") +
        (i == plane.chosen ? QStringLiteral("border-color: %1;").arg(theme().accent.name()) : QString()));
    const QString why =
        !pose.out_of.empty()
            ? tr("beyond its limits")
            : tr("moves %1").arg(told(format_angle(pose.travel_rad, {Unit::kMillimetre, 3, 1})));
    button->setText((i == plane.chosen ? QStringLiteral("● ") : QStringLiteral("○ ")) +
                    told(angles_text(*on, pose.angles)) + QStringLiteral("   ") + why);
    button->setToolTip(told(pose.out_of));
    poses_->layout()->addWidget(button);
    connect(button, &QPushButton::clicked, this, [this, key = pose.key] { choose_pose(key); });
  }
}

void SetupCard::choose_pose(const std::string& key) {
  change_plane(tr("Other rotary solution"), [&](ToolPlane& p) { p.pose = key; });
}

void SetupCard::show_machine() {
  const Machine* on = machine();
  const SetupValue* value = session_.desk().opened_setup_value();
  const auto shown = static_cast<size_t>(shown_plane());
  const Pose* pose = value && shown < value->planes.size() ? value->planes[shown].pose() : nullptr;
  picture_->setVisible(on && !on->rotary.empty() && pose && !session_.desk().proposals());
  if (on && pose) picture_->show_pose(*on, pose->angles);
}

}  // namespace anvil::app
