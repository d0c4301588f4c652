#include "app/view/scene.h"

#include <QElapsedTimer>

#include <BRepPrimAPI_MakeBox.hxx>

#include <Graphic3d_Texture2Dmanual.hxx>
#include <Graphic3d_TextureParams.hxx>
#include <Graphic3d_ZLayerSettings.hxx>
#include <Image_PixMap.hxx>
#include <Prs3d_IsoAspect.hxx>
#include <Prs3d_LineAspect.hxx>
#include <Prs3d_PointAspect.hxx>
#include <Prs3d_ShadingAspect.hxx>

#include "app/theme.h"
#include "app/view/kernel_looks.h"
#include "part/coarsen.h"
#include "part/mesh.h"

namespace anvil::app {
namespace {

constexpr double kEdgeWidth = 1.2;
constexpr qint64 kSlowFrame_ms = 90;

// Cut material: pairs of slanting lines, every other pair broken.
Handle(Graphic3d_TextureMap) hatch_texture(const Theme& t) {
  constexpr int kSide = 64, kBetween = 32, kApart = 7, kWide = 3;
  const auto mixed = [&](double share) {
    const QColor &a = t.accent, &b = t.view_background;
    const auto of = [&](int x, int y) { return static_cast<int>(x * share + y * (1 - share)); };
    return QColor(of(a.red(), b.red()), of(a.green(), b.green()), of(a.blue(), b.blue()));
  };
  const QColor ground = mixed(0.22), line = mixed(0.75);
  Handle(Image_PixMap) picture = new Image_PixMap();
  picture->InitZero(Image_Format_RGB, kSide, kSide);
  for (int y = 0; y < kSide; ++y)
    for (int x = 0; x < kSide; ++x) {
      const int across = (x + y) % kSide, in_pair = across % kBetween;
      const bool broken = across >= kBetween && (x - y + kSide) % kBetween < kBetween / 3;
      const bool on = !broken && (in_pair < kWide || (in_pair >= kApart && in_pair < kApart + kWide));
      picture->SetPixelColor(x, y, Quantity_ColorRGBA(kernel(on ? line : ground)));
    }
  Handle(Graphic3d_TextureMap) hatch = new Graphic3d_Texture2Dmanual(picture);
  hatch->EnableRepeat();
  hatch->DisableModulate();
  hatch->GetParams()->SetFilter(Graphic3d_TOTF_TRILINEAR);
  return hatch;
}

// Below this the usual dark edges cannot be told from the face (relative luminance, 0 to 1).
bool is_dark(const Quantity_Color& c) {
  constexpr double kDark = 0.09;
  return 0.2126 * c.Red() + 0.7152 * c.Green() + 0.0722 * c.Blue() < kDark;
}

Quantity_Color light_edge() {
  return kernel(QColor(0xC9CED2));
}

// Layers without depth test, over the shaded part: dimmed hidden lines first, visible ones above them.
Graphic3d_ZLayerId make_layer(const Handle(V3d_Viewer) & viewer, bool depth_test) {
  Graphic3d_ZLayerId id = Graphic3d_ZLayerId_UNKNOWN;
  Graphic3d_ZLayerSettings settings;
  settings.SetEnableDepthTest(depth_test);
  settings.SetEnableDepthWrite(false);
  settings.SetClearDepth(false);
  viewer->InsertLayerAfter(id, settings, Graphic3d_ZLayerId_Default);
  return id;
}

}  // namespace

Scene::Scene(OccView& view) : view_(view) {
  displaying_.setSingleShot(true);
  QObject::connect(&displaying_, &QTimer::timeout, &displaying_, [this] {
    if (part_) display_some();
  });
  QObject::connect(&view_, &OccView::about_to_draw, &displaying_, [this] {
    display_painted();
    choose_stand_in();
  });
  view_.set_creases_darkened(true);
  apply_theme();
}

void Scene::apply_theme() {
  const Theme& t = theme();
  view_.set_background(t.view_background);
  const Handle(Prs3d_Drawer) hover = view_.context()->HighlightStyle(Prs3d_TypeOfHighlight_LocalDynamic);
  hover->SetColor(kernel(t.accent));
  hover->SetTransparency(0.55f);
  hover->SetDisplayMode(AIS_Shaded);
  hover->SetLineAspect(new Prs3d_LineAspect(kernel(t.ink), Aspect_TOL_SOLID, 3.0));
  hover->SetWireAspect(new Prs3d_LineAspect(kernel(t.ink), Aspect_TOL_SOLID, 3.0));
  hover->SetFaceBoundaryAspect(new Prs3d_LineAspect(kernel(t.ink), Aspect_TOL_SOLID, 3.0));
  hover->SetFaceBoundaryDraw(true);
  hover->SetPointAspect(new Prs3d_PointAspect(Aspect_TOM_BALL, kernel(t.accent), 3.0));
  display_bodies();
}

void Scene::clear(std::vector<Handle(AIS_InteractiveObject)>& objects) {
  for (const auto& object : objects) view_.context()->Remove(object, false);
  objects.clear();
}

void Scene::warm_up() {
  if (part_) return;
  constexpr double kSpeck_mm = 1e-3;
  const TopoDS_Shape speck = BRepPrimAPI_MakeBox(kSpeck_mm, kSpeck_mm, kSpeck_mm).Shape();
  mesh_shape(speck);
  const Handle(AIS_Shape) object = body_object({"speck", BodyKind::kSolid, speck, {}, {}}, {});
  view_.context()->Display(object, AIS_Shaded, 0, false);
  view_.redraw();
  QObject::connect(
      &view_, &QOpenGLWidget::frameSwapped, &displaying_,
      [this, object] {
        view_.context()->Remove(object, false);
        view_.redraw();
      },
      Qt::SingleShotConnection);
}

void Scene::show_part(const PartPtr& part, const gp_Trsf& placement) {
  part_ = part;
  placement_ = placement;
  stand_ins_.show_part(part);
  for (Painted& layer : painted_) layer = {{}, std::move(layer.objects), false};
  update_bodies();
}

void Scene::set_style(DisplayStyle style) {
  style_ = style;
  view_.set_creases_darkened(style == DisplayStyle::kShadedWithEdges || style == DisplayStyle::kShaded);
  display_bodies();
}

void Scene::set_visible(bool visible) {
  if (visible == visible_) return;
  visible_ = visible;
  display_bodies();
}

void Scene::set_plain(bool plain) {
  if (plain == plain_) return;
  plain_ = plain;
  display_bodies();
}

void Scene::set_hover_over(const Body& body) {
  const Quantity_Color ink = is_dark(colour_of(body, look_of_(body))) ? light_edge() : kernel(theme().ink);
  const Handle(Prs3d_Drawer) hover = view_.context()->HighlightStyle(Prs3d_TypeOfHighlight_LocalDynamic);
  for (const auto& aspect : {hover->LineAspect(), hover->WireAspect(), hover->FaceBoundaryAspect()})
    aspect->SetColor(ink);
}

Handle(AIS_Shape) Scene::wire_object(const TopoDS_Shape& shape, bool dimmed) const {
  const QColor colour = dimmed ? theme().quiet_ink : theme().part_edge;
  Handle(AIS_Shape) wire = new AIS_Shape(shape);
  wire->Attributes()->SetAutoTriangulation(false);
  const Handle(Prs3d_LineAspect) line =
      new Prs3d_LineAspect(kernel(colour), dimmed ? Aspect_TOL_DASH : Aspect_TOL_SOLID, dimmed ? 0.8 : 1.4);
  wire->Attributes()->SetWireAspect(line);
  wire->Attributes()->SetUnFreeBoundaryAspect(line);
  wire->Attributes()->SetFreeBoundaryAspect(line);
  wire->Attributes()->SetLineAspect(line);
  wire->Attributes()->SetUIsoAspect(new Prs3d_IsoAspect(kernel(colour), Aspect_TOL_SOLID, 1.0, 0));
  wire->Attributes()->SetVIsoAspect(new Prs3d_IsoAspect(kernel(colour), Aspect_TOL_SOLID, 1.0, 0));
  wire->SetLocalTransformation(placement_);
  return wire;
}

Quantity_Color Scene::colour_of(const Body& body, const BodyLook& look) const {
  const std::optional<Colour> colour = plain_ ? std::nullopt : look.colour ? look.colour : body.colour;
  return colour ? kernel(*colour) : kernel(theme().part);
}

Quantity_Color Scene::edge_colour_on(const Quantity_Color& face) const {
  return is_dark(face) ? light_edge() : kernel(theme().part_edge);
}

void Scene::set_turning(bool now) {
  const bool slowly = now && view_.last_frame_ms() > kSlowFrame_ms;
  if (std::exchange(turning_slowly_, slowly) != slowly) view_.redraw();
}

Scene::As Scene::fitting() const {
  constexpr double kUnseen_px = 0.5;
  if (!visible_ || displayed_ < part_->bodies().size()) return As::kItself;
  if (turning_slowly_ && stand_ins_.while_turning()) return As::kTurning;
  const bool is_shaded = style_ == DisplayStyle::kShadedWithEdges || style_ == DisplayStyle::kShaded;
  const double unseen_mm = kUnseen_px * view_.mm_per_pixel() / view_.devicePixelRatioF();
  return is_shaded && stand_ins_.from_afar() && stand_ins_.deviation_mm() <= unseen_mm ? As::kFromAfar
                                                                                       : As::kItself;
}

// Bodies are only made invisible: taking them off the screen would take what can be picked with it.
void Scene::choose_stand_in() {
  if (!part_) return;
  if (view_.last_frame_ms() > kSlowFrame_ms) stand_ins_.drawing_is_slow();
  const As as = fitting();
  if (as == As::kTurning) add_turning();
  if (as == As::kFromAfar) add_light();
  const auto show = [](const Handle(AIS_InteractiveObject) & object, bool visible) {
    for (const auto& presentation : object->Presentations()) presentation->SetVisible(visible);
  };
  for (const auto& object : turning_) show(object, as == As::kTurning);
  for (const auto& object : bodies_) show(object, as == As::kItself);
  for (const auto& object : outlines_) show(object, as == As::kItself);
  for (const Drawn& drawn : drawn_)
    if (!drawn.light.IsNull()) show(drawn.light, as == As::kFromAfar);
  const As before = std::exchange(drawn_as_, as);
  if (before == as) return;
  if ((before == As::kFromAfar) != (as == As::kFromAfar)) let_paint_through();
  view_.camera_view()->Invalidate();
}

void Scene::add_turning() {
  const StandIns::Shapes shapes = stand_ins_.while_turning();
  if (!turning_.empty()) return;
  for (size_t i = 0; i < shapes->size(); ++i) {
    Body body = part_->bodies()[i];
    const BodyLook look = look_of_(body);
    if (!look.shown || (*shapes)[i].IsNull()) continue;
    body.colour = colour_of_most(body);
    body.face_colours.clear();
    body.shape = (*shapes)[i];
    turning_.push_back(body_object(body, look));
    turning_.back()->Attributes()->SetFaceBoundaryDraw(false);
    view_.context()->Display(turning_.back(), AIS_Shaded, -1, false);
  }
}

void Scene::add_light() {
  const StandIns::Shapes shapes = stand_ins_.from_afar();
  for (Drawn& drawn : drawn_) {
    if (!drawn.light.IsNull()) continue;
    Body body = drawn.body;
    body.shape = (*shapes)[drawn.place];
    drawn.light = body_object(body, drawn.look);
    view_.context()->Display(drawn.light, AIS_Shaded, -1, false);
  }
}

Handle(AIS_Shape) Scene::body_object(const Body& body, const BodyLook& look) const {
  const bool wire = style_ == DisplayStyle::kWireframe;
  const bool own_faces = !body.face_colours.empty() && !look.colour && !wire && !plain_;
  Handle(AIS_Shape) object =
      own_faces ? Handle(AIS_Shape)(new AIS_ColoredShape(body.shape)) : new AIS_Shape(body.shape);
  const Quantity_Color plain =
      wire ? kernel(theme().dark ? theme().quiet_ink : theme().part_edge) : colour_of(body, look);
  object->Attributes()->SetAutoTriangulation(false);
  object->SetMaterial(matt());
  object->SetColor(plain);
  if (own_faces) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(body.shape, TopAbs_FACE, faces);
    for (const auto& [index, face_colour] : body.face_colours)
      if (index < faces.Extent()) {
        const Handle(AIS_ColoredShape) painted = Handle(AIS_ColoredShape)::DownCast(object);
        painted->SetCustomColor(faces(index + 1), kernel(face_colour));
        painted->CustomAspects(faces(index + 1))
            ->SetFaceBoundaryAspect(
                new Prs3d_LineAspect(edge_colour_on(kernel(face_colour)), Aspect_TOL_SOLID, kEdgeWidth));
      }
  }
  const bool see_through = style_ == DisplayStyle::kTransparent;
  object->Attributes()->SetFaceBoundaryDraw(style_ == DisplayStyle::kShadedWithEdges || see_through);
  object->Attributes()->SetFaceBoundaryAspect(
      new Prs3d_LineAspect(edge_colour_on(plain), Aspect_TOL_SOLID, kEdgeWidth));
  if (wire) {
    const Handle(Prs3d_LineAspect) line = new Prs3d_LineAspect(plain, Aspect_TOL_SOLID, 1.2);
    object->Attributes()->SetWireAspect(line);
    object->Attributes()->SetUnFreeBoundaryAspect(line);
  }
  constexpr double kSeeThrough = 0.6;
  const double transparency = see_through ? std::max(kSeeThrough, look.transparency) : look.transparency;
  if (transparency > 0) object->SetTransparency(transparency);
  object->SetLocalTransformation(placement_);
  return object;
}

