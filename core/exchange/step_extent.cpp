#include "exchange/step_extent.h"

#include <fmt/format.h>

#include <BRep_Tool.hxx>
#include <StepBasic_ProductDefinition.hxx>
#include <StepGeom_Axis2Placement3d.hxx>
#include <StepGeom_CartesianPoint.hxx>
#include <StepGeom_Direction.hxx>
#include <StepRepr_CharacterizedDefinition.hxx>
#include <StepRepr_ItemDefinedTransformation.hxx>
#include <StepRepr_MappedItem.hxx>
#include <StepRepr_ProductDefinitionShape.hxx>
#include <StepRepr_Representation.hxx>
#include <StepRepr_RepresentationContext.hxx>
#include <StepRepr_RepresentationMap.hxx>
#include <StepRepr_RepresentationRelationshipWithTransformation.hxx>
#include <StepRepr_RepresentedDefinition.hxx>
#include <StepRepr_ShapeRepresentationRelationship.hxx>
#include <StepShape_BrepWithVoids.hxx>
#include <StepShape_ClosedShell.hxx>
#include <StepShape_EdgeCurve.hxx>
#include <StepShape_EdgeLoop.hxx>
#include <StepShape_FaceBound.hxx>
#include <StepShape_FaceSurface.hxx>
#include <StepShape_ManifoldSolidBrep.hxx>
#include <StepShape_OpenShell.hxx>
#include <StepShape_OrientedClosedShell.hxx>
#include <StepShape_OrientedEdge.hxx>
#include <StepShape_OrientedFace.hxx>
#include <StepShape_PolyLoop.hxx>
#include <StepShape_ShapeDefinitionRepresentation.hxx>
#include <StepShape_Shell.hxx>
#include <StepShape_ShellBasedSurfaceModel.hxx>
#include <StepShape_VertexPoint.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <map>
#include <set>

#include "exchange/step_units.h"
#include "geom/coordinate.h"

namespace anvil {
namespace {

using Instance = const Standard_Transient*;
constexpr size_t kMostPoints = 4'000'000;
constexpr int kDeepest = 60;

std::optional<gp_XYZ> point_of(const Handle(StepGeom_Point) & told) {
  const auto point = Handle(StepGeom_CartesianPoint)::DownCast(told);
  if (point.IsNull() || point->NbCoordinates() != 3) return std::nullopt;
  return gp_XYZ(point->CoordinatesValue(1), point->CoordinatesValue(2), point->CoordinatesValue(3));
}

gp_XYZ direction_or(const Handle(StepGeom_Direction) & told, const gp_XYZ& otherwise) {
  if (told.IsNull() || told->NbDirectionRatios() != 3) return otherwise;
  const gp_XYZ v(told->DirectionRatiosValue(1), told->DirectionRatiosValue(2), told->DirectionRatiosValue(3));
  return v.Modulus() > gp::Resolution() ? v : otherwise;
}

// The corners of solids and shells, in the file's unit; each as often as it is met first.
class Corners {
 public:
  void add(const Handle(StepRepr_RepresentationItem) & item) {
    if (const auto brep = Handle(StepShape_ManifoldSolidBrep)::DownCast(item); !brep.IsNull())
      add_shell(brep->Outer());
    const auto shells = Handle(StepShape_ShellBasedSurfaceModel)::DownCast(item);
    for (int i = 1; !shells.IsNull() && i <= shells->NbSbsmBoundary(); ++i)
      add_shell(Handle(StepShape_ConnectedFaceSet)::DownCast(shells->SbsmBoundaryValue(i).Value()));
  }
  std::vector<gp_XYZ> points;
  bool all = true;  // false: the kernel will add some of its own, where a face has no edge that bounds it

 private:
  void add_shell(const Handle(StepShape_ConnectedFaceSet) & told) {
    if (told.IsNull()) return;
    Handle(StepShape_ConnectedFaceSet) shell = told;
    if (const auto oriented = Handle(StepShape_OrientedClosedShell)::DownCast(told); !oriented.IsNull())
      shell = oriented->ClosedShellElement();
    for (int i = 1; !shell.IsNull() && i <= shell->NbCfsFaces(); ++i) add_face(shell->CfsFacesValue(i));
  }

