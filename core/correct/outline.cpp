#include "correct/outline.h"

#include <fmt/format.h>

#include <BOPAlgo_Tools.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>

#include "correct/face_check.h"
#include "geom/guard.h"
#include "part/face_info.h"
#include "part/measure.h"

namespace anvil {
namespace {

constexpr double kLeastHeight_mm = 1e-6;

// An end of a line on which no other begins.
std::optional<gp_Pnt> loose_end(const std::vector<TopoDS_Edge>& lines) {
  constexpr double kMeet_mm = 1e-4;
  std::vector<gp_Pnt> ends;
  for (const TopoDS_Edge& line : lines) {
    TopoDS_Vertex first, last;
    TopExp::Vertices(line, first, last);
    if (first.IsNull() || last.IsNull() || first.IsSame(last)) continue;
    ends.push_back(BRep_Tool::Pnt(first));
    ends.push_back(BRep_Tool::Pnt(last));
  }
  for (const gp_Pnt& end : ends)
    if (std::count_if(ends.begin(), ends.end(),
                      [&](const gp_Pnt& other) { return other.Distance(end) < kMeet_mm; }) < 2)
      return end;
  return std::nullopt;
}

// Some place inside the face.
gp_Pnt inside(const TopoDS_Face& face) {
  const gp_Pnt middle = area_properties(face).centroid;
  if (BRepClass_FaceClassifier(face, middle, 1e-7).State() == TopAbs_IN) return middle;
  return place_inside(face).value_or(middle);
}

bool encloses(const TopoDS_Face& outer, const TopoDS_Face& inner) {
  return BRepClass_FaceClassifier(filled(outer), inside(inner), 1e-7).State() == TopAbs_IN;
}

// Every second one from outside in is material.
std::vector<TopoDS_Face> alternate(const std::vector<TopoDS_Face>& faces) {
  std::vector<TopoDS_Face> kept;
  for (const TopoDS_Face& face : faces) {
    const auto around = std::count_if(faces.begin(), faces.end(), [&](const TopoDS_Face& other) {
      return !other.IsSame(face) && encloses(other, face);
    });
    if (around % 2 == 0) kept.push_back(face);
  }
  return kept;
}

Result<TopoDS_Shape> drafted(const TopoDS_Shape& prism, const gp_Dir& away, const gp_Pln& neutral,
                             double draft_rad) {
  BRepOffsetAPI_DraftAngle draft(prism);
  for (TopExp_Explorer faces(prism, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face& face = TopoDS::Face(faces.Current());
    const Surface surface = recognise_surface(face);
    const bool is_end =
        surface.kind == SurfaceKind::kPlane && surface.position.Direction().IsParallel(away, 1e-6);
    if (!is_end) draft.Add(face, away, draft_rad, neutral);
    if (!draft.AddDone())
      return refuse(RefusalCode::kGeometry, "a side of the outline takes no draft: try none");
  }
  draft.Build();
  if (!draft.IsDone() || !BRepCheck_Analyzer(draft.Shape()).IsValid())
    return refuse(RefusalCode::kGeometry,
                  "the draft leaves nothing of the outline at that height: less draft, or less height");
  return draft.Shape();
}

Result<TopoDS_Shape> prism(const TopoDS_Face& area, const gp_Dir& normal, double from_mm, double to_mm,
                           double draft_rad, const gp_Pln& neutral) {
  gp_Trsf level;
  level.SetTranslation(gp_Vec(normal) * from_mm);
  const TopoDS_Shape plain =
      BRepPrimAPI_MakePrism(area.Moved(TopLoc_Location(level)), gp_Vec(normal) * (to_mm - from_mm)).Shape();
  if (std::abs(draft_rad) < 1e-9) return plain;
  return drafted(plain, to_mm > from_mm ? normal : normal.Reversed(), neutral, draft_rad);
}

TopoDS_Shape only_solid(const TopoDS_Shape& shape) {
  TopExp_Explorer solids(shape, TopAbs_SOLID);
  return solids.More() ? solids.Current() : shape;
}

}  // namespace

Result<std::vector<TopoDS_Face>> areas_within(const std::vector<TopoDS_Edge>& lines) {
  return guarded("finding what the lines enclose", [&]() -> Result<std::vector<TopoDS_Face>> {
    BRep_Builder builder;
    TopoDS_Compound all;
    builder.MakeCompound(all);
    for (const TopoDS_Edge& line : lines) builder.Add(all, line);
    TopoDS_Shape wires, found;
    const bool made =
        BOPAlgo_Tools::EdgesToWires(all, wires) == 0 && BOPAlgo_Tools::WiresToFaces(wires, found);
    std::vector<TopoDS_Face> faces;
    for (TopExp_Explorer it(found, TopAbs_FACE); made && it.More(); it.Next()) {
      TopoDS_Face face = TopoDS::Face(it.Current());
      const Surface surface = recognise_surface(face);
      const bool in_one_plane =
          surface.kind == SurfaceKind::kPlane &&
          (faces.empty() || same_surface(recognise_surface(faces.front()), surface, 1e-6, 1e-6) ||
           same_surface(recognise_surface(TopoDS::Face(faces.front().Reversed())), surface, 1e-6, 1e-6));
      if (!in_one_plane) return refuse(RefusalCode::kGeometry, "the lines do not lie in one plane");
      faces.push_back(face);
    }
    if (!faces.empty()) return alternate(faces);
    const auto end = loose_end(lines);
    return refuse(RefusalCode::kGeometry,
                  end ? fmt::format("the lines enclose nothing: one ends alone at X {:.3f} Y {:.3f} Z {:.3f}",
                                    end->X(), end->Y(), end->Z())
                      : std::string("the lines enclose nothing"));
  });
}

TopoDS_Face filled(const TopoDS_Face& area) {
  const TopoDS_Face forward = TopoDS::Face(area.Oriented(TopAbs_FORWARD));
  TopoDS_Shape bare = forward.EmptyCopied();
  BRep_Builder().Add(bare, BRepTools::OuterWire(forward));
  return TopoDS::Face(bare.Oriented(area.Orientation()));
}

Result<TopoDS_Shape> raised(const TopoDS_Face& area, const gp_Dir& normal, double from_mm, double to_mm,
                            double draft_rad) {
  if (std::abs(to_mm - from_mm) < kLeastHeight_mm)
    return refuse(RefusalCode::kBadInput, "a height above zero is wanted");
  return guarded("raising the outline", [&]() -> Result<TopoDS_Shape> {
    const gp_Pln neutral(inside(area), normal);
    if (std::abs(draft_rad) < 1e-9 || from_mm * to_mm >= 0) {
      const bool upwards = std::abs(to_mm) >= std::abs(from_mm);
      return prism(area, normal, upwards ? from_mm : to_mm, upwards ? to_mm : from_mm, draft_rad, neutral);
    }
    const auto up = prism(area, normal, 0, to_mm, draft_rad, neutral),
               down = prism(area, normal, 0, from_mm, draft_rad, neutral);
    if (!up) return refuse(up);
    if (!down) return refuse(down);
    BRepAlgoAPI_Fuse both(*up, *down);
    if (!both.IsDone() || both.HasErrors())
      return refuse(RefusalCode::kGeometry, "the two halves cannot be joined: draft one side alone");
    return only_solid(both.Shape());
  });
}

Result<TopoDS_Shape> raised_to(const TopoDS_Face& area, const gp_Dir& normal, const TopoDS_Face& end,
                               double reach_mm, double draft_rad) {
  const gp_Pnt from = inside(area);
  const auto height = [&](const gp_Pnt& point) { return gp_Vec(from, point).Dot(gp_Vec(normal)); };
  const bool upwards = height(area_properties(end).centroid) > 0;
  const auto whole = raised(area, normal, 0, upwards ? reach_mm : -reach_mm, draft_rad);
  if (!whole) return refuse(whole);
  return guarded("ending at the face", [&]() -> Result<TopoDS_Shape> {
    BRepAlgoAPI_Splitter split;
    TopTools_ListOfShape solids, tools;
    solids.Append(*whole);
    tools.Append(end);
    split.SetArguments(solids);
    split.SetTools(tools);
    split.Build();
    std::vector<TopoDS_Shape> pieces;
    for (TopExp_Explorer it(split.Shape(), TopAbs_SOLID); it.More(); it.Next())
      pieces.push_back(it.Current());
    if (pieces.size() != 2)
      return refuse(RefusalCode::kGeometry, pieces.size() < 2
                                                ? "where it is to end does not reach over the whole outline"
                                                : "where it is to end crosses what is raised more than once");
    const auto level = [&](const TopoDS_Shape& piece) {
      return std::abs(height(volume_properties(piece).centroid));
    };
    return level(pieces[0]) < level(pieces[1]) ? pieces[0] : pieces[1];
  });
}

}  // namespace anvil
