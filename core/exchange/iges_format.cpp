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
#include <XSControl_WorkSession.hxx>
#include <array>
#include <cmath>
#include <sstream>

#include "base/file.h"
#include "exchange/document_bodies.h"
#include "exchange/incomplete_instances.h"
#include "exchange/shape_bodies.h"
#include "exchange/tried_apart.h"

namespace anvil {
namespace {

constexpr size_t kLine = 80, kSectionColumn = 72, kField = 8;

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

// What lengths of the model are multiplied by: parameter 13 of the global section, model space scale, is how
// much smaller than the real thing it is drawn (IGES 5.3, 2.2.4.3.13). The kernel reads it and does nothing
// with it.
double scale_of(const IGESData_GlobalSection& global, SourceInfo& source) {
  const double scale = global.Scale();
  if (scale == 1) return 1;
  if (scale > 0 && std::isfinite(scale)) {
    source.warnings.push_back(
        fmt::format("The file is drawn at {:g} times the real size (model space scale); sizes are told as "
                    "they are really.",
                    scale));
    return 1 / scale;
  }
  source.warnings.push_back(
      fmt::format("The file says it is drawn at {:g} times the real size (model space scale), which cannot "
                  "be; 1 was taken: check a size.",
                  scale));
  return 1;
}

std::vector<Body> enlarged(const std::vector<Body>& bodies, double factor) {
  gp_Trsf by;
  by.SetScale(gp_Pnt(), factor);
  return moved_bodies(bodies, by);
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

// Where the two lines of a directory entry begin; both begin with the entry's type.
using DirectoryEntry = std::array<size_t, 2>;

// Those of loops (type 508).
std::vector<DirectoryEntry> loop_entries(const std::string& bytes) {
  std::vector<size_t> lines;
  for (size_t begin = 0, end; begin < bytes.size(); begin = end + 1) {
    end = std::min(bytes.find('\n', begin), bytes.size());
    if (end - begin < kLine || bytes[begin + kSectionColumn] != 'D') continue;
    if (bytes.compare(begin, kField, "     508") == 0) lines.push_back(begin);
  }
  std::vector<DirectoryEntry> entries;
  for (size_t i = 0; i + 1 < lines.size(); i += 2) entries.push_back({lines[i], lines[i + 1]});
  return entries;
}

// Makes an entry nothing (type 0).
void blank(std::string& bytes, const DirectoryEntry& entry) {
  for (const size_t line : entry) bytes.replace(line, kField, "       0");
}

// The kernel's reader takes the edges of a loop for granted while it reads. Loops on which it dies become
// nothing; how many.
int blank_fatal_loops(std::string& bytes, const std::filesystem::path& scratch) {
  const std::vector<DirectoryEntry> loops = loop_entries(bytes);
  constexpr unsigned kSeconds = 30;
  const auto attempt = [&](int begin, int end) {
    std::string alone = bytes;
    for (int i = 0; i < static_cast<int>(loops.size()); ++i)
      if (i < begin || i >= end) blank(alone, loops[static_cast<size_t>(i)]);
    if (write_file_atomically(scratch, alone))
      static_cast<void>(IGESControl_Reader().ReadFile(scratch.c_str()));
  };
  const std::vector<int> fatal = fatal_ones(static_cast<int>(loops.size()), kSeconds, attempt);
  for (const int i : fatal) blank(bytes, loops[static_cast<size_t>(i)]);
  return static_cast<int>(fatal.size());
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
  const bool plainly = reading.way == ReadingWay::kPlainly;
  IGESControl_Reader& reader = plainly ? plain : with_names;
  int left_out = 0;
  if (reading.way != ReadingWay::kUsual) {
    std::string without = bytes;
    left_out = blank_fatal_loops(without, plain_name);
    if (auto written = write_file_atomically(plain_name, without); !written) return refuse(written);
  }
  if (reader.ReadFile(plain_name.c_str()) != IFSelect_RetDone)
    return refuse(RefusalCode::kUnreadable,
                  name + " cannot be read as IGES: its text does not follow the format.");
  ImportedBodies imported;
  imported.source.file_name = name;
  double scale = 1;
  const Handle(IGESData_IGESModel) model = Handle(IGESData_IGESModel)::DownCast(reader.Model());
  if (!model.IsNull()) {
    tell_unit(model->GlobalSection(), imported.source);
    scale = scale_of(model->GlobalSection(), imported.source);
    imported.source.schema = fmt::format("version {}", model->GlobalSection().IGESVersion());
    if (reading.way != ReadingWay::kUsual) {
      imported.left_out = left_out + leave_out_incomplete(model, reader.WS()->Graph());
      reader.WS()->ComputeGraph(true);  // what belongs to nothing now is built by itself
    }
  }
  reading.progress.say("building faces", 0.35);
  auto bodies = plainly ? built_plainly(plain, name) : built_by(with_names, name, kHoldsNoFaces);
  if (!bodies && imported.left_out > 0) return refuse(nothing_left(name, imported.left_out));
  if (!bodies) return refuse(bodies);
  imported.bodies = scale == 1 ? std::move(*bodies) : enlarged(*bodies, scale);
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
