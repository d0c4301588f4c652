// What is drawn over the part at constant screen size: numbered picks, datums with their names, ghosts of the
// draft or of the offer under the pointer, the rectangle being dragged, coordinates under the cursor, the
// axes of the reading frame, and the smallest corner. Transparent to the mouse.
#pragma once

#include <QPainter>
#include <QWidget>

#include "app/state/session.h"
#include "app/view/candidates.h"
#include "app/view/occ_view.h"
#include "part/part_box.h"

namespace anvil::app {

class Overlay : public QWidget {
  Q_OBJECT
 public:
  static constexpr double kHandleArm_px = 34;

  Overlay(OccView& view, const Session& session);

  void set_hover(const std::optional<Candidate>& candidate, const QString& text);
  // Beside the pointer: what lies there, with what a click takes marked. Until it moves.
  void tell_what_lies_here(const QPointF& pointer, const QStringList& texts, int marked);
  [[nodiscard]] bool tells_what_lies_here() const { return !lying_here_.isEmpty(); }
  void set_rectangle(const QRectF& area, bool touching);
  // What limits the cutter, and under it what was not looked at.
  void set_corner_line(const QString& text, const QColor& colour, const QString& note = {});

  // The plane the view is cut at, with the handle it can be dragged by; nothing: no section.
  void set_section(const std::optional<gp_Pln>& plane, const gp_Pnt& handle);
  [[nodiscard]] bool is_section_handle(const QPointF& position) const;
  void set_box_shown(bool shown);
  void set_comparison_shown(bool shown);
  void refresh_ghost();  // what is pointed at or being made has changed

  // The solution whose ghost lies at the position, or -1. For frames, the axis tips are what can be clicked.
  [[nodiscard]] int ghost_at(const QPointF& position) const;
  // The tip of the Z axis of the frame being made: a click there turns it round.
  [[nodiscard]] bool is_flip_at(const QPointF& position) const;
  // The tip of Y: a click there brings X to it.
  [[nodiscard]] bool is_quarter_turn_at(const QPointF& position) const;

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void draw_datums(QPainter& painter);
  void draw_value(QPainter& painter, const DatumValue& value, const QColor& colour, const QString& name,
                  bool ghost, double opacity);
  void draw_frame(QPainter& painter, const gp_Ax2& frame, double opacity, bool dashed);
  void draw_measurement(QPainter& painter, const Measurement& m, const QColor& colour);
  [[nodiscard]] bool is_tip_at(const QPointF& position, bool of_z) const;
  [[nodiscard]] bool stands_for_setup(int frame) const;
  void draw_setups(QPainter& painter);
  void draw_stock(QPainter& painter, const StockBlock& stock);
  void draw_tool_plane(QPainter& painter, const PlaneValue& plane, bool active);
  void draw_ghosts(QPainter& painter);
  void draw_box_sizes(QPainter& painter, const gp_Pnt& where, const Box& box);
  void draw_seat(QPainter& painter);
  void draw_placed_box(QPainter& painter);
  void draw_box(QPainter& painter);
  void draw_section(QPainter& painter);
  void draw_handles(QPainter& painter);
  void draw_free_handle(QPainter& painter);
  void draw_handle(QPainter& painter, const gp_Pnt& handle, const gp_Dir& along);
  void draw_place(QPainter& painter);
  void draw_left(QPainter& painter);
  void draw_passage(QPainter& painter);
  void draw_pattern(QPainter& painter);
  void draw_comparison(QPainter& painter);
  void draw_box_lines(QPainter& painter, const gp_XYZ& low, const gp_XYZ& high, const gp_Ax2& frame);
  void draw_picks(QPainter& painter);
  void find_badges();
  QRectF free_place_for(const QRectF& wanted);
  void draw_hover(QPainter& painter);
  void draw_what_lies_here(QPainter& painter);
  void draw_triad(QPainter& painter);
  void draw_badge(QPainter& painter, const QPointF& at, int number);
  void draw_label(QPainter& painter, const QPointF& at, const QString& text, const QColor& colour);
  [[nodiscard]] const std::vector<Solution>* ghost_solutions(size_t& preferred) const;

  OccView& view_;
  const Session& session_;
  std::optional<Candidate> hover_;
  QString hover_text_, corner_line_, corner_note_;
  QColor corner_colour_;
  QStringList lying_here_;
  int marked_here_ = 0;
  QPointF pointer_;
  std::vector<std::optional<QPointF>> badges_;  // of the picks, on the screen
  std::vector<QRectF> taken_;                   // by labels and badges in this picture
  QRectF rectangle_;
  bool touching_ = false;
  std::optional<gp_Pln> section_;
  gp_Pnt section_handle_;
  bool box_shown_ = false, comparison_shown_ = false;
  // Where the part would stand: by the seat or the placement that is pointed at or being made.
  struct StandsThere {
    gp_Trsf motion;
    PlacedBox box;
    std::optional<gp_Pnt> at;  // the middle of the face that is lit
  };
  std::optional<StandsThere> ghost_;
};

}  // namespace anvil::app
