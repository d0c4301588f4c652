// OpenCASCADE's viewer inside a Qt widget: it draws into the framebuffer that Qt composes, so translucent Qt
// children lie over it. Owns viewer, context and camera; knows nothing of jobs. Needs X11 with GLX (under
// Wayland through XWayland).
#pragma once

// Qt before OpenCASCADE and X11: their macros clash.
#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QPoint>
#include <QTimer>
#include <functional>
#include <optional>

#include <AIS_InteractiveContext.hxx>
#include <V3d_View.hxx>
#include <V3d_Viewer.hxx>
#include <gp_Ax2.hxx>

#include "app/view/crease_shade.h"

namespace anvil::app {

// Where points are on the screen while the camera stands still.
struct Projector {
  NCollection_Mat4<double> matrix;
  gp_Pnt eye;
  gp_Vec into;
  QSize size;

  // Widget coordinates, or nothing when the point has none. `depth` grows away from the eye.
  [[nodiscard]] std::optional<QPointF> to_screen(const gp_Pnt& point, double* depth = nullptr) const;
};

class OccView : public QOpenGLWidget {
  Q_OBJECT
 public:
  explicit OccView(QWidget* parent = nullptr);
  ~OccView() override;

  [[nodiscard]] const Handle(AIS_InteractiveContext) & context() const { return context_; }
  [[nodiscard]] const Handle(V3d_View) & camera_view() const { return view_; }

  [[nodiscard]] Projector projector() const;  // for many points at once
  [[nodiscard]] std::optional<QPointF> to_screen(const gp_Pnt& point, double* depth = nullptr) const;
  // The ray under a widget position: a point on it and the direction away from the eye.
  [[nodiscard]] gp_Ax1 ray_at(const QPointF& at) const;
  [[nodiscard]] double mm_per_pixel() const;
  [[nodiscard]] qint64 last_frame_ms() const { return last_frame_ms_; }  // until it was on the screen
  [[nodiscard]] QPoint device(const QPointF& at) const;                  // Qt's to OpenCASCADE's pixels

  // Looks along -`towards_eye` with `up` upward, keeping scale and centre.
  void look(const gp_Dir& towards_eye, const gp_Dir& up);
  // Moves and scales so that the points fill the view.
  void fit(const std::vector<gp_Pnt>& points);
  void set_background(const QColor& colour);
  void set_creases_darkened(bool on) { with_creases_ = on; }
  void redraw();  // the whole scene, soon
  // Turns the camera about the middle of what is seen: to the right and up by these angles, and about the
  // line of sight.
  void turn(double right_rad, double up_rad, double roll_rad);
  enum class Buttons { kMiddleTurns, kRightTurns };  // kRightTurns: right drag turns, middle drag pans
  void set_buttons(Buttons buttons) { buttons_ = buttons; }
  [[nodiscard]] Buttons buttons() const { return buttons_; }
  // Dragged turns are about this point of the part, or without one about the middle of what is seen.
  void set_turned_about(std::function<std::optional<gp_Pnt>()> point) { turned_about_ = std::move(point); }
  // The next drag with the left button draws what is to fill the view. Ctrl does so without asking.
  void zoom_by_next_drag();
  void zoom_to_area(const QRectF& area);
  // From one way of looking to another the camera glides, where the machine draws fast enough for it.
  void set_smooth(bool smooth) { smooth_ = smooth; }
  void end_glide();  // at once there
  // What the camera is to become is set in `set`; it glides there from where it is.
  void glide(const std::function<void()>& set);

 Q_SIGNALS:
  void about_to_draw();  // the last moment to put something on the screen
  void hovered(QPointF at);
  void clicked(QPointF at, int times);  // quickly one after the other at one place: 1, 2, 3
  void walked(int steps);               // through what lies under the pointer
  void menu_wanted(QPointF at);
  void rectangle(QRectF area, bool touching);        // released
  void rectangle_moved(QRectF area, bool touching);  // empty when over
  void camera_moved();
  void being_turned(bool now);  // turned or moved by a drag
  void gl_failed(const QString& reason);

 protected:
  void initializeGL() override;
  void paintGL() override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void leaveEvent(QEvent* event) override;

 private:
  void fit_window_to_widget();
  void darken_creases();
  void moved_camera();
  void begin_glide();
  void glide_on();
  void set_turning(bool now);
  void count_click(const QMouseEvent& event);
  void drag_camera(const QPointF& at, bool pans);
  [[nodiscard]] bool turns(Qt::KeyboardModifiers keys) const;
  [[nodiscard]] bool pans(Qt::KeyboardModifiers keys) const;

  CreaseShade creases_;
  bool with_creases_ = false;
  Handle(V3d_Viewer) viewer_;
  Handle(V3d_View) view_;
  Handle(AIS_InteractiveContext) context_;
  QPointF pressed_at_, last_at_, pressed_on_screen_;
  Qt::MouseButton pressed_ = Qt::NoButton;
  quint64 pressed_ms_ = 0;
  int clicks_ = 0;
  std::function<std::optional<gp_Pnt>()> turned_about_;
  gp_Pnt pivot_;
  bool dragging_ = false, turning_ = false, zooms_ = false, zooms_next_ = false;
  bool smooth_ = false;
  Handle(Graphic3d_Camera) glide_from_, glide_to_;  // while it glides
  QTimer gliding_;
  QElapsedTimer glided_;
  QElapsedTimer frame_;
  qint64 last_frame_ms_ = 0;
  Buttons buttons_ = Buttons::kMiddleTurns;
  bool is_up_ = false;
};

}  // namespace anvil::app
