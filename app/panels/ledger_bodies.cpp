// The bodies of the part in the ledger: a tree of assemblies, each body with its eye and its menu.
#include <QColorDialog>
#include <QMenu>
#include <map>

#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/theme.h"
#include "job/edits.h"

namespace anvil::app {

// Left-out bodies stay in the tree, greyed, so that they can be brought back.
void Ledger::add_bodies(QTreeWidgetItem* parent, const Entry& entry) {
  const PartEntry& part = *entry.part();
  if (part.bodies.size() < 2) return;
  std::map<std::vector<std::string>, QTreeWidgetItem*> groups;
  const auto group = [&](const std::vector<std::string>& path) {
    QTreeWidgetItem* under = parent;
    std::vector<std::string> so_far;
    for (const std::string& name : path) {
      so_far.push_back(name);
      QTreeWidgetItem*& item = groups[so_far];
      if (!item) {
        item = new QTreeWidgetItem(under);
        item->setText(kName, QString::fromStdString(name));
        item->setFlags(Qt::ItemIsEnabled);
        item->setForeground(kName, theme().quiet_ink);
      }
      under = item;
    }
    return under;
  };
  int delivered = 0;
  for (const SourceFile& file : part.sources) {
    for (const Body& body : file.part->bodies()) {
      std::vector<std::string> path = body.path;
      if (part.sources.size() > 1) path.insert(path.begin(), file.part->source().file_name);
      const BodySetting& setting = part.bodies[delivered];
      auto* item = new QTreeWidgetItem(group(path));
      const QString name = QString::fromStdString(setting.name.empty() ? body.name : setting.name);
      item->setText(kName, setting.included ? name : tr("%1 (left out)").arg(name));
      item->setToolTip(kName, QString::fromLatin1(body_kind_name(body.kind)));
      item->setData(kName, kIdRole, entry.id);
      item->setData(kName, kNameRole, name);
      item->setData(kName, kBodyRole, delivered);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable);
      const bool alone = session_.document().isolated().count(delivered) > 0;
      const bool dim = !setting.included || (!session_.document().isolated().empty() && !alone);
      item->setForeground(kName, dim ? theme().quiet_ink : theme().ink);
      if (setting.included)
        item->setIcon(kEye, icon(setting.visible ? QStringLiteral("eye") : QStringLiteral("eye-off"),
                                 theme().quiet_ink));
      ++delivered;
    }
  }
  for (const auto& [path, item] : groups) item->setExpanded(true);
  parent->setExpanded(true);
}

// Entries that stand on a body that is left out are refused, with the reason, until it is brought in again.
void Ledger::set_body(int delivered, const BodySetting& setting, const QString& act) {
  session_.document().act(act, with_body(session_.document().job(), delivered, setting));
}

void Ledger::body_menu(int delivered, const QPoint& at) {
  const BodySetting setting = session_.document().job().body(delivered);
  QMenu menu(this);
  const auto change = [&](const QString& text, const BodySetting& to) {
    menu.addAction(text, this, [this, delivered, to, text] { set_body(delivered, to, text); });
  };
  const auto with = [&](auto edit) {
    BodySetting to = setting;
    edit(to);
    return to;
  };
  if (setting.included) {
    change(setting.visible ? tr("Hide") : tr("Show"), with([](BodySetting& s) { s.visible = !s.visible; }));
    menu.addAction(tr("Look at it alone"), this,
                   [this, delivered] { session_.document().isolate({delivered}); });
    menu.addAction(tr("Colour …"), this, [this, delivered, setting] {
      const QColor now = setting.colour ? on_screen(*setting.colour) : theme().part;
      const QColor chosen = QColorDialog::getColor(now, window(), tr("Colour of the body"));
      if (!chosen.isValid()) return;
      BodySetting to = setting;
      to.colour = Colour{chosen.redF(), chosen.greenF(), chosen.blueF()};
      set_body(delivered, to, tr("Colour a body"));
    });
    if (setting.colour) change(tr("Colour as in the file"), with([](BodySetting& s) { s.colour.reset(); }));
    change(setting.transparency > 0 ? tr("Solid again") : tr("See through"),
           with([](BodySetting& s) { s.transparency = s.transparency > 0 ? 0 : 0.6; }));
    menu.addAction(tr("Rename"), this, &Ledger::rename_current);
    menu.addSeparator();
  }
  change(setting.included ? tr("Leave it out") : tr("Bring it in"),
         with([](BodySetting& s) { s.included = !s.included; }));
  if (!session_.document().isolated().empty())
    menu.addAction(tr("Look at all again"), this, [this] { session_.document().isolate({}); });
  menu.exec(at);
}

}  // namespace anvil::app
