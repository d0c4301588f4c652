#include "exchange/brep_format.h"

#include <fmt/format.h>

#include <BRepTools.hxx>
#include <BinTools.hxx>
#include <TopoDS_Compound.hxx>
#include <cstring>
#include <sstream>

namespace anvil {
namespace {

bool is_binary(std::string_view bytes) {
  return bytes.substr(0, 64).find("Open CASCADE Topology V") != std::string_view::npos;
}

// The line that ends at or before `end`, without its line break; `end` moves to before it.
std::string last_line(const std::string& bytes, size_t& end) {
  const size_t last = bytes.find_last_not_of(" \t\r\n", end);
  if (last == std::string::npos) return {};
  const size_t found = bytes.find_last_of("\r\n", last);
  const size_t begin = found == std::string::npos ? 0 : found + 1;
  end = found == std::string::npos ? 0 : found;
  return bytes.substr(begin, last + 1 - begin);
}

// The text ends with the reference to the whole shape: a sense, a number and a location, "+1 0", after the
// last list of parts, which ends in an asterisk. Without them the kernel's reader waits for more for ever.
bool is_whole_text(const std::string& bytes) {
  size_t end = std::string::npos;
  const std::string line = last_line(bytes, end), before = last_line(bytes, end);
  int shape = 0, location = 0, length = 0;
  char sense = 0;
  const bool read = std::sscanf(line.c_str(), "%c%d %d%n", &sense, &shape, &location, &length) == 3;
  return read && std::strchr("+-ie", sense) && static_cast<size_t>(length) == line.size() &&
         !before.empty() && before.back() == '*';
}

void add(std::vector<Body>& bodies, const std::string& name, BodyKind kind, const TopoDS_Shape& shape) {
  Body body;
  body.name = name;
  body.kind = kind;
  body.shape = shape;
  bodies.push_back(std::move(body));
}

}  // namespace

bool looks_like_brep(const FileHead& head) {
  const std::string_view start = head.bytes.substr(0, 256);
  return start.find("DBRep_DrawableShape") != std::string_view::npos ||
         start.find("CASCADE Topology V") != std::string_view::npos;
}

Result<ImportedBodies> read_brep(const std::string& bytes, const std::string& name, const Reading& reading) {
  if (!looks_like_brep({std::string_view(bytes).substr(0, 4096), bytes.size()}))
    return refuse(RefusalCode::kUnreadable, name + " is not a BREP file: its heading is missing.");
  if (!is_binary(bytes) && !is_whole_text(bytes))
    return refuse(RefusalCode::kUnreadable,
                  name + " is damaged or cut off: its closing line is missing; ask for the file again.");
  reading.progress.say("reading", 0.1);
  TopoDS_Shape shape;
  std::istringstream stream(bytes);
  if (is_binary(bytes)) {
    BinTools::Read(shape, stream);
  } else {
    BRep_Builder builder;
    BRepTools::Read(shape, stream, builder);
  }
  if (shape.IsNull())
    return refuse(RefusalCode::kUnreadable, name + " is damaged or cut off: ask for the file again.");
  ImportedBodies imported;
  imported.source.file_name = name;
  imported.source.warnings.emplace_back("The file names no unit of length; millimetres were taken.");
  const std::string stem = std::filesystem::path(name).stem().string();
  for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next())
    add(imported.bodies, stem, BodyKind::kSolid, solids.Current());
  for (TopExp_Explorer shells(shape, TopAbs_SHELL, TopAbs_SOLID); shells.More(); shells.Next())
    add(imported.bodies, stem, BodyKind::kShell, shells.Current());
  BRep_Builder builder;
  TopoDS_Compound loose;
  builder.MakeCompound(loose);
  bool has_loose = false;
  for (TopExp_Explorer faces(shape, TopAbs_FACE, TopAbs_SHELL); faces.More(); faces.Next(), has_loose = true)
    builder.Add(loose, faces.Current());
  if (has_loose) add(imported.bodies, stem, BodyKind::kShell, loose);
  if (imported.bodies.empty())
    return refuse(RefusalCode::kNoBody, name + " holds no faces: it has curves or points only.");
  if (imported.bodies.size() > 1)
    for (size_t i = 0; i < imported.bodies.size(); ++i) imported.bodies[i].name += fmt::format(" {}", i + 1);
  return imported;
}

Result<void> write_brep(const std::vector<Body>& bodies, const WriteOptions&,
                        const std::filesystem::path& path) {
  const TopoDS_Shape written = bodies.size() == 1 ? bodies.front().shape : compound_of(bodies);
  if (BRepTools::Write(written, path.c_str(), false, false, TopTools_FormatVersion_VERSION_1)) return {};
  return refuse(RefusalCode::kCannotWrite, "cannot write " + path.string());
}

}  // namespace anvil
