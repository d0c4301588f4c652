#include "part/part.h"

#include "base/quoted.h"
#include "geom/coordinate.h"

namespace anvil {
namespace {

// Beyond any number of bodies that files deliver; of one entry as many as a pattern has places.
constexpr int kFirstMade = 1 << 20;
constexpr int kMostOfOne = 1 << 8;

}  // namespace

int made_by(int entry, int number) {
  return kFirstMade + entry * kMostOfOne + number % kMostOfOne;
}

int maker_of(int delivered) {
  return delivered < kFirstMade ? 0 : (delivered - kFirstMade) / kMostOfOne;
}

namespace {

// A name of more is no name.
constexpr size_t kLongestText_bytes = 1000;

void make_plain(std::string& text) {
  if (text.size() > kLongestText_bytes || !is_plain_text(text)) text = cut_short(text, kLongestText_bytes);
}

// With their numbers; whatever the file calls them goes through the gate for strangers' texts.
std::vector<Body> taken_in(std::vector<Body> bodies) {
  for (size_t i = 0; i < bodies.size(); ++i) {
    if (bodies[i].delivered < 0) bodies[i].delivered = static_cast<int>(i);
    make_plain(bodies[i].name);
    for (std::string& assembly : bodies[i].path) make_plain(assembly);
  }
  return bodies;
}

std::vector<SourceInfo> taken_in(std::vector<SourceInfo> sources) {
  for (SourceInfo& source : sources) {
    for (std::string* text :
         {&source.file_name, &source.format, &source.schema, &source.unit_name, &source.sha256})
      make_plain(*text);
    for (std::string& warning : source.warnings) make_plain(warning);
  }
  return sources;
}

std::vector<TopoDS_Shape> shapes_of(const std::vector<Body>& bodies) {
  std::vector<TopoDS_Shape> shapes;
  shapes.reserve(bodies.size());
  for (const Body& body : bodies) shapes.push_back(body.shape);
  return shapes;
}

}  // namespace

TopoDS_Compound compound_of(const std::vector<Body>& bodies) {
  return compound_of(shapes_of(bodies));
}

const char* body_kind_name(BodyKind kind) {
  switch (kind) {
    case BodyKind::kSolid:
      return "solid";
    case BodyKind::kShell:
      return "shell";
    case BodyKind::kMesh:
      return "mesh";
  }
  return "shell";
}

Part::Part(SourceInfo source, std::vector<Body> bodies)
    : Part(std::vector<SourceInfo>{std::move(source)}, std::move(bodies)) {}

Part::Part(std::vector<SourceInfo> sources, std::vector<Body> bodies, const std::vector<GeometryPtr>& donors)
    : sources_(taken_in(std::move(sources))),
      bodies_(taken_in(std::move(bodies))),
      geometry_(geometry_of(shapes_of(bodies_), donors)) {}

bool same_geometry(const PartPtr& a, const PartPtr& b) {
  if (a == b || !a || !b) return a == b;
  return a->geometry() == b->geometry() &&
         std::equal(a->bodies().begin(), a->bodies().end(), b->bodies().begin(), b->bodies().end(),
                    [](const Body& x, const Body& y) {
                      return x.delivered == y.delivered && same_motion(x.arranged, y.arranged);
                    });
}

bool is_all_mesh(const Part& part) {
  return std::all_of(part.bodies().begin(), part.bodies().end(),
                     [](const Body& body) { return body.kind == BodyKind::kMesh; });
}

bool same_motion(const gp_Trsf& a, const gp_Trsf& b) {
  return rows_of(a) == rows_of(b);
}

PartPtr arranged_part(const PartPtr& part, const std::vector<gp_Trsf>& motions) {
  const bool any = std::any_of(motions.begin(), motions.end(),
                               [](const gp_Trsf& m) { return !same_motion(m, gp_Trsf()); });
  if (!part || !any) return part;
  std::vector<Body> bodies = part->bodies();
  for (size_t i = 0; i < bodies.size() && i < motions.size(); ++i) {
    bodies[i].shape = bodies[i].shape.Moved(TopLoc_Location(motions[i]));
    bodies[i].arranged = motions[i];
  }
  return std::make_shared<const Part>(part->sources(), std::move(bodies), std::vector{part->geometry()});
}

}  // namespace anvil
