#include "app/view/occ_view.h"

#include "base/units.h"
#include "geom/box.h"

#include <QGuiApplication>
#include <QMouseEvent>
#include <QStyleHints>
#include <cmath>
#include <utility>

#include <Aspect_DisplayConnection.hxx>
#include <Aspect_NeutralWindow.hxx>
#include <Graphic3d_Camera.hxx>
#include <OpenGl_Context.hxx>
#include <OpenGl_FrameBuffer.hxx>
#include <OpenGl_GraphicDriver.hxx>
#include <OpenGl_View.hxx>
#include <OpenGl_Window.hxx>
#include <V3d_AmbientLight.hxx>
#include <V3d_DirectionalLight.hxx>

namespace anvil::app {
namespace {

constexpr int kDragPixels = 4;
constexpr int kSameClickPixels = 4;
constexpr qint64 kGlide_ms = 220;
constexpr qint64 kGlidingFrame_ms = 60;  // a machine that takes longer for a frame jumps instead

// The framebuffer Qt composes from, wearing OpenCASCADE's clothes. Qt does not ask for sRGB writing,
// OpenCASCADE wants it.
class QtFrameBuffer : public OpenGl_FrameBuffer {
 public:
  void BindBuffer(const Handle(OpenGl_Context) & context) override {
    OpenGl_FrameBuffer::BindBuffer(context);
    context->SetFrameBufferSRGB(true, false);
  }
  void BindDrawBuffer(const Handle(OpenGl_Context) & context) override {
    OpenGl_FrameBuffer::BindDrawBuffer(context);
    context->SetFrameBufferSRGB(true, false);
  }
};

// What the scene is drawn into before it is copied to the window: the only place that keeps its depths, and
// open to those who derive from the view alone.
class ViewWithScene : public OpenGl_View {
 public:
  static Handle(OpenGl_FrameBuffer) drawn_into(const Handle(Graphic3d_CView) & view) {
    const Handle(OpenGl_View) gl = Handle(OpenGl_View)::DownCast(view);
    return gl.IsNull() ? Handle(OpenGl_FrameBuffer)() : ((*gl).*(&ViewWithScene::myMainSceneFbos))[0];
  }
};

Handle(OpenGl_GraphicDriver) make_driver() {
  auto* x11 = qApp->nativeInterface<QNativeInterface::QX11Application>();
  Handle(Aspect_DisplayConnection) display =
      new Aspect_DisplayConnection(reinterpret_cast<Aspect_XDisplay*>(x11 ? x11->display() : nullptr));
  Handle(OpenGl_GraphicDriver) driver = new OpenGl_GraphicDriver(display, false);
  driver->ChangeOptions().buffersNoSwap = true;
  driver->ChangeOptions().buffersOpaqueAlpha = true;
  driver->ChangeOptions().useSystemBuffer = false;
  driver->ChangeOptions().ffpEnable = false;
  return driver;
}

// Two soft lights that stand with the eye, from above on the left and weaker from below on the right, so that
// no two faces of a block are equally bright.
void add_lights(V3d_Viewer& viewer) {
  Handle(V3d_AmbientLight) everywhere = new V3d_AmbientLight(Quantity_NOC_WHITE);
  everywhere->SetIntensity(2.4f);
  viewer.AddLight(everywhere);
  for (const auto& [towards, intensity] :
       {std::pair{gp_Dir(0.5, -0.7, -1), 2.9f}, {gp_Dir(-0.9, 0.1, -0.6), 0.8f}}) {
    Handle(V3d_DirectionalLight) light = new V3d_DirectionalLight(towards, Quantity_NOC_WHITE);
    light->SetHeadlight(true);
    light->SetIntensity(intensity);
    viewer.AddLight(light);
  }
}

}  // namespace

OccView::OccView(QWidget* parent) : QOpenGLWidget(parent) {
  setMouseTracking(true);
  setFocusPolicy(Qt::ClickFocus);
  viewer_ = new V3d_Viewer(make_driver());
  add_lights(*viewer_);
  viewer_->SetLightOn();
  context_ = new AIS_InteractiveContext(viewer_);
  context_->SetPixelTolerance(4);
  view_ = viewer_->CreateView();
  view_->SetImmediateUpdate(false);
  view_->ChangeRenderingParams().NbMsaaSamples = 0;
  view_->SetShadingModel(Graphic3d_TypeOfShadingModel_Gouraud);
  connect(this, &QOpenGLWidget::frameSwapped, this, [this] {
    if (!turning_ && frame_.isValid()) last_frame_ms_ = frame_.elapsed();
    frame_.invalidate();
  });
  constexpr int kGlideStep_ms = 12;
  gliding_.setInterval(kGlideStep_ms);
  connect(&gliding_, &QTimer::timeout, this, &OccView::glide_on);
}

OccView::~OccView() {
  makeCurrent();
  creases_.release();
  context_->RemoveAll(false);
  context_.Nullify();
  view_->Remove();
  view_.Nullify();
  viewer_.Nullify();
  doneCurrent();
}

void OccView::set_background(const QColor& colour) {
  view_->SetBackgroundColor(
      Quantity_Color(colour.redF(), colour.greenF(), colour.blueF(), Quantity_TOC_sRGB));
}

void OccView::initializeGL() {
  Handle(OpenGl_Context) gl = new OpenGl_Context();
  if (!gl->Init(false)) {
    Q_EMIT gl_failed(tr("This display offers no OpenGL that the 3D view can use (GLX is needed)."));
    return;
  }
  Handle(Aspect_NeutralWindow) window = Handle(Aspect_NeutralWindow)::DownCast(view_->Window());
  if (window.IsNull()) {
    window = new Aspect_NeutralWindow();
    window->SetVirtual(true);
  }
  window->SetNativeHandle(static_cast<Aspect_Drawable>(this->window()->winId()));
  window->SetSize(qRound(width() * devicePixelRatioF()), qRound(height() * devicePixelRatioF()));
  view_->SetWindow(window, gl->RenderingContext());
  is_up_ = true;
}

void OccView::fit_window_to_widget() {
  Handle(OpenGl_Context) gl = Handle(OpenGl_GraphicDriver)::DownCast(viewer_->Driver())->GetSharedContext();
  Handle(OpenGl_FrameBuffer) target = gl->DefaultFrameBuffer();
  if (target.IsNull()) {
    target = new QtFrameBuffer();
    gl->SetDefaultFrameBuffer(target);
  }
  target->InitWrapper(gl);
  Graphic3d_Vec2i before;
  view_->Window()->Size(before.x(), before.y());
  const Graphic3d_Vec2i now = target->GetVPSize();
  if (before == now) return;
  // Lines are as wide on a fine screen as on a usual one.
  view_->ChangeRenderingParams().Resolution = static_cast<unsigned>(
      std::lround(Graphic3d_RenderingParams::THE_DEFAULT_RESOLUTION * devicePixelRatioF()));
  Handle(Aspect_NeutralWindow)::DownCast(view_->Window())->SetSize(now.x(), now.y());
  view_->MustBeResized();
  view_->Invalidate();
}

void OccView::paintGL() {
  if (!is_up_) return;
  Q_EMIT about_to_draw();
  if (!glide_from_.IsNull() && !gliding_.isActive()) begin_glide();
  fit_window_to_widget();
  view_->InvalidateImmediate();
  if (view_->IsInvalidated()) {
    frame_.start();  // what is drawn anew for a hover says nothing about the part
    view_->Redraw();
  } else {
    view_->RedrawImmediate();
  }
  darken_creases();
}

// Not while it is turned: then every frame counts.
void OccView::darken_creases() {
  if (!with_creases_ || turning_) return;
  const Handle(OpenGl_FrameBuffer) scene = ViewWithScene::drawn_into(view_->View());
  if (scene.IsNull() || scene->DepthStencilTexture().IsNull()) return;
  const Handle(Graphic3d_Camera)& camera = view_->Camera();
  creases_.darken(scene->DepthStencilTexture()->TextureId(),
                  camera->ViewDimensions().Y() / std::max(1, scene->GetVPSizeY()),
                  camera->ZFar() - camera->ZNear(), devicePixelRatioF());
}

void OccView::redraw() {
  view_->Invalidate();
  update();
}

QPoint OccView::device(const QPointF& at) const {
  return (at * devicePixelRatioF()).toPoint();
}

std::optional<QPointF> Projector::to_screen(const gp_Pnt& point, double* depth) const {
  const NCollection_Vec4<double> ndc = matrix * NCollection_Vec4<double>(point.X(), point.Y(), point.Z(), 1);
  if (!std::isfinite(ndc.x() / ndc.w()) || !std::isfinite(ndc.y() / ndc.w())) return std::nullopt;
  if (depth) *depth = gp_Vec(eye, point).Dot(into);
  return QPointF((ndc.x() / ndc.w() + 1) / 2 * size.width(), (1 - ndc.y() / ndc.w()) / 2 * size.height());
}

Projector OccView::projector() const {
  const Handle(Graphic3d_Camera)& camera = view_->Camera();
  return {camera->ProjectionMatrix() * camera->OrientationMatrix(), camera->Eye(),
          gp_Vec(camera->Direction()), size()};
}

std::optional<QPointF> OccView::to_screen(const gp_Pnt& point, double* depth) const {
  return projector().to_screen(point, depth);
}

gp_Ax1 OccView::ray_at(const QPointF& at) const {
  const gp_Pnt near =
      view_->Camera()->UnProject(gp_Pnt(2 * at.x() / width() - 1, 1 - 2 * at.y() / height(), 0));
  return gp_Ax1(near, view_->Camera()->Direction());
}

double OccView::mm_per_pixel() const {
  return view_->Camera()->ViewDimensions().Y() / std::max(1, height());
}

void OccView::look(const gp_Dir& towards_eye, const gp_Dir& up) {
  glide([&] {
    const Handle(Graphic3d_Camera)& camera = view_->Camera();
    const gp_Pnt centre = camera->Center();
    const double distance = camera->Distance();
    camera->SetUp(up);
    camera->SetEyeAndCenter(centre.Translated(gp_Vec(towards_eye) * distance), centre);
    camera->SetUp(up);
    camera->OrthogonalizeUp();
  });
}

void OccView::fit(const std::vector<gp_Pnt>& points) {
  if (points.empty()) return;
  glide([&] {
    const Handle(Graphic3d_Camera)& camera = view_->Camera();
    const gp_Vec up(camera->OrthogonalizedUp()), into(camera->Direction()), right = into.Crossed(up);
    Box seen;
    for (const gp_Pnt& p : points)
      seen.add(gp_Pnt(right.XYZ().Dot(p.XYZ()), up.XYZ().Dot(p.XYZ()), into.XYZ().Dot(p.XYZ())));
    const gp_XYZ middle = seen.centre().XYZ(), size = seen.size();
    const gp_Pnt centre(right.XYZ() * middle.X() + up.XYZ() * middle.Y() + into.XYZ() * middle.Z());
    const double distance = std::max(size.Modulus(), 1.0) * 2;
    camera->SetEyeAndCenter(centre.Translated(into * -distance), centre);
    constexpr double kMargin = 1.16;
    const double aspect = static_cast<double>(width()) / std::max(1, height());
    camera->SetScale(std::max({size.Y(), size.X() / aspect, 1e-3}) * kMargin);
  });
}

void OccView::zoom_to_area(const QRectF& area) {
  constexpr double kLeast_px = 4;
  if (area.width() < kLeast_px && area.height() < kLeast_px) return;
  glide([&] {
    const Handle(Graphic3d_Camera)& camera = view_->Camera();
    const gp_Vec shift(ray_at(QRectF(rect()).center()).Location(), ray_at(area.center()).Location());
    camera->SetEyeAndCenter(camera->Eye().Translated(shift), camera->Center().Translated(shift));
    camera->SetScale(camera->Scale() * std::max(area.width() / width(), area.height() / height()));
  });
}

// --- gliding: several changes before the next picture are one way to go

void OccView::glide(const std::function<void()>& set) {
  const Handle(Graphic3d_Camera) before = new Graphic3d_Camera(view_->Camera());
  if (gliding_.isActive()) end_glide();
  set();
  if (smooth_ && is_up_ && isVisible() && last_frame_ms_ < kGlidingFrame_ms && glide_from_.IsNull())
    glide_from_ = before;
  moved_camera();
}

void OccView::begin_glide() {
  glide_to_ = new Graphic3d_Camera(view_->Camera());
  view_->Camera()->Copy(glide_from_);
  glided_.start();
  gliding_.start();
}

void OccView::glide_on() {
  const double share = std::min(1.0, static_cast<double>(glided_.elapsed()) / kGlide_ms);
  if (share >= 1) return end_glide();
  const double eased = share * share * (3 - 2 * share);
  Handle(Graphic3d_Camera) between = new Graphic3d_Camera();
  Graphic3d_Camera::Interpolate(glide_from_, glide_to_, eased, between);
  view_->Camera()->Copy(between);
  moved_camera();
}

void OccView::end_glide() {
  if (glide_from_.IsNull()) return;
  gliding_.stop();
  if (!glide_to_.IsNull()) view_->Camera()->Copy(glide_to_);
  glide_from_.Nullify();
  glide_to_.Nullify();
  moved_camera();
}

void OccView::moved_camera() {
  view_->AutoZFit();
  redraw();
  Q_EMIT camera_moved();
}

void OccView::turn(double right_rad, double up_rad, double roll_rad) {
  end_glide();
  const Handle(Graphic3d_Camera)& camera = view_->Camera();
  const gp_Dir up = camera->OrthogonalizedUp(), into = camera->Direction(), right = into.Crossed(up);
  gp_Trsf about_up, about_right, about_sight;
  about_up.SetRotation(gp_Ax1(camera->Center(), up), right_rad);
  about_right.SetRotation(gp_Ax1(camera->Center(), right), -up_rad);
  about_sight.SetRotation(gp_Ax1(camera->Center(), into), roll_rad);
  camera->Transform(about_up * about_right * about_sight);
  moved_camera();
}

void OccView::set_turning(bool now) {
  if (now == turning_) return;
  turning_ = now;
  if (now) Q_EMIT hovered({-1, -1});  // what lay under the pointer moves away from it
  Q_EMIT being_turned(now);
}

bool OccView::turns(Qt::KeyboardModifiers keys) const {
  if (buttons_ == Buttons::kRightTurns) return pressed_ == Qt::RightButton;
  return pressed_ == Qt::MiddleButton && !(keys & Qt::ShiftModifier);
}

bool OccView::pans(Qt::KeyboardModifiers keys) const {
  if (buttons_ == Buttons::kRightTurns) return pressed_ == Qt::MiddleButton;
  return pressed_ == Qt::MiddleButton && (keys & Qt::ShiftModifier);
}

void OccView::count_click(const QMouseEvent& event) {
  const auto within = static_cast<quint64>(QGuiApplication::styleHints()->mouseDoubleClickInterval());
  const bool again = event.button() == Qt::LeftButton && pressed_ == Qt::NoButton && clicks_ > 0 &&
                     event.timestamp() - pressed_ms_ < within &&
                     (event.position() - pressed_at_).manhattanLength() <= kSameClickPixels;
  constexpr int kMostClicks = 3;
  clicks_ = event.button() != Qt::LeftButton ? 0 : again ? clicks_ % kMostClicks + 1 : 1;
  pressed_ms_ = event.timestamp();
}

void OccView::mousePressEvent(QMouseEvent* event) {
  count_click(*event);
  end_glide();
  pressed_at_ = last_at_ = event->position();
  pressed_on_screen_ = event->globalPosition();
  pressed_ = event->button();
  dragging_ = false;
  zooms_ = pressed_ == Qt::LeftButton && (zooms_next_ || (event->modifiers() & Qt::ControlModifier));
  if (!turns(event->modifiers())) return;
  const auto about = turned_about_ ? turned_about_() : std::nullopt;
  pivot_ = about ? *about : view_->GravityPoint();
  view_->Rotate(0, 0, 0, pivot_.X(), pivot_.Y(), pivot_.Z(), true);
}

void OccView::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  if (pressed_ == Qt::NoButton) {
    Q_EMIT hovered(at);
    return;
  }
  // By where it is on the screen: a bar that appears moves the view under a pointer that stands still.
  dragging_ = dragging_ || (event->globalPosition() - pressed_on_screen_).manhattanLength() > kDragPixels;
  if (!dragging_) return;
  clicks_ = 0;
  if (turns(event->modifiers()) || pans(event->modifiers())) {
    set_turning(true);
    drag_camera(at, pans(event->modifiers()));
  } else if (pressed_ == Qt::LeftButton) {
    Q_EMIT rectangle_moved(QRectF(pressed_at_, at).normalized(), !zooms_ && at.x() < pressed_at_.x());
  }
  last_at_ = at;
}

