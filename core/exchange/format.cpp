#include "exchange/format.h"

#include <fmt/format.h>
#include <zlib.h>

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <algorithm>
#include <cctype>

#include "base/file.h"
#include "exchange/brep_format.h"
#include "exchange/iges_format.h"
#include "exchange/incomplete_instances.h"
#include "exchange/mesh_formats.h"
#include "exchange/repeated_shells.h"
#include "exchange/step_format.h"
#include "exchange/unusable_faces.h"
#include "geom/guard.h"
#include "part/mend.h"
#include "part/mesh.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

constexpr size_t kLargestUnpacked = size_t{4} << 30;

bool looks_like_step(const FileHead& head) {
  const size_t start = head.bytes.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  return start != std::string_view::npos && head.bytes.compare(start, 13, "ISO-10303-21;") == 0;
}

std::string suffix_of(const fs::path& name) {
  std::string suffix = name.extension().string();
  std::transform(suffix.begin(), suffix.end(), suffix.begin(),
                 [](unsigned char c) { return std::tolower(c); });
  return suffix.empty() ? suffix : suffix.substr(1);
}

bool is_packed(const std::string& bytes) {
  return bytes.size() > 2 && bytes[0] == '\x1f' && bytes[1] == '\x8b';
}

// "plate.stp.gz" and "plate.stpz" are "plate.stp" inside.
fs::path name_inside(const fs::path& name) {
  const std::string suffix = suffix_of(name);
  if (suffix == "gz") return name.stem();
  if (suffix == "stpz" || suffix == "stepz") return name.stem().string() + ".stp";
  return name;
}

Result<std::string> unpacked(const std::string& bytes, const std::string& name) {
  z_stream stream{};
  constexpr int kGzip = 15 + 16;
  if (inflateInit2(&stream, kGzip) != Z_OK) return refuse(RefusalCode::kInternal, "unpacking cannot start");
  stream.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(bytes.data()));
  stream.avail_in = static_cast<uInt>(bytes.size());
  std::string out;
  std::vector<char> piece(1 << 20);
  int state = Z_OK;
  while (state == Z_OK && out.size() < kLargestUnpacked) {
    stream.next_out = reinterpret_cast<Bytef*>(piece.data());
    stream.avail_out = static_cast<uInt>(piece.size());
    state = inflate(&stream, Z_NO_FLUSH);
    out.append(piece.data(), piece.size() - stream.avail_out);
  }
  inflateEnd(&stream);
  if (state == Z_STREAM_END) return out;
  if (out.size() >= kLargestUnpacked)
    return refuse(RefusalCode::kLimit, name + " unpacks to more than 4 GiB and was given up.");
  return refuse(RefusalCode::kUnreadable,
                name + " is packed, and the packing is damaged or cut off: ask for the file again.");
}

bool has_finite_size(const Body& body) {
  Bnd_Box box;
  BRepBndLib::Add(body.shape, box, body.kind == BodyKind::kMesh);
  constexpr double kKilometre_mm = 1e6;
  return !box.IsVoid() && !box.IsOpen() && std::isfinite(box.SquareExtent()) &&
         box.SquareExtent() <= 1e4 * kKilometre_mm * kKilometre_mm;
}

void erase_bodies(ImportedBodies& imported, bool (*which)(const Body&)) {
  imported.bodies.erase(std::remove_if(imported.bodies.begin(), imported.bodies.end(), which),
                        imported.bodies.end());
}

// Faces that go on for ever are left out with a note rather than losing the part with them; refuses what has
// no size even so. Of a damaged file it goes: the surface of a face that was left out, say.
Result<void> leave_out_endless_faces(ImportedBodies& imported, const std::string& name) {
  for (Body& body : imported.bodies) {
    if (has_finite_size(body)) continue;
    const int left_out = body.kind == BodyKind::kMesh ? 0 : remove_endless_faces(body);
    if ((left_out == 0 || !has_finite_size(body)) && imported.left_out == 0)
      return refuse(
          RefusalCode::kUnreadable,
          fmt::format("{}: {} has no size, or one of more than 100 km; export the part again without it.",
                      name, body.name));
    if (left_out > 0)
      imported.source.warnings.push_back(
          fmt::format("{} face{} of {} without an end {} left out: {} is open there.", left_out,
                      left_out == 1 ? "" : "s", body.name, left_out == 1 ? "was" : "were", body.name));
  }
  if (imported.left_out == 0) return {};
  erase_bodies(imported, [](const Body& body) { return !has_finite_size(body); });
  if (imported.bodies.empty()) return refuse(nothing_left(name, imported.left_out));
  return {};
}

// After a reader has failed on the file: what made it fail is left out and told.
void leave_out_fatal(ImportedBodies& imported) {
  for (Body& body : imported.bodies)
    if (body.kind != BodyKind::kMesh) imported.left_out += remove_fatal_faces(body);
  if (imported.left_out == 0) return;
  erase_bodies(imported, [](const Body& body) { return !TopExp_Explorer(body.shape, TopAbs_FACE).More(); });
  imported.source.warnings.push_back(
      fmt::format("The file is damaged: {} of its instances lack something they need and were left out; "
                  "faces may be missing.",
                  imported.left_out));
}

