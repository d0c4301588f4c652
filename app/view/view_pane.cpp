#include "app/view/view_pane.h"

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "geom/primitives.h"
#include "inspect/corner_summary.h"
#include "job/correcting.h"
#include "part/mesh.h"

namespace anvil::app {
ViewPane::ViewPane(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      view_(new OccView(this)),
      overlay_(new Overlay(*view_, session)),
      scene_(*view_),
      finder_(*view_, session) {
  setObjectName(QStringLiteral("view_pane"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  build_row();
  build_section_bar();
  layout->addWidget(view_, 1);
  view_->installEventFilter(this);

  connect(view_, &OccView::hovered, this, &ViewPane::on_hover);
  connect(view_, &OccView::clicked, this, &ViewPane::on_click);
  connect(view_, &OccView::walked, this, &ViewPane::walk);
  view_->set_turned_about([this] { return turned_about(); });
  connect(view_, &OccView::menu_wanted, this, &ViewPane::on_menu);
  connect(view_, &OccView::rectangle, this, &ViewPane::on_rectangle);
  connect(view_, &OccView::rectangle_moved, overlay_, &Overlay::set_rectangle);
  connect(view_, &OccView::being_turned, this, [this](bool now) { scene_.set_turning(now); });
  connect(view_, &OccView::camera_moved, overlay_, qOverload<>(&QWidget::update));
  connect(view_, &OccView::camera_moved, this, [this] { scene_.fit_hatch(); });
  connect(&session_.bus(), &ChangeBus::changed, this, &ViewPane::follow);
  constexpr int kRest_ms = 600;
  resting_.setSingleShot(true);
  resting_.setInterval(kRest_ms);
  connect(&resting_, &QTimer::timeout, this, &ViewPane::tell_what_lies_here);
  QTimer::singleShot(0, this, [this] { scene_.warm_up(); });
  scene_.set_looks([this](const Body& body) { return look_of(body); });
}

void ViewPane::follow(Changes what) {
  if (what & (Change::kPart | Change::kRefined)) show_part();
  if (what & Change::kPart) frame_part();
  if (what & Change::kRefined)
    framed_ = session_.document().evaluation().states.empty()
                  ? nullptr
                  : session_.document().evaluation().states.front().part;
  if (what & Change::kPicks) show_picks();
  if (what & Change::kJob) {
    const Entry* part = session_.document().job().first_part();
    scene_.set_visible(!part || part->visible);
  }
  if (what & Change::kBodies) show_looks();
  if (what & Change::kShown) show_shown();
  if (what & Change::kChecks) show_corner_line();
  if (what & Change::kPlace)
    zoom_to(session_.checks().shown_place()->Transformed(session_.document().evaluation().placement));
  if (what & (Change::kDraft | Change::kJob | Change::kShown | Change::kLeft | Change::kList))
    overlay_->refresh_ghost();
  if (what & (Change::kDraft | Change::kPart)) show_correction();
}

void ViewPane::show_looks() {
  std::vector<BodyLook> now = looks();
  if (now == looks_) return;
  looks_ = std::move(now);
  scene_.refresh_bodies();
}

void ViewPane::build_row() {
  auto* frame = new QFrame(this);
  frame->setObjectName(QStringLiteral("view_row"));
  row_ = new QHBoxLayout(frame);
  row_->setContentsMargins(6, 2, 6, 2);
  row_->setSpacing(0);
  row_->addStretch(1);
  narrow_filters_ = new QToolButton(this);
  narrow_filters_->setObjectName(QStringLiteral("filters"));
  narrow_filters_->setText(tr("Picks ▾"));
  narrow_filters_->setToolTip(tr("What can be picked"));
  narrow_filters_->setPopupMode(QToolButton::InstantPopup);
  narrow_filters_->setFocusPolicy(Qt::NoFocus);
  narrow_filters_->setMenu(new QMenu(narrow_filters_));
  row_->addWidget(narrow_filters_);
  add_filter(tr("faces"), &PickFilter::faces);
  add_filter(tr("edges"), &PickFilter::edges);
  add_filter(tr("points"), &PickFilter::vertices);
  add_filter(tr("middles"), &PickFilter::middles);
  add_filter(tr("centres"), &PickFilter::centres);
  layout()->addWidget(frame);
}

void ViewPane::add_row_action(QAction* action) {
  auto* button = new QToolButton(this);
  button->setDefaultAction(action);
  button->setToolButtonStyle(Qt::ToolButtonTextOnly);
  button->setFocusPolicy(Qt::NoFocus);
  int stretch = 0;
  while (stretch < row_->count() && !row_->itemAt(stretch)->spacerItem()) ++stretch;
  row_->insertWidget(stretch, button);
}

void ViewPane::add_filter(const QString& label, bool PickFilter::*field) {
  auto* button = new QToolButton(this);
  button->setText(label);
  button->setCheckable(true);
  button->setChecked(true);
  button->setFocusPolicy(Qt::NoFocus);
  button->setObjectName(QStringLiteral("filter.") + label);
  button->setToolTip(tr("Whether %1 can be picked").arg(label));
  connect(button, &QToolButton::toggled, this, [this, field](bool on) {
    PickFilter filter = finder_.filter();
    filter.*field = on;
    finder_.set_filter(filter);
    scene_.set_pickable(filter.faces, filter.edges, filter.vertices);
  });
  row_->addWidget(button);
  filters_.push_back(button);
  QAction* same = narrow_filters_->menu()->addAction(label);
  same->setCheckable(true);
  same->setChecked(true);
  connect(same, &QAction::toggled, button, &QToolButton::setChecked);
  connect(button, &QToolButton::toggled, same, &QAction::setChecked);
}

// Where the row is too narrow for all its buttons the filters go into a menu.
void ViewPane::fit_row() {
  int wide = row_->contentsMargins().left() + row_->contentsMargins().right();
  for (int i = 0; i < row_->count(); ++i)
    if (QWidget* button = row_->itemAt(i)->widget(); button && button != narrow_filters_)
      wide += button->sizeHint().width();
  const bool narrow = wide > width();
  narrow_filters_->setVisible(narrow);
  for (QToolButton* filter : filters_) filter->setVisible(!narrow);
}

bool ViewPane::eventFilter(QObject* watched, QEvent* event) {
  if (watched == view_ && (drag_handle(event) || drag_section(event))) return true;
  if (watched == view_ && event->type() == QEvent::Resize) overlay_->setGeometry(view_->rect());
  return QWidget::eventFilter(watched, event);
}

void ViewPane::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_row();
  overlay_->setGeometry(view_->rect());
}

// --- looking

void ViewPane::look_from(Side side) {
  const gp_Ax2 f = session_.document().frame();
  const gp_Dir x = f.XDirection(), y = f.YDirection(), z = f.Direction();
  switch (side) {
    case Side::kTop:
      view_->look(z, y);
      break;
    case Side::kBottom:
      view_->look(z.Reversed(), y);
      break;
    case Side::kFront:
      view_->look(y.Reversed(), z);
      break;
    case Side::kBack:
      view_->look(y, z);
      break;
    case Side::kRight:
      view_->look(x, z);
      break;
    case Side::kLeft:
      view_->look(x.Reversed(), z);
      break;
    case Side::kIso:
      view_->look(gp_Dir(gp_Vec(x) * 0.75 - gp_Vec(y) + gp_Vec(z) * 0.85), z);
      break;
  }
  fit();
}

void ViewPane::look_along_tool() {
  const gp_Ax2 plane = active_tool_plane(session_.document().job(), session_.document().evaluation());
  view_->look(plane.Direction(), plane.YDirection());
  fit();
}

void ViewPane::look_square() {
  if (session_.tray().picks().empty() || !session_.tray().picks().back().given.direction) return;
  const gp_Dir towards = *session_.tray().picks().back().given.direction;
  view_->look(towards, square_to(towards, std::abs(towards.Z()) > 0.9 ? gp_Dir(0, 1, 0) : gp_Dir(0, 0, 1)));
}

gp_Ax2 ViewPane::seen() const {
  if (view_->camera_view().IsNull()) return world_frame();
  const Handle(Graphic3d_Camera)& camera = view_->camera_view()->Camera();
  const gp_Dir towards = camera->Direction().Reversed(), up = camera->OrthogonalizedUp();
  return make_frame(camera->Eye(), towards, up.Crossed(towards));
}

void ViewPane::fit() {
  if (session_.document().part()) view_->fit(outline_points());
}

// Points along the edges of what is shown; of meshes, which have none, their nodes.
std::vector<gp_Pnt> ViewPane::outline_points() const {
  const PartPtr part = session_.document().part();
  std::vector<gp_Pnt> points;
  std::vector<bool> shown;
  for (const Body& body : part->bodies()) shown.push_back(session_.document().is_shown(body));
  for (size_t i = 0; i < shown.size(); ++i)
    if (shown[i] && part->bodies()[i].kind == BodyKind::kMesh)
      for (const Triangle& t : triangles_of(part->bodies()[i].shape))
        points.push_back(t.a.Transformed(session_.document().evaluation().placement));
  for (const EdgeInfo& edge : part->topology().edges) {
    if (!shown[edge.body]) continue;
    const BRepAdaptor_Curve curve(edge.edge);
    constexpr int kSamples = 4;
    for (int i = 0; i < kSamples; ++i) {
      const double t =
          curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / kSamples;
      points.push_back(curve.Value(t).Transformed(session_.document().evaluation().placement));
    }
  }
  return points;
}

void ViewPane::zoom_to_picks() {
  std::vector<gp_Pnt> points;
  for (const Pick& pick : session_.tray().picks())
    points.insert(points.end(), pick.given.extent.begin(), pick.given.extent.end());
  if (points.empty()) return fit();
  // A single point has no size of its own: a tenth of the part around it.
  if (points.size() == 1) return zoom_to(points.front());
  view_->fit(points);
}

void ViewPane::zoom_to(const gp_Pnt& placed) {
  if (!session_.document().part()) return;
  const double around = std::max(1e-3, box_around(outline_points()).diagonal_mm() / 5);
  std::vector<gp_Pnt> points;
  for (const gp_Vec& d : {gp_Vec(1, 0, 0), gp_Vec(0, 1, 0), gp_Vec(0, 0, 1)})
    for (const double sense : {1.0, -1.0}) points.push_back(placed.Translated(d * (sense * around)));
  view_->fit(points);
}

KeptView ViewPane::present_view(const std::string& name) const {
  const Handle(Graphic3d_Camera)& camera = view_->camera_view()->Camera();
  return {name, camera->Eye(), camera->Center(), camera->OrthogonalizedUp(), camera->Scale()};
}

void ViewPane::go_to(const KeptView& kept) {
  view_->glide([&] {
    const Handle(Graphic3d_Camera)& camera = view_->camera_view()->Camera();
    camera->SetUp(kept.up);
    camera->SetEyeAndCenter(kept.eye, kept.centre);
    camera->SetScale(kept.scale_mm);
  });
}

BodyLook ViewPane::look_of(const Body& body) const {
  const BodySetting setting = session_.document().job().body(body.delivered);
  return {session_.document().is_shown(body), setting.colour, setting.transparency};
}

std::vector<BodyLook> ViewPane::looks() const {
  std::vector<BodyLook> all;
  if (const PartPtr part = session_.document().part())
    for (const Body& body : part->bodies()) all.push_back(look_of(body));
  return all;
}

QImage ViewPane::picture() {
  view_->end_glide();
  const Handle(Graphic3d_Camera) kept = new Graphic3d_Camera(view_->camera_view()->Camera());
  look_from(Side::kIso);
  view_->end_glide();
  QImage image = view_->grab().toImage();
  view_->camera_view()->Camera()->Copy(kept);
  view_->redraw();
  return image;
}

QImage ViewPane::picture_along(const gp_Ax2& plane) {
  view_->end_glide();
  const Handle(Graphic3d_Camera) kept = new Graphic3d_Camera(view_->camera_view()->Camera());
  view_->look(plane.Direction(), plane.YDirection());
  fit();
  view_->end_glide();
  overlay_->set_corner_line({}, theme().ink);  // it tells of the plane that is active, not of this one
  QImage image = view_->grab().toImage();
  show_corner_line();
  view_->camera_view()->Camera()->Copy(kept);
  view_->redraw();
  return image;
}

void ViewPane::refresh_theme() {
  scene_.apply_theme();
  show_picks();
  show_shown();
  show_corner_line();
  overlay_->update();
}

// --- showing

void ViewPane::show_part() {
  const PartPtr part = session_.document().part();
  candidates_.clear();
  picked_by_clicks_.clear();
  picked_here_ = false;
  aimed_ = 0;
  looks_ = looks();
  scene_.show_part(part, session_.document().evaluation().placement);
  show_picks();
  show_shown();
  colour_corners(cutter_mm_);
}

void ViewPane::frame_part() {
  const Evaluation& now = session_.document().evaluation();
  // What is done to it on the way, as corrections do, leaves the view as it is.
  const PartPtr part = now.states.empty() ? nullptr : now.states.front().part;
  const bool is_new = part && !same_geometry(part, framed_),
             moved = !same_motion(now.placement, framed_placed_);
  framed_ = part;
  framed_placed_ = now.placement;
  if (is_new)
    look_from(Side::kIso);
  else if (part && moved)
    fit();
}

void ViewPane::show_picks() {
  std::vector<Paint> paints;
  const gp_Trsf back = session_.document().evaluation().placement.Inverted();
  int number = 0;
  for (const Pick& pick : session_.tray().picks()) {
    ++number;
    const TopoDS_Shape& shape = pick.given.region ? pick.given.region->mesh : pick.given.shape;
    if (shape.IsNull()) continue;
    paints.push_back({{shape.Moved(TopLoc_Location(back))}, theme().pick(number - 1), 0.45});
  }
  scene_.paint(Scene::Layer::kPicks, paints);
  tell_faces();
  overlay_->update();
}

// Material that would come and go with the correction that is being made or pointed at.
void ViewPane::show_correction() {
  const auto& outcome = session_.tray().outcome();
  if (outcome == shown_outcome_) return;
  shown_outcome_ = outcome;
  const std::vector<TopoDS_Shape> none;
  const bool known = outcome && outcome->report;
  const auto& added = known ? outcome->report->added : none;
  const auto& removed = known ? outcome->report->removed : none;
  scene_.paint(Scene::Layer::kAdded, {{added, theme().added, 0.45}});
  scene_.paint(Scene::Layer::kRemoved, {{removed, theme().removed, 0.45}});
}

void ViewPane::tell_faces() {
  std::vector<int> faces;
  const PartPtr part = session_.document().part();
  for (const Pick& pick : session_.tray().picks()) {
    const auto* t = std::get_if<TopologyReference>(&pick.reference.target);
    if (!t || !part || pick.index < 0) continue;
    if (t->kind == TopologyKind::kFace) faces.push_back(pick.index);
    if (t->kind == TopologyKind::kEdge)
      for (int face : {part->topology().edges[pick.index].face_a, part->topology().edges[pick.index].face_b})
        faces.push_back(face);
  }
  Q_EMIT faces_picked(faces);
}

void ViewPane::show_shown() {
  const PartPtr part = session_.document().part();
  Paint paint{{}, theme().accent, 0.25};
  for (int face : session_.checks().shown_faces())
    if (part && face >= 0 && face < static_cast<int>(part->topology().faces.size()))
      paint.shapes.push_back(part->topology().faces[face].face);
  for (const RegionPtr& region : session_.checks().shown_regions()) paint.shapes.push_back(region->mesh);
  scene_.paint(Scene::Layer::kShown, {paint});
}

void ViewPane::colour_corners(std::optional<double> cutter_mm) {
  cutter_mm_ = cutter_mm;
  std::vector<Paint> paints{
      {{}, theme().fits, 0.0}, {{}, theme().tight, 0.0}, {{}, theme().does_not_fit, 0.0}};
  const PartPtr part = session_.document().part();
  if (cutter_mm && part && session_.checks().corners()) {
    const auto judged = judged_walls(*session_.checks().corners(), *cutter_mm);
    for (const auto& [corner, fit] : judged) {
      auto& shapes = paints[static_cast<size_t>(fit)].shapes;
      for (int face : corner->faces) shapes.push_back(part->topology().faces[face].face);
      for (int edge : corner->edges) shapes.push_back(part->topology().edges[edge].edge);
    }
  }
  scene_.paint(Scene::Layer::kChecks, paints);
}

void ViewPane::show_corner_line() {
  colour_corners(cutter_mm_);
  const auto& corners = session_.checks().corners();
  if (!session_.document().part() || is_all_mesh(*session_.document().part()))
    return overlay_->set_corner_line({}, theme().ink);
  if (!corners)
    return overlay_->set_corner_line(
        session_.checks().checking().is_busy() ? tr("Checking corners and holes …") : QString(),
        theme().quiet_ink);
  const Display& display = session_.document().job().display;
  QString text =
      tr("Tool along Z of %1:  ").arg(QString::fromStdString(tool_plane_name(session_.document().job())));
  const CornerSummary sum = summary_of(*corners, session_.document().part()->topology().faces.size());
  text += QString::fromStdString(corner_text(sum, display) + " · " + largest_cutter_text(sum, display));
  overlay_->set_corner_line(
      text, sum.sharp > 0 ? theme().does_not_fit : theme().ink,
      sum.reservations.empty() ? QString() : tr("But: ") + QString::fromStdString(sum.reservations));
}

}  // namespace anvil::app
