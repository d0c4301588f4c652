// Bodies raised from drawings, bodies of their own, faces laid, corrections repeated: against the same part
// built directly.
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeWedge.hxx>
#include <gp_Elips.hxx>

#include "geom/primitives.h"
#include "support/correction_case.h"

namespace anvil::test {
namespace {

const gp_Dir kUp(0, 0, 1);

Reference entry(int id) {
  return {EntryReference{id}, {}};
}

// Drawn on the top of the plain block, from its corner at zero along X.
Reference rectangle(Mending& m, const char* x, const char* y, const char* width, const char* height) {
  return entry(m.keep("figure.rectangle", {m.face({40, 20, 20}), m.vertex({0, 0, 20}), Mending::reading()},
                      {{"x", x}, {"y", y}, {"width", width}, {"height", height}, {"from", "corner"}}));
}

Reference circle(Mending& m, const char* diameter) {
  return entry(m.keep("figure.circle", {m.face({40, 20, 20}), m.vertex({0, 0, 20}), Mending::reading()},
                      {{"x", "40"}, {"y", "20"}, {"diameter", diameter}}));
}

Reference plane_over(Mending& m, const gp_Pnt& face, const char* distance) {
  return entry(m.keep("plane.offset", {m.face(face)}, {{"distance", distance}}));
}

TopoDS_Shape both(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  return compound_of(std::vector<TopoDS_Shape>{a, b});
}

TopoDS_Shape ball(const gp_Pnt& at, double diameter) {
  return BRepPrimAPI_MakeSphere(at, diameter / 2).Shape();
}

// Its longer radius along Y.
TopoDS_Shape elliptic_rod(const gp_Pnt& at, double along_y, double along_x, double height) {
  const gp_Elips outline(gp_Ax2(at, kUp, gp_Dir(0, 1, 0)), along_y, along_x);
  const TopoDS_Wire wire = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(outline).Edge());
  return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire).Face(), gp_Vec(kUp) * height).Shape();
}

// On the top, 20 x 10 at the bottom, its four sides leaning in by 10 degrees.
TopoDS_Shape leaning(double height) {
  const double in = height * std::tan(10 * kPi / 180);
  return BRepPrimAPI_MakeWedge(gp_Ax2(gp_Pnt(0, 10, 20), gp_Dir(0, -1, 0), gp_Dir(1, 0, 0)), 20, height, 10,
                               in, in, 20 - in, 10 - in)
      .Shape();
}

// A block of 20 whose side at high X leans inward by one in two.
TopoDS_Shape wedge() {
  return BRepPrimAPI_MakeWedge(gp_Ax2(gp_Pnt(0, 40, 0), gp_Dir(0, -1, 0), gp_Dir(1, 0, 0)), 80, 20, 40, 0, 0,
                               70, 40)
      .Shape();
}

Reference cylinder_at_zero(Mending& m) {
  return entry(m.keep("correct.body-cylinder", {Mending::reading(), m.face({40, 20, 20})},
                      {{"diameter", "10"}, {"height", "30"}, {"how", "cut away"}}));
}

TopoDS_Shape without_rod(const TopoDS_Shape& from, double x, double y) {
  return cut(from, {rod(gp_Ax2(gp_Pnt(x, y, -1), kUp), 10, 30)});
}