  void add_face(const Handle(StepShape_Face) & told) {
    Handle(StepShape_Face) face = told;
    if (const auto oriented = Handle(StepShape_OrientedFace)::DownCast(told); !oriented.IsNull())
      face = oriented->FaceElement();
    if (face.IsNull() || face->Bounds().IsNull()) return;
    for (int i = 1; i <= face->NbBounds(); ++i) {
      const auto bound = face->BoundsValue(i);
      if (!bound.IsNull() && !bound->Bound().IsNull()) add_loop(bound->Bound());
    }
  }

  void add_loop(const Handle(StepShape_Loop) & loop) {
    const auto edges = Handle(StepShape_EdgeLoop)::DownCast(loop);
    for (int i = 1; !edges.IsNull() && i <= edges->NbEdgeList(); ++i) {
      const auto oriented = edges->EdgeListValue(i);
      const auto edge = oriented.IsNull() ? Handle(StepShape_Edge)() : oriented->EdgeElement();
      if (edge.IsNull()) continue;
      for (const auto& end : {edge->EdgeStart(), edge->EdgeEnd()}) add_vertex(end);
    }
    all = all && (!edges.IsNull() || loop->IsKind(STANDARD_TYPE(StepShape_PolyLoop)));
    const auto polygon = Handle(StepShape_PolyLoop)::DownCast(loop);
    for (int i = 1; !polygon.IsNull() && i <= polygon->NbPolygon(); ++i)
      if (const auto at = point_of(polygon->PolygonValue(i))) points.push_back(*at);
  }

  void add_vertex(const Handle(StepShape_Vertex) & vertex) {
    const auto point = Handle(StepShape_VertexPoint)::DownCast(vertex);
    if (point.IsNull() || !seen_.insert(point.get()).second) return;
    if (const auto at = point_of(point->VertexGeometry())) points.push_back(*at);
  }

  std::set<Instance> seen_;
};

struct Node {
  double mm = 1;
  std::vector<gp_XYZ> points;  // in mm
  std::vector<std::pair<Instance, gp_Trsf>> holds;
};

class Representations {
 public:
  Representations(const StepData_StepModel& model, const StepOperators& operators, bool reversed)
      : model_(model), operators_(operators), reversed_(reversed) {}

  std::optional<Extent> extent() {
    join_same_shapes();
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const auto representation = Handle(StepRepr_Representation)::DownCast(model_.Value(i));
      if (!representation.IsNull()) take(representation);
    }
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const auto relation = Handle(StepRepr_RepresentationRelationship)::DownCast(model_.Value(i));
      if (!relation.IsNull()) relate(relation);
    }
    const std::set<Instance> products = shapes_of_products();
    for (const auto& [instance, node] : nodes_)
      if (!placed_.count(instance) && (products.empty() || products.count(instance)) &&
          !add(instance, gp_Trsf(), 0))
        return std::nullopt;
    return extent_.box.is_empty() ? std::nullopt : std::optional(extent_);
  }

