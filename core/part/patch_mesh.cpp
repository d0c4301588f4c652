#include "part/patch_mesh.h"

#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <Geom_Plane.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <vector>

#include "part/flat_region.h"

namespace anvil {
namespace {

using Mesh = Handle(Poly_Triangulation);
using Points = Handle(Poly_PolygonOnTriangulation);

// An edge that is new, with the nodes its points get here, as it runs.
struct NewEdge {
  TopoDS_Edge edge;
  std::vector<int> nodes;
  Handle(TColStd_HArray1OfReal) parameters;
};

class MendedPatch {
 public:
  MendedPatch(const TopoDS_Face& before, const TopoDS_Face& now) : before_(before), now_(now) {}

  bool run() {
    if (!begin() || !find_kept_and_gone() || !lay_new_outlines()) return false;
    choose_triangles();
    const auto filled = filled_region(points_, removed_, gone_, outlines_);
    if (!filled) return false;
    triangles_.insert(triangles_.end(), filled->begin(), filled->end());
    write();
    return true;
  }

 private:
  bool begin() {
    old_ = BRep_Tool::Triangulation(before_, location_);
    TopLoc_Location own;
    plane_ = Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(now_, own));
    if (old_.IsNull() || plane_.IsNull() || !own.IsEqual(location_)) return false;
    for (int i = 1; i <= old_->NbNodes(); ++i) add(old_->Node(i));
    return true;
  }

  int add(const gp_Pnt& node) {
    double u = 0, v = 0;
    ElSLib::Parameters(plane_->Pln(), node, u, v);
    nodes_.push_back(node);
    points_.emplace_back(u, v);
    return static_cast<int>(points_.size()) - 1;
  }

  bool find_kept_and_gone() {
    TopTools_IndexedMapOfShape now, before;
    TopExp::MapShapes(now_, TopAbs_EDGE, now);
    TopExp::MapShapes(before_, TopAbs_EDGE, before);
    gone_.assign(points_.size(), true);
    for (int i = 1; i <= now.Extent(); ++i) {
      const TopoDS_Edge& edge = TopoDS::Edge(now(i));
      const Points on_old = BRep_Tool::PolygonOnTriangulation(edge, old_, location_);
      if (on_old.IsNull()) continue;
      kept_.Add(edge);
      for (int node = 1; node <= on_old->NbNodes(); ++node) gone_[on_old->Node(node) - 1] = false;
    }
    // Nodes inside the face, of which the kernel makes none on planes, would not be told from gone ones.
    std::vector<bool> on_border(points_.size(), false);
    for (int i = 1; i <= before.Extent(); ++i) {
      const Points on_old = BRep_Tool::PolygonOnTriangulation(TopoDS::Edge(before(i)), old_, location_);
      if (on_old.IsNull()) return false;
      for (int node = 1; node <= on_old->NbNodes(); ++node) on_border[on_old->Node(node) - 1] = true;
    }
    return std::find(on_border.begin(), on_border.end(), false) == on_border.end();
  }

  bool lay_new_outlines() {
    const TopoDS_Face forward = TopoDS::Face(now_.Oriented(TopAbs_FORWARD));
    for (TopoDS_Iterator wires(forward); wires.More(); wires.Next()) {
      if (wires.Value().ShapeType() != TopAbs_WIRE) return false;
      std::vector<int> outline;
      bool has_kept = false;
      for (BRepTools_WireExplorer edges(TopoDS::Wire(wires.Value()), forward); edges.More(); edges.Next()) {
        if (kept_.Contains(edges.Current()))
          has_kept = true;
        else if (!add_edge(edges.Current(), outline))
          return false;
      }
      if (has_kept && !outline.empty()) return false;
      if (!outline.empty()) outlines_.push_back(outline);
    }
    return true;
  }

  // With the points it has on the face beyond it.
  bool add_edge(const TopoDS_Edge& edge, std::vector<int>& outline) {
    Points there;
    Mesh mesh;
    TopLoc_Location where;
    BRep_Tool::PolygonOnTriangulation(edge, there, mesh, where, 1);
    if (there.IsNull() || there->NbNodes() < 2) return false;
    const gp_Trsf here = location_.Transformation().Inverted() * where.Transformation();
    const auto node_at = [&](int i) { return mesh->Node(there->Node(i)).Transformed(here); };
    NewEdge own{edge, {}, there->Parameters()};
    const bool turned = edge.Orientation() == TopAbs_REVERSED;
    const int count = there->NbNodes();
    for (int i = 1; i < count; ++i) own.nodes.push_back(add(node_at(turned ? count + 1 - i : i)));
    outline.insert(outline.end(), own.nodes.begin(), own.nodes.end());
    new_edges_.push_back(std::move(own));
    ends_of_outline_.push_back({outlines_.size(), outline.size()});
    return true;
  }

