#include "report/drill_drawing.h"

#include <BRep_Tool.hxx>
#include <Bnd_Box2d.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_PolyAlgo.hxx>
#include <HLRBRep_PolyHLRToShape.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <array>
#include <set>

#include "geom/guard.h"
#include "geom/primitives.h"
#include "inspect/hole_text.h"
#include "part/mesh_once.h"

namespace anvil {
namespace {

constexpr double kAlong_rad = 1e-3;
// Of paper.
constexpr double kLetter_mm = 2.5, kLine_mm = 4.5, kMargin_mm = 10, kRoomForName_mm = 13;

// ISO 5455.
constexpr double kScales[] = {50, 20, 10, 5, 2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001};
// ISO 5457, A4 to A1.
constexpr std::array<double, 2> kSheets[] = {{297, 210}, {420, 297}, {594, 420}, {841, 594}};

using Row = std::vector<std::string>;

size_t letters(const std::string& utf8) {
  return static_cast<size_t>(std::count_if(
      utf8.begin(), utf8.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; }));
}

class DrillDrawer {
 public:
  DrillDrawer(const Part& part, const HoleReport& report, const DrillView& view)
      : part_(part),
        report_(moved(report, view.placement)),
        view_(view),
        eye_(make_frame(view.frame.Location(), view.towards_eye, view.frame.XDirection())) {
    drawing_.unit = view.display.unit;
    drawing_.title = view.part_name;
  }

  Result<Drawing> draw(const Progress& progress) {
    if (report_.holes.empty() && report_.slots.empty())
      return refuse(RefusalCode::kGeometry, "the part has no holes to draw");
    collect_holes();
    progress.say("visible edges", 0.2);
    mesh_once(part_);
    draw_part();
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    choose_sheet();
    draw_names();
    draw_zero();
    draw_table();
    return std::move(drawing_);
  }

 private:
  [[nodiscard]] gp_Pnt2d flat(const gp_Pnt& placed) const {
    const gp_Pnt p = read_in(eye_, placed);
    return {p.X(), p.Y()};
  }
  [[nodiscard]] std::string text(double mm) const { return format_length(mm, view_.display); }

  Row row_of(const std::string& name, const gp_Pnt& at, const std::string& size, double depth,
             const std::string& form) const {
    const gp_Pnt p = read_in(view_.frame, at);
    return {name, text(p.X()), text(p.Y()), text(p.Z()), size, text(depth), form};
  }

  void collect_holes() {
    for (const Hole& hole : report_.holes) {
      const bool from_here = hole.axis.IsEqual(view_.towards_eye, kAlong_rad);
      const bool from_behind = hole.through && hole.axis.IsOpposite(view_.towards_eye, kAlong_rad);
      if ((!from_here && !from_behind) || !hole.round) {
        elsewhere_.push_back(hole.name);
        continue;
      }
      draw_hole(hole, from_behind);
      rows_.push_back(row_of(hole.name, hole.entry, text(hole.diameter_mm), hole.depth_mm,
                             form_text(report_, hole.group, view_.display.unit)));
    }
    for (const Slot& slot : report_.slots) {
      if (!slot.axis.IsParallel(view_.towards_eye, kAlong_rad) ||
          (!slot.through && slot.axis.Dot(view_.towards_eye) < 0)) {
        elsewhere_.push_back(slot.name);
        continue;
      }
      const gp_Pnt middle = midpoint(slot.centre_a, slot.centre_b);
      for (const gp_Pnt& end : {slot.centre_a, slot.centre_b}) draw_centre(flat(end), slot.width_mm / 2);
      marks_.push_back({slot.name, flat(middle), slot.width_mm / 2});
      rows_.push_back(row_of(
          slot.name, middle, text(slot.width_mm), slot.depth_mm,
          "slot " + text(slot.width_mm) + " × " + text(slot.length_mm) + (slot.through ? " through" : "")));
    }
  }

