#include "exchange/step_reader.h"

#include <fmt/format.h>
#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <Interface_Static.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <TColStd_SequenceOfAsciiString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <sstream>

#include "base/file.h"
#include "base/units.h"
#include "geom/guard.h"

namespace anvil {
namespace {

std::string name_of(const TDF_Label& label) {
  Handle(TDataStd_Name) name;
  if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
  const TCollection_ExtendedString& text = name->Get();
  std::string utf8(static_cast<size_t>(text.LengthOfCString()) + 1, '\0');
  char* out = utf8.data();
  text.ToUTF8CString(out);
  utf8.resize(std::char_traits<char>::length(utf8.c_str()));
  return utf8;
}

std::optional<Colour> colour_of(const Handle(XCAFDoc_ColorTool) & tool, const TDF_Label& label) {
  Quantity_Color colour;
  for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen}) {
    if (!tool->GetColor(label, type, colour)) continue;
    double r, g, b;
    colour.Values(r, g, b, Quantity_TOC_sRGB);
    return Colour{r, g, b};
  }
  return std::nullopt;
}

// Colours that the file gives to single faces or solids of a product.
using SubColours = std::vector<std::pair<TopoDS_Shape, Colour>>;

SubColours sub_colours(const Handle(XCAFDoc_ColorTool) & tool, const TDF_Label& product) {
  SubColours colours;
  TDF_LabelSequence labels;
  XCAFDoc_ShapeTool::GetSubShapes(product, labels);
  for (const TDF_Label& label : labels)
    if (auto colour = colour_of(tool, label))
      colours.emplace_back(XCAFDoc_ShapeTool::GetShape(label), *colour);
  return colours;
}

class Flattener {
 public:
  explicit Flattener(const Handle(TDocStd_Document) & document)
      : shapes_(XCAFDoc_DocumentTool::ShapeTool(document->Main())),
        colours_(XCAFDoc_DocumentTool::ColorTool(document->Main())) {}

  std::vector<Body> run() {
    TDF_LabelSequence free;
    shapes_->GetFreeShapes(free);
    for (const TDF_Label& label : free) visit(label, TopLoc_Location(), {}, std::nullopt);
    return std::move(bodies_);
  }

 private:
  void visit(const TDF_Label& label, const TopLoc_Location& above, const std::string& instance,
             std::optional<Colour> inherited) {
    TDF_Label product = label;
    TopLoc_Location here = above;
    if (XCAFDoc_ShapeTool::IsReference(label)) {
      here = above * XCAFDoc_ShapeTool::GetLocation(label);
      XCAFDoc_ShapeTool::GetReferredShape(label, product);
    }
    if (auto colour = colour_of(colours_, label)) inherited = colour;
    if (!inherited) inherited = colour_of(colours_, product);
    if (XCAFDoc_ShapeTool::IsAssembly(product)) {
      TDF_LabelSequence components;
      XCAFDoc_ShapeTool::GetComponents(product, components);
      for (const TDF_Label& component : components) visit(component, here, name_of(component), inherited);
      return;
    }
    add_bodies(product, here, instance, inherited);
  }

  void add_bodies(const TDF_Label& product, const TopLoc_Location& here, const std::string& instance,
                  std::optional<Colour> colour) {
    const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(product);
    const SubColours own = sub_colours(colours_, product);
    std::string name = name_of(product);
    if (name.empty()) name = instance.empty() ? "body" : instance;
    const size_t first = bodies_.size();
    for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next())
      add_body(solids.Current(), BodyKind::kSolid, name, here, colour, own);
    for (TopExp_Explorer shells(shape, TopAbs_SHELL, TopAbs_SOLID); shells.More(); shells.Next())
      add_body(shells.Current(), BodyKind::kShell, name, here, colour, own);
    if (bodies_.size() - first < 2) return;
    for (size_t i = first; i < bodies_.size(); ++i) bodies_[i].name += fmt::format(" {}", i - first + 1);
  }

  void add_body(const TopoDS_Shape& shape, BodyKind kind, const std::string& name,
                const TopLoc_Location& here, std::optional<Colour> colour, const SubColours& own) {
    Body body{name, kind, shape, colour, {}};
    TopTools_IndexedMapOfShape faces;
    if (!own.empty()) TopExp::MapShapes(shape, TopAbs_FACE, faces);
    for (const auto& [sub, sub_colour] : own) {
      if (sub.IsSame(shape)) body.colour = sub_colour;
      if (const int index = faces.FindIndex(sub)) body.face_colours[index - 1] = sub_colour;
    }
    body.shape.Move(here);
    bodies_.push_back(std::move(body));
  }

  Handle(XCAFDoc_ShapeTool) shapes_;
  Handle(XCAFDoc_ColorTool) colours_;
  std::vector<Body> bodies_;
};