  void choose_triangles() {
    const FlatOutlines in_the_way(points_, outlines_);
    for (int i = 1; i <= old_->NbTriangles(); ++i) {
      FlatTriangle t;
      old_->Triangle(i).Get(t[0], t[1], t[2]);
      for (int& node : t) --node;
      const bool loses = std::any_of(t.begin(), t.end(), [&](int node) { return gone_[node]; });
      (loses || in_the_way.touch(t) ? removed_ : triangles_).push_back(t);
    }
  }

  void write() {
    std::vector<int> place(points_.size(), 0);
    int count = 0;
    for (size_t i = 0; i < points_.size(); ++i)
      if (i >= gone_.size() || !gone_[i]) place[i] = ++count;
    const Mesh mesh = new Poly_Triangulation(count, static_cast<int>(triangles_.size()), true);
    mesh->Deflection(old_->Deflection());
    for (size_t i = 0; i < points_.size(); ++i)
      if (place[i] > 0) mesh->SetNode(place[i], nodes_[i]), mesh->SetUVNode(place[i], points_[i]);
    int number = 0;
    for (const FlatTriangle& t : triangles_)
      mesh->SetTriangle(++number, Poly_Triangle(place[t[0]], place[t[1]], place[t[2]]));
    write_edges(mesh, place);
    BRep_Builder().UpdateFace(now_, mesh);
  }

  void write_edges(const Mesh& mesh, const std::vector<int>& place) {
    const BRep_Builder builder;
    for (int i = 1; i <= kept_.Extent(); ++i) {
      const TopoDS_Edge& edge = TopoDS::Edge(kept_(i));
      const Points old = BRep_Tool::PolygonOnTriangulation(edge, old_, location_);
      const Points now = old->Copy();
      for (int node = 1; node <= now->NbNodes(); ++node) now->SetNode(node, place[old->Node(node) - 1]);
      builder.UpdateEdge(edge, Points(), old_, location_);
      builder.UpdateEdge(edge, now, mesh, location_);
    }
    for (size_t i = 0; i < new_edges_.size(); ++i) {
      const NewEdge& own = new_edges_[i];
      const int count = static_cast<int>(own.nodes.size()) + 1;
      std::vector<int> nodes = own.nodes;
      nodes.push_back(node_after(i));
      if (own.edge.Orientation() == TopAbs_REVERSED) std::reverse(nodes.begin(), nodes.end());
      const Points now = new Poly_PolygonOnTriangulation(count, !own.parameters.IsNull());
      for (int n = 1; n <= count; ++n) now->SetNode(n, place[nodes[n - 1]]);
      if (!own.parameters.IsNull()) now->SetParameters(own.parameters);
      builder.UpdateEdge(own.edge, now, mesh, location_);
    }
  }

  // Where the edge after it on its outline begins.
  int node_after(size_t edge) const {
    const auto [outline, end] = ends_of_outline_[edge];
    return outlines_[outline][end % outlines_[outline].size()];
  }

  const TopoDS_Face &before_, &now_;
  Mesh old_;
  TopLoc_Location location_;
  Handle(Geom_Plane) plane_;
  std::vector<gp_Pnt> nodes_;
  std::vector<gp_Pnt2d> points_;  // in the plane, by node
  std::vector<bool> gone_;        // of the old nodes
  TopTools_IndexedMapOfShape kept_;
  std::vector<NewEdge> new_edges_;
  std::vector<std::pair<size_t, size_t>>
      ends_of_outline_;  // by new edge: outline, and nodes of it up to there
  std::vector<std::vector<int>> outlines_;
  std::vector<FlatTriangle> triangles_, removed_;
};

}  // namespace

bool patch_mesh(const TopoDS_Face& before, const TopoDS_Face& now) {
  return MendedPatch(before, now).run();
}

}  // namespace anvil
