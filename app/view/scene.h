// The part as it is drawn: bodies in their colours and placement, the display style, faces told apart by
// check results, picks and table selections.
#pragma once

#include "app/view/occ_view.h"
#include "app/view/stand_ins.h"

#include <QTimer>

#include <AIS_ColoredShape.hxx>
#include <Graphic3d_ClipPlane.hxx>
#include <array>
#include <functional>
#include <memory>
#include <vector>

#include "part/part.h"

namespace anvil::app {

enum class DisplayStyle { kShadedWithEdges, kShaded, kWireframe, kHiddenDimmed, kTransparent };

// How one body is to be shown.
struct BodyLook {
  bool shown = true;
  std::optional<Colour> colour = {};  // the user's, instead of the file's
  double transparency = 0;
  bool operator==(const BodyLook&) const = default;
};

// Faces or edges painted over the part.
struct Paint {
  std::vector<TopoDS_Shape> shapes;  // in part coordinates
  QColor colour;
  double transparency = 0;
  [[nodiscard]] bool operator==(const Paint& other) const;
};

class Scene {
 public:
  explicit Scene(OccView& view);

  // Draws a speck in the style of a part, so that the drivers compile what they need before a part is there.
  void warm_up();

  // While the view is turned a part that takes too long to draw is shown by a coarse stand-in.
  void set_turning(bool now);

  void show_part(const PartPtr& part, const gp_Trsf& placement);
  void set_style(DisplayStyle style);
  [[nodiscard]] DisplayStyle style() const { return style_; }
  void set_visible(bool visible);
  // All bodies in the workbench's colour, whatever the file and the user gave them.
  void set_plain(bool plain);
  // What lights up under the pointer is outlined light on dark bodies.
  void set_hover_over(const Body& body);
  // Asked for every body whenever bodies are displayed; refresh_bodies() asks again.
  void set_looks(std::function<BodyLook(const Body&)> look_of) { look_of_ = std::move(look_of); }
  void refresh_bodies() { update_bodies(); }

  // Cuts away what lies on the side the plane's normal points to (placed coordinates), with the cut faces
  // closed.
  void set_section(const std::optional<gp_Pln>& plane);
  void fit_hatch();  // of the cut faces: as wide on the screen at every scale

  // What can be picked.
  void set_pickable(bool faces, bool edges, bool vertices);

  // Replaces everything painted in that layer, with the next picture.
  enum class Layer { kChecks, kShown, kPicks, kAdded, kRemoved, kAimed };
  void paint(Layer layer, std::vector<Paint> paints);

  void apply_theme();

 private:
  void display_bodies();  // all of them anew
  void update_bodies();   // those that are drawn as they are to be stay
  enum class As { kItself, kFromAfar, kTurning };
  [[nodiscard]] As fitting() const;
  void choose_stand_in();
  void add_turning();
  void add_light();
  [[nodiscard]] float towards_eye(Layer layer) const;
  void let_paint_through();
  void display_painted();
  [[nodiscard]] Handle(AIS_Shape) painted_object(Layer layer, const Paint& paint) const;
  [[nodiscard]] Quantity_Color colour_of(const Body& body, const BodyLook& look) const;
  [[nodiscard]] Quantity_Color edge_colour_on(const Quantity_Color& face) const;
  void display_some();  // as many as fit into a moment; the rest follows when the event loop comes round
  void activate_on(const Handle(AIS_InteractiveObject) & body);
  Handle(AIS_Shape) body_object(const Body& body, const BodyLook& look) const;
  void add_outlines(const Body& body);
  void drop_staying();
  void activate_selection();
  void clear(std::vector<Handle(AIS_InteractiveObject)>& objects);
  Handle(AIS_Shape) wire_object(const TopoDS_Shape& shape, bool dimmed) const;

  OccView& view_;
  PartPtr part_;
  gp_Trsf placement_;
  DisplayStyle style_ = DisplayStyle::kShadedWithEdges;
  std::function<BodyLook(const Body&)> look_of_ = [](const Body&) { return BodyLook{}; };
  Handle(Graphic3d_ClipPlane) section_;
  double hatch_tile_mm_ = 0;
  QTimer displaying_;
  size_t displayed_ = 0;  // bodies of the part that are on the screen, or need not be
  StandIns stand_ins_;
  As drawn_as_ = As::kItself;  // in the last picture
  bool turning_slowly_ = false;
  bool plain_ = false;
  bool visible_ = true, faces_ = true, edges_ = true, vertices_ = true;
  std::vector<Handle(AIS_InteractiveObject)> bodies_, outlines_, turning_;
  struct Drawn {  // a body on the screen, and how it looks
    Body body;
    BodyLook look;
    gp_Trsf placement;
    Handle(AIS_Shape) object;
    size_t place = 0;              // among the bodies of the part
    Handle(AIS_Shape) light = {};  // what stands for it from afar, once it has
  };
  void take_off(const Drawn& drawn);
  [[nodiscard]] std::optional<Drawn> drawn_before(const Body& body, const BodyLook& look);
  std::vector<Drawn> drawn_, staying_;
  struct Painted {
    std::vector<Paint> paints;
    std::vector<Handle(AIS_InteractiveObject)>
        objects;  // of what was painted when the last picture was drawn
    bool is_drawn = true;
  };
  std::array<Painted, 6> painted_;  // by layer
};

}  // namespace anvil::app