void Scene::add_outlines(const Body& body) {
  static const Graphic3d_ZLayerId dimmed_layer = make_layer(view_.context()->CurrentViewer(), false);
  static const Graphic3d_ZLayerId outline_layer = make_layer(view_.context()->CurrentViewer(), true);
  for (const bool dimmed : {true, false}) {
    const Handle(AIS_Shape) wire = wire_object(body.shape, dimmed);
    wire->SetZLayer(dimmed ? dimmed_layer : outline_layer);
    view_.context()->Display(wire, AIS_WireFrame, -1, false);
    outlines_.push_back(wire);
  }
}

namespace {

bool looks_alike(const Body& a, const Body& b) {
  return a.shape.IsEqual(b.shape) && a.kind == b.kind && a.colour == b.colour &&
         a.face_colours == b.face_colours;
}

}  // namespace

// Of a part that differs in some bodies only those are drawn anew.
void Scene::update_bodies() {
  if (!part_ || !visible_ || style_ == DisplayStyle::kHiddenDimmed) return display_bodies();
  staying_.insert(staying_.end(), drawn_.begin(), drawn_.end());
  drawn_.clear();
  bodies_.clear();
  const auto gone = std::stable_partition(staying_.begin(), staying_.end(), [this](const Drawn& drawn) {
    return same_motion(drawn.placement, placement_) &&
           std::any_of(part_->bodies().begin(), part_->bodies().end(), [&](const Body& body) {
             return looks_alike(drawn.body, body) && look_of_(body) == drawn.look && drawn.look.shown;
           });
  });
  for (auto drawn = gone; drawn != staying_.end(); ++drawn) take_off(*drawn);
  staying_.erase(gone, staying_.end());
  clear(turning_);
  displayed_ = 0;
  displaying_.stop();
  display_some();
}