std::vector<CorrectionCase> raised() {
  const TopoDS_Shape on_top = block({10, 5, 20}, {30, 15, 25});
  return {
      {"a drawn rectangle raised",
       plain(),
       "correct.raise",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20}), rectangle(m, "10", "5", "20", "10")};
       },
       {{"height", "5"}},
       join(plain(), {on_top})},
      {"a drawn circle cut through everything",
       plain(),
       "correct.raise",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20}), circle(m, "12")};
       },
       {{"how", "cut away"}, {"ways", "through everything"}},
       drilled(plain(), {40, 20, 20}, 12, 20)},
      {"four drawn lines, of a figure each",
       plain(),
       "correct.raise",
       [](Mending& m) {
         const auto line = [&](const char* x, const char* y, const char* length, const char* turn) {
           return entry(m.keep("figure.line",
                               {m.face({40, 20, 20}), m.vertex({0, 0, 20}), Mending::reading()},
                               {{"x", x}, {"y", y}, {"length", length}, {"turn", turn}}));
         };
         return Picks{m.face({40, 20, 20}), line("10", "5", "20", "0"), line("30", "5", "10", "90"),
                      line("30", "15", "20", "180"), line("10", "15", "10", "-90")};
       },
       {{"height", "5"}},
       join(plain(), {on_top})},
      {"a drawn ellipse",
       plain(),
       "correct.raise",
       [](Mending& m) {
         return Picks{
             m.face({40, 20, 20}),
             entry(m.keep("figure.ellipse", {m.face({40, 20, 20}), m.vertex({0, 0, 20}), Mending::reading()},
                          {{"x", "40"}, {"y", "20"}, {"length", "12"}, {"width", "20"}}))};
       },
       {{"how", "cut away"}, {"ways", "against the normal"}, {"height", "6"}},
       cut(plain(), {elliptic_rod({40, 20, 14}, 10, 6, 8)})},
      {"both ways, by two heights",
       plain(),
       "correct.raise",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20}), rectangle(m, "10", "5", "20", "10")};
       },
       {{"how", "cut away"}, {"ways", "both ways"}, {"height", "3"}, {"other", "6"}},
       cut(plain(), {block({10, 5, 14}, {30, 15, 25})})},
      {"with draft",
       plain(),
       "correct.raise",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20}), rectangle(m, "0", "0", "20", "10")};
       },
       {{"height", "5"}, {"draft", "10"}},
       join(plain(), {leaning(5)})},
      {"up to a plane",
       plain(),
       "correct.raise-to",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20}), plane_over(m, {40, 20, 20}, "5"),
                      rectangle(m, "10", "5", "20", "10")};
       },
       {},
       join(plain(), {on_top})},
      {"cut up to a leaning side",
       wedge(),
       "correct.raise-to",
       [](Mending& m) {
         const Reference under =
             entry(m.keep("figure.rectangle", {m.face({40, 20, 0}), m.vertex({0, 0, 0}), Mending::reading()},
                          {{"x", "72"}, {"y", "-20"}, {"width", "6"}, {"height", "10"}, {"from", "corner"}}));
         return Picks{m.face({20, 20, 20}), m.face({75, 20, 10}), under};
       },
       {{"how", "cut away"}},
       cut(wedge(), {block({72, 10, -1}, {78, 20, 20})})},
  };
}

std::vector<CorrectionCase> own_bodies() {
  const TopoDS_Shape cube = block({0, 0, 0}, {20, 20, 20}), pin = rod(gp_Ax2(gp_Pnt(0, 0, 0), kUp), 8, 12);
  const double ball_mm3 = kPi * 1000 / 6;
  return {
      {"a block of its own",
       plain(),
       "correct.own-block",
       [](Mending&) { return Picks{Mending::reading()}; },
       {{"x", "20"}, {"y", "20"}, {"z", "20"}, {"zero", "its corner"}},
       both(plain(), cube),
       {},
       8000},
      {"a cylinder of its own",
       plain(),
       "correct.own-cylinder",
       [](Mending&) { return Picks{Mending::reading()}; },
       {{"diameter", "8"}, {"height", "12"}},
       both(plain(), pin),
       {},
       kPi * 16 * 12},
      {"a ball of its own",
       plain(),
       "correct.own-ball",
       [](Mending& m) {
         return Picks{m.vertex({80, 40, 20})};
       },
       {{"diameter", "10"}},
       both(plain(), ball({80, 40, 20}, 10)),
       {},
       ball_mm3},
      {"a body of its own on the outline of a face",
       plain(),
       "correct.own-raise",
       [](Mending& m) {
         return Picks{m.face({40, 20, 20})};
       },
       {{"height", "10"}},
       both(plain(), block({0, 0, 20}, {80, 40, 30})),
       {},
       32000},
      {"up to a plane, a body of its own",
       plain(),
       "correct.own-raise-to",
       [](Mending& m) {
         return Picks{plane_over(m, {40, 20, 20}, "7"), m.face({40, 20, 20})};
       },
       {},
       both(plain(), block({0, 0, 20}, {80, 40, 27})),
       {},
       22400},
  };
}

