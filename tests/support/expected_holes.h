// Holes and corners against what a demo part was constructed with.
#pragma once

#include "demo/demo_part.h"
#include "inspect/corners.h"
#include "inspect/holes.h"

namespace anvil::test {

// How far what is found may lie from what was constructed.
struct Within {
  double mm = 1e-6;
  double rad = 1e-9;
};

HoleReport holes_of(const Part& part);
CornerReport corners_of(const Part& part, const gp_Dir& axis);

// The hole found where one is expected; for a hole that looks alike from both ends, from either.
const Hole* find_expected(const HoleReport& report, const demo::ExpectedHole& expected,
                          const Within& within = {});
void expect_same(const Hole& hole, const demo::ExpectedHole& expected, const Within& within = {});
// Every hole of the part, and no other but `further`.
void expect_all_holes(const Part& part, const demo::DemoPart& demo, const Within& within = {},
                      size_t further = 0);
// Every wall corner that can be reached, and no other.
void expect_wall_corners(const Part& part, const demo::DemoPart& demo, const Within& within = {});

}  // namespace anvil::test