std::optional<Scene::Drawn> Scene::drawn_before(const Body& body, const BodyLook& look) {
  const auto drawn = std::find_if(staying_.begin(), staying_.end(), [&](const Drawn& each) {
    return looks_alike(each.body, body) && each.look == look;
  });
  if (drawn == staying_.end()) return std::nullopt;
  std::optional<Drawn> there = std::move(*drawn);
  staying_.erase(drawn);
  return there;
}

void Scene::take_off(const Drawn& drawn) {
  view_.context()->Remove(drawn.object, false);
  if (!drawn.light.IsNull()) view_.context()->Remove(drawn.light, false);
}

void Scene::drop_staying() {
  for (const Drawn& drawn : staying_) take_off(drawn);
  staying_.clear();
}

void Scene::display_bodies() {
  for (const Drawn& drawn : drawn_) take_off(drawn);
  drawn_.clear();
  bodies_.clear();
  drop_staying();
  clear(outlines_);
  clear(turning_);
  displayed_ = 0;
  displaying_.stop();
  if (!part_ || !visible_) return view_.redraw();
  display_some();
}

// A file may hold hundreds of bodies: the window stays usable while they appear.
void Scene::display_some() {
  constexpr qint64 kMoment_ms = 60;
  QElapsedTimer clock;
  clock.start();
  for (; displayed_ < part_->bodies().size() && clock.elapsed() < kMoment_ms; ++displayed_) {
    const Body& body = part_->bodies()[displayed_];
    const BodyLook look = look_of_(body);
    if (!look.shown) continue;
    if (const auto there = drawn_before(body, look)) {
      drawn_.push_back({body, look, placement_, there->object, displayed_, there->light});
      bodies_.push_back(there->object);
      continue;
    }
    const Handle(AIS_Shape) object = body_object(body, look);
    drawn_.push_back({body, look, placement_, object, displayed_});
    const bool wire = style_ == DisplayStyle::kWireframe && body.kind != BodyKind::kMesh;
    // With -1 instead of 0 the selection manager never hears of the object and nothing on it can be picked.
    view_.context()->Display(object, wire ? AIS_WireFrame : AIS_Shaded, 0, false);
    bodies_.push_back(object);
    if (style_ == DisplayStyle::kHiddenDimmed && body.kind != BodyKind::kMesh) add_outlines(body);
    activate_on(object);
  }
  if (displayed_ < part_->bodies().size())
    displaying_.start(0);
  else
    drop_staying();
  view_.redraw();
}