 private:
  // A shape may be told in several representations that are related without a transformation: they are one.
  void join_same_shapes() {
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const auto relation = Handle(StepRepr_RepresentationRelationship)::DownCast(model_.Value(i));
      if (relation.IsNull() || relation->Rep1().IsNull() || relation->Rep2().IsNull()) continue;
      const bool places =
          relation->IsKind(STANDARD_TYPE(StepRepr_RepresentationRelationshipWithTransformation));
      if (places || !relation->IsKind(STANDARD_TYPE(StepRepr_ShapeRepresentationRelationship))) continue;
      const Instance one = first_of(relation->Rep1().get()), other = first_of(relation->Rep2().get());
      if (one != other) joined_[one] = other;
    }
  }
  // Other representations tell of parts of a shape (aspects, validation properties) and place nothing.
  std::set<Instance> shapes_of_products() const {
    std::set<Instance> shapes;
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const auto shape = Handle(StepShape_ShapeDefinitionRepresentation)::DownCast(model_.Value(i));
      if (shape.IsNull() || shape->UsedRepresentation().IsNull()) continue;
      const auto of = Handle(StepRepr_ProductDefinitionShape)::DownCast(shape->Definition().Value());
      if (!of.IsNull() && !of->Definition().ProductDefinition().IsNull())
        shapes.insert(first_of(shape->UsedRepresentation().get()));
    }
    return shapes;
  }

  Instance first_of(Instance representation) const {
    for (auto at = joined_.find(representation); at != joined_.end(); at = joined_.find(representation))
      representation = at->second;
    return representation;
  }

  void take(const Handle(StepRepr_Representation) & representation) {
    Node& node = nodes_[first_of(representation.get())];
    node.mm = length_unit_mm(representation->ContextOfItems()).value_or(1);
    Corners corners;
    for (int i = 1; !representation->Items().IsNull() && i <= representation->NbItems(); ++i) {
      const auto item = representation->ItemsValue(i);
      corners.add(item);
      const auto mapped = Handle(StepRepr_MappedItem)::DownCast(item);
      if (!mapped.IsNull()) map(mapped, node);
    }
    extent_.all_corners = extent_.all_corners && corners.all;
    for (const gp_XYZ& p : corners.points) node.points.push_back(p * node.mm);
  }

  // The coordinate system of a placement, in mm.
  std::optional<gp_Trsf> frame(const Handle(Standard_Transient) & told, double mm) const {
    if (const auto said = operators_.of(told.get(), mm)) return said;
    const auto placement = Handle(StepGeom_Axis2Placement3d)::DownCast(told);
    const auto at = placement.IsNull() ? std::nullopt : point_of(placement->Location());
    if (!at) return std::nullopt;
    const gp_Dir z(direction_or(placement->HasAxis() ? placement->Axis() : nullptr, gp_XYZ(0, 0, 1)));
    const gp_XYZ x = direction_or(placement->HasRefDirection() ? placement->RefDirection() : nullptr,
                                  std::abs(z.X()) < 0.9 ? gp_XYZ(1, 0, 0) : gp_XYZ(0, 1, 0));
    if ((x ^ z.XYZ()).Modulus() < 1e-9) return std::nullopt;
    gp_Trsf trsf;
    trsf.SetTransformation(gp_Ax3(gp_Pnt(*at * mm), z, gp_Dir(x)), gp_Ax3());
    return trsf;
  }

  void map(const Handle(StepRepr_MappedItem) & item, Node& node) {
    const auto source = item->MappingSource();
    if (source.IsNull() || source->MappedRepresentation().IsNull()) return;
    const Handle(StepRepr_Representation) mapped = source->MappedRepresentation();
    const auto target = frame(item->MappingTarget(), node.mm);
    const auto origin = frame(source->MappingOrigin(), length_unit_mm(mapped->ContextOfItems()).value_or(1));
    if (!target) return;
    node.holds.emplace_back(first_of(mapped.get()), *target * origin.value_or(gp_Trsf()).Inverted());
    placed_.insert(first_of(mapped.get()));
  }

  void relate(const Handle(StepRepr_RepresentationRelationship) & relation) {
    if (relation->Rep1().IsNull() || relation->Rep2().IsNull()) return;
    const Instance one = first_of(relation->Rep1().get()), other = first_of(relation->Rep2().get());
    const auto placing = Handle(StepRepr_RepresentationRelationshipWithTransformation)::DownCast(relation);
    if (placing.IsNull()) return;
    const auto how = how_placed(placing, nodes_[one].mm, nodes_[other].mm);
    if (!how || one == other) return;
    if (reversed_) {
      nodes_[one].holds.emplace_back(other, how->Inverted());
      placed_.insert(other);
    } else {
      nodes_[other].holds.emplace_back(one, *how);
      placed_.insert(one);
    }
  }

  // From the first representation's coordinates to the second's.
  std::optional<gp_Trsf> how_placed(const Handle(StepRepr_RepresentationRelationshipWithTransformation) &
                                        placing,
                                    double mm_of_first, double mm_of_second) const {
    const Handle(Standard_Transient) told = placing->TransformationOperator().Value();
    const auto items = Handle(StepRepr_ItemDefinedTransformation)::DownCast(told);
    if (items.IsNull()) return frame(told, mm_of_second);
    const auto from = frame(items->TransformItem1(), mm_of_first),
               to = frame(items->TransformItem2(), mm_of_second);
    if (!from || !to) return std::nullopt;
    return *to * from->Inverted();
  }

  bool add(Instance instance, const gp_Trsf& at, int depth) {
    if (depth > kDeepest) return false;
    const Node& node = nodes_[instance];
    count_ += node.points.size();
    if (count_ > kMostPoints) return false;
    for (const gp_XYZ& p : node.points) extent_.box.add(gp_Pnt(p).Transformed(at));
    for (const auto& [held, placed] : node.holds)
      if (!add(held, at * placed, depth + 1)) return false;
    return true;
  }

  const StepData_StepModel& model_;
  const StepOperators& operators_;
  const bool reversed_;
  std::map<Instance, Instance> joined_;
  std::map<Instance, Node> nodes_;
  std::set<Instance> placed_;
  Extent extent_;
  size_t count_ = 0;
};

