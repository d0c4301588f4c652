#include "correct/move_faces.h"

#include <fmt/format.h>

#include <BRepTools_ReShape.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <map>
#include <set>

#include "correct/retrim.h"
#include "geom/guard.h"
#include "part/kept_border.h"
#include "part/measure.h"
#include "part/surface_curves.h"

namespace anvil {
namespace {

class Mover {
 public:
  Mover(const TopoDS_Shape& body, const TopologyIndex& topology, const std::vector<MovedFaces>& sets)
      : body_(body), topology_(topology) {
    for (const MovedFaces& set : sets) {
      for (const int face : set.faces) set_of_.try_emplace(face, static_cast<int>(motions_.size()));
      motions_.emplace_back().SetTranslation(set.by);
    }
  }

  Mover(const TopoDS_Shape& body, const TopologyIndex& topology, const std::vector<int>& laid,
        const Handle(Geom_Surface) & onto)
      : body_(body), topology_(topology) {
    for (const int face : laid) {
      set_of_[face] = static_cast<int>(motions_.size());
      motions_.emplace_back();
      surfaces_[face] = facing_as(onto, topology.faces[face].face);
    }
  }

  Result<BodyChange> run() {
    find_what_is_touched();
    for (const auto& [vertex, edges] : at_vertex_)
      if (auto placed = place(vertex, edges); !placed) return refuse(placed);
    for (const int edge : touched_edges_)
      if (auto drawn = draw(edge); !drawn) return refuse(drawn);
    return assembled();
  }

 private:
  // The surface with its natural normal to the same side as that of the face, for the face keeps its sense.
  static Handle(Geom_Surface) facing_as(const Handle(Geom_Surface) & onto, const TopoDS_Face& face) {
    const gp_Pnt middle = area_properties(face).centroid;
    const auto was = normal_near(surface_of(face), middle), is = normal_near(onto, middle);
    const bool turned = was && is && was->Dot(*is) < 0;
    return turned ? onto->UReversed() : onto;
  }

  // Which set a face moves with; -1: it stays.
  int set_of(int face) const {
    const auto at = set_of_.find(face);
    return at == set_of_.end() ? -1 : at->second;
  }
  bool is_moved(int face) const { return set_of(face) >= 0; }
  bool moves_as_one(const EdgeInfo& edge) const {
    return edge.face_b < 0 || set_of(edge.face_a) == set_of(edge.face_b);
  }
  bool is_inner(const EdgeInfo& edge) const { return moves_as_one(edge) && is_moved(edge.face_a); }
  bool is_outer(const EdgeInfo& edge) const { return moves_as_one(edge) && !is_moved(edge.face_a); }
  gp_Trsf motion_of(int face) const { return is_moved(face) ? motions_[set_of(face)] : gp_Trsf(); }

  // The vertices of moved faces with all edges that end there; the faces of those edges are made anew.
  void find_what_is_touched() {
    for (const auto& [face, set] : set_of_)
      for (const int edge : topology_.faces[face].edges)
        for (const int vertex : {topology_.edges[edge].vertex_a, topology_.edges[edge].vertex_b})
          if (vertex >= 0) at_vertex_[vertex];
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      const auto number = static_cast<int>(i);
      for (const int vertex : {edge.vertex_a, edge.vertex_b})
        if (const auto at = at_vertex_.find(vertex); at != at_vertex_.end()) {
          at->second.insert(number);
          touched_edges_.insert(number);
        }
    }
    for (const auto& [face, set] : set_of_) touched_faces_.insert(face);
    for (const int edge : touched_edges_)
      for (const int face : {topology_.edges[edge].face_a, topology_.edges[edge].face_b})
        if (face >= 0) touched_faces_.insert(face);
  }

  Handle(Geom_Surface) surface(int face) {
    Handle(Geom_Surface)& known = surfaces_[face];
    if (known.IsNull()) {
      known = surface_of(topology_.faces[face].face);
      if (is_moved(face)) known = Handle(Geom_Surface)::DownCast(known->Transformed(motion_of(face)));
    }
    return known;
  }

  Handle(Geom_Curve) curve(int edge) {
    const Handle(Geom_Curve) own = curve_of(topology_.edges[edge].edge);
    return own.IsNull() || !is_inner(topology_.edges[edge])
               ? own
               : Handle(Geom_Curve)::DownCast(own->Transformed(motion_of(topology_.edges[edge].face_a)));
  }

  std::set<int> faces_at(const std::set<int>& edges) const {
    std::set<int> faces;
    for (const int edge : edges)
      for (const int face : {topology_.edges[edge].face_a, topology_.edges[edge].face_b})
        if (face >= 0) faces.insert(face);
    return faces;
  }

  bool lies_on_all(const std::set<int>& faces, const gp_Pnt& point) {
    return std::all_of(faces.begin(), faces.end(), [&](int face) { return lies_on(surface(face), point); });
  }

