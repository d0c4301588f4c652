// What a report of corners comes to, in the few numbers that are shown wherever somebody asks for them: over
// the view, in the first look, in tables, on sheets and on the command line. All of them take it from here.
#pragma once

#include "base/units.h"
#include "inspect/corners.h"

namespace anvil {

struct CornerSummary {
  std::optional<double> smallest_radius_mm;  // of wall corners that are not sharp and can be reached
  bool approximate = false;                  // it is one of free form
  int sharp = 0;                             // wall corners that no cutter makes
  std::optional<double> largest_cutter_mm;   // diameter
  std::string largest_cutter_why;            // what limits it, or why there is none: never empty
  std::optional<Narrow> narrowest;
  size_t not_judged = 0;  // faces
  std::string reservations;
  std::vector<int> faces;  // of the smallest corner
};

// `faces`: how many the part has.
CornerSummary summary_of(const CornerReport& report, size_t faces);

// "smallest corner R 1.500 · 2 sharp"
std::string corner_text(const CornerSummary& summary, const Display& display);
// "largest cutter Ø 3.000 (corner C1)", "no largest cutter: nothing limits it"
std::string largest_cutter_text(const CornerSummary& summary, const Display& display);

// Fills what is told of all corners and pockets of a report together.
void sum_up(CornerReport& report, bool is_mesh);

}  // namespace anvil
