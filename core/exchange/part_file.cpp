#include "exchange/part_file.h"

#include <BinTools.hxx>
#include <TopoDS_Iterator.hxx>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "geom/guard.h"
#include "part/settle.h"

namespace anvil {
namespace {

using nlohmann::json;

json to_json(const Colour& c) {
  return json::array({c.r, c.g, c.b});
}
Colour colour_from(const json& j) {
  return {j.at(0), j.at(1), j.at(2)};
}

json to_json(const Body& body) {
  json j{{"name", body.name},     {"kind", body_kind_name(body.kind)}, {"path", body.path},
         {"source", body.source}, {"delivered", body.delivered},       {"found_valid", body.found_valid}};
  if (body.colour) j["colour"] = to_json(*body.colour);
  json faces = json::array();
  for (const auto& [index, colour] : body.face_colours)
    faces.push_back({{"face", index}, {"colour", to_json(colour)}});
  j["faces"] = faces;
  return j;
}

Body body_from(const json& j, const TopoDS_Shape& shape) {
  Body body;
  body.name = j.at("name");
  for (const BodyKind kind : {BodyKind::kSolid, BodyKind::kShell, BodyKind::kMesh})
    if (j.at("kind") == body_kind_name(kind)) body.kind = kind;
  body.path = j.at("path").get<std::vector<std::string>>();
  body.source = j.at("source");
  body.delivered = j.at("delivered");
  body.found_valid = j.value("found_valid", false);
  body.shape = shape;
  if (j.contains("colour")) body.colour = colour_from(j["colour"]);
  for (const json& face : j.at("faces")) body.face_colours[face.at("face")] = colour_from(face.at("colour"));
  return body;
}

json to_json(const SourceInfo& s) {
  return {
      {"file_name", s.file_name},     {"format", s.format}, {"schema", s.schema},     {"unit", s.unit_name},
      {"mm_per_unit", s.mm_per_unit}, {"sha256", s.sha256}, {"warnings", s.warnings}, {"scale", s.scale}};
}

SourceInfo source_from(const json& j) {
  SourceInfo source{j.at("file_name"),   j.at("format"), j.at("schema"),   j.at("unit"),
                    j.at("mm_per_unit"), j.at("sha256"), j.at("warnings"), j.at("scale")};
  const std::string name = safe_file_name(source.file_name);
  if (name == source.file_name) return source;
  source.warnings.push_back("The name of its file is none that a file can have; it is called " + name +
                            " here.");
  source.file_name = name;
  return source;
}

}  // namespace

Result<void> write_part_folder(const ImportedBodies& imported, const std::filesystem::path& folder) {
  return guarded("handing over the part", [&]() -> Result<void> {
    json bodies = json::array();
    std::vector<TopoDS_Shape> lying;
    for (const Body& body : imported.bodies) {
      bodies.push_back(to_json(body));
      settle(body.shape);
      lying.push_back(body.shape.Located(settled(body.shape.Location())));
    }
    const std::filesystem::path shapes = folder / "shape.bin";
    if (!BinTools::Write(compound_of(lying), shapes.c_str()))
      return refuse(RefusalCode::kCannotWrite, "cannot write " + shapes.string());
    // A name may hold bytes that are no UTF-8; they are replaced rather than losing the part.
    const json all{{"source", to_json(imported.source)}, {"bodies", bodies}};
    return write_file_atomically(folder / "part.json",
                                 all.dump(-1, ' ', false, json::error_handler_t::replace));
  });
}

Result<ImportedBodies> read_part_folder(const std::filesystem::path& folder) {
  auto text = read_file(folder / "part.json");
  if (!text) return refuse(text);
  return guarded("taking over the part", [&]() -> Result<ImportedBodies> {
    const json all = json::parse(*text);
    TopoDS_Shape compound;
    if (!BinTools::Read(compound, (folder / "shape.bin").c_str()))
      return refuse(RefusalCode::kUnreadable, "the imported shapes cannot be read back");
    ImportedBodies imported;
    imported.source = source_from(all.at("source"));
    size_t index = 0;
    for (TopoDS_Iterator it(compound); it.More(); it.Next(), ++index)
      imported.bodies.push_back(body_from(all.at("bodies").at(index), it.Value()));
    return imported;
  });
}

}  // namespace anvil
