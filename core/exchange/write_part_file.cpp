#include "exchange/format.h"

#include <fmt/format.h>

#include <TopoDS_Compound.hxx>
#include <algorithm>

#include "base/file.h"
#include "geom/guard.h"
#include "part/measure.h"
#include "part/mend.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

struct Totals {
  int solids = 0, faces = 0;
  double volume_mm3 = 0, area_mm2 = 0;
  bool has_volume = true;  // open shells enclose none, whatever a mesh of them adds up to
  Box box;
};

const Body* first_mesh(const std::vector<Body>& bodies) {
  const auto at = std::find_if(bodies.begin(), bodies.end(),
                               [](const Body& body) { return body.kind == BodyKind::kMesh; });
  return at == bodies.end() ? nullptr : &*at;
}

// Triangles are measured as triangles; everything else exactly.
Totals totals_of(const std::vector<Body>& bodies) {
  Totals totals;
  for (const Body& body : bodies) {
    totals.has_volume = totals.has_volume && body.kind != BodyKind::kShell;
    totals.solids += body.kind == BodyKind::kSolid ? 1 : 0;
    for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next()) ++totals.faces;
    const auto [volume, area] =
        body.kind == BodyKind::kMesh ? mesh_shape_properties(body.shape) : shape_properties(body.shape);
    totals.area_mm2 += area.area_mm2;
    if (body.kind != BodyKind::kShell) totals.volume_mm3 += volume.volume_mm3;
  }
  totals.box = exact_box(compound_of(bodies));
  return totals;
}

Result<ExportReport> compare(const Totals& wanted, const Totals& found, const Format& format,
                             const WriteOptions& options, int bodies) {
  const bool is_mesh = format.is_of_triangles();
  ExportReport report;
  report.bodies = bodies;
  report.faces = found.faces;
  report.volume_mm3 = found.volume_mm3;
  report.volume_difference_mm3 = found.volume_mm3 - wanted.volume_mm3;
  report.box_difference_mm =
      std::max(wanted.box.min.Distance(found.box.min), wanted.box.max.Distance(found.box.max));
  // A mesh may lie off the surface by the deviation asked for (and by single precision); exact formats by
  // their last digits.
  const double size = wanted.box.max.XYZ().Modulus() + wanted.box.min.XYZ().Modulus();
  const double length = is_mesh ? 2 * options.mesh_deviation_mm + 1e-6 * size : 1e-3 + 1e-7 * size;
  const auto differs = [&](const std::string& what) {
    return refuse(
        RefusalCode::kCannotWrite,
        fmt::format(
            "what was written as {} is not what was asked for: {}. Nothing was kept; try another format.",
            format.name, what));
  };
  if (report.box_difference_mm > length)
    return differs(fmt::format("its size is off by {:.6f} mm", report.box_difference_mm));
  if (wanted.has_volume && std::abs(report.volume_difference_mm3) > length * wanted.area_mm2)
    return differs(fmt::format("its volume is off by {:.3f} mm³", report.volume_difference_mm3));
  if (!is_mesh && (found.solids != wanted.solids || found.faces != wanted.faces))
    return differs(fmt::format("it has {} solids with {} faces, not {} with {}", found.solids, found.faces,
                               wanted.solids, wanted.faces));
  return report;
}

Result<ExportReport> write_and_compare(const std::vector<Body>& bodies, const Format& format,
                                       const WriteOptions& options, const fs::path& path) {
  if (auto written = format.write(bodies, options, path); !written) return refuse(written);
  auto again = read_part_file(path, {});
  if (!again)
    return refuse(RefusalCode::kCannotWrite,
                  "what was written cannot be read back: " + again.error().sentence);
  return compare(totals_of(bodies), totals_of(again->bodies), format, options,
                 static_cast<int>(again->bodies.size()));
}

}  // namespace

Result<ExportReport> write_part_file(const std::vector<Body>& bodies, const gp_Trsf& placement,
                                     const Format& format, const WriteOptions& options,
                                     const fs::path& path) {
  if (!format.write) return refuse(RefusalCode::kBadInput, std::string(format.name) + " cannot be written");
  if (const Body* mesh = format.is_of_triangles() ? nullptr : first_mesh(bodies))
    return refuse(
        RefusalCode::kBadInput,
        fmt::format("\"{}\" is a mesh of triangles, and {} holds surfaces: write it as STL, or without "
                    "that body.",
                    mesh->name, format.name));
  auto file = PendingFile::beside(path);
  if (!file) return refuse(file);
  auto report = guarded("writing the file", [&]() -> Result<ExportReport> {
    return write_and_compare(moved_bodies(bodies, placement), format, options, file->path());
  });
  if (!report) return report;
  if (auto kept = file->replace_target(); !kept) return refuse(kept);
  return report;
}

}  // namespace anvil