  // Every edge of the hole that shows from here: all steps of one entered from here, else its bore.
  void draw_hole(const Hole& hole, bool from_behind) {
    const gp_Pnt2d centre = flat(hole.entry);
    std::set<long> drawn;
    double widest = hole.diameter_mm;
    const auto draw = [&](double diameter) {
      if (diameter < 1e-6 || !drawn.insert(std::lround(diameter * 1e4)).second) return;
      drawing_.circles.push_back({centre, diameter / 2});
      widest = std::max(widest, diameter);
    };
    draw(hole.diameter_mm);
    if (!from_behind)
      for (const HoleStep& step : hole.steps)
        if (step.kind != StepKind::kTip && step.kind != StepKind::kGroove && step.kind != StepKind::kBall &&
            step.kind != StepKind::kFlat)
          for (const double d : {step.diameter_mm, step.end_diameter_mm}) draw(d);
    draw_centre(centre, widest / 2);
    marks_.push_back({hole.name, centre, widest / 2});
  }

  void draw_centre(const gp_Pnt2d& at, double radius_mm) {
    const double arm = radius_mm * 1.25;
    for (const gp_Vec2d& way : {gp_Vec2d(arm, 0), gp_Vec2d(0, arm)})
      drawing_.strokes.push_back({Layer::kCentres, {at.Translated(-way), at.Translated(way)}});
  }

  // What is drawn as a circle already.
  [[nodiscard]] bool is_on_a_circle(const gp_Pnt2d& a, const gp_Pnt2d& b) const {
    constexpr double kOn_mm = 1e-3;
    return std::any_of(drawing_.circles.begin(), drawing_.circles.end(), [&](const Drawing::Circle& circle) {
      return std::abs(circle.centre.Distance(a) - circle.radius_mm) < kOn_mm &&
             std::abs(circle.centre.Distance(b) - circle.radius_mm) < kOn_mm;
    });
  }

  void draw_part() {
    const gp_Ax2 in_part = eye_.Transformed(view_.placement.Inverted());
    const Handle(HLRBRep_PolyAlgo) hiding = new HLRBRep_PolyAlgo;
    for (const Body& body : part_.bodies())
      if (body.kind != BodyKind::kMesh) hiding->Load(body.shape);
    // The algorithm does not heed where the view's origin lies.
    const gp_Ax2 at_origin(gp_Pnt(0, 0, 0), in_part.Direction(), in_part.XDirection());
    const gp_Pnt zero = read_in(at_origin, in_part.Location());
    hiding->Projector(HLRAlgo_Projector(at_origin));
    hiding->Update();
    HLRBRep_PolyHLRToShape seen;
    seen.Update(hiding);
    for (const TopoDS_Shape& edges : {seen.VCompound(), seen.OutLineVCompound()}) {
      if (edges.IsNull()) continue;
      for (TopExp_Explorer it(edges, TopAbs_EDGE); it.More(); it.Next()) {
        TopoDS_Vertex first, last;
        TopExp::Vertices(TopoDS::Edge(it.Current()), first, last);
        if (first.IsNull() || last.IsNull()) continue;
        const gp_Pnt a = BRep_Tool::Pnt(first), b = BRep_Tool::Pnt(last);
        const gp_Pnt2d from(a.X() - zero.X(), a.Y() - zero.Y()), to(b.X() - zero.X(), b.Y() - zero.Y());
        if (!is_on_a_circle(from, to)) drawing_.strokes.push_back({Layer::kPart, {from, to}});
      }
    }
  }

  [[nodiscard]] std::vector<double> column_widths() const {
    std::vector<double> widths;
    for (const Row& row : all_rows())
      for (size_t i = 0; i < row.size(); ++i) {
        if (widths.size() <= i) widths.push_back(0);
        widths[i] = std::max(widths[i], (static_cast<double>(letters(row[i])) + 2) * kLetter_mm * 0.8);
      }
    return widths;
  }
  [[nodiscard]] std::vector<Row> all_rows() const {
    std::vector<Row> rows{{"Hole", "X", "Y", "Z", "Ø", "Depth", "Form"}};
    rows.insert(rows.end(), rows_.begin(), rows_.end());
    return rows;
  }

