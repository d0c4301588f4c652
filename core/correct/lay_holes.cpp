#include "correct/lay_holes.h"

#include <BRepBndLib.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <map>

#include "correct/retrim.h"
#include "geom/guard.h"
#include "part/face_info.h"

namespace anvil {
namespace {

// What is farther apart than this does not meet.
constexpr double kApart_mm = 1e-6;
// Beyond so many faces around one hole a Boolean is as quick.
constexpr size_t kMostAround = 60;

struct BoxedFace {
  TopoDS_Face face;
  Bnd_Box box;
  int shell = 0;
};

std::vector<BoxedFace> faces_of(const TopoDS_Shape& body) {
  std::vector<BoxedFace> all;
  int shell = 0;
  for (TopExp_Explorer shells(body, TopAbs_SHELL); shells.More(); shells.Next(), ++shell)
    for (TopExp_Explorer faces(shells.Current(), TopAbs_FACE); faces.More(); faces.Next()) {
      BoxedFace& boxed = all.emplace_back(BoxedFace{TopoDS::Face(faces.Current()), {}, shell});
      BRepBndLib::Add(boxed.face, boxed.box, true);
      boxed.box.Enlarge(kApart_mm);
    }
  return all;
}

Bnd_Box box_of(const TopoDS_Shape& shape) {
  Bnd_Box box;
  BRepBndLib::Add(shape, box, false);
  box.Enlarge(kApart_mm);
  return box;
}

bool apart(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  const BRepExtrema_DistShapeShape distance(a, b);
  return distance.IsDone() && distance.Value() > kApart_mm;
}

// A flat face square to `out`, which points out of it, at that place.
bool is_flat_at(const TopoDS_Face& face, const gp_Pnt& at, const gp_Dir& out) {
  const Surface surface = recognise_surface(face);
  return surface.kind == SurfaceKind::kPlane && !surface.recognised &&
         surface.position.Direction().IsEqual(out, 1e-9) &&
         std::abs(gp_Vec(surface.position.Location(), at).Dot(gp_Vec(out))) <= kMeets_mm;
}

// Whether the disc lies inside the face, clear of its border.
bool holds(const TopoDS_Face& face, const TopoDS_Face& disc, const gp_Pnt& middle) {
  if (BRepClass_FaceClassifier(face, middle, kApart_mm).State() != TopAbs_IN) return false;
  const Bnd_Box box = box_of(disc);
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    if (!box_of(edges.Current()).IsOut(box) && !apart(edges.Current(), disc)) return false;
  return true;
}

struct Mouth {
  TopoDS_Face disc;  // of the tool, its normal out of the body
  gp_Pnt middle;
  gp_Dir out;
};

std::vector<Mouth> mouths_of(const HoleToLay& hole) {
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(hole.tool.solid, TopAbs_FACE, faces);
  const gp_Dir out = hole.at.Direction();
  const gp_Pnt top = hole.at.Location(), end = top.Translated(gp_Vec(out) * -hole.depth_mm);
  std::vector<Mouth> mouths;
  for (int i = 1; i <= faces.Extent(); ++i) {
    if (hole.tool.step_of_face[i - 1].step >= 0) continue;
    const TopoDS_Face& disc = TopoDS::Face(faces(i));
    if (is_flat_at(disc, top, out)) mouths.push_back({disc, top, out});
    if (hole.through && is_flat_at(disc, end, out.Reversed())) mouths.push_back({disc, end, out.Reversed()});
  }
  return mouths;
}

// The faces, by their place in the body, that the mouths lie in; nothing where something is in the way.
std::optional<std::vector<size_t>> hosts_of(const HoleToLay& hole, const std::vector<Mouth>& mouths,
                                            const std::vector<BoxedFace>& faces) {
  const Bnd_Box box = box_of(hole.tool.solid);
  std::vector<size_t> near;
  for (size_t i = 0; i < faces.size(); ++i)
    if (!faces[i].box.IsOut(box)) near.push_back(i);
  if (near.size() > kMostAround) return std::nullopt;
  std::vector<size_t> hosts;
  for (const Mouth& mouth : mouths)
    for (const size_t i : near)
      if (is_flat_at(faces[i].face, mouth.middle, mouth.out) &&
          holds(faces[i].face, mouth.disc, mouth.middle))
        hosts.push_back(i);
  if (hosts.size() != mouths.size()) return std::nullopt;
  for (const size_t i : near) {
    const bool is_host = std::find(hosts.begin(), hosts.end(), i) != hosts.end();
    if (faces[i].shell != faces[hosts.front()].shell && is_host) return std::nullopt;
    if (!is_host && !apart(faces[i].face, hole.tool.solid)) return std::nullopt;
  }
  return hosts;
}

// The outline of a disc as it bounds what is left of the face around it.
TopoDS_Wire outline_in(const TopoDS_Face& host, const TopoDS_Face& disc) {
  const TopoDS_Wire outline = BRepTools::OuterWire(TopoDS::Face(disc.Oriented(TopAbs_FORWARD)));
  // As it runs in the disc, whose outward normal is that of the face: round the other way.
  const bool turned = disc.Orientation() == host.Orientation();
  return TopoDS::Wire(turned ? outline.Reversed() : TopoDS_Shape(outline));
}

class Layer {
 public:
  Layer(const TopoDS_Shape& body, const std::vector<HoleToLay>& holes)
      : body_(body), holes_(holes), faces_(faces_of(body)) {}

