#include "part/soundness.h"

#include <fmt/format.h>

#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Result.hxx>
#include <Geom2d_Curve.hxx>

#include "geom/primitives.h"
#include "part/crossing_faces.h"
#include "part/measure.h"
#include "part/mend.h"
#include "part/mesh.h"
#include "part/mesh_once.h"
#include "part/mesh_soundness.h"

namespace anvil {
namespace {

constexpr int kGapSamples = 11;
constexpr double kSliverAspect = 10;  // a small but compact face is no sliver

class Checker {
 public:
  Checker(const Part& part, int body, double tolerance_mm)
      : part_(part), topology_(part.topology()), body_(body), tolerance_mm_(tolerance_mm) {}

  std::vector<Finding> run() {
    const Body& body = part_.bodies()[body_];
    if (body.kind == BodyKind::kMesh) return check_mesh(body.shape, body_);
    if (body.kind == BodyKind::kShell)
      add(FindingKind::kNotASolid, std::nullopt,
          "the body is made of faces that enclose nothing: it is not a solid", {}, true);
    check_edges();
    check_gaps();
    check_faces();
    check_slivers();
    check_orientation();
    check_crossing_faces();
    std::stable_sort(findings_.begin(), findings_.end(),
                     [](const Finding& a, const Finding& b) { return a.kind < b.kind; });
    return std::move(findings_);
  }

 private:
  Finding& add(FindingKind kind, std::optional<gp_Pnt> where, std::string text, std::optional<double> amount,
               bool mendable) {
    findings_.push_back({kind, body_, where, std::move(text), amount, mendable, -1, -1});
    return findings_.back();
  }

  void check_edges() {
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.body != body_) continue;
      const int index = static_cast<int>(i);
      const double length = length_of(edge.edge);
      if (edge.is_open())
        add(FindingKind::kOpenEdge, middle_of(edge.edge),
            "an edge belongs to one face only: the body is open here", length, true)
            .edge = index;
      if (edge.extra_faces)
        add(FindingKind::kNonManifoldEdge, middle_of(edge.edge), "more than two faces meet in this edge",
            length, false)
            .edge = index;
      if (length < tolerance_mm_)
        add(FindingKind::kTinyEdge, middle_of(edge.edge),
            fmt::format("an edge is only {:.5f} mm long", length), length, true)
            .edge = index;
      if (const double room = BRep_Tool::Tolerance(edge.edge); room > tolerance_mm_)
        add(FindingKind::kToleranceOutlier, middle_of(edge.edge),
            fmt::format("an edge stands for a tube of {:.4f} mm: it may lie that far off its faces", room),
            room, true)
            .edge = index;
    }
    for (const VertexInfo& vertex : topology_.vertices)
      if (const double room = BRep_Tool::Tolerance(vertex.vertex);
          vertex.body == body_ && room > tolerance_mm_)
        add(FindingKind::kToleranceOutlier, vertex.point,
            fmt::format("a vertex stands for a ball of {:.4f} mm", room), room, true);
  }

  // How far the curve of an edge lies off the surface of a face it bounds.
  double gap(const EdgeInfo& edge, int face) const {
    double first, last;
    const TopoDS_Face& on = topology_.faces[face].face;
    const Handle(Geom2d_Curve) flat = BRep_Tool::CurveOnSurface(edge.edge, on, first, last);
    if (flat.IsNull()) return 0;
    const BRepAdaptor_Curve curve(edge.edge);
    const BRepAdaptor_Surface surface(on, false);
    double widest = 0;
    for (int i = 0; i < kGapSamples; ++i) {
      const double t = first + (last - first) * i / (kGapSamples - 1);
      const gp_Pnt2d uv = flat->Value(t);
      widest = std::max(widest, curve.Value(t).Distance(surface.Value(uv.X(), uv.Y())));
    }
    return widest;
  }