Box corners_of(const std::vector<Body>& bodies) {
  Box box;
  for (const Body& body : bodies) {
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(body.shape, TopAbs_EDGE, edges);
    for (int i = 1; i <= edges.Extent(); ++i) {
      const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
      if (BRep_Tool::Degenerated(edge)) continue;  // the kernel's own, at a pole
      for (const TopoDS_Vertex& end : {TopExp::FirstVertex(edge), TopExp::LastVertex(edge)})
        if (!end.IsNull()) box.add(BRep_Tool::Pnt(end));
    }
  }
  return box;
}

// Files are exact to 0.01 or so; what is asked for is a wrong unit, scale, hand or place.
bool agree(const Extent& told, const Box& built) {
  constexpr double kShare = 2e-3, kLeast_mm = 0.05;
  const double much = kLeast_mm + kShare * std::max(told.box.diagonal_mm(), built.diagonal_mm());
  for (int axis = 0; axis < 3; ++axis) {
    const double below = coordinate(built.min, axis) - coordinate(told.box.min, axis),
                 above = coordinate(told.box.max, axis) - coordinate(built.max, axis);
    if (below > much || above > much) return false;
    if (told.all_corners && (below < -much || above < -much)) return false;
  }
  return true;
}

std::string size_text(const Box& box) {
  const gp_XYZ size = box.size();
  return fmt::format("{:.3f} × {:.3f} × {:.3f} mm", size.X(), size.Y(), size.Z());
}

}  // namespace

std::optional<Extent> extent_by_the_text(const StepData_StepModel& model, const StepOperators& operators,
                                         bool reversed) {
  return Representations(model, operators, reversed).extent();
}

std::string where_size_disagrees(const StepData_StepModel& model, const StepOperators& operators,
                                 const std::vector<Body>& bodies) {
  const Box built = corners_of(bodies);
  const auto told = extent_by_the_text(model, operators, false);
  if (built.is_empty() || !told || agree(*told, built)) return {};
  if (const auto otherwise = extent_by_the_text(model, operators, true);
      otherwise && agree(*otherwise, built))
    return {};
  return fmt::format(
      "By the file's own numbers the corners of its bodies span {} from ({:.3f}, {:.3f}, {:.3f}); what was "
      "built of "
      "it spans {} from ({:.3f}, {:.3f}, {:.3f}): something is missing, or lies elsewhere or in another size "
      "than it "
      "is written. Check it against a drawing before trusting a size.",
      size_text(told->box), told->box.min.X(), told->box.min.Y(), told->box.min.Z(), size_text(built),
      built.min.X(), built.min.Y(), built.min.Z());
}

}  // namespace anvil