  // What is drawn, in the view's mm; with the zero, unless it lies so far off that the part would be small.
  void measure() {
    Bnd_Box2d box;
    for (const Drawing::Stroke& stroke : drawing_.strokes)
      for (const gp_Pnt2d& p : stroke.points) box.Add(p);
    for (const Drawing::Circle& c : drawing_.circles)
      for (const gp_Vec2d& r : {gp_Vec2d(c.radius_mm, c.radius_mm), gp_Vec2d(-c.radius_mm, -c.radius_mm)})
        box.Add(c.centre.Translated(r));
    double x0, y0, x1, y1;
    box.Get(x0, y0, x1, y1);
    const double near = 0.3 * std::hypot(x1 - x0, y1 - y0);
    zero_is_near_ = x0 < near && x1 > -near && y0 < near && y1 > -near;
    if (zero_is_near_) box.Add(gp_Pnt2d(0, 0));
    box.Get(x0, y0, x1, y1);
    low_ = gp_Pnt2d(x0, y0);
    size_ = gp_Vec2d(x1 - x0, y1 - y0);
    for (size_t i = 0; i < marks_.size(); ++i)
      for (size_t k = 0; k < i; ++k) spacing_mm_ = std::min(spacing_mm_, marks_[i].at.Distance(marks_[k].at));
  }

  struct Layout {
    double width_mm = 0, height_mm = 0, scale = 0;
    bool table_below = false;
  };

  // The larger of the two: the table beside the part, or below it; nothing where neither has room.
  [[nodiscard]] std::optional<Layout> layout_on(double width_mm, double height_mm) const {
    std::optional<Layout> best;
    for (const bool below : {false, true}) {
      const double room_x = width_mm - 4 * kMargin_mm - (below ? 0 : table_mm_),
                   room_y = height_mm - 5 * kMargin_mm - (below ? table_height_mm_ : 0);
      if (table_mm_ > width_mm - 2 * kMargin_mm || table_height_mm_ > height_mm - 2 * kMargin_mm) continue;
      for (const double scale : kScales) {
        if (size_.X() * scale > room_x || size_.Y() * scale > room_y) continue;
        if (!best || scale > best->scale) best = Layout{width_mm, height_mm, scale, below};
        break;
      }
    }
    return best;
  }

  // The smallest sheet on which the names have room between the holes.
  void choose_sheet() {
    measure();
    table_mm_ = 0;
    for (const double width : column_widths()) table_mm_ += width;
    constexpr size_t kNamesInLine = 12;
    const size_t lines = rows_.size() + elsewhere_.size() / kNamesInLine;
    table_height_mm_ = (static_cast<double>(lines) + 5) * kLine_mm;
    std::optional<Layout> chosen;
    for (const auto& [width, height] : kSheets) {
      if (const auto layout = layout_on(width, height)) chosen = layout;
      if (chosen && spacing_mm_ * chosen->scale >= kRoomForName_mm) break;
    }
    // A table longer than any sheet makes its own.
    if (!chosen)
      chosen =
          Layout{std::max(kSheets[1][0], 6 * kMargin_mm + 1.6 * table_mm_), table_height_mm_ + 2 * kMargin_mm,
                 std::min(1.0, 0.55 * table_mm_ / std::max(size_.X(), size_.Y())), false};
    drawing_.scale = chosen->scale;
    drawing_.sheet_width_mm = chosen->width_mm;
    drawing_.sheet_height_mm = chosen->height_mm;
    table_below_ = chosen->table_below;
    // In the middle of the room it has.
    const double room_x = chosen->width_mm - (table_below_ ? 0 : table_mm_ + kMargin_mm),
                 room_y = chosen->height_mm - (table_below_ ? table_height_mm_ : 0),
                 from_y = table_below_ ? table_height_mm_ : 0;
    const double x = (room_x - size_.X() * chosen->scale) / 2,
                 y = from_y + (room_y - size_.Y() * chosen->scale) / 2;
    drawing_.low = low_.Translated(gp_Vec2d(-x, -y) / chosen->scale);
  }

  [[nodiscard]] gp_Pnt2d on_sheet(double x_mm, double y_mm) const {
    return {drawing_.low.X() + x_mm / drawing_.scale, drawing_.low.Y() + y_mm / drawing_.scale};
  }
  void write(Layer layer, const gp_Pnt2d& at, const std::string& words, double letter_mm = kLetter_mm) {
    drawing_.texts.push_back({layer, at, letter_mm / drawing_.scale, words});
  }

