// Random points, directions and motions for tests, always the same ones for a seed.
#pragma once

#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>
#include <gp_Quaternion.hxx>
#include <gp_Trsf.hxx>
#include <random>

namespace anvil::test {

class Random {
 public:
  explicit Random(unsigned seed, double reach_mm = 1000) : generator_(seed), reach_(reach_mm) {}

  double between(double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(generator_);
  }
  int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(generator_); }
  gp_Pnt point() { return gp_Pnt(number(), number(), number()); }
  gp_Dir direction() {
    std::normal_distribution<double> normal;
    return gp_Dir(normal(generator_), normal(generator_), normal(generator_) + 1e-9);
  }
  gp_Ax1 axis() { return gp_Ax1(point(), direction()); }
  gp_Pln plane() { return gp_Pln(point(), direction()); }
  gp_Trsf motion() {
    gp_Trsf turn, shift;
    turn.SetRotation(axis(), between(0, 6));
    shift.SetTranslation(gp_Vec(point().XYZ()));
    return shift * turn;
  }

 private:
  double number() { return between(-reach_, reach_); }

  std::mt19937 generator_;
  double reach_;
};

}  // namespace anvil::test
