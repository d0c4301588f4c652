#include "app/dialogs/preferences.h"

#include <QComboBox>
#include <QFormLayout>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QVBoxLayout>

namespace anvil::app {

Preferences Preferences::load() {
  const QSettings s;
  Preferences p;
  p.right_button_turns = s.value(QStringLiteral("mouse/right_button_turns"), false).toBool();
  p.dark = s.value(QStringLiteral("theme/dark"), false).toBool();
  p.unit = unit_from_name(s.value(QStringLiteral("new_job/unit")).toString().toStdString());
  p.smooth_moves = s.value(QStringLiteral("view/smooth"), true).toBool();
  p.decimals = std::clamp(s.value(QStringLiteral("new_job/decimals"), 3).toInt(), 0, 6);
  return p;
}

void Preferences::save() const {
  QSettings s;
  s.setValue(QStringLiteral("mouse/right_button_turns"), right_button_turns);
  s.setValue(QStringLiteral("theme/dark"), dark);
  s.setValue(QStringLiteral("new_job/unit"), unit ? QString::fromLatin1(unit_name(*unit)) : QString());
  s.setValue(QStringLiteral("new_job/decimals"), decimals);
  s.setValue(QStringLiteral("view/smooth"), smooth_moves);
}

PreferencesForm::PreferencesForm(QWidget* parent) : QDialog(parent) {
  setObjectName(QStringLiteral("preferences"));
  setWindowTitle(tr("Preferences"));
  setAttribute(Qt::WA_DeleteOnClose);
  auto* layout = new QVBoxLayout(this);
  auto* rows = new QFormLayout;
  layout->addLayout(rows);
  const Preferences start = Preferences::load();
  const auto combo = [&](const QString& label, const QStringList& items, int current, const char* name) {
    auto* made = new QComboBox(this);
    made->setObjectName(QString::fromLatin1(name));
    made->addItems(items);
    made->setCurrentIndex(current);
    rows->addRow(label, made);
    return made;
  };
  auto* mouse =
      combo(tr("Mouse"), {tr("middle drag turns, Shift pans"), tr("right drag turns, middle drag pans")},
            start.right_button_turns ? 1 : 0, "preferences.mouse");
  auto* look = combo(tr("Theme"), {tr("light"), tr("dark")}, start.dark ? 1 : 0, "preferences.theme");
  auto* moves = combo(tr("From one view to another"), {tr("glides"), tr("jumps")}, start.smooth_moves ? 0 : 1,
                      "preferences.moves");
  const std::vector<std::optional<Unit>> units{std::nullopt, Unit::kMillimetre, Unit::kInch};
  const auto chosen = std::find(units.begin(), units.end(), start.unit) - units.begin();
  auto* unit = combo(tr("Unit of new jobs"), {tr("as in the file"), tr("mm"), tr("inch")},
                     static_cast<int>(chosen), "preferences.unit");
  auto* decimals = new QSpinBox(this);
  decimals->setObjectName(QStringLiteral("preferences.decimals"));
  decimals->setRange(0, 6);
  decimals->setValue(start.decimals);
  rows->addRow(tr("Decimals (mm)"), decimals);
  auto* close = new QPushButton(tr("Close"), this);
  layout->addWidget(close, 0, Qt::AlignRight);
  connect(close, &QPushButton::clicked, this, &QDialog::close);
  const auto tell = [this, mouse, look, moves, unit, units, decimals] {
    const Preferences now{mouse->currentIndex() == 1, look->currentIndex() == 1,
                          units[static_cast<size_t>(unit->currentIndex())], decimals->value(),
                          moves->currentIndex() == 0};
    now.save();
    Q_EMIT changed(now);
  };
  for (QComboBox* box : {mouse, look, moves, unit}) connect(box, &QComboBox::currentIndexChanged, this, tell);
  connect(decimals, &QSpinBox::valueChanged, this, tell);
}

}  // namespace anvil::app