  void draw_names() {
    const double off = 0.8 / drawing_.scale;
    const double letter = std::clamp(0.3 * spacing_mm_ * drawing_.scale, 1.0, kLetter_mm);
    for (const Mark& mark : marks_) {
      const double beside = mark.radius_mm * 0.7072 + off;
      write(Layer::kNames, mark.at.Translated(gp_Vec2d(beside, beside)), mark.name, letter);
    }
  }

  void draw_zero() {
    if (!zero_is_near_) return;
    const double arm = 8 / drawing_.scale, head = 1.2 / drawing_.scale;
    const gp_Pnt2d zero(0, 0);
    for (const auto& [way, name] : {std::pair(gp_Dir2d(1, 0), "X"), std::pair(gp_Dir2d(0, 1), "Y")}) {
      const gp_Pnt2d tip = zero.Translated(gp_Vec2d(way) * arm);
      const gp_Vec2d back = gp_Vec2d(way) * -head * 2, side(-way.Y() * head, way.X() * head);
      drawing_.strokes.push_back({Layer::kCentres, {zero, tip}});
      drawing_.strokes.push_back(
          {Layer::kCentres, {tip.Translated(back + side), tip, tip.Translated(back - side)}});
      if (is_along_frame()) write(Layer::kCentres, tip.Translated(gp_Vec2d(head, head)), name);
    }
  }
  // Only then the drawing's X and Y are the frame's.
  [[nodiscard]] bool is_along_frame() const {
    return view_.towards_eye.IsEqual(view_.frame.Direction(), kAlong_rad);
  }

  void draw_table() {
    const std::vector<double> widths = column_widths();
    const double left = drawing_.sheet_width_mm - kMargin_mm - table_mm_;
    double y = (table_below_ ? table_height_mm_ : drawing_.sheet_height_mm - kMargin_mm) - kLine_mm / 2;
    write(Layer::kTable, on_sheet(left, y), drawing_.title, 1.3 * kLetter_mm);
    y -= kLine_mm;
    write(Layer::kTable, on_sheet(left, y),
          "seen along " + direction_text(read_in(view_.frame, view_.towards_eye)) + " of " +
              view_.frame_name + ", " + unit_name(view_.display.unit) + ", scale " +
              scale_text(drawing_.scale));
    y -= 1.5 * kLine_mm;
    for (const Row& row : all_rows()) {
      double x = left;
      for (size_t i = 0; i < row.size(); ++i) {
        if (!row[i].empty()) write(Layer::kTable, on_sheet(x, y), row[i]);
        x += widths[i];
      }
      const double line = y - (kLine_mm - kLetter_mm) / 2;
      drawing_.strokes.push_back({Layer::kTable, {on_sheet(left, line), on_sheet(left + table_mm_, line)}});
      y -= kLine_mm;
    }
    if (elsewhere_.empty()) return;
    std::string names = "not drawn, for they open otherwise or are not round:";
    for (const std::string& name : elsewhere_) {
      if (static_cast<double>(letters(names)) * kLetter_mm * 0.8 > table_mm_ - 8 * kLetter_mm) {
        write(Layer::kTable, on_sheet(left, y), names);
        y -= kLine_mm;
        names.clear();
      }
      names += (names.empty() ? "" : " ") + name;
    }
    write(Layer::kTable, on_sheet(left, y), names);
  }

  struct Mark {
    std::string name;
    gp_Pnt2d at;
    double radius_mm = 0;
  };

  const Part& part_;
  HoleReport report_;
  const DrillView& view_;
  gp_Ax2 eye_;
  Drawing drawing_;
  std::vector<Mark> marks_;
  std::vector<Row> rows_;
  std::vector<std::string> elsewhere_;
  gp_Pnt2d low_;
  gp_Vec2d size_;
  double spacing_mm_ = 1e6;  // of the two holes that stand closest
  double table_mm_ = 0, table_height_mm_ = 0;
  bool zero_is_near_ = false, table_below_ = false;
};

}  // namespace

Result<Drawing> drill_drawing(const Part& part, const HoleReport& report, const DrillView& view,
                              const Progress& progress) {
  return guarded("drawing the holes",
                 [&]() -> Result<Drawing> { return DrillDrawer(part, report, view).draw(progress); });
}

}  // namespace anvil
