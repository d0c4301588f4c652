#include "exchange/mesh_formats.h"

#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <fmt/format.h>

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>
#include <StlAPI_Writer.hxx>
#include <TopoDS_Compound.hxx>
#include <assimp/Importer.hpp>
#include <cstring>

#include "base/numbers.h"
#include "part/mesh.h"

namespace anvil {
namespace {

constexpr size_t kStlHeader = 84, kStlTriangle = 50;

uint32_t stl_count(std::string_view bytes) {
  uint32_t count = 0;
  std::memcpy(&count, bytes.data() + kStlHeader - 4, sizeof count);
  return count;
}

bool is_text_stl(std::string_view head) {
  const size_t start = head.find_first_not_of(" \t\r\n");
  return start != std::string_view::npos && head.compare(start, 5, "solid") == 0 &&
         (head.find("facet") != std::string_view::npos || head.find("endsolid") != std::string_view::npos);
}

Result<void> check_stl(const std::string& bytes, const std::string& name) {
  if (is_text_stl(std::string_view(bytes).substr(0, 4096))) {
    const size_t last = bytes.rfind("endsolid");
    const size_t facet = bytes.rfind("endfacet");
    if (last == std::string::npos || (facet != std::string::npos && facet > last))
      return refuse(RefusalCode::kUnreadable,
                    name + " is cut off: its last line endsolid is missing; ask for the file again.");
    return {};
  }
  if (bytes.size() < kStlHeader)
    return refuse(RefusalCode::kUnreadable, name + " is not an STL file: it is too short.");
  const size_t announced = stl_count(bytes), held = (bytes.size() - kStlHeader) / kStlTriangle;
  if (announced == 0) return refuse(RefusalCode::kNoBody, name + " holds no triangles.");
  if (held < announced)
    return refuse(
        RefusalCode::kUnreadable,
        fmt::format("{} is cut off: it announces {} triangles and holds {}; ask for the file again.", name,
                    announced, held));
  return {};
}

Result<void> check_ply(const std::string& bytes, const std::string& name) {
  if (bytes.find("end_header") == std::string::npos)
    return refuse(RefusalCode::kUnreadable,
                  name + " is cut off: its header does not end; ask for the file again.");
  return {};
}

// Triangles of one mesh, those without area too: the soundness check tells them. Null when there is none.
Handle(Poly_Triangulation) triangulation_of(const aiMesh& mesh, bool& has_nonsense) {
  std::vector<Poly_Triangle> triangles;
  for (unsigned i = 0; i < mesh.mNumFaces; ++i) {
    const aiFace& face = mesh.mFaces[i];
    if (face.mNumIndices != 3) continue;
    const unsigned* k = face.mIndices;
    triangles.emplace_back(static_cast<int>(k[0]) + 1, static_cast<int>(k[1]) + 1,
                           static_cast<int>(k[2]) + 1);
  }
  if (triangles.empty()) return nullptr;
  Handle(Poly_Triangulation) result =
      new Poly_Triangulation(static_cast<int>(mesh.mNumVertices), static_cast<int>(triangles.size()), false);
  for (unsigned i = 0; i < mesh.mNumVertices; ++i) {
    const aiVector3D& v = mesh.mVertices[i];
    has_nonsense = has_nonsense || !std::isfinite(v.x) || !std::isfinite(v.y) || !std::isfinite(v.z);
    result->SetNode(static_cast<int>(i) + 1, gp_Pnt(v.x, v.y, v.z));
  }
  for (size_t i = 0; i < triangles.size(); ++i) result->SetTriangle(static_cast<int>(i) + 1, triangles[i]);
  return result;
}

Result<ImportedBodies> read_mesh(const std::string& bytes, const std::string& name, const char* hint,
                                 const Progress& progress) {
  progress.say("reading", 0.1);
  Assimp::Importer importer;
  importer.SetPropertyInteger(AI_CONFIG_PP_RVC_FLAGS, aiComponent_NORMALS | aiComponent_COLORS |
                                                          aiComponent_TEXCOORDS |
                                                          aiComponent_TANGENTS_AND_BITANGENTS |
                                                          aiComponent_MATERIALS | aiComponent_TEXTURES);
  const aiScene* scene = importer.ReadFileFromMemory(
      bytes.data(), bytes.size(),
      aiProcess_RemoveComponent | aiProcess_Triangulate | aiProcess_JoinIdenticalVertices, hint);
  if (!scene)
    return refuse(RefusalCode::kUnreadable, fmt::format("{} cannot be read: it is damaged or cut off ({}).",
                                                        name, importer.GetErrorString()));
  ImportedBodies imported;
  imported.source.file_name = name;
  imported.source.warnings.emplace_back("The file names no unit of length; millimetres were taken.");
  const std::string stem = std::filesystem::path(name).stem().string();
  progress.say("building the mesh", 0.6);
  for (unsigned i = 0; i < scene->mNumMeshes; ++i) {
    bool has_nonsense = false;
    const Handle(Poly_Triangulation) mesh = triangulation_of(*scene->mMeshes[i], has_nonsense);
    if (has_nonsense)
      return refuse(RefusalCode::kUnreadable, name + " holds coordinates that are not numbers (NAN or INF).");
    if (mesh.IsNull()) continue;
    Body body;
    body.name = scene->mNumMeshes == 1 ? stem : fmt::format("{} {}", stem, i + 1);
    body.kind = BodyKind::kMesh;
    body.shape = mesh_body({mesh});
    imported.bodies.push_back(std::move(body));
  }
  if (imported.bodies.empty()) return refuse(RefusalCode::kNoBody, name + " holds no triangles.");
  return imported;
}

}  // namespace

bool looks_like_stl(const FileHead& head) {
  if (is_text_stl(head.bytes)) return true;
  return head.bytes.size() >= kStlHeader &&
         head.size == kStlHeader + kStlTriangle * size_t{stl_count(head.bytes)};
}

bool looks_like_ply(const FileHead& head) {
  return head.bytes.compare(0, 4, "ply\n") == 0 || head.bytes.compare(0, 5, "ply\r\n") == 0;
}

namespace {

bool is_vertex_line(std::string_view line) {
  if (line.substr(0, 2) != "v ") return false;
  line.remove_prefix(2);
  for (int i = 0; i < 3; ++i) {
    while (!line.empty() && (line.front() == ' ' || line.front() == '\t')) line.remove_prefix(1);
    if (!take_number(line)) return false;
  }
  return true;
}

}  // namespace

// OBJ has no heading: a line that begins with "v" and three numbers is what every one of them holds.
bool looks_like_obj(const FileHead& head) {
  for (size_t at = 0; at < head.bytes.size();) {
    size_t end = head.bytes.find('\n', at);
    if (end == std::string_view::npos) break;
    if (is_vertex_line(head.bytes.substr(at, std::min<size_t>(end - at, 200)))) return true;
    at = end + 1;
  }
  return false;
}

Result<ImportedBodies> read_stl(const std::string& bytes, const std::string& name, const Reading& reading) {
  if (auto good = check_stl(bytes, name); !good) return refuse(good);
  return read_mesh(bytes, name, "stl", reading.progress);
}

Result<ImportedBodies> read_ply(const std::string& bytes, const std::string& name, const Reading& reading) {
  if (auto good = check_ply(bytes, name); !good) return refuse(good);
  return read_mesh(bytes, name, "ply", reading.progress);
}

Result<ImportedBodies> read_obj(const std::string& bytes, const std::string& name, const Reading& reading) {
  if (bytes.empty()) return refuse(RefusalCode::kUnreadable, name + " is empty: ask for the file again.");
  return read_mesh(bytes, name, "obj", reading.progress);
}

Result<void> write_stl(const std::vector<Body>& bodies, const WriteOptions& options,
                       const std::filesystem::path& path) {
  std::vector<TopoDS_Shape> all;
  for (const Body& body : bodies) {
    if (body.kind == BodyKind::kMesh) {
      all.push_back(body.shape);
      continue;
    }
    // A copy without the display mesh, so that the deviation asked for is the one that is written.
    const TopoDS_Shape copy = BRepBuilderAPI_Copy(body.shape, true, false).Shape();
    const BRepMesh_IncrementalMesh meshed(copy, options.mesh_deviation_mm, false, options.mesh_angle_rad,
                                          true);
    all.push_back(copy);
  }
  StlAPI_Writer writer;
  writer.ASCIIMode() = !options.binary;
  if (writer.Write(compound_of(all), path.c_str())) return {};
  return refuse(RefusalCode::kCannotWrite, "cannot write " + path.string());
}

}  // namespace anvil