std::vector<Body> scaled(const std::vector<Body>& bodies, double factor) {
  gp_Trsf scale;
  scale.SetScale(gp_Pnt(), factor);
  return moved_bodies(bodies, scale);
}

template <class Wanted>
std::string names_of(Wanted wanted) {
  std::vector<const char*> names;
  for (const Format& format : formats())
    if (wanted(format)) names.push_back(format.name);
  if (names.size() < 2) return fmt::format("{}", fmt::join(names, ""));
  return fmt::format("{} and {}", fmt::join(names.begin(), names.end() - 1, ", "), names.back());
}

Result<ImportedBodies> read_checked(const fs::path& path, const Reading& reading, double scale) {
  std::error_code error;
  if (!fs::exists(path, error))
    return refuse(RefusalCode::kUnreadable, fmt::format("{} is not there.", path.string()));
  if (fs::is_directory(path, error))
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is a folder: choose a part file in it.", path.string()));
  reading.progress.say("opening", 0.0);
  auto bytes = read_file(path);
  if (!bytes) return refuse(bytes);
  const std::string name = path.filename().string();
  const std::string checksum = sha256_hex(*bytes);
  fs::path inside = path.filename();
  if (is_packed(*bytes)) {
    auto plain = unpacked(*bytes, name);
    if (!plain) return refuse(plain);
    bytes = std::move(plain);
    inside = name_inside(inside);
  }
  const Format* format = format_of(*bytes, inside);
  if (!format)
    return refuse(RefusalCode::kUnreadable,
                  name + " is of no kind that can be read: " + format_names() + " can.");
  auto imported = format->read(*bytes, name, reading);
  if (!imported) return refuse(imported);
  if (reading.way != ReadingWay::kUsual) leave_out_fatal(*imported);
  close_outlines(imported->bodies);
  if (auto extent = leave_out_endless_faces(*imported, name); !extent) return refuse(extent);
  drop_repeated_shells(imported->bodies);
  imported->source.format = format->name;
  imported->source.sha256 = checksum;
  if (scale == 1.0) return imported;
  imported->bodies = scaled(imported->bodies, scale);
  imported->source.scale = scale;
  return imported;
}

}  // namespace

const std::vector<Format>& formats() {
  constexpr auto kSolids = Format::Holds::kSolids, kTriangles = Format::Holds::kTriangles;
  constexpr bool kWithUnit = true;
  static const std::vector<Format> all{
      {"step", "STEP", {"step", "stp", "p21"}, looks_like_step, read_step, write_step, kSolids, kWithUnit},
      {"iges", "IGES", {"igs", "iges"}, looks_like_iges, read_iges, write_iges, kSolids, kWithUnit},
      {"brep", "BREP", {"brep", "brp"}, looks_like_brep, read_brep, write_brep, kSolids},
      {"stl", "STL", {"stl"}, looks_like_stl, read_stl, write_stl, kTriangles},
      {"ply", "PLY", {"ply"}, looks_like_ply, read_ply, nullptr, kTriangles},
      {"obj", "OBJ", {"obj"}, looks_like_obj, read_obj, nullptr, kTriangles},
  };
  return all;
}

std::string format_names() {
  return names_of([](const Format&) { return true; });
}

std::string format_names(Format::Holds holds) {
  return names_of([holds](const Format& format) { return format.holds == holds; });
}

const Format* format_by_id(const std::string& id) {
  for (const Format& format : formats())
    if (id == format.id) return &format;
  return nullptr;
}

const Format* format_by_suffix(const fs::path& name) {
  const std::string suffix = suffix_of(name_inside(name));
  for (const Format& format : formats())
    if (std::find(format.suffixes.begin(), format.suffixes.end(), suffix) != format.suffixes.end())
      return &format;
  return nullptr;
}

const Format* format_of(const std::string& bytes, const fs::path& name) {
  const FileHead head{std::string_view(bytes).substr(0, 4096), bytes.size()};
  for (const Format& format : formats())
    if (format.looks_like(head)) return &format;
  return format_by_suffix(name);
}

Result<ImportedBodies> read_part_file(const fs::path& path, const Reading& reading, double scale) {
  return guarded("reading", [&] { return read_checked(path, reading, scale); });
}

std::vector<Body> moved_bodies(const std::vector<Body>& bodies, const gp_Trsf& placement) {
  std::vector<Body> moved;
  for (const Body& body : bodies) {
    if (body.kind == BodyKind::kMesh) {
      Body result = body;
      result.shape = moved_mesh(body.shape, placement);
      moved.push_back(std::move(result));
      continue;
    }
    BRepBuilderAPI_Transform transform(placement * body.shape.Location().Transformation());
    transform.Perform(body.shape.Located(TopLoc_Location()), true);
    Body result = body;
    result.shape = transform.Shape();
    TopTools_IndexedMapOfShape before, after;
    TopExp::MapShapes(body.shape.Located(TopLoc_Location()), TopAbs_FACE, before);
    TopExp::MapShapes(result.shape, TopAbs_FACE, after);
    result.face_colours.clear();
    for (const auto& [index, colour] : body.face_colours)
      if (const int at = after.FindIndex(transform.ModifiedShape(before(index + 1))))
        result.face_colours[at - 1] = colour;
    moved.push_back(std::move(result));
  }
  return moved;
}

}  // namespace anvil