void Scene::set_section(const std::optional<gp_Pln>& plane) {
  if (!section_.IsNull()) view_.camera_view()->RemoveClipPlane(section_);
  section_.Nullify();
  hatch_tile_mm_ = 0;
  if (plane) {
    // The kernel keeps the side its plane looks to.
    section_ = new Graphic3d_ClipPlane(gp_Pln(plane->Location(), plane->Axis().Direction().Reversed()));
    section_->SetCapping(true);
    section_->SetCappingColor(Quantity_Color(Quantity_NOC_WHITE));
    section_->SetUseObjectMaterial(false);
    fit_hatch();
    view_.camera_view()->AddClipPlane(section_);
  }
  view_.redraw();
}

void Scene::fit_hatch() {
  constexpr double kTile_px = 22, kSame = 1.4;
  const double tile_mm = kTile_px * view_.mm_per_pixel();
  const double ratio = hatch_tile_mm_ > 0 ? tile_mm / hatch_tile_mm_ : 0;
  if (section_.IsNull() || (ratio < kSame && ratio > 1 / kSame)) return;
  hatch_tile_mm_ = tile_mm;
  const Handle(Graphic3d_TextureMap) hatch = hatch_texture(theme());
  hatch->GetParams()->SetScale(Graphic3d_Vec2(static_cast<float>(1 / tile_mm)));
  section_->SetCappingTexture(hatch);
}

void Scene::set_pickable(bool faces, bool edges, bool vertices) {
  faces_ = faces;
  edges_ = edges;
  vertices_ = vertices;
  activate_selection();
}

void Scene::activate_selection() {
  for (const auto& body : bodies_) activate_on(body);
}

void Scene::activate_on(const Handle(AIS_InteractiveObject) & body) {
  view_.context()->Deactivate(body);
  if (faces_) view_.context()->Activate(body, AIS_Shape::SelectionMode(TopAbs_FACE));
  if (edges_) view_.context()->Activate(body, AIS_Shape::SelectionMode(TopAbs_EDGE));
  if (vertices_) view_.context()->Activate(body, AIS_Shape::SelectionMode(TopAbs_VERTEX));
}

}  // namespace anvil::app
