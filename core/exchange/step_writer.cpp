#include <APIHeaderSection_MakeHeader.hxx>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <TCollection_HAsciiString.hxx>

#include "exchange/document_bodies.h"
#include "exchange/step_format.h"

namespace anvil {
namespace {

void write_header(STEPCAFControl_Writer& writer, const WriteOptions& options) {
  APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
  header.SetName(new TCollection_HAsciiString(options.product.c_str()));
  if (!options.time_stamp.empty())
    header.SetTimeStamp(new TCollection_HAsciiString(options.time_stamp.c_str()));
  header.SetOriginatingSystem(new TCollection_HAsciiString("True Anvil"));
  header.SetAuthorValue(1, new TCollection_HAsciiString(""));
  header.SetOrganizationValue(1, new TCollection_HAsciiString(""));
}

}  // namespace

Result<void> write_step(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path) {
  // The first writer of a process defines the parameters, a writer reads them when it is made: so one is made
  // before they are set and thrown away.
  { const STEPCAFControl_Writer defines_parameters; }
  Interface_Static::SetCVal("write.step.schema", options.schema.c_str());
  Interface_Static::SetCVal("write.step.unit", options.unit.c_str());
  Interface_Static::SetCVal("write.step.product.name", options.product.c_str());
  Interface_Static::SetIVal("write.stepcaf.subshapes.name", 1);
  Interface_Static::SetIVal("write.surfacecurve.mode", options.surface_curves ? 1 : 0);
  STEPCAFControl_Writer writer;
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  if (!writer.Transfer(document_of(bodies), STEPControl_AsIs))
    return refuse(RefusalCode::kInternal, "the part could not be turned into STEP");
  write_header(writer, options);
  if (writer.Write(path.c_str()) == IFSelect_RetDone) return {};
  return refuse(RefusalCode::kCannotWrite, "cannot write " + path.string());
}

}  // namespace anvil