TopoDS_Shape with_holes(const std::vector<gp_Pnt>& at) {
  TopoDS_Shape shape = plain();
  for (const gp_Pnt& place : at) shape = drilled(shape, place, 6, 20);
  return shape;
}

// A rib of that width on the top, across it, from X 40.
TopoDS_Shape ribbed(double half_width) {
  return join(plain(), {block({40 - half_width, 0, 20}, {40 + half_width, 40, 30})});
}

std::vector<CorrectionCase> arranged() {
  const double far = 12 * std::sqrt(0.5);
  return {
      {"a row spaced evenly",
       with_holes({{10, 20, 20}, {25, 20.5, 20}, {70, 20, 20}}),
       "correct.even-row",
       [](Mending& m) {
         return Picks{m.bore({13, 20, 10}), m.bore({28, 20.5, 10}), m.bore({73, 20, 10})};
       },
       {},
       with_holes({{10, 20, 20}, {40, 20, 20}, {70, 20, 20}})},
      {"onto a circle around a hole",
       drilled(with_holes({{52, 20, 20}, {40, 31, 20}, {40 - far, 20 - far, 20}}), {40, 20, 20}, 10, 20),
       "correct.on-circle",
       [far](Mending& m) {
         return Picks{m.bore({45, 20, 10}), m.bore({55, 20, 10}), m.bore({43, 31, 10}),
                      m.bore({43 - far, 20 - far, 10})};
       },
       {{"diameter", "24"}},
       drilled(with_holes({{52, 20, 20}, {40, 32, 20}, {40 - far, 20 - far, 20}}), {40, 20, 20}, 10, 20)},
      {"onto a grid",
       with_holes({{10, 10, 20}, {40, 10, 20}, {10.4, 30, 20}, {39, 29.5, 20}}),
       "correct.on-grid",
       [](Mending& m) {
         return Picks{m.bore({13, 10, 10}), m.bore({43, 10, 10}), m.bore({13.4, 30, 10}),
                      m.bore({42, 29.5, 10})};
       },
       {{"along", "30"}, {"across", "20"}},
       with_holes({{10, 10, 20}, {40, 10, 20}, {10, 30, 20}, {40, 30, 20}})},
      {"a rib pushed with its mirror image",
       ribbed(3),
       "correct.face-push-mirrored",
       [](Mending& m) {
         return Picks{entry(m.middle), m.face({43, 20, 25})};
       },
       {{"distance", "2"}},
       ribbed(5)},
      {"a wall of a pocket pushed with its corners",
       cut(plain(), {pocket(gp_Ax2(gp_Pnt(40, 20, 20), kUp), small_pocket())}),
       "correct.face-push",
       [](Mending& m) {
         return Picks{m.face({50, 20, 16})};
       },
       {{"distance", "-4"}, {"with", "the roundings beside it too"}},
       cut(plain(), {pocket(gp_Ax2(gp_Pnt(42, 20, 20), kUp), {24, 14, 8, {3, 3, 3, 3}})})},
      {"a wall of a pocket pushed while its corners stay",
       cut(plain(), {pocket(gp_Ax2(gp_Pnt(40, 20, 20), kUp), small_pocket())}),
       "correct.face-push",
       [](Mending& m) {
         return Picks{m.face({50, 20, 16})};
       },
       {{"distance", "-4"}, {"with", "this alone, with walls beside it"}},
       cut(plain(),
           {pocket(gp_Ax2(gp_Pnt(40, 20, 20), kUp), small_pocket()), block({50, 16, 12}, {54, 24, 20})})},
      {"a blind hole travels with the face it stands in",
       drilled(plain(), {30, 20, 20}, 6, 8),
       "correct.face-push",
       [](Mending& m) {
         return Picks{m.face({40, 5, 20})};
       },
       {{"distance", "5"}, {"with", "what stands in it too"}},
       drilled(block({0, 0, 0}, {80, 40, 25}), {30, 20, 25}, 6, 8)},
      {"a blind hole stays where its face goes",
       drilled(plain(), {30, 20, 20}, 6, 8),
       "correct.face-push",
       [](Mending& m) {
         return Picks{m.face({40, 5, 20})};
       },
       {{"distance", "5"}},
       drilled(block({0, 0, 0}, {80, 40, 25}), {30, 20, 25}, 6, 13)},
  };
}

