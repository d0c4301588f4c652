#include "part/mend.h"

#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Result.hxx>
#include <BRepCheck_Shell.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <Geom2d_Curve.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeFix_Face.hxx>
#include <ShapeFix_Shape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS_Iterator.hxx>

#include "geom/guard.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "part/surface_curves.h"

namespace anvil {
namespace {

bool is_valid(const TopoDS_Shape& shape) {
  return BRepCheck_Analyzer(shape, true, true).IsValid();
}

// The one shape of the wanted kind in what fixing left: it may wrap it in a compound, or split it.
TopoDS_Shape only(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind) {
  if (shape.IsNull() || shape.ShapeType() == kind) return shape;
  TopoDS_Shape found;
  for (TopExp_Explorer ex(shape, kind); ex.More(); ex.Next()) {
    if (!found.IsNull()) return {};
    found = ex.Current();
  }
  return found;
}

void keep_colours(Body& body, const TopoDS_Shape& fixed, const Handle(ShapeBuild_ReShape) & context) {
  TopTools_IndexedMapOfShape before, after;
  TopExp::MapShapes(body.shape, TopAbs_FACE, before);
  TopExp::MapShapes(fixed, TopAbs_FACE, after);
  std::map<int, Colour> colours;
  for (const auto& [index, colour] : body.face_colours)
    if (index < before.Extent())
      if (const int at = after.FindIndex(context->Apply(before(index + 1)))) colours[at - 1] = colour;
  body.face_colours = std::move(colours);
}

// The ends of neighbouring edges of a wire, in the parameters of the surface, must meet.
bool is_closed_on_surface(const TopoDS_Wire& wire, const TopoDS_Face& face, double u_gap, double v_gap) {
  std::vector<std::pair<gp_Pnt2d, gp_Pnt2d>> ends;
  for (TopoDS_Iterator edges(wire); edges.More(); edges.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges.Value());
    double first, last;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
    if (curve.IsNull()) return false;
    ends.emplace_back(curve->Value(first), curve->Value(last));
    if (edge.Orientation() == TopAbs_REVERSED) std::swap(ends.back().first, ends.back().second);
  }
  for (size_t i = 0; i < ends.size(); ++i) {
    const gp_Pnt2d &end = ends[i].second, &next = ends[(i + 1) % ends.size()].first;
    if (std::abs(end.X() - next.X()) > u_gap || std::abs(end.Y() - next.Y()) > v_gap) return false;
  }
  return true;
}

// Makes the missing curves first: an outline without them cannot be judged.
bool outline_is_open(const TopoDS_Face& shape) {
  // A reversed face would turn its wires round, but not the order of their edges.
  const TopoDS_Face face = TopoDS::Face(shape.Oriented(TopAbs_FORWARD));
  const BRepAdaptor_Surface surface(face, false);
  const bool has_curves = make_surface_curves(face);
  if (surface.GetType() == GeomAbs_Plane) return false;
  if (!has_curves) return true;
  constexpr double kGap_mm = 0.05;
  const double u_gap = std::max(1e-6, surface.UResolution(kGap_mm)),
               v_gap = std::max(1e-6, surface.VResolution(kGap_mm));
  for (TopoDS_Iterator wires(face); wires.More(); wires.Next())
    if (wires.Value().ShapeType() == TopAbs_WIRE &&
        !is_closed_on_surface(TopoDS::Wire(wires.Value()), face, u_gap, v_gap))
      return true;
  return false;
}

// The two curves of a seam on its surface change places.
void swap_seam(const TopoDS_Edge& seam, const TopoDS_Face& face) {
  double first, last;
  const Handle(Geom2d_Curve) one = BRep_Tool::CurveOnSurface(seam, face, first, last);
  const Handle(Geom2d_Curve) other =
      BRep_Tool::CurveOnSurface(TopoDS::Edge(seam.Reversed()), face, first, last);
  const bool is_forward = seam.Orientation() == TopAbs_FORWARD;
  BRep_Builder().UpdateEdge(seam, is_forward ? other : one, is_forward ? one : other, face,
                            BRep_Tool::Tolerance(seam));
}

void swap_seams(const TopoDS_Face& face) {
  TopTools_MapOfShape done;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    if (const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
        BRep_Tool::IsClosed(edge, face) && done.Add(edge))
      swap_seam(edge, face);
}

TopTools_MapOfShape drawn_edges(const TopoDS_Face& face) {
  TopTools_MapOfShape edges;
  for (TopExp_Explorer ex(face, TopAbs_EDGE); ex.More(); ex.Next())
    if (!BRep_Tool::Degenerated(TopoDS::Edge(ex.Current()))) edges.Add(ex.Current());
  return edges;
}

std::vector<TopoDS_Shape> wires_of(const TopoDS_Face& face) {
  std::vector<TopoDS_Shape> wires;
  for (TopoDS_Iterator it(face); it.More(); it.Next()) wires.push_back(it.Value());
  return wires;
}

void replace_wires(TopoDS_Face face, const std::vector<TopoDS_Shape>& by) {
  const BRep_Builder builder;
  const bool was_free = face.Free();
  face.Free(true);
  for (const TopoDS_Shape& wire : wires_of(face)) builder.Remove(face, wire);
  for (const TopoDS_Shape& wire : by) builder.Add(face, wire);
  face.Free(was_free);
}

// Closing that leaves the face and all edges it shares with others what they are, so that nothing around it
// needs to be built anew: seams whose two curves were exchanged, an apex that was left out.
bool close_in_place(const TopoDS_Face& shape) {
  const TopoDS_Face face = TopoDS::Face(shape.Oriented(TopAbs_FORWARD));
  swap_seams(face);
  if (!outline_is_open(face)) return true;
  swap_seams(face);
  ShapeFix_Face fixing(face);
  fixing.SetContext(new ShapeBuild_ReShape);  // without one the result does not hold the fixed outline
  fixing.Perform();
  if (fixing.Result().IsNull() || fixing.Result().ShapeType() != TopAbs_FACE) return false;
  const TopoDS_Face fixed = TopoDS::Face(fixing.Result().Oriented(TopAbs_FORWARD));
  if (outline_is_open(fixed) || BRep_Tool::Surface(fixed) != BRep_Tool::Surface(face) ||
      !drawn_edges(fixed).IsEqual(drawn_edges(face)))
    return false;
  replace_wires(face, wires_of(fixed));
  return true;
}

// Fixes these faces and puts the new ones in the place of the old.
int fix_faces(Body& body, const std::vector<TopoDS_Face>& faces) {
  const Handle(ShapeBuild_ReShape) context = new ShapeBuild_ReShape;
  int fixed = 0;
  for (const TopoDS_Face& face : faces) {
    ShapeFix_Face fixing(TopoDS::Face(face.Oriented(TopAbs_FORWARD)));
    fixing.SetContext(context);
    fixing.Perform();
    const TopoDS_Shape result = fixing.Result();
    if (result.IsNull() || result.IsSame(face)) continue;
    context->Replace(face.Oriented(TopAbs_FORWARD), result);
    ++fixed;
  }
  const TopoDS_Shape shape = context->Apply(body.shape);
  if (shape.IsNull() || shape.ShapeType() != body.shape.ShapeType()) return 0;
  keep_colours(body, shape, context);
  body.shape = shape;
  return fixed;
}

bool runs_apart(const Handle(BRepCheck_Result) & result) {
  if (result.IsNull()) return false;
  for (result->InitContextIterator(); result->MoreShapeInContext(); result->NextShapeInContext())
    for (const BRepCheck_Status status : result->StatusOnShape())
      if (status == BRepCheck_InvalidCurveOnSurface || status == BRepCheck_InvalidSameParameterFlag ||
          status == BRepCheck_InvalidSameRangeFlag)
        return true;
  return false;
}

// Edges whose curves in space and on their faces do not run alike are made to, or say how far they are apart.
// In place.
TopTools_MapOfShape fix_edges(const TopoDS_Shape& shape, const BRepCheck_Analyzer& check) {
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  const BRep_Builder builder;
  ShapeFix_Edge fixing;
  TopTools_MapOfShape changed;
  for (int i = 1; i <= edges.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
    if (BRep_Tool::Degenerated(edge) || !runs_apart(check.Result(edge))) continue;
    builder.SameRange(edge, false);
    builder.SameParameter(edge, false);
    fixing.FixSameParameter(edge);
    fixing.FixVertexTolerance(edge);
    changed.Add(edge);
  }
  return changed;
}

std::vector<TopoDS_Face> invalid_faces(const TopoDS_Shape& shape, const BRepCheck_Analyzer& check) {
  std::vector<TopoDS_Face> invalid;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next())
    if (!check.IsValid(faces.Current())) invalid.push_back(TopoDS::Face(faces.Current()));
  return invalid;
}

