// Picks that give one thing each, and a construction run on them.
#pragma once

#include <gtest/gtest.h>

#include "construct/registry.h"
#include "construct/solve.h"

namespace anvil::test {

inline Given point_given(const gp_Pnt& at) {
  Given g;
  g.point = at;
  g.extent = {at};
  return g;
}

inline Given plane_given(const gp_Pln& plane) {
  Given g;
  g.plane = plane;
  g.direction = plane.Axis().Direction();
  g.extent = {plane.Location()};
  return g;
}

inline Given plane_given(const gp_Pnt& at, const gp_Dir& normal) {
  return plane_given(gp_Pln(at, normal));
}

inline Given axis_given(const gp_Ax1& axis) {
  Given g;
  g.axis = axis;
  g.direction = axis.Direction();
  g.extent = {axis.Location()};
  return g;
}

inline Given axis_given(const gp_Pnt& at, const gp_Dir& along) {
  return axis_given(gp_Ax1(at, along));
}

inline Given frame_given(const gp_Ax2& frame) {
  Given g;
  g.frame = frame;
  g.point = frame.Location();
  g.extent = {frame.Location()};
  return g;
}

inline Solutions run(const char* id, const std::vector<Given>& givens,
                     const ParameterTexts& parameters = {}) {
  const Construction* construction = find_construction(id);
  EXPECT_NE(construction, nullptr) << id;
  std::vector<const Given*> picks;
  picks.reserve(givens.size());
  for (const Given& g : givens) picks.push_back(&g);
  return solve(*construction, picks, parameters, {});
}

}  // namespace anvil::test
