// Handles by which the numbers of what is being made are dragged: where they are held and which way they go.
#pragma once

#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>
#include <string>
#include <vector>

#include "construct/solve.h"

namespace anvil {

// A place of the solution that moves with a number. Numbers are mm, radians or plain.
struct NumberHandle {
  std::string parameter;
  Quantity quantity = Quantity::kLength;
  double value = 0;
  gp_Pnt at;
  gp_Vec per_unit;            // how `at` moves when the number grows, mm per unit
  bool shares_place = false;  // others start there too: each is held a little along its own way

  // Where it is held; `arm_mm` is that little way.
  [[nodiscard]] gp_Pnt knob(double arm_mm) const {
    return shares_place ? at.Translated(per_unit.Normalized() * arm_mm) : at;
  }
};

// One for each number that moves something, found by solving once more with the number a little larger:
// `solve` with other parameters. `now` is the solution they are held on; numbers that are seldom wanted have
// one with `asides`.
struct Dragging {
  const Construction& construction;
  const ParameterTexts& parameters;
  Unit unit = Unit::kMillimetre;
  const Names& names;
  bool asides = false;
};
std::vector<NumberHandle> handles_of(const Dragging& what, const Solution& now,
                                     const std::function<Solutions(const ParameterTexts&)>& solve);

// Of the place that moves most between two values of a datum; nothing when none does or they are of other
// kinds.
std::optional<std::pair<gp_Pnt, gp_Vec>> moving_place(const DatumValue& before, const DatumValue& after);

// The nearest multiple of the smallest of …, 0.1, 0.2, 0.5, 1, 2, 5, 10, … that is no less than `step`.
double rounded_to_step(double value, double step);

// Where a dragged angle stops: at one of `special` (lined up with a pick), a quarter turn, a multiple of 15,
// a whole degree, or else as rounded_to_step(). All in degrees.
double snapped_degrees(double value, double step, const std::vector<double>& special);

// As it is typed in the display's unit: "12.5mm", "30".
std::string handle_text(const NumberHandle& handle, double value, const Display& display);

}  // namespace anvil
