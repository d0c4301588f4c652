// The kinds of file that come in and go out. To add one: write a file with its functions and name it in
// formats() in format.cpp; import, export, file dialogs and the command line work from this table.
#pragma once

#include <filesystem>
#include <gp_Trsf.hxx>
#include <string>
#include <string_view>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/mesh.h"
#include "part/part.h"

namespace anvil {

struct ImportedBodies {
  SourceInfo source;
  std::vector<Body> bodies;
  int left_out = 0;  // instances of the file that lack something they need (incomplete_instances.h)
};

// How a file is read: carefully after a reader has failed on it, plainly after that.
enum class ReadingWay {
  kUsual,
  kCarefully,  // without instances that lack something they need (STEP and IGES)
  kPlainly     // and with the kernel's simplest reader, without names and colours, and its own scanner
};

// What is wanted of reading.
struct Reading {
  Progress progress = {};
  // Mesh solids with this while the next ones are being built (STEP only; some may be left without a mesh).
  std::optional<MeshQuality> mesh_ahead = {};
  ReadingWay way = ReadingWay::kUsual;
};

struct WriteOptions {
  std::string product = "part";     // written in the header
  std::string time_stamp;           // ISO 8601; empty: now
  std::string schema = "AP214IS";   // STEP, OpenCASCADE's name: AP203, AP214IS, AP242DIS
  std::string unit = "MM";          // STEP and IGES: MM or INCH
  double mesh_deviation_mm = 0.05;  // STL: largest distance between triangles and surface
  double mesh_angle_rad = 0.2;      // STL: largest angle between neighbouring triangles
  bool binary = true;               // STL
  bool surface_curves =
      true;  // STEP: curves on surfaces, which most writers leave out; for measuring and tests
};

// The first bytes of a file and its size: enough to tell what it is, whatever it is called.
struct FileHead {
  std::string_view bytes;
  size_t size = 0;
};

struct Format {
  const char* id;                     // "step"
  const char* name;                   // "STEP"
  std::vector<std::string> suffixes;  // lower case, without the dot; the first is the usual one
  bool (*looks_like)(const FileHead& head);
  Result<ImportedBodies> (*read)(const std::string& bytes, const std::string& name, const Reading& reading);
  // Bodies already moved to where they belong. Null: cannot be written.
  Result<void> (*write)(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path);
  enum class Holds { kSolids, kTriangles } holds = Holds::kSolids;
  bool names_its_unit = false;
  [[nodiscard]] bool is_of_triangles() const { return holds == Holds::kTriangles; }
};

const std::vector<Format>& formats();
std::string format_names();  // "STEP, IGES, BREP, STL, PLY and OBJ"
std::string format_names(Format::Holds holds);
const Format* format_by_id(const std::string& id);
// By what the file holds; where that leaves it open, by its name. Null: neither says.
const Format* format_of(const std::string& bytes, const std::filesystem::path& name);
const Format* format_by_suffix(const std::filesystem::path& name);

// Reads any known kind of file, also one packed with gzip (.stpz, .stp.gz, …). Lengths are multiplied by
// `scale` beyond what the file's own unit says. OpenCASCADE's readers can crash, hang or eat memory on bad
// files, so applications go through worker_client.h, which calls this in a process of its own.
// Refuses (kInternal) what a library could not cope with; the caller knows whether there is another way.
Result<ImportedBodies> read_part_file(const std::filesystem::path& path, const Reading& reading,
                                      double scale = 1.0);

// What a file that was written holds, read back and compared with what was asked for.
struct ExportReport {
  int bodies = 0, faces = 0;
  double volume_mm3 = 0, volume_difference_mm3 = 0;
  double box_difference_mm = 0;  // the largest, of the corners
};

// Writes bodies moved by `placement` for good, and reads the file back. Atomic: the file appears whole, or,
// when it cannot be written or is not what it was meant to be (kCannotWrite), not at all.
Result<ExportReport> write_part_file(const std::vector<Body>& bodies, const gp_Trsf& placement,
                                     const Format& format, const WriteOptions& options,
                                     const std::filesystem::path& path);

// The bodies moved for good: geometry transformed, face colours kept.
std::vector<Body> moved_bodies(const std::vector<Body>& bodies, const gp_Trsf& placement);

}  // namespace anvil
