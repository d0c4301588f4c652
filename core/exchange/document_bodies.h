// From OpenCASCADE's document of a file (assemblies, names, colours) to bodies and back. Internal to
// core/exchange.
#pragma once

#include <Interface_Static.hxx>
#include <TDocStd_Document.hxx>

#include "exchange/format.h"

namespace anvil {

// What every reader is told: names, colours, millimetres.
template <class Reader>
void prepare(Reader& reader) {
  reader.SetColorMode(true);
  reader.SetNameMode(true);
  Interface_Static::SetCVal("xstep.cascade.unit", "MM");
}

Handle(TDocStd_Document) new_document();
std::vector<Body> bodies_of(const Handle(TDocStd_Document) & document);
Handle(TDocStd_Document) document_of(const std::vector<Body>& bodies);

}  // namespace anvil