  void check_gaps() {
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.body != body_) continue;
      double widest = 0;
      for (const int face : {edge.face_a, edge.face_b})
        if (face >= 0) widest = std::max(widest, gap(edge, face));
      if (widest > tolerance_mm_)
        add(FindingKind::kGap, middle_of(edge.edge),
            fmt::format("an edge lies up to {:.4f} mm off the surface of its face", widest), widest, true)
            .edge = static_cast<int>(i);
    }
  }

  // What the kernel's checker holds against a face or its outlines.
  static bool crosses_itself(const BRepCheck_Analyzer& check, const TopoDS_Face& face) {
    const auto has = [](const BRepCheck_ListOfStatus& list) {
      for (const BRepCheck_Status status : list)
        if (status == BRepCheck_SelfIntersectingWire || status == BRepCheck_IntersectingWires) return true;
      return false;
    };
    if (const Handle(BRepCheck_Result)& own = check.Result(face); !own.IsNull() && has(own->Status()))
      return true;
    for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next()) {
      const Handle(BRepCheck_Result)& result = check.Result(wires.Current());
      if (result.IsNull()) continue;
      if (has(result->Status())) return true;
      for (result->InitContextIterator(); result->MoreShapeInContext(); result->NextShapeInContext())
        if (has(result->StatusOnShape())) return true;
    }
    return false;
  }

  gp_Pnt somewhere_on(const FaceInfo& face) const {
    return face.edges.empty() ? face.surface.position.Location()
                              : middle_of(topology_.edges[face.edges.front()].edge);
  }

  void check_faces() {
    if (part_.bodies()[body_].found_valid) return;
    const TopoDS_Shape& shape = part_.bodies()[body_].shape;
    const BRepCheck_Analyzer check(shape, true, true);
    if (check.IsValid()) return;
    const size_t before = findings_.size();
    for (size_t i = 0; i < topology_.faces.size(); ++i) {
      const FaceInfo& face = topology_.faces[i];
      if (face.body != body_ || check.IsValid(face.face)) continue;
      const bool crosses = crosses_itself(check, face.face);
      add(crosses ? FindingKind::kSelfIntersection : FindingKind::kInvalidFace, somewhere_on(face),
          fmt::format("the outline of a {} {}", surface_name(face.surface.kind),
                      crosses ? "crosses itself" : "does not fit its surface"),
          {}, true)
          .face = static_cast<int>(i);
    }
    const bool explained =
        findings_.size() > before || std::any_of(findings_.begin(), findings_.end(), [](const Finding& f) {
          return f.kind == FindingKind::kOpenEdge || f.kind == FindingKind::kNonManifoldEdge;
        });
    if (!explained)
      wrong_orientation_suspected_ = true;  // told by check_orientation with its place, or as a whole
  }

  void check_slivers() {
    for (size_t i = 0; i < topology_.faces.size(); ++i) {
      const FaceInfo& face = topology_.faces[i];
      if (face.body != body_) continue;
      double perimeter = 0;
      for (const int edge : face.edges)
        perimeter += length_of(topology_.edges[edge].edge) * (topology_.edges[edge].is_seam() ? 2 : 1);
      // The area is asked for only where the longest outline of that width would allow a sliver.
      if (perimeter < kSliverAspect * tolerance_mm_) continue;
      if (box_is_wide(face.face, 20 * tolerance_mm_)) continue;
      const double width = 2 * area_properties(face.face).area_mm2 / perimeter;
      if (width > 2 * tolerance_mm_ || perimeter / 2 < kSliverAspect * width) continue;
      add(FindingKind::kSliverFace, somewhere_on(face),
          fmt::format("a face is a sliver: {:.4f} mm wide, {:.3f} mm long", width, perimeter / 2), width,
          true)
          .face = static_cast<int>(i);
    }
  }

  // Wide in two directions at least, judged by the mesh: then it is no sliver, and its area need not be
  // computed.
  static bool box_is_wide(const TopoDS_Face& face, double width_mm) {
    double largest = 0, area = 0;
    for (const Triangle& t : triangles_of(face)) {
      area += 0.5 * gp_Vec(t.a, t.b).Crossed(gp_Vec(t.a, t.c)).Magnitude();
      largest = std::max({largest, t.a.Distance(t.b), t.b.Distance(t.c)});
    }
    return largest > 0 && area / largest > width_mm;
  }

  // Seen from outside, neighbouring faces run along their common edge in opposite senses.
  void check_orientation() {
    std::vector<int> forward(topology_.edges.size(), 0), reversed(topology_.edges.size(), 0);
    for (TopExp_Explorer faces(part_.bodies()[body_].shape, TopAbs_FACE); faces.More(); faces.Next()) {
      for (TopExp_Explorer edges(faces.Current(), TopAbs_EDGE); edges.More(); edges.Next()) {
        const int index = topology_.find_edge(edges.Current());
        if (index < 0) continue;
        (edges.Current().Orientation() == TopAbs_FORWARD ? forward : reversed)[index]++;
      }
    }
    const size_t before = findings_.size();
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.body != body_ || edge.is_open() || edge.is_seam() || edge.extra_faces) continue;
      if (forward[i] != 2 && reversed[i] != 2) continue;
      Finding& found = add(FindingKind::kWrongOrientation, middle_of(edge.edge),
                           "two neighbouring faces disagree which side is out", {}, true);
      found.edge = static_cast<int>(i);
      found.face = edge.face_b;
    }
    if (findings_.size() > before) return;
    const bool closed = std::none_of(findings_.begin(), findings_.end(),
                                     [](const Finding& f) { return f.kind == FindingKind::kOpenEdge; });
    const bool inside_out = part_.bodies()[body_].kind == BodyKind::kSolid && closed &&
                            mesh_volume_mm3(part_.bodies()[body_].shape) < 0;
    if (inside_out)
      add(FindingKind::kInverted, std::nullopt, "the solid is inside out: its faces point inward", {}, true);
    else if (wrong_orientation_suspected_)
      add(FindingKind::kInvalidFace, std::nullopt, "the kernel does not accept the body as a whole", {},
          true);
  }

  void check_crossing_faces() {
    for (const Crossing& crossing : crossing_faces(part_, body_))
      add(FindingKind::kSelfIntersection, crossing.where,
          fmt::format("a {} and a {} that are no neighbours meet here",
                      surface_name(topology_.faces[crossing.face_a].surface.kind),
                      surface_name(topology_.faces[crossing.face_b].surface.kind)),
          {}, false)
          .face = crossing.face_a;
  }

  const Part& part_;
  const TopologyIndex& topology_;
  int body_;
  double tolerance_mm_;
  bool wrong_orientation_suspected_ = false;
  std::vector<Finding> findings_;
};

}  // namespace