std::vector<CorrectionCase> laid_and_repeated() {
  const TopoDS_Shape boss = join(plain(), {rod(gp_Ax2(gp_Pnt(60, 20, 20), kUp), 16, 6)});
  const TopoDS_Shape first = without_rod(plain(), 0, 0);
  const gp_Pnt corner(80, 40, 20), opposite(0, 40, 20);
  const TopoDS_Shape without_ball = cut(plain(), {ball(corner, 12)});
  return {
      {"a boss laid up to a plane",
       boss,
       "correct.face-onto",
       [](Mending& m) {
         return Picks{plane_over(m, {40, 20, 20}, "9"), m.face({60, 20, 26})};
       },
       {},
       join(plain(), {rod(gp_Ax2(gp_Pnt(60, 20, 20), kUp), 16, 9)})},
      {"a leaning side laid upright",
       wedge(),
       "correct.face-onto",
       [](Mending& m) {
         return Picks{plane_over(m, {0, 20, 10}, "-80"), m.face({75, 20, 10})};
       },
       {},
       plain()},
      {"down to a plane, at a drawn point",
       plain(),
       "correct.add-down-to",
       [](Mending& m) {
         const Reference point =
             entry(m.keep("figure.point", {m.face({40, 20, 20}), m.vertex({0, 0, 20}), Mending::reading()},
                          {{"x", "30"}, {"y", "15"}}));
         return Picks{m.face({40, 20, 20}), plane_over(m, {40, 20, 20}, "-8"), point};
       },
       {{"diameter", "5"}, {"tip", "flat"}},
       drilled(plain(), {30, 15, 20}, 5, 8)},
      {"a cut repeated along an edge",
       plain(),
       "correct.again-along",
       [](Mending& m) {
         return Picks{m.edge({40, 0, 20}), cylinder_at_zero(m)};
       },
       {{"places", "3"}, {"length", "25"}},
       without_rod(without_rod(first, 25, 0), 50, 0),
       first},
      {"a cut repeated about an axis, one skipped",
       plain(),
       "correct.again-about",
       [](Mending& m) {
         const Reference axis =
             entry(m.keep("axis.typed", {Mending::reading()}, {{"x1", "20"}, {"x2", "20"}}));
         return Picks{axis, cylinder_at_zero(m)};
       },
       {{"places", "4"}, {"skip", "2"}},
       without_rod(without_rod(first, 40, 0), 20, 20),
       first},
      {"a cut mirrored",
       plain(),
       "correct.again-mirrored",
       [](Mending& m) {
         const int cut_ball = m.keep("correct.body-ball", {m.vertex({80, 40, 20}), m.face({40, 20, 20})},
                                     {{"diameter", "12"}, {"how", "cut away"}});
         return Picks{entry(m.middle), entry(cut_ball)};
       },
       {},
       cut(without_ball, {ball(opposite, 12)}),
       without_ball},
  };
}

}  // namespace

std::vector<CorrectionCase> cases_of_raised_and_repeated() {
  std::vector<CorrectionCase> all = raised();
  for (auto more : {own_bodies(), laid_and_repeated(), arranged()})
    for (CorrectionCase& c : more) all.push_back(std::move(c));
  return all;
}

}  // namespace anvil::test