  // Moved along, where that is on every face that meets there; else where an edge that stays, or one that
  // moves, meets the faces it does not lie on.
  Result<void> place(int vertex, const std::set<int>& edges) {
    const gp_Pnt was = topology_.vertices[vertex].point;
    const std::set<int> faces = faces_at(edges);
    std::optional<gp_Pnt> now;
    gp_Pnt along = was;
    for (const int face : faces) {
      if (now || !is_moved(face)) continue;
      along = was.Transformed(motion_of(face));
      if (lies_on_all(faces, along)) now = along;
    }
    for (const int edge : edges) {
      if (now) break;
      const EdgeInfo& info = topology_.edges[edge];
      if (!is_outer(info) && !is_inner(info)) continue;
      const Handle(Geom_Curve) line = curve(edge);
      for (const int face : faces) {
        if (now || line.IsNull() || face == info.face_a || face == info.face_b) continue;
        const auto meets = meeting(line, surface(face), along);
        if (meets && lies_on_all(faces, *meets)) now = meets;
      }
    }
    if (!now) return refuse_at(was, "the faces that meet");
    TopoDS_Vertex made;
    BRep_Builder().MakeVertex(made, *now, kMeets_mm);
    vertices_[vertex] = made;
    return {};
  }

  tl::unexpected<Refusal> refuse_at(const gp_Pnt& place, const char* what) const {
    return refuse(
        RefusalCode::kGeometry,
        fmt::format("{} at X {:.3f} Y {:.3f} Z {:.3f} of the part would not meet any more: move "
                    "them less, let what is round beside them go along, or let walls come up beside them",
                    what, place.X(), place.Y(), place.Z()));
  }

  TopoDS_Vertex vertex_now(int vertex) const {
    const auto at = vertices_.find(vertex);
    return at == vertices_.end() ? topology_.vertices[vertex].vertex : at->second;
  }

  Result<void> draw(int edge) {
    const EdgeInfo& info = topology_.edges[edge];
    double first = 0, last = 0;
    const Handle(Geom_Curve) own = BRep_Tool::Curve(info.edge, first, last);
    if (own.IsNull() || info.vertex_a < 0 || info.vertex_b < 0)
      return refuse_at(topology_.vertices[std::max(info.vertex_a, 0)].point, "the edges");
    gp_Pnt middle = own->Value((first + last) / 2);
    const gp_Pnt was_middle = middle;
    Handle(Geom_Curve) line = curve(edge);
    if (!is_outer(info)) middle.Transform(motion_of(is_moved(info.face_a) ? info.face_a : info.face_b));
    if (!is_outer(info) && !is_inner(info)) line = border(info, line, first, last, middle);
    if (line.IsNull()) return refuse_at(was_middle, "the faces beside the edge");
    // As the edge runs, whichever of its ends is told first.
    TopoDS_Vertex from, to;
    ends_of(info, from, to);
    const TopoDS_Edge made = edge_on(line, from, to, middle);
    if (made.IsNull()) return refuse_at(was_middle, "the edges that end");
    if (is_outer(info) && runs_backward(own, first, last, made))
      return refuse_at(was_middle, "the ends of the edge that is left of what is");
    if (is_kept_border(info.edge)) keep_as_border(made);
    edges_[edge] = made;
    return {};
  }

  void ends_of(const EdgeInfo& info, TopoDS_Vertex& from, TopoDS_Vertex& to) const {
    const TopoDS_Shape forward = info.edge.Oriented(TopAbs_FORWARD);
    for (TopoDS_Iterator it(forward); it.More(); it.Next()) {
      const int number = topology_.find_vertex(it.Value());
      if (number < 0) continue;
      (it.Value().Orientation() == TopAbs_FORWARD ? from : to) = vertex_now(number);
    }
  }

  // Its ends have passed each other: there is nothing left of it.
  static bool runs_backward(const Handle(Geom_Curve) & own, double first, double last,
                            const TopoDS_Edge& made) {
    double from = 0, to = 0;
    const Handle(Geom_Curve) now = BRep_Tool::Curve(made, from, to);
    if (own->IsPeriodic()) return false;
    gp_Pnt place;
    gp_Vec was, is;
    own->D1((first + last) / 2, place, was);
    now->D1((from + to) / 2, place, is);
    return was.Dot(is) < 0;
  }

  // Moved along or left where it was, where that lies on both faces; else where they meet now.
  Handle(Geom_Curve) border(const EdgeInfo& info, const Handle(Geom_Curve) & own, double first, double last,
                            const gp_Pnt& middle) {
    for (const int face : {info.face_a, info.face_b}) {
      auto along = Handle(Geom_Curve)::DownCast(own->Transformed(motion_of(face)));
      if (lies_on(surface(info.other_face(face)), along, first, last) &&
          lies_on(surface(face), along, first, last))
        return along;
    }
    return meeting(surface(info.face_a), surface(info.face_b), middle);
  }

