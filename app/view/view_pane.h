// The middle of the window: the quiet row of view buttons, the 3D view with its overlay, and the gestures
// that turn clicks into picks.
#pragma once

#include <QTimer>
#include <QWidget>

#include "app/state/session.h"
#include "app/view/candidates.h"
#include "app/view/occ_view.h"
#include "app/view/overlay.h"
#include "app/view/scene.h"

class QFrame;
class QHBoxLayout;
class QLineEdit;
class QToolButton;

namespace anvil::app {

class ViewPane : public QWidget {
  Q_OBJECT
 public:
  explicit ViewPane(Session& session, QWidget* parent = nullptr);

  enum class Side { kTop, kFront, kRight, kBack, kLeft, kBottom, kIso };
  void look_from(Side side);  // in the reading frame
  void look_along_tool();     // X right
  void look_square();         // at the last pick
  void fit();
  [[nodiscard]] gp_Ax2 seen() const;  // Z towards the eye, X to the right
  void zoom_to_picks();
  void zoom_to(const gp_Pnt& placed);  // keeps the direction of sight
  [[nodiscard]] KeptView present_view(const std::string& name) const;
  void go_to(const KeptView& view);
  void show_box(bool shown) { overlay_->set_box_shown(shown); }

  // --- the section: cut at a plane, moved along its normal by typing, by its handle, or turned round
  void begin_section();  // at the last pick that gives a plane or an axis; without one, through the middle,
                         // square to the line of sight
  void flip_section();
  void end_section();
  [[nodiscard]] bool has_section() const { return section_.has_value(); }
  [[nodiscard]] double section_offset_mm() const { return section_ ? section_->offset_mm : 0; }
  void set_section_offset(double mm);
  void set_style(DisplayStyle style) { scene_.set_style(style); }
  void set_plain(bool plain) { scene_.set_plain(plain); }
  void refresh_theme();
  // The part in the reading frame, isometric, with its datums; the camera is left as it was.
  [[nodiscard]] QImage picture();
  QImage picture_along(const gp_Ax2& plane);  // as the tool sees it, X to the right

  // Colours wall corners for a cutter of this diameter; nothing: plain.
  void colour_corners(std::optional<double> cutter_mm);
  void show_comparison(bool shown) { overlay_->set_comparison_shown(shown); }

  [[nodiscard]] OccView& view() { return *view_; }
  [[nodiscard]] const std::vector<Candidate>& under_cursor() const { return candidates_; }
  [[nodiscard]] CandidateFinder& finder() { return finder_; }
  void add_row_action(QAction* action);
  // What lies under the pointer is named, and walked through by further steps: a click takes what was come
  // to.
  void walk(int steps);
  [[nodiscard]] size_t aimed() const { return aimed_; }  // how far that is; 0: what lies nearest

 Q_SIGNALS:
  void faces_picked(const std::vector<int>& faces);  // so that tables can follow

 protected:
  void resizeEvent(QResizeEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void build_row();
  void build_section_bar();
  void show_section();
  bool drag_section(QEvent* event);
  bool drag_handle(QEvent* event);
  [[nodiscard]] std::optional<NumberHandle> handle_under(const QPointF& position) const;
  [[nodiscard]] std::optional<double> snapped_value(const NumberHandle& handle, const QPointF& position);
  [[nodiscard]] std::vector<double> lined_up_degrees(const NumberHandle& handle) const;
  void move_handle(const NumberHandle& handle, const QPointF& position);
  [[nodiscard]] std::vector<NumberHandle> free_handles() const;
  void move_freely(const std::vector<NumberHandle>& handles, const QPointF& position);
  [[nodiscard]] std::vector<gp_Pnt> outline_points() const;
  [[nodiscard]] BodyLook look_of(const Body& body) const;
  [[nodiscard]] std::vector<BodyLook> looks() const;
  void add_filter(const QString& label, bool PickFilter::*field);
  void fit_row();
  void on_hover(const QPointF& at);
  void tell_what_lies_here();
  [[nodiscard]] QString behind_text(double behind_mm) const;
  void aim_at(size_t place);  // among what lies under the pointer
  void pick_next(const QPointF& at);
  bool pick_chain();
  bool pick_feature();
  [[nodiscard]] std::optional<TopologyReference> clicked_first() const;
  [[nodiscard]] std::optional<gp_Pnt> turned_about() const;
  void on_click(const QPointF& at, int times);
  void on_menu(const QPointF& at);
  void on_rectangle(const QRectF& area, bool touching);
  void show_correction();
  void tell_faces();
  void show_picks();
  void show_shown();
  void follow(Changes what);
  void show_part();
  void show_looks();
  void frame_part();  // looked at anew where it is another one, else all of it in sight
  void show_corner_line();

  Session& session_;
  OccView* view_;
  Overlay* overlay_;
  Scene scene_;
  CandidateFinder finder_;
  QHBoxLayout* row_ = nullptr;
  std::vector<QToolButton*> filters_;
  QToolButton* narrow_filters_ = nullptr;
  std::vector<Candidate> candidates_;
  QPointF clicked_at_{-100, -100};
  size_t walked_ = 0;  // how far repeated clicks have walked
  size_t aimed_ = 0;   // what a click would take of what lies under the pointer
  bool picked_here_ = false;
  std::vector<Reference> picked_by_clicks_;  // quick ones at one place: the first one's comes first
  QTimer resting_;                           // since the pointer moved last
  QPointF rests_at_;
  std::optional<double> cutter_mm_;
  PartPtr framed_;  // as it was brought in
  gp_Trsf framed_placed_;
  std::shared_ptr<const PickTray::Outcome> shown_outcome_;

  std::vector<BodyLook> looks_;
  struct Section {
    gp_Pln base;  // placed
    gp_Pnt handle;
    double offset_mm = 0;
    bool flipped = false;
  };
  std::optional<Section> section_;
  QFrame* section_bar_ = nullptr;
  QLineEdit* section_field_ = nullptr;
  bool dragging_section_ = false;
  std::vector<std::string> dragged_;  // parameters of the draft, while a handle is held: one, or two at once
  double section_grip_mm_ = 0;        // where on the handle it was taken
};

}  // namespace anvil::app
