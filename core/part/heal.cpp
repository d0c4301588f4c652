#include "part/heal.h"

#include <fmt/format.h>

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepLib.hxx>
#include <Bnd_Box.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_FixSmallFace.hxx>
#include <ShapeFix_Shape.hxx>
#include <ShapeFix_Wireframe.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include "geom/guard.h"
#include "part/mend.h"
#include "part/mesh.h"
#include "part/recognise.h"
#include "part/spline_faces.h"

namespace anvil {
namespace {

constexpr int kMovementSamples = 5;  // along each old edge

int faces_in(const TopoDS_Shape& shape) {
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(shape, TopAbs_FACE, faces);
  return faces.Extent();
}

// The colours go by where faces lie: healing may rebuild every face.
void carry_colours(const Body& from, Body& to) {
  to.face_colours.clear();
  if (from.face_colours.empty()) return;
  TopTools_IndexedMapOfShape before, after;
  TopExp::MapShapes(from.shape, TopAbs_FACE, before);
  TopExp::MapShapes(to.shape, TopAbs_FACE, after);
  for (const auto& [index, colour] : from.face_colours) {
    if (index >= before.Extent()) continue;
    const std::vector<Triangle> mesh = triangles_of(before(index + 1));
    if (mesh.empty()) continue;
    const Triangle& t = mesh[mesh.size() / 2];
    const TopoDS_Vertex probe =
        BRepBuilderAPI_MakeVertex(gp_Pnt((t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) / 3)).Vertex();
    int nearest = 0;
    double least = 1e300;
    for (int i = 1; i <= after.Extent(); ++i) {
      const BRepExtrema_DistShapeShape apart(after(i), probe);
      if (!apart.IsDone() || apart.Value() >= least) continue;
      least = apart.Value();
      nearest = i;
    }
    if (nearest > 0) to.face_colours[nearest - 1] = colour;
  }
}

// Distance of points from the nearest face of a shape: faces in the order of their boxes, until no box is
// nearer than what was found.
class NearestFace {
 public:
  explicit NearestFace(const TopoDS_Shape& shape) {
    for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next()) {
      Bnd_Box box;
      BRepBndLib::Add(ex.Current(), box, false);
      faces_.emplace_back(TopoDS::Face(ex.Current()), box);
    }
  }

  [[nodiscard]] double distance_mm(const gp_Pnt& p) const {
    std::vector<std::pair<double, const TopoDS_Face*>> order;
    Bnd_Box here;
    here.Add(p);
    for (const auto& [face, box] : faces_) order.emplace_back(box.Distance(here), &face);
    std::sort(order.begin(), order.end());
    const TopoDS_Vertex vertex = BRepBuilderAPI_MakeVertex(p).Vertex();
    double least = 1e300;
    for (const auto& [from_box, face] : order) {
      if (from_box >= least || least < 1e-9) break;
      const BRepExtrema_DistShapeShape apart(vertex, *face);
      if (apart.IsDone() && apart.NbSolution() > 0) least = std::min(least, apart.Value());
    }
    return least;
  }

 private:
  std::vector<std::pair<TopoDS_Face, Bnd_Box>> faces_;
};

class Healer {
 public:
  Healer(const Body& body, const HealOptions& options, HealReport& report)
      : before_(body), body_(body), options_(options), report_(report) {}

  struct Healed {
    Body body;
    BodyMap map;
  };
  Result<Healed> run() {
    report_.faces_before += faces_in(before_.shape);
    report_.open_edges_before += count_open_edges(before_.shape);
    if (options_.drop_slivers) drop_slivers();
    if (options_.sew && count_open_edges(body_.shape) > 0) sew();
    if (options_.fix) fix();
    if (options_.recognise) recognise();
    if (options_.unify) unify();
    if (auto moved = measure_movement(); !moved) return refuse(moved);
    report_.faces_after += faces_in(body_.shape);
    report_.open_edges_after += count_open_edges(body_.shape);
    if (!body_.shape.IsSame(before_.shape)) carry_colours(before_, body_);
    return Healed{body_, body_map(before_.shape, body_.shape, *history_)};
  }

 private:
  void remember(const Handle(ShapeBuild_ReShape) & context) {
    if (!context.IsNull()) history_->Merge(context->History());
  }

  void drop_slivers() {
    const int faces = faces_in(body_.shape);
    ShapeFix_FixSmallFace small;
    small.Init(body_.shape);
    small.SetPrecision(options_.tolerance_mm);
    small.Perform();
    TopoDS_Shape shape = small.FixShape();
    if (shape.IsNull()) return;
    ShapeFix_Wireframe wires(shape);
    wires.SetPrecision(options_.tolerance_mm);
    wires.SetMaxTolerance(options_.tolerance_mm);
    wires.ModeDropSmallEdges() = true;
    wires.FixSmallEdges();
    shape = wires.Shape();
    const int dropped = faces - faces_in(shape);
    if (shape.IsNull() || dropped < 0) return;
    if (dropped == 0 && shape.IsSame(body_.shape)) return;
    remember(small.Context());
    remember(wires.Context());
    body_.shape = shape;
    report_.slivers_dropped += dropped;
  }

