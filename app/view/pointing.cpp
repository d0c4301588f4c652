// What the pointer does in the view: what lies under it, what clicks take, walking, rectangles.
#include <QMenu>

#include "app/theme.h"
#include "app/view/view_pane.h"
#include "pick/picked_together.h"

namespace anvil::app {
namespace {

constexpr double kSamePlacePixels = 3;

}  // namespace

void ViewPane::on_hover(const QPointF& at) {
  if (at.x() < 0 || !session_.document().part()) {
    view_->context()->ClearDetected(false);
    overlay_->set_hover(std::nullopt, {});
    resting_.stop();
    aim_at(0);
    candidates_.clear();
    view_->update();
    return;
  }
  if (aimed_ > 0 && (at - rests_at_).manhattanLength() <= kSamePlacePixels) return;
  aim_at(0);
  candidates_ = finder_.at(at);
  const QPoint p = view_->device(at);
  if (const auto body = candidates_.empty() ? std::nullopt : body_of(candidates_.front().reference))
    for (const Body& under : session_.document().part()->bodies())
      if (under.delivered == *body) scene_.set_hover_over(under);
  const bool point_first = !candidates_.empty() && [&] {
    const auto* t = std::get_if<TopologyReference>(&candidates_.front().reference.target);
    return !t || t->snap != Snap::kWhole;
  }();
  // A snapped point, a datum or the seed of a region is marked by the overlay; then the face under it must
  // not light up as well.
  if (point_first)
    view_->context()->ClearDetected(false);
  else
    view_->context()->MoveTo(p.x(), p.y(), view_->camera_view(), false);
  if (candidates_.empty())
    overlay_->set_hover(std::nullopt, {});
  else
    overlay_->set_hover(candidates_.front(), candidate_text(session_, candidates_.front()));
  rests_at_ = at;
  resting_.start();
  view_->update();
}

// Where several things compete under a pointer that rests, they are named, and the one a click takes is
// marked.
void ViewPane::tell_what_lies_here() {
  if (aimed_ == 0) candidates_ = finder_.at(rests_at_);
  constexpr size_t kMost = 7;
  const size_t first = aimed_ < kMost ? 0 : aimed_ - kMost + 1;
  QStringList texts;
  for (size_t i = first; i < std::min(candidates_.size(), first + kMost); ++i)
    texts << candidate_text(session_, candidates_[i]) +
                 behind_text(candidates_[i].depth - candidates_[0].depth);
  if (candidates_.size() > 1)
    overlay_->tell_what_lies_here(rests_at_, texts, static_cast<int>(aimed_ - first));
}

// What lies behind is told apart by how far.
QString ViewPane::behind_text(double behind_mm) const {
  const double seen_mm = 4 * view_->mm_per_pixel();
  return behind_mm > seen_mm
             ? tr(", %1 behind")
                   .arg(QString::fromStdString(format_length(behind_mm, session_.document().job().display)))
             : QString();
}

void ViewPane::walk(int steps) {
  if (candidates_.empty()) candidates_ = finder_.at(rests_at_);
  if (candidates_.size() < 2) return;
  resting_.stop();
  const auto count = static_cast<int>(candidates_.size());
  const bool listed = overlay_->tells_what_lies_here();
  aim_at(listed ? static_cast<size_t>((static_cast<int>(aimed_) + steps % count + count) % count) : aimed_);
  tell_what_lies_here();
}

void ViewPane::aim_at(size_t place) {
  aimed_ = place;
  Paint paint{{}, theme().accent, 0.35};
  const PartPtr part = session_.document().part();
  if (aimed_ > 0 && part) {
    view_->context()->ClearDetected(false);
    overlay_->set_hover(candidates_[aimed_], candidate_text(session_, candidates_[aimed_]));
    const auto* t = std::get_if<TopologyReference>(&candidates_[aimed_].reference.target);
    const auto index = t ? static_cast<size_t>(t->index_hint) : 0;
    if (t && t->kind == TopologyKind::kFace) paint.shapes = {part->topology().faces[index].face};
    if (t && t->kind == TopologyKind::kEdge) paint.shapes = {part->topology().edges[index].edge};
    if (t && t->kind == TopologyKind::kVertex) paint.shapes = {part->topology().vertices[index].vertex};
  }
  scene_.paint(Scene::Layer::kAimed, {paint});
}

// What was picked last, where it was picked.
std::optional<gp_Pnt> ViewPane::turned_about() const {
  if (session_.tray().picks().empty()) return std::nullopt;
  const Pick& last = session_.tray().picks().back();
  if (last.reference.clicked)
    return last.reference.clicked->Transformed(session_.document().evaluation().placement);
  if (last.given.point) return last.given.point;
  return last.given.extent.empty() ? std::nullopt : std::optional(last.given.extent.front());
}

// A click picks what is nearest, or what was walked to; clicking again at the same place walks on to what
// lies behind it, and after the last one lets go. A click elsewhere on something already picked removes it.
// Two quick ones take what goes on smoothly from there, three the hole, pocket or boss.
void ViewPane::on_click(const QPointF& at, int times) {
  if (const int ghost = overlay_->ghost_at(at); ghost >= 0)
    return session_.tray().choose_solution(static_cast<size_t>(ghost));
  if (overlay_->is_flip_at(at)) return session_.tray().flip();
  if (overlay_->is_quarter_turn_at(at)) return session_.tray().quarter_turn();
  if (times == 2 && pick_chain()) return;
  if (times == 3 && pick_feature()) return;
  const bool walked_to = aimed_ > 0 && aimed_ < candidates_.size();
  const bool same_place = !walked_to && picked_here_ && session_.tray().is_picked(picked_by_clicks_.back()) &&
                          (at - clicked_at_).manhattanLength() <= kSamePlacePixels;
  if (same_place) return pick_next(at);
  if (!walked_to) candidates_ = finder_.at(at);
  walked_ = walked_to ? aimed_ : 0;
  aim_at(0);
  clicked_at_ = at;
  picked_here_ = false;
  picked_by_clicks_.clear();
  if (candidates_.empty()) return;
  picked_by_clicks_ = {candidates_[walked_].reference};
  picked_here_ = !session_.tray().is_picked(picked_by_clicks_.front());
  session_.tray().add_pick(picked_by_clicks_.front());
}

void ViewPane::pick_next(const QPointF& at) {
  const std::vector<Candidate> here = finder_.at(at);
  ++walked_;
  if (walked_ < here.size()) {
    picked_by_clicks_.push_back(here[walked_].reference);
    return session_.tray().replace_last_pick(here[walked_].reference);
  }
  session_.tray().remove_last_pick();
  picked_here_ = false;
}

// The face or edge the first of several quick clicks took; points, datums and regions go on nowhere.
std::optional<TopologyReference> ViewPane::clicked_first() const {
  if (picked_by_clicks_.empty() || !session_.document().part()) return std::nullopt;
  const auto* t = std::get_if<TopologyReference>(&picked_by_clicks_.front().target);
  const bool goes_on = t && t->snap == Snap::kWhole && t->kind != TopologyKind::kVertex;
  return goes_on ? std::optional(*t) : std::nullopt;
}

bool ViewPane::pick_chain() {
  const auto first = clicked_first();
  if (!first) return false;
  const std::vector<int> chain =
      tangent_chain(session_.document().part()->topology(), first->kind, first->index_hint);
  if (chain.size() < 2) return false;
  std::vector<Reference> picks{picked_by_clicks_.front()};
  for (const int index : chain)
    if (index != first->index_hint) picks.push_back({session_.document().describe(first->kind, index), {}});
  session_.tray().add_picks(picks);
  picked_by_clicks_ = std::move(picks);
  picked_here_ = false;
  return true;
}

bool ViewPane::pick_feature() {
  const auto first = clicked_first();
  if (!first) return false;
  const std::vector<int> feature =
      faces_of_feature(session_.document().part()->topology(), first->kind, first->index_hint);
  if (feature.empty()) {
    session_.bus().tell(tr("This is part of no hole, pocket or boss: it is a face of the outside."));
    return true;
  }
  std::vector<Reference> picks;
  picks.reserve(feature.size());
  for (const int face : feature)
    picks.push_back({session_.document().describe(TopologyKind::kFace, face), {}});
  const ChangeBus::Hold hold(session_.bus());
  session_.tray().remove_picks(picked_by_clicks_);
  session_.tray().add_picks(picks);
  picked_by_clicks_.resize(1);
  picked_here_ = false;
  return true;
}

void ViewPane::on_menu(const QPointF& at) {
  const std::vector<Candidate> here = finder_.at(at);
  QMenu menu(this);
  menu.setObjectName(QStringLiteral("what_lies_here"));
  if (here.empty()) menu.addAction(tr("Nothing lies here"))->setEnabled(false);
  for (const Candidate& candidate : here)
    connect(menu.addAction(candidate_text(session_, candidate)), &QAction::triggered, this,
            [this, candidate] { session_.tray().add_pick(candidate.reference); });
  menu.exec(view_->mapToGlobal(at.toPoint()));
}

void ViewPane::on_rectangle(const QRectF& area, bool touching) {
  session_.tray().add_picks(finder_.in(area, touching));
}

}  // namespace anvil::app
