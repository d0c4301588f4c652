#include "exchange/brep_format.h"

#include <fmt/format.h>

#include <BRepTools.hxx>
#include <BRep_CurveRepresentation.hxx>
#include <BRep_ListOfCurveRepresentation.hxx>
#include <BRep_TEdge.hxx>
#include <BRep_Tool.hxx>
#include <BinTools.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <cstring>
#include <sstream>

#include "exchange/brep_geometry.h"
#include "exchange/shape_bodies.h"

namespace anvil {
namespace {

bool is_binary(std::string_view bytes) {
  return bytes.substr(0, 64).find("Open CASCADE Topology V") != std::string_view::npos;
}

// The text ends with the reference to the whole shape: a sense and a number, and a location, "+1 0", after
// the last list of parts, which ends in an asterisk; on how many lines is left to the writer, and some put
// more numbers behind. Without them the kernel's reader waits for more for ever.
bool is_whole_text(const std::string& bytes) {
  const size_t lists_end = bytes.rfind('*');
  if (lists_end == std::string::npos) return false;
  std::istringstream rest(bytes.substr(lists_end + 1));
  const auto is_number = [](const std::string& word) {
    return !word.empty() && word.find_first_not_of("0123456789") == std::string::npos;
  };
  std::string shape, location;
  rest >> shape >> location;
  return shape.size() > 1 && std::strchr("+-ie", shape[0]) && is_number(shape.substr(1)) &&
         is_number(location);
}

// A face without a surface, or an edge without the curve it says it has: nobody who uses them asks.
bool lacks_geometry(const TopoDS_Shape& shape) {
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next())
    if (TopLoc_Location place; BRep_Tool::Surface(TopoDS::Face(ex.Current()), place).IsNull() &&
                               BRep_Tool::Triangulation(TopoDS::Face(ex.Current()), place).IsNull())
      return true;
  for (TopExp_Explorer ex(shape, TopAbs_EDGE); ex.More(); ex.Next())
    for (const Handle(BRep_CurveRepresentation) & on :
         Handle(BRep_TEdge)::DownCast(ex.Current().TShape())->Curves())
      if ((on->IsCurveOnSurface() && (on->PCurve().IsNull() || on->Surface().IsNull())) ||
          (on->IsCurveOnClosedSurface() && on->PCurve2().IsNull()))
        return true;
  return false;
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
  if (const auto fault = is_binary(bytes) ? std::nullopt : fault_in_brep_geometry(bytes))
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is damaged: {}; ask for the file again.", name, *fault));
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
  if (lacks_geometry(shape))
    return refuse(RefusalCode::kUnreadable,
                  name + " is damaged: it holds faces or edges without geometry; ask for the file again.");
  ImportedBodies imported;
  imported.source.file_name = name;
  imported.source.warnings.emplace_back("The file names no unit of length; millimetres were taken.");
  imported.bodies = bodies_of_shape(shape, stem_of(name));
  if (imported.bodies.empty())
    return refuse(RefusalCode::kNoBody, name + " holds no faces: it has curves or points only.");
  return imported;
}

Result<void> write_brep(const std::vector<Body>& bodies, const WriteOptions&,
                        const std::filesystem::path& path) {
  const TopoDS_Shape written = bodies.size() == 1 ? bodies.front().shape : compound_of(bodies);
  if (BRepTools::Write(written, path.c_str(), false, false, TopTools_FormatVersion_VERSION_1)) return {};
  return refuse(RefusalCode::kCannotWrite, "cannot write " + path.string());
}

}  // namespace anvil
