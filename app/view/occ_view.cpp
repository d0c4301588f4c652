#include "app/view/occ_view.h"
#include "geom/box.h"

#include <QGuiApplication>
#include <QMouseEvent>
#include <QTimer>
#include <cmath>

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

}  // namespace

OccView::OccView(QWidget* parent) : QOpenGLWidget(parent) {
  setMouseTracking(true);
  setFocusPolicy(Qt::ClickFocus);
  viewer_ = new V3d_Viewer(make_driver());
  Handle(V3d_AmbientLight) everywhere = new V3d_AmbientLight(Quantity_NOC_WHITE);
  everywhere->SetIntensity(1.7f);
  Handle(V3d_DirectionalLight) from_the_eye =
      new V3d_DirectionalLight(gp_Dir(0.25, -0.35, -1), Quantity_NOC_WHITE);
  from_the_eye->SetHeadlight(true);
  from_the_eye->SetIntensity(2.0f);
  viewer_->AddLight(everywhere);
  viewer_->AddLight(from_the_eye);
  viewer_->SetLightOn();
  context_ = new AIS_InteractiveContext(viewer_);
  context_->SetPixelTolerance(4);
  view_ = viewer_->CreateView();
  view_->SetImmediateUpdate(false);
  view_->ChangeRenderingParams().NbMsaaSamples = 0;
  view_->SetShadingModel(Graphic3d_TypeOfShadingModel_Phong);
  connect(this, &QOpenGLWidget::frameSwapped, this, [this] {
    if (!turning_ && frame_.isValid()) last_frame_ms_ = frame_.elapsed();
    frame_.invalidate();
  });
}

OccView::~OccView() {
  makeCurrent();
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
  Handle(Aspect_NeutralWindow)::DownCast(view_->Window())->SetSize(now.x(), now.y());
  view_->MustBeResized();
  view_->Invalidate();
}

void OccView::paintGL() {
  if (!is_up_) return;
  fit_window_to_widget();
  view_->InvalidateImmediate();
  if (!view_->IsInvalidated()) return view_->RedrawImmediate();
  frame_.start();  // what is drawn anew for a hover says nothing about the part
  view_->Redraw();
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
  const Handle(Graphic3d_Camera)& camera = view_->Camera();
  const gp_Pnt centre = camera->Center();
  const double distance = camera->Distance();
  camera->SetUp(up);
  camera->SetEyeAndCenter(centre.Translated(gp_Vec(towards_eye) * distance), centre);
  camera->SetUp(up);
  camera->OrthogonalizeUp();
  moved_camera();
}

void OccView::fit(const std::vector<gp_Pnt>& points) {
  if (points.empty()) return;
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
  moved_camera();
}

void OccView::moved_camera() {
  view_->AutoZFit();
  redraw();
  Q_EMIT camera_moved();
}

void OccView::camera_was_set() {
  moved_camera();
}

void OccView::turn(double right_rad, double up_rad, double roll_rad) {
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

void OccView::mousePressEvent(QMouseEvent* event) {
  pressed_at_ = last_at_ = event->position();
  pressed_on_screen_ = event->globalPosition();
  pressed_ = event->button();
  dragging_ = false;
  const QPoint p = device(pressed_at_);
  if (turns(event->modifiers())) view_->StartRotation(p.x(), p.y(), 0.0);
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
  if (turns(event->modifiers()) || pans(event->modifiers())) {
    set_turning(true);
    const QPoint now = device(at), before = device(last_at_);
    if (pans(event->modifiers()))
      view_->Pan(now.x() - before.x(), before.y() - now.y());
    else
      view_->Rotation(now.x(), now.y());
    moved_camera();
  } else if (pressed_ == Qt::LeftButton) {
    Q_EMIT rectangle_moved(QRectF(pressed_at_, at).normalized(), at.x() < pressed_at_.x());
  }
  last_at_ = at;
}

void OccView::mouseReleaseEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  const Qt::MouseButton button = pressed_;
  pressed_ = Qt::NoButton;
  set_turning(false);
  if (event->button() != button) return;
  if (button == Qt::LeftButton && dragging_) {
    Q_EMIT rectangle_moved({}, false);
    Q_EMIT rectangle(QRectF(pressed_at_, at).normalized(), at.x() < pressed_at_.x());
  } else if (button == Qt::LeftButton) {
    Q_EMIT clicked(pressed_at_);
  } else if (button == Qt::RightButton && !dragging_) {
    Q_EMIT menu_wanted(pressed_at_);
  }
}

void OccView::wheelEvent(QWheelEvent* event) {
  const double steps = event->angleDelta().y() / 120.0;
  if (steps == 0) return;
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
