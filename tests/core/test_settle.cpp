// What is written and read again comes back with the very same numbers, to the last digit and the sign of
// zero.
#include "part/settle.h"

#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BinTools.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <random>
#include <sstream>

#include "demo/shapes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

std::string written(const TopoDS_Shape& shape) {
  std::ostringstream out;
  BinTools::Write(shape, out);
  return out.str();
}

std::string written_again(const std::string& bytes) {
  std::istringstream in(bytes);
  TopoDS_Shape shape;
  BinTools::Read(shape, in);
  return written(shape);
}

// Curves and surfaces, without what lies on them.
std::string geometry_in(const std::string& bytes) {
  return bytes.substr(0, bytes.find("TShapes"));
}

TEST(Settle, SignsOfZerosCount) {
  for (const bool left_handed : {false, true}) {
    gp_Ax3 at(gp_Pnt(27.1, 20.3, 20), gp_Dir(-0.0, -0.0, 1), gp_Dir(-1, -0.0, -0.0));
    if (left_handed) at.YReverse();
    const TopoDS_Face face =
        BRepBuilderAPI_MakeFace(Handle(Geom_Surface)(new Geom_CylindricalSurface(at, 5)), 0, 6, 0, 10, 1e-7);
    settle(face);
    const std::string bytes = written(face);
    EXPECT_TRUE(geometry_in(written_again(bytes)) == geometry_in(bytes)) << left_handed;
  }
}

TEST(Settle, TurnedPartsComeBackAsTheyWere) {
  const unsigned seed = std::random_device()();
  std::mt19937 random(seed);
  std::uniform_real_distribution<> number(-1, 1);
  const TopoDS_Shape part = demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                      {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)});
  for (int i = 0; i < 50; ++i) {
    gp_Trsf turn;
    turn.SetRotation(gp_Ax1(gp_Pnt(number(random), 2, 3), gp_Dir(number(random), number(random), 1.5)),
                     number(random));
    const TopoDS_Shape turned = BRepBuilderAPI_Transform(part, turn, true).Shape();
    settle(turned);
    const std::string bytes = written(turned);
    ASSERT_TRUE(geometry_in(written_again(bytes)) == geometry_in(bytes)) << "seed " << seed;
  }
}

}  // namespace
}  // namespace anvil
