// The ledger's context menu and what it does.
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <set>

#include "app/forms/choice_form.h"
#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/theme.h"
#include "job/edits.h"

namespace anvil::app {
namespace {

struct NamedColour {
  const char* name;
  Colour colour;
};

const std::vector<NamedColour>& datum_colours() {
  static const std::vector<NamedColour> all{{QT_TRANSLATE_NOOP("Ledger", "Rust"), {0.66, 0.27, 0.12}},
                                            {QT_TRANSLATE_NOOP("Ledger", "Moss"), {0.25, 0.48, 0.22}},
                                            {QT_TRANSLATE_NOOP("Ledger", "Slate"), {0.22, 0.36, 0.55}},
                                            {QT_TRANSLATE_NOOP("Ledger", "Plum"), {0.48, 0.24, 0.55}}};
  return all;
}

}  // namespace

void Ledger::try_act(const QString& name, const Result<Job>& next) {
  if (next)
    session_.document().act(name, *next);
  else
    Q_EMIT session_.bus().told(QString::fromStdString(next.error().sentence));
}

void Ledger::show_menu(const QPoint& at) {
  QTreeWidgetItem* item = itemAt(at);
  const LedgerRow row = LedgerRow::of(item);
  const Entry* entry = session_.document().job().find(row.entry);
  if (!entry) return;
  setCurrentItem(item);
  if (row.body >= 0) return body_menu(row.body, viewport()->mapToGlobal(at));
  if (row.plane >= 0) return plane_menu(row.entry, row.plane, viewport()->mapToGlobal(at));
  QMenu menu(this);
  menu.setObjectName(QStringLiteral("ledger.menu"));
  const int id = entry->id;
  if (entry->datum() || entry->placement()) menu.addAction(tr("Edit"), this, [this, row] { open(row); });
  if (gives_something(*entry))
    menu.addAction(tr("Pick"), this, [this, id] {
      session_.tray().add_pick(Reference{EntryReference{id}, {}});
    });
  if (entry->setup()) add_setup_actions(menu, *entry);
  if (entry->is_frame() || entry->setup())
    menu.addAction(tr("Read in this frame"), this, [this, id] {
      session_.document().act(tr("Read in another frame"), with_reading_frame(session_.document().job(), id),
                              QStringLiteral("reading"));
    });
  if (entry->is_frame())
    menu.addAction(tr("New setup on it"), this, [this, id] {
      session_.tray().clear_picks();
      session_.tray().add_pick(Reference{EntryReference{id}, {}});
      session_.desk().keep_as_setup();
    });
  if (entry->is_frame() && session_.desk().setup_in_use())
    menu.addAction(tr("New tool plane on it"), this, [this, id] {
      session_.tray().clear_picks();
      session_.tray().add_pick(Reference{EntryReference{id}, {}});
      session_.desk().keep_as_tool_plane();
    });
  if (row.step < 0) menu.addAction(tr("Rename"), this, &Ledger::rename_current);
  if (entry->datum()) add_datum_actions(menu, *entry);
  if (can_be_seen(session_.document().evaluation(), *entry))
    menu.addAction(entry->visible ? tr("Hide") : tr("Show"), this, &Ledger::toggle_current);
  menu.addSeparator();
  menu.addAction(tr("Delete"), this, &Ledger::remove_current);
  menu.exec(viewport()->mapToGlobal(at));
}

void Ledger::add_datum_actions(QMenu& menu, const Entry& entry) {
  const int id = entry.id;
  const Evaluated& evaluated = session_.document().evaluation().entries.at(id);
  if (evaluated.stopped)
    menu.addAction(tr("Compute it"), this, [this] { session_.document().compute_stopped(); });
  else if (evaluated.state == EntryState::kAttention && session_.document().part())
    menu.addAction(tr("Take it as it is"), this, [this, id] {
      session_.document().act(tr("Take it as it is"), with_picks_as_found(session_.document().job(), id,
                                                                          session_.document().evaluation()));
    });
  menu.addAction(tr("Duplicate"), this, [this, id] {
    session_.document().act(tr("Duplicate"), with_duplicate(session_.document().job(), id));
  });
  menu.addAction(entry.suppressed ? tr("Build again") : tr("Suppress"), this,
                 [this, id, now = !entry.suppressed] {
                   session_.document().act(now ? tr("Suppress") : tr("Build again"),
                                           with_suppressed(session_.document().job(), id, now));
                 });
  menu.addAction(tr("Move up"), this,
                 [this, id] { try_act(tr("Move up"), with_moved(session_.document().job(), id, -1)); });
  menu.addAction(tr("Move down"), this,
                 [this, id] { try_act(tr("Move down"), with_moved(session_.document().job(), id, +1)); });
  if (can_be_seen(session_.document().evaluation(), entry)) add_colours(menu, id);
  if (!entry.is_correction()) menu.addAction(tr("Group …"), this, [this, id] { ask_group(id); });
  menu.addSeparator();
  menu.addAction(tr("Show what it is made from"), this,
                 [this, id] { mark(sources_of(session_.document().job(), id), id); });
  menu.addAction(tr("Show what is made from it"), this,
                 [this, id] { mark(dependents(session_.document().job(), id), 0); });
  if (entry.is_correction()) return;
  menu.addSeparator();
  add_hiding(menu, entry);
}

void Ledger::ask_group(int id) {
  QStringList groups;
  for (const Entry& entry : session_.document().job().entries)
    if (const QString group = QString::fromStdString(entry.group);
        !group.isEmpty() && !groups.contains(group))
      groups << group;
  const Entry* grouped = session_.document().job().find(id);
  if (!grouped) return;
  const QString now = QString::fromStdString(grouped->group);
  if (!now.isEmpty()) groups.removeAll(now);
  groups.prepend(now);
  const Question question{tr("Group"),
                          tr("The heading %1 stands under in the ledger; none when it is left empty.")
                              .arg(QString::fromStdString(grouped->name)),
                          tr("Heading"),
                          groups,
                          true,
                          tr("Put it there")};
  Q_EMIT form_wanted(new ChoiceForm(
      question,
      [this, id](const QString& group) {
        if (!session_.document().job().find(id)) return tr("The entry is gone.");
        session_.document().act(tr("Group"), with_group(session_.document().job(), id, group.toStdString()));
        return QString();
      },
      this));
}

void Ledger::add_colours(QMenu& menu, int id) {
  QMenu* colours = menu.addMenu(tr("Colour"));
  const auto paint = [this, id](std::optional<Colour> colour) {
    session_.document().act(tr("Colour"), with_colour(session_.document().job(), id, colour),
                            QStringLiteral("colour %1").arg(id));
  };
  colours->addAction(tr("As all others"), this, [paint] { paint({}); });
  for (const NamedColour& named : datum_colours())
    colours->addAction(tr(named.name), this, [paint, colour = named.colour] { paint(colour); });
}

void Ledger::add_hiding(QMenu& menu, const Entry& entry) {
  QMenu* hiding = menu.addMenu(tr("Hide or show several"));
  const auto add = [this, hiding](const QString& text, bool visible,
                                  const std::function<bool(const Entry&)>& which) {
    hiding->addAction(text, this, [=, this] {
      session_.document().act(text, with_visible_where(session_.document().job(), visible, which));
    });
  };
  const Makes makes = entry.datum()->makes;
  const QString kind = QString::fromUtf8(makes_name(makes));
  const auto same_kind = [makes](const Entry& e) { return e.datum()->makes == makes; };
  add(tr("Hide every %1").arg(kind), false, same_kind);
  add(tr("Show every %1").arg(kind), true, same_kind);
  add(tr("Hide all but this"), false, [id = entry.id](const Entry& e) { return e.id != id; });
  std::set<int> picked;
  for (const Pick& pick : session_.tray().picks())
    if (const auto* to_entry = std::get_if<EntryReference>(&pick.reference.target))
      picked.insert(to_entry->entry);
  add(tr("Hide all but the picks"), false, [picked](const Entry& e) { return !picked.count(e.id); });
  add(tr("Show all"), true, [](const Entry&) { return true; });
}

// Rows of the ledger, and the faces the entry was picked on.
void Ledger::mark(const std::vector<int>& entries, int picks_of) {
  marked_ = {entries.begin(), entries.end()};
  std::vector<int> faces;
  std::vector<RegionPtr> regions;
  const Entry* entry = session_.document().job().find(picks_of);
  if (entry && session_.document().part())
    for (const Reference& input : inputs_of(*entry)) {
      const auto* topology = std::get_if<TopologyReference>(&input.target);
      if (topology && topology->kind == TopologyKind::kFace)
        if (const auto face = located_pick(session_.document().evaluation(), input)) {
          faces.push_back(face->index);
          // Of several pieces all are shown: one of them was taken.
          faces.insert(faces.end(), face->candidates.begin(), face->candidates.end());
        }
      if (const auto* region = std::get_if<RegionReference>(&input.target))
        if (const auto grown = region_of(*session_.document().part(), *region)) regions.push_back(*grown);
    }
  const bool nothing_shown = faces.empty() && regions.empty();
  session_.checks().show_faces(std::move(faces), std::move(regions));
  refresh_soon();
  if (marked_.empty() && nothing_shown)
    Q_EMIT session_.bus().told(picks_of ? tr("It is made from edges or points of the part alone.")
                                        : tr("Nothing is made from it."));
}

// What the followers of a deleted entry may be made from instead.
void Ledger::rebase(int id) {
  const Entry* entry = session_.document().job().find(id);
  if (!entry) return;
  const QString own = QString::fromStdString(entry->name);
  QStringList names;
  std::vector<int> ids;
  for (const Entry& other : session_.document().job().entries)
    if (other.datum() && other.id != id && entry->datum() && other.datum()->makes == entry->datum()->makes) {
      names << QString::fromStdString(other.name);
      ids.push_back(other.id);
    }
  if (names.empty()) {
    Q_EMIT session_.bus().told(tr("There is nothing else of this kind they could be made from."));
    return;
  }
  const Question question{tr("Make them from"),
                          tr("What %1 is deleted from under is made from this instead.").arg(own),
                          tr("Entry"),
                          names,
                          false,
                          tr("Delete %1").arg(own)};
  Q_EMIT form_wanted(new ChoiceForm(
      question,
      [this, id, own, names, ids](const QString& name) {
        const auto next =
            session_.document().job().find(id)
                ? with_rebased(session_.document().job(), id,
                               ids[static_cast<size_t>(std::max<qsizetype>(0, names.indexOf(name)))])
                : Result<Job>(refuse(RefusalCode::kUnknownName, "the entry is gone"));
        if (!next) return QString::fromStdString(next.error().sentence);
        session_.document().act(tr("Delete %1").arg(own), without(*next, id));
        return QString();
      },
      this));
}

void Ledger::remove(int id) {
  const Entry* entry = session_.document().job().find(id);
  if (!entry) return;
  const std::vector<int> followers = lost_with(session_.document().job(), id);
  const QString name = QString::fromStdString(entry->name);
  if (!followers.empty()) {
    QStringList names;
    for (int follower : followers)
      names << QString::fromStdString(session_.document().job().find(follower)->name);
    QMessageBox box(QMessageBox::Question, tr("Delete %1").arg(name),
                    tr("%1 is used by: %2.\nThey go with it. Undo brings all of them back.")
                        .arg(name, names.join(QStringLiteral(", "))),
                    QMessageBox::NoButton, window());
    box.setObjectName(QStringLiteral("delete_dependents"));
    QPushButton* all = box.addButton(tr("Delete %n entries", nullptr, static_cast<int>(followers.size()) + 1),
                                     QMessageBox::AcceptRole);
    QPushButton* other =
        entry->datum() ? box.addButton(tr("Make them from another …"), QMessageBox::ActionRole) : nullptr;
    box.addButton(tr("Leave them"), QMessageBox::RejectRole);
    box.exec();
    if (other && box.clickedButton() == other) {
      rebase(id);
      return;
    }
    if (box.clickedButton() != all) return;
  }
  session_.document().act(tr("Delete %1").arg(name), without(session_.document().job(), id));
}

}  // namespace anvil::app