bool fix_whole(Body& body) {
  ShapeFix_Shape fixing(body.shape);
  fixing.Perform();
  const TopoDS_Shape fixed = only(fixing.Shape(), body.shape.ShapeType());
  if (fixed.IsNull() || !is_valid(fixed) || count_open_edges(fixed) > count_open_edges(body.shape))
    return false;
  keep_colours(body, fixed, fixing.Context());
  body.shape = fixed;
  return true;
}

// What was found valid and is still there need not be checked again: only the other faces, and those with an
// edge that was changed, each on its own; and how the shells hang together.
bool is_valid_where_changed(const TopoDS_Shape& before, const BRepCheck_Analyzer& check,
                            const TopTools_MapOfShape& changed_edges, const TopoDS_Shape& now) {
  TopTools_MapOfShape found_valid;
  for (TopExp_Explorer faces(before, TopAbs_FACE); faces.More(); faces.Next())
    if (check.IsValid(faces.Current())) found_valid.Add(faces.Current());
  for (TopExp_Explorer faces(now, TopAbs_FACE); faces.More(); faces.Next()) {
    bool unchanged = found_valid.Contains(faces.Current());
    for (TopExp_Explorer edges(faces.Current(), TopAbs_EDGE); edges.More() && unchanged; edges.Next())
      unchanged = !changed_edges.Contains(edges.Current());
    if (!unchanged && !is_valid(faces.Current())) return false;
  }
  for (TopExp_Explorer shells(now, TopAbs_SHELL); shells.More(); shells.Next()) {
    BRepCheck_Shell shell(TopoDS::Shell(shells.Current()));
    if (shell.Closed() == BRepCheck_InvalidImbricationOfShells || shell.Orientation() != BRepCheck_NoError)
      return false;
  }
  return true;
}

