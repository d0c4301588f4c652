// A part as it came in: bodies with names and colours, in millimetres, in the coordinates of the file.
// Immutable and shared; placements, datums and checks refer to it and never change it.
#pragma once

#include <TopoDS_Compound.hxx>
#include <TopoDS_Shape.hxx>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "part/topology_index.h"

namespace anvil {

struct Colour {
  double r = 0, g = 0, b = 0;  // 0..1, sRGB
};

enum class BodyKind { kSolid, kShell };

struct Body {
  std::string name;
  BodyKind kind = BodyKind::kSolid;
  TopoDS_Shape shape;
  std::optional<Colour> colour;
  std::map<int, Colour> face_colours;  // by the face's place in the body, from 0
};

struct SourceInfo {
  std::string file_name;  // without folders
  std::string format = "STEP";
  std::string schema;            // "AP214", …
  std::string unit_name = "mm";  // as the file says
  double mm_per_unit = 1.0;
  std::string sha256;
  std::vector<std::string> warnings;  // sentences: what was noticed while reading
};

class Part {
 public:
  Part(SourceInfo source, std::vector<Body> bodies);
  [[nodiscard]] const SourceInfo& source() const { return source_; }
  [[nodiscard]] const std::vector<Body>& bodies() const { return bodies_; }
  [[nodiscard]] const TopoDS_Compound& shape() const { return shape_; }
  [[nodiscard]] const TopologyIndex& topology() const { return topology_; }

 private:
  SourceInfo source_;
  std::vector<Body> bodies_;
  TopoDS_Compound shape_;
  TopologyIndex topology_;
};

using PartPtr = std::shared_ptr<const Part>;

}  // namespace anvil
