#include "part/soundness.h"

#include <fmt/format.h>
#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Result.hxx>

namespace anvil {
namespace {

gp_Pnt middle_of(const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  return curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
}

void find_bad_edges(const Part& part, int body, std::vector<Finding>& findings) {
  const TopologyIndex& topology = part.topology();
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    if (edge.body != body || (!edge.is_open() && !edge.extra_faces)) continue;
    const gp_Pnt where = middle_of(edge.edge);
    if (edge.is_open())
      findings.push_back({"open-edge", where, "an edge belongs to one face only: the body is open here", -1,
                          static_cast<int>(i)});
    else
      findings.push_back(
          {"non-manifold-edge", where, "more than two faces meet in this edge", -1, static_cast<int>(i)});
  }
}

void find_invalid_faces(const Part& part, int body, std::vector<Finding>& findings) {
  const TopoDS_Shape& shape = part.bodies()[body].shape;
  const BRepCheck_Analyzer check(shape, true, true);
  if (check.IsValid()) return;
  const size_t before = findings.size();
  const TopologyIndex& topology = part.topology();
  for (size_t i = 0; i < topology.faces.size(); ++i) {
    const FaceInfo& face = topology.faces[i];
    if (face.body != body || check.IsValid(face.face)) continue;
    const gp_Pnt where = face.edges.empty() ? face.surface.position.Location()
                                            : middle_of(topology.edges[face.edges.front()].edge);
    findings.push_back({"invalid-face", where,
                        fmt::format("a {} is not valid: its boundary does not fit its surface",
                                    surface_name(face.surface.kind)),
                        static_cast<int>(i), -1});
  }
  if (findings.size() == before)
    findings.push_back({"invalid-body", std::nullopt, "the body as a whole is not valid", -1, -1});
}

void find_wide_gaps(const Part& part, int body, double tolerance_mm, std::vector<Finding>& findings) {
  const TopologyIndex& topology = part.topology();
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    const double gap = BRep_Tool::Tolerance(edge.edge);
    if (edge.body != body || gap <= tolerance_mm) continue;
    findings.push_back({"wide-gap", middle_of(edge.edge),
                        fmt::format("an edge may lie up to {:.4f} mm off its faces", gap), -1,
                        static_cast<int>(i)});
  }
}

}  // namespace

std::vector<Finding> check_soundness(const Part& part, int body, double tolerance_mm) {
  std::vector<Finding> findings;
  if (part.bodies()[body].kind != BodyKind::kSolid)
    findings.push_back(
        {"not-a-solid", std::nullopt, "the body is a shell of faces, not a closed solid", -1, -1});
  find_bad_edges(part, body, findings);
  find_invalid_faces(part, body, findings);
  find_wide_gaps(part, body, tolerance_mm, findings);
  return findings;
}

}  // namespace anvil