// Face by face first; the whole body only when that is not enough.
bool fix(Body& body, const BRepCheck_Analyzer& check) {
  const TopTools_MapOfShape changed_edges = fix_edges(body.shape, check);
  Body tried = body;
  fix_faces(tried, invalid_faces(body.shape, check));
  if (is_valid_where_changed(body.shape, check, changed_edges, tried.shape) &&
      count_open_edges(tried.shape) <= count_open_edges(body.shape)) {
    body = std::move(tried);
    return true;
  }
  return fix_whole(body);
}

// Where everything far away is inside, the faces look inward.
bool is_inside_out(const TopoDS_Shape& solid) {
  BRepClass3d_SolidClassifier classifier(solid);
  classifier.PerformInfinitePoint(Precision::Confusion());
  return classifier.State() == TopAbs_IN;
}

bool turn_right(Body& body) {
  if (body.kind != BodyKind::kSolid || count_open_edges(body.shape) > 0 || !is_inside_out(body.shape))
    return false;
  body.shape.Reverse();
  return true;
}

}  // namespace

void turn_inside_out_ones(std::vector<Body>& bodies) {
  for (Body& body : bodies)
    static_cast<void>(guarded("turning", [&]() -> Result<int> { return turn_right(body); }));
}

int count_open_edges(const TopoDS_Shape& shape) {
  TopTools_IndexedDataMapOfShapeListOfShape faces_of;
  TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, faces_of);
  int open = 0;
  for (int i = 1; i <= faces_of.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(faces_of.FindKey(i));
    if (faces_of(i).Extent() == 1 && !BRep_Tool::Degenerated(edge) &&
        !BRep_Tool::IsClosed(edge, TopoDS::Face(faces_of(i).First())))
      ++open;
  }
  return open;
}

double mesh_volume_mm3(const TopoDS_Shape& shape) {
  return mesh_properties(shape).volume_mm3;
}

bool close_outlines_in_place(const TopoDS_Shape& shape) {
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next())
    if (const TopoDS_Face& face = TopoDS::Face(faces.Current());
        outline_is_open(face) && !close_in_place(face))
      return false;
  return true;
}

static std::vector<TopoDS_Face> faces_of(const std::vector<Body>& bodies) {
  std::vector<TopoDS_Face> faces;
  for (const Body& body : bodies)
    for (TopExp_Explorer ex(body.shape, TopAbs_FACE); body.kind != BodyKind::kMesh && ex.More(); ex.Next())
      faces.push_back(TopoDS::Face(ex.Current()));
  return faces;
}

int close_outlines(std::vector<Body>& bodies) {
  int closed = 0;
  make_surface_curves(faces_of(bodies));
  for (Body& body : bodies) {
    if (body.kind == BodyKind::kMesh) continue;
    std::vector<TopoDS_Face> open;
    for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next())
      if (const TopoDS_Face& face = TopoDS::Face(faces.Current()); outline_is_open(face)) {
        if (close_in_place(face))
          ++closed;
        else
          open.push_back(face);
      }
    if (!open.empty()) closed += fix_faces(body, open);
  }
  return closed;
}

MendReport mend_bodies(std::vector<Body>& bodies, const Progress& progress) {
  MendReport report;
  for (size_t i = 0; i < bodies.size(); ++i) {
    Body& body = bodies[i];
    if (body.kind == BodyKind::kMesh) continue;
    progress.say("checking " + body.name, -1);
    const auto tried = guarded("mending", [&]() -> Result<std::string> {
      const BRepCheck_Analyzer check(body.shape, true, true);
      body.found_valid = check.IsValid();
      if (!body.found_valid) {
        progress.say("mending " + body.name, -1);
        if (fix(body, check)) {
          body.found_valid = true;
          turn_right(body);
          return body.name + " came with faces or edges that did not fit; they were put right.";
        }
      }
      if (turn_right(body)) return body.name + " came inside out; it was turned right.";
      return std::string();
    });
    if (!tried || tried->empty()) continue;  // what cannot be mended here is a finding of the soundness check
    report.mended.push_back(static_cast<int>(i));
    report.sentences.push_back(*tried);
  }
  return report;
}

}  // namespace anvil
