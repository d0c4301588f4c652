// From OpenCASCADE's document of a file (assemblies, names, colours) to bodies and back. Internal to
// core/exchange.
#pragma once

#include <Interface_Static.hxx>
#include <Message_ProgressRange.hxx>
#include <TDocStd_Document.hxx>

#include "exchange/body_names.h"
#include "exchange/format.h"
#include "exchange/shape_bodies.h"

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
// What a reader that has read its file builds. Refuses (kNoBody) a file no shape comes of, and one without
// bodies with the sentence `holds_none`, put after its name.
template <class Reader>
Result<std::vector<Body>> built_by(Reader& reader, const std::string& name, const std::string& holds_none,
                                   const Message_ProgressRange& steps = {}) {
  Handle(TDocStd_Document) document = new_document();
  if (!reader.Transfer(document, steps))
    return refuse(RefusalCode::kNoBody, name + " holds no part: no shape could be built from it.");
  std::vector<Body> bodies = bodies_of(document);
  if (bodies.empty()) return refuse(RefusalCode::kNoBody, name + holds_none);
  join_single_faces(bodies, stem_of(name));
  name_nameless(bodies, stem_of(name));
  return bodies;
}

Handle(TDocStd_Document) document_of(const std::vector<Body>& bodies);

}  // namespace anvil