  void sew() {
    BRepBuilderAPI_Sewing sewing(options_.tolerance_mm);
    for (TopExp_Explorer faces(body_.shape, TopAbs_FACE); faces.More(); faces.Next())
      sewing.Add(faces.Current());
    sewing.Perform();
    const TopoDS_Shape sewn = sewing.SewedShape();
    if (sewn.IsNull() || count_open_edges(sewn) > count_open_edges(body_.shape)) return;
    std::vector<TopoDS_Shape> all;
    for (TopExp_Explorer shells(sewn, TopAbs_SHELL); shells.More(); shells.Next())
      all.push_back(closed_solid(TopoDS::Shell(shells.Current())));
    const size_t shells = all.size();
    for (TopExp_Explorer faces(sewn, TopAbs_FACE, TopAbs_SHELL); faces.More(); faces.Next())
      all.push_back(faces.Current());
    if (all.empty()) return;
    const bool is_one_shell = shells == 1 && all.size() == 1;
    const bool solid = is_one_shell && all.front().ShapeType() == TopAbs_SOLID;
    history_->Merge(history_of(sewing, body_.shape));
    body_.shape = is_one_shell ? all.front() : TopoDS_Shape(compound_of(all));
    if (solid && body_.kind == BodyKind::kShell) ++report_.solids_made;
    body_.kind = solid ? BodyKind::kSolid : BodyKind::kShell;
  }

  // Sewing tells one by one what became of a face or an edge.
  static Handle(BRepTools_History)
      history_of(const BRepBuilderAPI_Sewing& sewing, const TopoDS_Shape& shape) {
    Handle(BRepTools_History) history = new BRepTools_History;
    for (const TopAbs_ShapeEnum kind : {TopAbs_FACE, TopAbs_EDGE, TopAbs_VERTEX}) {
      TopTools_IndexedMapOfShape all;
      TopExp::MapShapes(shape, kind, all);
      for (int i = 1; i <= all.Extent(); ++i) {
        const TopoDS_Shape sewn =
            sewing.IsModified(all(i)) ? sewing.Modified(all(i)) : sewing.ModifiedSubShape(all(i));
        if (!sewn.IsNull() && sewn.ShapeType() == kind && !sewn.IsSame(all(i)))
          history->AddModified(all(i), sewn);
      }
    }
    for (int i = 1; i <= sewing.NbDeletedFaces(); ++i) history->Remove(sewing.DeletedFace(i));
    return history;
  }

  static TopoDS_Shape closed_solid(const TopoDS_Shell& shell) {
    if (!BRep_Tool::IsClosed(shell)) return shell;
    BRepBuilderAPI_MakeSolid maker(shell);
    if (!maker.IsDone()) return shell;
    TopoDS_Solid solid = maker.Solid();
    BRepLib::OrientClosedSolid(solid);
    return solid;
  }

  void fix() {
    ShapeFix_Shape fixing(body_.shape);
    fixing.SetPrecision(1e-5);
    fixing.SetMaxTolerance(options_.limit_mm);
    fixing.Perform();
    TopoDS_Shape shape = fixing.Shape();
    if (shape.IsNull()) return;
    TopExp_Explorer solids(shape, TopAbs_SOLID);
    if (body_.kind == BodyKind::kSolid && !solids.More()) return;  // it would lose the solid
    if (body_.kind == BodyKind::kSolid) {
      TopoDS_Solid solid = TopoDS::Solid(solids.Current());
      solids.Next();
      if (solids.More()) return;
      if (count_open_edges(solid) == 0) BRepLib::OrientClosedSolid(solid);
      shape = solid;
    }
    if (count_open_edges(shape) > count_open_edges(body_.shape)) return;
    remember(fixing.Context());
    body_.shape = shape;
  }

  void recognise() {
    const SplineFaces made = with_exact_surfaces(body_.shape, options_.tolerance_mm);
    if (made.faces.empty()) return;
    history_->Merge(made.history);
    body_.shape = made.shape;
    for (const auto& [kind, deviation] : made.faces) {
      auto known = std::find_if(report_.recognised.begin(), report_.recognised.end(),
                                [k = kind](const RecognisedFaces& r) { return r.kind == k; });
      if (known == report_.recognised.end()) known = report_.recognised.insert(known, {kind, 0, 0});
      ++known->faces;
      known->largest_deviation_mm = std::max(known->largest_deviation_mm, deviation);
    }
  }