  TopoDS_Face face_now(int number) {
    const TopoDS_Face& old = topology_.faces[number].face;
    const BRep_Builder builder;
    TopLoc_Location location;
    const Handle(Geom_Surface) own = BRep_Tool::Surface(old, location);
    TopoDS_Face face;
    if (is_moved(number))
      builder.MakeFace(face, surface(number), BRep_Tool::Tolerance(old));
    else
      builder.MakeFace(face, own, location, BRep_Tool::Tolerance(old));
    const TopoDS_Face forward = TopoDS::Face(old.Oriented(TopAbs_FORWARD));
    for (TopoDS_Iterator wires(forward, false); wires.More(); wires.Next()) {
      TopoDS_Wire wire;
      builder.MakeWire(wire);
      for (const TopoDS_Edge& edge : in_turn(TopoDS::Wire(wires.Value()), forward)) {
        if (BRep_Tool::Degenerated(edge)) {
          builder.Add(wire, tip_now(edge, forward, face));
          continue;
        }
        const auto made = edges_.find(topology_.find_edge(edge));
        builder.Add(wire, made == edges_.end() ? TopoDS_Shape(edge)
                                               : TopoDS_Shape(made->second.Oriented(edge.Orientation())));
      }
      builder.Add(face, wire.Oriented(TopAbs_FORWARD));
    }
    return TopoDS::Face(face.Oriented(old.Orientation()));
  }

  // The edges of an outline one after the other, as curves on surfaces are made along them.
  static std::vector<TopoDS_Edge> in_turn(const TopoDS_Wire& wire, const TopoDS_Face& face) {
    std::vector<TopoDS_Edge> all, as_stored;
    for (BRepTools_WireExplorer it(wire, face); it.More(); it.Next()) all.push_back(it.Current());
    for (TopoDS_Iterator it(wire); it.More(); it.Next()) as_stored.push_back(TopoDS::Edge(it.Value()));
    return all.size() == as_stored.size() ? all : as_stored;
  }

  // The point of a cone or the pole of a ball, which is an edge of no length.
  TopoDS_Shape tip_now(const TopoDS_Edge& old, const TopoDS_Face& of, const TopoDS_Face& on) const {
    const BRep_Builder builder;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) line = BRep_Tool::CurveOnSurface(old, of, first, last);
    TopoDS_Edge tip;
    builder.MakeEdge(tip);
    builder.Degenerated(tip, true);
    builder.UpdateEdge(tip, line, on, kMeets_mm);
    for (TopoDS_Iterator it(old.Oriented(TopAbs_FORWARD)); it.More(); it.Next())
      if (const int number = topology_.find_vertex(it.Value()); number >= 0)
        builder.Add(tip, vertex_now(number).Oriented(it.Value().Orientation()));
    builder.Range(tip, on, first, last);
    return tip.Oriented(old.Orientation());
  }

  Result<BodyChange> assembled() {
    BodyChange change;
    Handle(BRepTools_ReShape) reshape = new BRepTools_ReShape();
    for (const int number : touched_faces_) {
      const TopoDS_Face now = face_now(number);
      if (!make_surface_curves(now))
        return refuse(RefusalCode::kGeometry, "a face beside it cannot be drawn where it would come to lie");
      reshape->Replace(topology_.faces[number].face, now);
      if (is_moved(number)) change.moved.insert({topology_.faces[number].face, now});
      change.history->AddModified(topology_.faces[number].face, now);
    }
    for (const auto& [edge, now] : edges_) change.history->AddModified(topology_.edges[edge].edge, now);
    for (const auto& [vertex, now] : vertices_)
      change.history->AddModified(topology_.vertices[vertex].vertex, now);
    change.shape = reshape->Apply(body_);
    change.may_cross = true;
    return judged(body_, std::move(change), Expected::kPerhapsNone);
  }

  const TopoDS_Shape& body_;
  const TopologyIndex& topology_;
  std::map<int, int> set_of_;
  std::vector<gp_Trsf> motions_;
  std::map<int, std::set<int>> at_vertex_;  // every edge that ends there
  std::set<int> touched_edges_, touched_faces_;
  std::map<int, Handle(Geom_Surface)> surfaces_;
  std::map<int, TopoDS_Vertex> vertices_;
  std::map<int, TopoDS_Edge> edges_;
};

// Whether two of the faces share an edge.
bool hang_together(const TopologyIndex& topology, const std::vector<int>& faces) {
  const std::set<int> all(faces.begin(), faces.end());
  return std::any_of(faces.begin(), faces.end(), [&](int face) {
    const auto& edges = topology.faces[face].edges;
    return std::any_of(edges.begin(), edges.end(), [&](int edge) {
      const int other = topology.edges[edge].other_face(face);
      return other >= 0 && other != face && all.count(other) > 0;
    });
  });
}

}  // namespace

Result<BodyChange> with_faces_laid(const TopoDS_Shape& body, const TopologyIndex& topology,
                                   const std::vector<int>& faces, const TopoDS_Face& onto) {
  if (hang_together(topology, faces))
    return refuse(RefusalCode::kGeometry, "faces side by side would become one: lay them one by one");
  return guarded("laying faces", [&] { return Mover(body, topology, faces, surface_of(onto)).run(); });
}

Result<BodyChange> with_faces_moved(const TopoDS_Shape& body, const TopologyIndex& topology,
                                    const std::vector<MovedFaces>& sets) {
  return guarded("moving faces", [&] { return Mover(body, topology, sets).run(); });
}

}  // namespace anvil