// Half a turn for a drag across the view.
void OccView::drag_camera(const QPointF& at, bool pans) {
  const QPoint now = device(at), before = device(last_at_);
  const QPointF way = at - pressed_at_;
  if (pans)
    view_->Pan(now.x() - before.x(), before.y() - now.y());
  else
    view_->Rotate(way.x() * kPi / std::max(1, width()), -way.y() * kPi / std::max(1, height()), 0, pivot_.X(),
                  pivot_.Y(), pivot_.Z(), false);
  moved_camera();
}

void OccView::mouseReleaseEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  const Qt::MouseButton button = pressed_;
  pressed_ = Qt::NoButton;
  if (turning_) {
    set_turning(false);
    Q_EMIT hovered(at);
  }
  if (event->button() != button) return;
  const bool zooms = std::exchange(zooms_, false);
  if (button == Qt::LeftButton && std::exchange(zooms_next_, false)) unsetCursor();
  if (button == Qt::LeftButton && dragging_) {
    const QRectF area = QRectF(pressed_at_, at).normalized();
    Q_EMIT rectangle_moved({}, false);
    if (zooms)
      zoom_to_area(area);
    else
      Q_EMIT rectangle(area, at.x() < pressed_at_.x());
  } else if (button == Qt::LeftButton && !zooms) {
    Q_EMIT clicked(pressed_at_, std::max(1, clicks_));
  } else if (button == Qt::RightButton && !dragging_) {
    Q_EMIT menu_wanted(pressed_at_);
  }
}

void OccView::zoom_by_next_drag() {
  zooms_next_ = !zooms_next_;  // asked twice: not after all
  setCursor(zooms_next_ ? Qt::CrossCursor : Qt::ArrowCursor);
}

void OccView::wheelEvent(QWheelEvent* event) {
  const double steps = event->angleDelta().y() / 120.0;
  if (steps == 0) return;
  if (event->modifiers() & Qt::ControlModifier) return Q_EMIT walked(steps < 0 ? 1 : -1);
  end_glide();
  // What lies under the cursor stays under it.
  const double factor = std::pow(1.2, -steps);
  const gp_Ax1 before = ray_at(event->position());
  const Handle(Graphic3d_Camera)& camera = view_->Camera();
  camera->SetScale(camera->Scale() * factor);
  const gp_Ax1 after = ray_at(event->position());
  const gp_Vec shift(after.Location(), before.Location());
  camera->SetEyeAndCenter(camera->Eye().Translated(shift), camera->Center().Translated(shift));
  moved_camera();
}

void OccView::leaveEvent(QEvent*) {
  Q_EMIT hovered(QPointF(-1, -1));
}

}  // namespace anvil::app