  void unify() {
    const int faces = faces_in(body_.shape);
    ShapeUpgrade_UnifySameDomain unifying(body_.shape, true, true, false);
    unifying.SetLinearTolerance(options_.tolerance_mm);
    unifying.SetAngularTolerance(1e-4);
    unifying.Build();
    const TopoDS_Shape shape = unifying.Shape();
    if (shape.IsNull() || !BRepCheck_Analyzer(shape).IsValid()) return;
    report_.faces_unified += faces - faces_in(shape);
    history_->Merge(unifying.History());
    body_.shape = shape;
  }

  // Points of the old edges against the new faces. Edges of dropped slivers lie on them as well; edges that
  // were taken over as they are did not move.
  Result<void> measure_movement() {
    if (body_.shape.IsSame(before_.shape)) return {};
    const NearestFace nearest(body_.shape);
    TopTools_IndexedMapOfShape edges, kept;
    TopExp::MapShapes(before_.shape, TopAbs_EDGE, edges);
    TopExp::MapShapes(body_.shape, TopAbs_EDGE, kept);
    for (int i = 1; i <= edges.Extent(); ++i) {
      const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
      if (BRep_Tool::Degenerated(edge) || kept.Contains(edge)) continue;
      const BRepAdaptor_Curve curve(edge);
      const double first = curve.FirstParameter(),
                   step = (curve.LastParameter() - first) / (kMovementSamples - 1);
      for (int k = 0; k < kMovementSamples; ++k) {
        const gp_Pnt p = curve.Value(first + k * step);
        const double moved = nearest.distance_mm(p);
        report_.largest_movement_mm = std::max(report_.largest_movement_mm, moved);
        if (moved <= options_.limit_mm) continue;
        Refusal refusal{RefusalCode::kGeometry,
                        fmt::format("healing {} would move an edge by {:.4f} mm, more than the limit of "
                                    "{:.4f} mm; raise the limit or leave "
                                    "it as it came",
                                    before_.name, moved, options_.limit_mm)};
        refusal.facts["movement_mm"] = moved;
        refusal.place = {p.X(), p.Y(), p.Z()};
        return refuse(refusal);
      }
    }
    return {};
  }

  const Body& before_;
  Body body_;
  const HealOptions& options_;
  HealReport& report_;
  const Handle(BRepTools_History) history_ = new BRepTools_History;
};

std::vector<std::string> told(const HealReport& r) {
  std::vector<std::string> lines;
  const int closed = r.open_edges_before - r.open_edges_after;
  if (r.solids_made > 0)
    lines.push_back(
        fmt::format("{} solid{} made of loose faces", r.solids_made, r.solids_made > 1 ? "s" : ""));
  if (closed > 0) lines.push_back(fmt::format("{} open edges closed", closed));
  if (r.open_edges_after > 0) lines.push_back(fmt::format("{} open edges stay open", r.open_edges_after));
  if (r.slivers_dropped > 0) lines.push_back(fmt::format("{} sliver faces dropped", r.slivers_dropped));
  if (r.faces_unified > 0)
    lines.push_back(fmt::format("{} faces joined with their neighbours", r.faces_unified));
  for (const RecognisedFaces& k : r.recognised)
    lines.push_back(fmt::format("{} B-spline face{} recognised as {}, at most {:.6f} mm off", k.faces,
                                k.faces > 1 ? "s" : "", surface_name(k.kind), k.largest_deviation_mm));
  lines.push_back(fmt::format("largest movement {:.6f} mm", r.largest_movement_mm));
  return lines;
}

}  // namespace

Result<HealedBodies> heal_bodies(const std::vector<Body>& bodies, const HealOptions& options,
                                 const Progress& progress) {
  HealedBodies healed;
  bool changed = false;
  for (size_t i = 0; i < bodies.size(); ++i) {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("healing " + bodies[i].name, static_cast<double>(i) / static_cast<double>(bodies.size()));
    if (bodies[i].kind == BodyKind::kMesh) {
      healed.bodies.push_back(bodies[i]);
      healed.maps.push_back(body_map(bodies[i].shape, bodies[i].shape, BRepTools_History()));
      continue;
    }
    auto body = guarded("healing", [&] { return Healer(bodies[i], options, healed.report).run(); });
    if (!body) return refuse(body);
    changed = changed || !body->body.shape.IsSame(bodies[i].shape);
    mesh_shape(body->body.shape);
    healed.bodies.push_back(std::move(body->body));
    healed.maps.push_back(std::move(body->map));
  }
  if (!changed)
    return refuse(RefusalCode::kGeometry,
                  "there is nothing to heal with these options: the part stays as it is");
  healed.report.lines = told(healed.report);
  return healed;
}

}  // namespace anvil
