// A part as it came in: bodies with names and colours, in millimetres, in the coordinates of the file.
// Immutable and shared; placements, datums and checks refer to it and never change it.
#pragma once

#include <TopoDS_Compound.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Trsf.hxx>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "part/part_geometry.h"

namespace anvil {

struct Colour {
  double r = 0, g = 0, b = 0;  // 0..1, sRGB
  bool operator==(const Colour&) const = default;
};

// kShell: faces that do not close (or do not even touch); kMesh: triangles only, no exact surfaces.
enum class BodyKind { kSolid, kShell, kMesh };
const char* body_kind_name(BodyKind kind);  // "solid", …

struct Body {
  std::string name;
  BodyKind kind = BodyKind::kSolid;
  TopoDS_Shape shape;
  std::optional<Colour> colour;
  std::map<int, Colour> face_colours;  // by the face's place in the body, from 0
  std::vector<std::string> path = {};  // names of the assemblies it sits in, outermost first
  int source = 0;                      // which of the part's sources it came from
  int delivered = -1;        // its place among all bodies that were delivered; -1: its place in the part
  bool found_valid = false;  // the kernel's checker was asked when it was brought in, and found nothing
  gp_Trsf arranged = {};     // how it was moved against the other bodies, after delivery
  bool meshed = false;       // every face of it that can be meshed is
};

struct SourceInfo {
  std::string file_name;  // without folders
  std::string format = "STEP";
  std::string schema;            // "AP214", …
  std::string unit_name = "mm";  // as the file says
  double mm_per_unit = 1.0;
  std::string sha256;
  std::vector<std::string> warnings;  // sentences: what was noticed while reading
  double scale = 1.0;                 // how the user resized it beyond what the file's unit says
};

// The `delivered` of a body that an entry of the job made, which never was delivered; and the entry of such a
// body, 0 for others.
int made_by(int entry, int number);
int maker_of(int delivered);

class Part : public std::enable_shared_from_this<Part> {
 public:
  // `donors`: geometries that may have some of these bodies, so that those are not looked at again.
  Part(SourceInfo source, std::vector<Body> bodies);
  Part(std::vector<SourceInfo> sources, std::vector<Body> bodies,
       const std::vector<GeometryPtr>& donors = {});
  [[nodiscard]] const SourceInfo& source() const { return sources_.front(); }
  [[nodiscard]] const std::vector<SourceInfo>& sources() const { return sources_; }
  [[nodiscard]] const std::vector<Body>& bodies() const { return bodies_; }
  [[nodiscard]] const GeometryPtr& geometry() const { return geometry_; }
  [[nodiscard]] const TopoDS_Compound& shape() const { return geometry_->compound(); }
  [[nodiscard]] const TopologyIndex& topology() const { return geometry_->topology(); }
  // For whoever works out more from its geometry and wants to find that again.
  [[nodiscard]] Kept& kept() const { return geometry_->kept(); }

 private:
  std::vector<SourceInfo> sources_;  // at least one
  std::vector<Body> bodies_;
  GeometryPtr geometry_;
};

// All shapes together, in the order of the bodies.
TopoDS_Compound compound_of(const std::vector<Body>& bodies);

using PartPtr = std::shared_ptr<const Part>;

// Whether findings on one hold for the other: the same geometry, and bodies that came as the same ones. Names
// and colours may differ.
bool same_geometry(const PartPtr& a, const PartPtr& b);

// Triangles only: there is nothing exact to check.
bool is_all_mesh(const Part& part);

// The part with each body moved (rigidly) against where it was delivered; the part itself when nothing moves.
// One motion a body.
PartPtr arranged_part(const PartPtr& part, const std::vector<gp_Trsf>& motions);

bool same_motion(const gp_Trsf& a, const gp_Trsf& b);

}  // namespace anvil