void tell_unit(STEPCAFControl_Reader& reader, const StepSurvey& survey, SourceInfo& source) {
  TColStd_SequenceOfAsciiString lengths, angles, solid_angles;
  reader.ChangeReader().FileUnits(lengths, angles, solid_angles);
  const std::string found = lengths.IsEmpty() ? "" : lengths.First().ToCString();
  static const std::pair<const char*, std::pair<const char*, double>> kUnits[] = {
      {"MILLIMETRE", {"mm", 1.0}}, {"millimetre", {"mm", 1.0}},  {"INCH", {"inch", 25.4}},
      {"inch", {"inch", 25.4}},    {"CENTIMETRE", {"cm", 10.0}}, {"centimetre", {"cm", 10.0}},
      {"METRE", {"m", 1000.0}},    {"metre", {"m", 1000.0}},     {"FOOT", {"foot", 304.8}},
      {"foot", {"foot", 304.8}}};
  for (const auto& [key, unit] : kUnits) {
    if (found != key) continue;
    source.unit_name = unit.first;
    source.mm_per_unit = unit.second;
    return;
  }
  if (!survey.has_length_unit || found.empty())
    source.warnings.push_back("The file names no unit of length; millimetres were taken.");
  else
    source.unit_name = found;
}

Result<void> check_extent(const std::vector<Body>& bodies, const std::string& name) {
  Bnd_Box box;
  for (const Body& body : bodies) BRepBndLib::Add(body.shape, box, false);
  const double kilometre_mm = 1e6;
  if (box.IsVoid() || box.IsOpen() || !std::isfinite(box.SquareExtent()) ||
      box.SquareExtent() > 1e4 * kilometre_mm * kilometre_mm)
    return refuse(
        RefusalCode::kUnreadable,
        name + " holds a body without a finite size: export it again from the program it came from.");
  return {};
}

Result<ImportedBodies> read_checked(const std::string& bytes, const std::string& name,
                                    const StepSurvey& survey, const Progress& progress) {
  STEPCAFControl_Reader reader;
  reader.SetColorMode(true);
  reader.SetNameMode(true);
  Interface_Static::SetCVal("xstep.cascade.unit", "MM");
  Interface_Static::SetIVal("read.stepcaf.subshapes.name", 1);
  std::istringstream stream(survey.skip_bytes ? bytes.substr(survey.skip_bytes) : bytes);
  progress.say("reading", 0.05);
  if (reader.ChangeReader().ReadStream(name.c_str(), stream) != IFSelect_RetDone)
    return refuse(RefusalCode::kUnreadable,
                  name + " cannot be read as STEP: its text does not follow the format.");

  ImportedBodies imported;
  imported.source.file_name = name;
  imported.source.schema = survey.schema;
  tell_unit(reader, survey, imported.source);
  progress.say("building faces", 0.35);
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  if (!reader.Transfer(document))
    return refuse(RefusalCode::kNoBody, name + " holds no part: no shape could be built from it.");
  imported.bodies = Flattener(document).run();
  if (imported.bodies.empty())
    return refuse(
        RefusalCode::kNoBody,
        name + " holds no solid: it has drawings, points or loose data only; ask for a solid model.");
  if (auto extent = check_extent(imported.bodies, name); !extent) return refuse(extent);
  if (survey.missing_count > 0)
    imported.source.warnings.push_back(
        fmt::format("The file refers to {} entities it does not hold (first: #{}); faces may be missing.",
                    survey.missing_count, survey.missing.front()));
  return imported;
}

}  // namespace

Result<ImportedBodies> read_step(const std::filesystem::path& path, const Progress& progress) {
  progress.say("opening", 0.0);
  auto bytes = read_file(path);
  if (!bytes) return refuse(bytes);
  const std::string name = path.filename().string();
  auto survey = survey_step(*bytes, name);
  if (!survey) return refuse(survey);
  auto imported = guarded("reading STEP", [&] { return read_checked(*bytes, name, *survey, progress); });
  if (imported) imported->source.sha256 = sha256_hex(*bytes);
  return imported;
}

}  // namespace anvil
