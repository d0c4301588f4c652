#include "exchange/step_format.h"

#include <fmt/format.h>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPControl_Reader.hxx>
#include <StepBasic_ApplicationContext.hxx>
#include <StepBasic_Product.hxx>
#include <StepData_StepModel.hxx>
#include <TColStd_SequenceOfAsciiString.hxx>
#include <TDocStd_Document.hxx>
#include <XSControl_TransferReader.hxx>
#include <XSControl_WorkSession.hxx>

#include <sstream>

#include "base/file.h"
#include "base/units.h"
#include "exchange/body_names.h"
#include "exchange/built_solids.h"
#include "exchange/document_bodies.h"
#include "exchange/incomplete_instances.h"
#include "exchange/mesh_ahead.h"
#include "exchange/shape_bodies.h"
#include "exchange/step_extent.h"
#include "exchange/step_operators.h"
#include "exchange/step_text.h"
#include "exchange/step_units.h"
#include "part/mend.h"

namespace anvil {
namespace {

constexpr const char* kHoldsNoSolid =
    " holds no solid: it has drawings, points or loose data only; ask for a solid model.";

void tell_unit(STEPControl_Reader& reader, const StepSurvey& survey, SourceInfo& source) {
  TColStd_SequenceOfAsciiString lengths, angles, solid_angles;
  reader.FileUnits(lengths, angles, solid_angles);
  const auto defined_mm = length_unit_mm(*reader.StepModel());
  const std::string found = lengths.IsEmpty() ? "" : lengths.First().ToCString();
  static const std::pair<const char*, std::pair<const char*, double>> kUnits[] = {
      {"MILLIMETRE", {"mm", 1.0}}, {"millimetre", {"mm", 1.0}},  {"INCH", {"inch", 25.4}},
      {"inch", {"inch", 25.4}},    {"CENTIMETRE", {"cm", 10.0}}, {"centimetre", {"cm", 10.0}},
      {"METRE", {"m", 1000.0}},    {"metre", {"m", 1000.0}},     {"FOOT", {"foot", 304.8}},
      {"foot", {"foot", 304.8}}};
  for (const auto& [key, unit] : kUnits) {
    if (found != key) continue;
    source.unit_name = unit.first;
    source.mm_per_unit = defined_mm.value_or(unit.second);
    return;
  }
  if (!survey.has_length_unit || found.empty()) {
    source.warnings.push_back("The file names no unit of length; millimetres were taken.");
  } else {
    source.unit_name = found;
    source.mm_per_unit = defined_mm.value_or(1);
  }
}

// A session checks every entity of a model it is given, unless it believes it has done so; our own checks
// come later and are of the shapes.
void leave_out_checking(XSControl_WorkSession& session) {
  const Handle(StepData_StepModel) small = new StepData_StepModel;
  small->SetProtocol(session.Protocol());
  small->AddEntity(new StepBasic_ApplicationContext);
  session.SetModel(small);
  session.ComputeGraph(true);
}

// The warnings.
Result<std::vector<std::string>> load(STEPControl_Reader& reader, std::string text, const std::string& name,
                                      const Progress& progress) {
  const Handle(XSControl_WorkSession) session = reader.WS();
  const auto loaded =
      load_step_text(text, Handle(StepData_Protocol)::DownCast(session->Protocol()), progress);
  if (!loaded)
    return refuse(RefusalCode::kUnreadable,
                  name + " cannot be read as STEP: " + loaded.error().sentence + ".");
  leave_out_checking(*session);
  session->SetModel(loaded->model);
  session->SetLoadedFile(name.c_str());
  constexpr int kFromTheModel = 4;
  session->InitTransferReader(kFromTheModel);
  if (loaded->skipped == 0) return {};
  return std::vector{
      fmt::format("{} of the file's instances do not follow the format (the first in line {}) and were "
                  "left out; faces may be missing.",
                  loaded->skipped, loaded->first_skipped_line)};
}

Result<std::vector<Body>> built(STEPCAFControl_Reader& reader, const std::string& name,
                                const std::optional<MeshQuality>& mesh_ahead) {
  std::optional<MeshAhead> ahead;
  Handle(Message_ProgressIndicator) steps;
  if (mesh_ahead) {
    ahead.emplace(*mesh_ahead);
    steps = new BuiltSolids(reader.Reader().WS()->TransferReader()->TransientProcess(),
                            [&](const TopoDS_Shape& solid) {
                              if (close_outlines_in_place(solid)) ahead->add(solid);
                            });
  }
  return built_by(reader, name, kHoldsNoSolid, Message_ProgressIndicator::Start(steps));
}

// With the kernel's own scanner and checks: slower, and more patient with what does not follow the format.
Result<std::vector<std::string>> load_patiently(STEPControl_Reader& reader, const std::string& text,
                                                const std::string& name) {
  std::istringstream stream(text);
  if (reader.ReadStream(name.c_str(), stream) != IFSelect_RetDone)
    return refuse(RefusalCode::kUnreadable,
                  name + " cannot be read as STEP: its text does not follow the format.");
  return {};
}

// The name of the only product the file holds.
std::optional<std::string> only_product(const StepData_StepModel& model) {
  std::optional<std::string> name;
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto product = Handle(StepBasic_Product)::DownCast(model.Value(i));
    if (product.IsNull()) continue;
    if (name || product->Name().IsNull()) return std::nullopt;
    name = product->Name()->ToCString();
  }
  return name;
}

Result<std::vector<Body>> built_plainly(STEPControl_Reader& reader, const std::string& name) {
  reader.TransferRoots();
  const TopoDS_Shape shape = reader.OneShape();
  const auto product = only_product(*reader.StepModel());
  std::vector<Body> bodies;
  if (!shape.IsNull())
    bodies = bodies_of_shape(shape, product && !says_nothing(*product) ? *product : stem_of(name));
  if (bodies.empty()) return refuse(RefusalCode::kNoBody, name + kHoldsNoSolid);
  return bodies;
}

Result<ImportedBodies> read_checked(const std::string& bytes, const std::string& name,
                                    const StepSurvey& survey, const Reading& reading) {
  STEPCAFControl_Reader with_names;
  prepare(with_names);
  Interface_Static::SetIVal("read.stepcaf.subshapes.name", 1);
  STEPControl_Reader plain;
  const bool plainly = reading.way == ReadingWay::kPlainly;
  STEPControl_Reader& reader = plainly ? plain : with_names.ChangeReader();
  ImportedBodies imported;
  reading.progress.say("reading", 0.05);
  std::string text = bytes.substr(survey.skip_bytes);
  auto warnings =
      plainly ? load_patiently(plain, text, name) : load(reader, std::move(text), name, reading.progress);
  if (!warnings) return refuse(warnings);
  imported.source.warnings = std::move(*warnings);
  imported.source.file_name = name;
  imported.source.schema = survey.schema;
  const Handle(StepData_StepModel) model = reader.StepModel();
  const auto add_all = [&](const std::vector<std::string>& sentences) {
    imported.source.warnings.insert(imported.source.warnings.end(), sentences.begin(), sentences.end());
  };
  add_all(resolve_units(*model));
  const StepOperators operators(*model);
  add_all(operators.sentences());
  tell_unit(reader, survey, imported.source);
  if (reading.way != ReadingWay::kUsual) {
    reader.WS()->ComputeGraph(true);
    imported.left_out = leave_out_incomplete(reader.StepModel(), reader.WS()->Graph());
  }
  reading.progress.say("building faces", 0.35);
  auto bodies = plainly ? built_plainly(plain, name) : built(with_names, name, reading.mesh_ahead);
  if (!bodies && imported.left_out > 0) return refuse(nothing_left(name, imported.left_out));
  if (!bodies) return refuse(bodies);
  imported.bodies = std::move(*bodies);
  operators.apply(imported.bodies);
  if (const std::string why = where_size_disagrees(*model, operators, imported.bodies); !why.empty())
    imported.source.warnings.push_back(why);
  if (survey.missing_count > 0)
    imported.source.warnings.push_back(
        fmt::format("The file refers to {} entities it does not hold (first: #{}); faces may be missing.",
                    survey.missing_count, survey.missing.front()));
  return imported;
}

}  // namespace

void leave_out_fixing(const std::filesystem::path& folder) {
  if (write_file_atomically(folder / "STEP", "FromSTEP.exec.op: SetTolerance\n"))
    ::setenv("CSF_STEPDefaults", folder.c_str(), 1);
}

Result<ImportedBodies> read_step(const std::string& bytes, const std::string& name, const Reading& reading) {
  auto survey = survey_step(bytes, name);
  if (!survey) return refuse(survey);
  return read_checked(bytes, name, *survey, reading);
}

}  // namespace anvil
