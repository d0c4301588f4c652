#include "exchange/step_writer.h"

#include <unistd.h>
#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <Interface_Static.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <TCollection_ExtendedString.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include "base/file.h"
#include "geom/guard.h"

namespace anvil {
namespace {

Quantity_Color kernel_colour(const Colour& c) {
  return Quantity_Color(c.r, c.g, c.b, Quantity_TOC_sRGB);
}

Handle(TDocStd_Document) document_of(const std::vector<Body>& bodies) {
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
  for (const Body& body : bodies) {
    const TDF_Label label = shapes->AddShape(body.shape, false);
    TDataStd_Name::Set(label, TCollection_ExtendedString(body.name.c_str(), true));
    if (body.colour) colours->SetColor(label, kernel_colour(*body.colour), XCAFDoc_ColorSurf);
    if (body.face_colours.empty()) continue;
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(body.shape, TopAbs_FACE, faces);
    for (const auto& [index, colour] : body.face_colours) {
      if (index >= faces.Extent()) continue;
      const TDF_Label face = shapes->AddSubShape(label, faces(index + 1));
      if (!face.IsNull()) colours->SetColor(face, kernel_colour(colour), XCAFDoc_ColorSurf);
    }
  }
  return document;
}

void write_header(STEPCAFControl_Writer& writer, const StepWriteOptions& options) {
  APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
  header.SetName(new TCollection_HAsciiString(options.product.c_str()));
  if (!options.time_stamp.empty())
    header.SetTimeStamp(new TCollection_HAsciiString(options.time_stamp.c_str()));
  header.SetOriginatingSystem(new TCollection_HAsciiString("True Anvil"));
  header.SetAuthorValue(1, new TCollection_HAsciiString(""));
  header.SetOrganizationValue(1, new TCollection_HAsciiString(""));
}

Result<void> write_guarded(const std::vector<Body>& bodies, const StepWriteOptions& options,
                           const std::filesystem::path& path) {
  // The first writer of a process defines the parameters, a writer reads them when it is made: so one is made
  // before they are set and thrown away.
  { const STEPCAFControl_Writer defines_parameters; }
  Interface_Static::SetCVal("write.step.schema", options.schema.c_str());
  Interface_Static::SetCVal("write.step.unit", options.unit.c_str());
  Interface_Static::SetCVal("write.step.product.name", options.product.c_str());
  Interface_Static::SetIVal("write.stepcaf.subshapes.name", 1);
  STEPCAFControl_Writer writer;
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  if (!writer.Transfer(document_of(moved_bodies(bodies, options.placement)), STEPControl_AsIs))
    return refuse(RefusalCode::kInternal, "the part could not be turned into STEP");
  write_header(writer, options);
  const std::filesystem::path beside = path.string() + ".part-" + std::to_string(::getpid());
  const bool written = writer.Write(beside.c_str()) == IFSelect_RetDone;
  std::error_code error;
  if (written) std::filesystem::rename(beside, path, error);
  if (written && !error) return {};
  std::error_code ignored;
  std::filesystem::remove(beside, ignored);
  return refuse(RefusalCode::kCannotWrite,
                "cannot write " + path.string() +
                    (error ? ": " + error.message() : ": is the folder there, and may it be written to?"));
}

}  // namespace

std::vector<Body> moved_bodies(const std::vector<Body>& bodies, const gp_Trsf& placement) {
  std::vector<Body> moved;
  for (const Body& body : bodies) {
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

Result<void> write_step(const std::vector<Body>& bodies, const StepWriteOptions& options,
                        const std::filesystem::path& path) {
  return guarded("writing STEP", [&] { return write_guarded(bodies, options, path); });
}

}  // namespace anvil