  bool find_places() {
    for (size_t i = 0; i < holes_.size(); ++i) {
      mouths_.push_back(mouths_of(holes_[i]));
      if (mouths_[i].size() != (holes_[i].through ? 2U : 1U)) return false;
      const auto hosts = hosts_of(holes_[i], mouths_[i], faces_);
      if (!hosts) return false;
      hosts_.push_back(*hosts);
      const Bnd_Box box = box_of(holes_[i].tool.solid);
      for (size_t other = 0; other < i; ++other)
        if (!box_of(holes_[other].tool.solid).IsOut(box) &&
            !apart(holes_[other].tool.solid, holes_[i].tool.solid))
          return false;
    }
    return true;
  }

  Result<Combined> run() {
    BodyChange change;
    std::map<size_t, TopoDS_Face> hosts = faces_with_mouths();
    for (const auto& [place, face] : hosts) change.history->AddModified(faces_[place].face, face);
    Combined laid;
    std::map<int, std::vector<TopoDS_Face>> between;  // by shell
    for (size_t i = 0; i < holes_.size(); ++i)
      laid.faces_of_tools.push_back(
          faces_between(holes_[i], mouths_[i], between[faces_[hosts_[i].front()].shell]));
    change.shape = assembled(hosts, between);
    auto sound = judged(body_, std::move(change), Expected::kLess);
    if (!sound) return refuse(sound);
    laid.change = std::move(*sound);
    return laid;
  }

 private:
  std::map<size_t, TopoDS_Face> faces_with_mouths() const {
    const BRep_Builder builder;
    std::map<size_t, TopoDS_Face> now;
    for (size_t i = 0; i < holes_.size(); ++i)
      for (size_t m = 0; m < mouths_[i].size(); ++m) {
        const TopoDS_Face& old = faces_[hosts_[i][m]].face;
        auto& face = now[hosts_[i][m]];
        if (face.IsNull()) {
          const TopoDS_Shape forward = old.Oriented(TopAbs_FORWARD);
          face = TopoDS::Face(forward.EmptyCopied());
          for (TopoDS_Iterator wires(forward, false); wires.More(); wires.Next())
            builder.Add(face, wires.Value());
        }
        builder.Add(face, outline_in(old, mouths_[i][m].disc).Moved(old.Location().Inverted()));
      }
    for (auto& [place, face] : now) face.Orientation(faces_[place].face.Orientation());
    return now;
  }

  // The hole's own faces, turned to bound the material around it.
  static std::vector<std::vector<TopoDS_Shape>> faces_between(const HoleToLay& hole,
                                                              const std::vector<Mouth>& mouths,
                                                              std::vector<TopoDS_Face>& all) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(hole.tool.solid, TopAbs_FACE, faces);
    std::vector<std::vector<TopoDS_Shape>> now;
    for (int i = 1; i <= faces.Extent(); ++i) {
      auto& pieces = now.emplace_back();
      const bool is_mouth = std::any_of(mouths.begin(), mouths.end(),
                                        [&](const Mouth& mouth) { return mouth.disc.IsSame(faces(i)); });
      if (is_mouth) continue;
      all.push_back(TopoDS::Face(faces(i).Reversed()));
      pieces.emplace_back(all.back());
    }
    return now;
  }

  TopoDS_Shape assembled(const std::map<size_t, TopoDS_Face>& hosts,
                         const std::map<int, std::vector<TopoDS_Face>>& between) const {
    const BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    size_t place = 0;
    int number = 0;
    for (TopExp_Explorer shells(body_, TopAbs_SHELL); shells.More(); shells.Next(), ++number) {
      TopoDS_Shell shell;
      builder.MakeShell(shell);
      for (TopExp_Explorer faces(shells.Current(), TopAbs_FACE); faces.More(); faces.Next(), ++place) {
        const auto host = hosts.find(place);
        builder.Add(shell, host == hosts.end() ? faces_[place].face : host->second);
      }
      if (const auto own = between.find(number); own != between.end())
        for (const TopoDS_Face& face : own->second) builder.Add(shell, face);
      shell.Closed(true);
      builder.Add(solid, shell);
    }
    return solid;
  }

  const TopoDS_Shape& body_;
  const std::vector<HoleToLay>& holes_;
  std::vector<BoxedFace> faces_;
  std::vector<std::vector<Mouth>> mouths_;  // by hole
  std::vector<std::vector<size_t>> hosts_;  // by hole and mouth
};

}  // namespace

std::optional<Combined> with_holes_laid(const TopoDS_Shape& body, const std::vector<HoleToLay>& holes) {
  auto laid = guarded("laying holes", [&]() -> Result<Combined> {
    Layer layer(body, holes);
    if (!layer.find_places()) return refuse(RefusalCode::kGeometry, "the mouths do not lie in flat faces");
    return layer.run();
  });
  return laid ? std::optional(std::move(*laid)) : std::nullopt;
}

}  // namespace anvil