const char* finding_name(FindingKind kind) {
  switch (kind) {
    case FindingKind::kNotASolid:
      return "not-a-solid";
    case FindingKind::kOpenEdge:
      return "open-edge";
    case FindingKind::kNonManifoldEdge:
      return "non-manifold-edge";
    case FindingKind::kGap:
      return "gap";
    case FindingKind::kToleranceOutlier:
      return "tolerance-outlier";
    case FindingKind::kSelfIntersection:
      return "self-intersection";
    case FindingKind::kInvalidFace:
      return "invalid-face";
    case FindingKind::kWrongOrientation:
      return "wrong-orientation";
    case FindingKind::kInverted:
      return "inverted";
    case FindingKind::kSliverFace:
      return "sliver-face";
    case FindingKind::kTinyEdge:
      return "tiny-edge";
    case FindingKind::kDuplicateBody:
      return "duplicate-body";
    case FindingKind::kDegenerateTriangle:
      return "degenerate-triangle";
    case FindingKind::kDuplicateTriangle:
      return "duplicate-triangle";
    case FindingKind::kSeparateShell:
      return "separate-shell";
  }
  return "invalid-face";
}

std::vector<Finding> check_soundness(const Part& part, int body, double tolerance_mm) {
  mesh_once(part);
  return Checker(part, body, tolerance_mm).run();
}

std::vector<Finding> find_duplicates(const Part& part, double tolerance_mm) {
  mesh_once(part);  // no check of a body may have done it
  std::vector<Finding> findings;
  struct Summary {
    size_t faces;
    Box box;
    double volume;
  };
  std::vector<Summary> all;
  for (const Body& body : part.bodies()) {
    const std::vector<Triangle> triangles = triangles_of(body.shape);
    Box box;
    for (const Triangle& t : triangles)
      for (const gp_Pnt& p : {t.a, t.b, t.c}) box.add(p);
    all.push_back({triangles.size(), box, mesh_volume_mm3(body.shape)});
  }
  for (size_t b = 1; b < all.size(); ++b) {
    for (size_t a = 0; a < b; ++a) {
      const bool same = all[a].faces == all[b].faces &&
                        all[a].box.min.Distance(all[b].box.min) <= tolerance_mm &&
                        all[a].box.max.Distance(all[b].box.max) <= tolerance_mm &&
                        std::abs(all[a].volume - all[b].volume) <=
                            tolerance_mm * (1 + std::cbrt(all[a].volume * all[a].volume));
      if (!same) continue;
      findings.push_back({FindingKind::kDuplicateBody,
                          static_cast<int>(b),
                          all[b].box.centre(),
                          fmt::format("{} lies exactly where {} lies: leave one of them out",
                                      part.bodies()[b].name, part.bodies()[a].name),
                          {},
                          false,
                          -1,
                          -1});
      break;
    }
  }
  return findings;
}

Result<std::vector<Finding>> check_soundness_of_all(const Part& part, double tolerance_mm,
                                                    const Progress& progress, const SoundnessOf& of_body) {
  std::vector<Finding> findings;
  for (size_t i = 0; i < part.bodies().size(); ++i) {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("soundness of " + part.bodies()[i].name,
                 static_cast<double>(i) / static_cast<double>(part.bodies().size()));
    const std::vector<Finding> own = of_body(part, static_cast<int>(i), tolerance_mm);
    findings.insert(findings.end(), own.begin(), own.end());
  }
  const std::vector<Finding> twice = find_duplicates(part, tolerance_mm);
  findings.insert(findings.end(), twice.begin(), twice.end());
  return findings;
}

}  // namespace anvil
