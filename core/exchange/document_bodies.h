// From OpenCASCADE's document of a file (assemblies, names, colours) to bodies and back. Internal to
// core/exchange.
#pragma once

#include <TDocStd_Document.hxx>

#include "exchange/format.h"

namespace anvil {

Handle(TDocStd_Document) new_document();
std::vector<Body> bodies_of(const Handle(TDocStd_Document) & document);
Handle(TDocStd_Document) document_of(const std::vector<Body>& bodies);

}  // namespace anvil
