#include "exchange/iges_format.h"

#include <fmt/format.h>

#include <IGESCAFControl_Reader.hxx>
#include <IGESCAFControl_Writer.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESControl_Reader.hxx>
#include <IGESData_GlobalSection.hxx>
#include <IGESData_IGESModel.hxx>
#include <Interface_Static.hxx>
#include <TDocStd_Document.hxx>
#include <sstream>

#include "base/file.h"
#include "exchange/document_bodies.h"
#include "exchange/shape_bodies.h"

namespace anvil {
namespace {

constexpr size_t kLine = 80, kSectionColumn = 72;

// A file of the fixed format ends with one terminate line: a T in column 73.
bool is_whole(const std::string& bytes) {
  const size_t last = bytes.find_last_not_of(" \t\r\n\x1a");
  if (last == std::string::npos) return false;
  size_t begin = bytes.rfind('\n', last);
  begin = begin == std::string::npos ? 0 : begin + 1;
  return last - begin >= kSectionColumn && bytes[begin + kSectionColumn] == 'T';
}

void tell_unit(const IGESData_GlobalSection& global, SourceInfo& source) {
  // The unit flag of the global section, parameter 14 (IGES 5.3, 2.2.4.3.14).
  static const std::pair<int, std::pair<const char*, double>> kUnits[] = {
      {1, {"inch", 25.4}},         {2, {"mm", 1.0}},       {4, {"foot", 304.8}},
      {5, {"mile", 1609344.0}},    {6, {"m", 1000.0}},     {7, {"km", 1e6}},
      {8, {"mil", 0.0254}},        {9, {"micron", 0.001}}, {10, {"cm", 10.0}},
      {11, {"microinch", 2.54e-5}}};
  for (const auto& [flag, unit] : kUnits) {
    if (flag != global.UnitFlag()) continue;
    source.unit_name = unit.first;
    source.mm_per_unit = unit.second;
    return;
  }
  source.warnings.push_back("The file names no unit of length that is known; millimetres were taken.");
}

constexpr const char* kHoldsNoFaces =
    " holds no faces: it has curves or drawings only; ask for a solid or surface model.";

Result<std::vector<Body>> built_plainly(IGESControl_Reader& reader, const std::string& name) {
  reader.TransferRoots();
  const TopoDS_Shape shape = reader.OneShape();
  std::vector<Body> bodies;
  if (!shape.IsNull()) bodies = bodies_of_shape(shape, stem_of(name));
  if (bodies.empty()) return refuse(RefusalCode::kNoBody, name + kHoldsNoFaces);
  return bodies;
}

}  // namespace

bool looks_like_iges(const FileHead& head) {
  const size_t line = head.bytes.find('\n');
  const std::string_view first = head.bytes.substr(0, std::min(line, head.bytes.size()));
  return first.size() >= kLine - 1 && first.size() <= kLine + 1 && first[kSectionColumn] == 'S';
}

Result<ImportedBodies> read_iges(const std::string& bytes, const std::string& name, const Reading& reading) {
  if (bytes.empty()) return refuse(RefusalCode::kUnreadable, name + " is empty: ask for the file again.");
  if (!looks_like_iges({std::string_view(bytes).substr(0, 4096), bytes.size()}))
    return refuse(RefusalCode::kUnreadable, name + " is not an IGES file: its first line is no start line.");
  if (!is_whole(bytes))
    return refuse(RefusalCode::kUnreadable,
                  name + " is cut off: its terminate line is missing; ask for the file again.");
  // The kernel's reader wants a file of a plain name.
  const TemporaryFolder folder;
  const std::filesystem::path plain_name = folder.path() / "file.igs";
  if (auto written = write_file_atomically(plain_name, bytes); !written) return refuse(written);
  reading.progress.say("reading", 0.05);
  IGESControl_Controller::Init();
  IGESCAFControl_Reader with_names;
  prepare(with_names);
  IGESControl_Reader plain;
  IGESControl_Reader& reader = reading.plainly ? plain : with_names;
  if (reader.ReadFile(plain_name.c_str()) != IFSelect_RetDone)
    return refuse(RefusalCode::kUnreadable,
                  name + " cannot be read as IGES: its text does not follow the format.");
  ImportedBodies imported;
  imported.source.file_name = name;
  const Handle(IGESData_IGESModel) model = Handle(IGESData_IGESModel)::DownCast(reader.Model());
  if (!model.IsNull()) {
    tell_unit(model->GlobalSection(), imported.source);
    imported.source.schema = fmt::format("version {}", model->GlobalSection().IGESVersion());
  }
  reading.progress.say("building faces", 0.35);
  auto bodies = reading.plainly ? built_plainly(plain, name) : built_by(with_names, name, kHoldsNoFaces);
  if (!bodies) return refuse(bodies);
  imported.bodies = std::move(*bodies);
  return imported;
}

Result<void> write_iges(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path) {
  IGESControl_Controller::Init();
  Interface_Static::SetIVal("write.iges.brep.mode", 1);  // solids stay solids
  Interface_Static::SetCVal("write.iges.unit", options.unit == "INCH" ? "INCH" : "MM");
  IGESCAFControl_Writer writer;
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  if (!writer.Transfer(document_of(bodies)))
    return refuse(RefusalCode::kInternal, "the part could not be turned into IGES");
  if (writer.Write(path.c_str())) return {};
  return refuse(RefusalCode::kCannotWrite, "cannot write " + path.string());
}

}  // namespace anvil
