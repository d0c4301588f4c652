// Operators that scale or mirror what they place. Internal to core/exchange.
#pragma once

#include <StepData_StepModel.hxx>
#include <gp_Trsf.hxx>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "part/part.h"

namespace anvil {

// The kernel reads a CARTESIAN_TRANSFORMATION_OPERATOR_3D without its scale, and one that mirrors as one that
// turns. So each of these is given a turn of its own before anything is built, by which what it placed is
// known again among the bodies; then that turn is replaced by what the operator says (ISO 10303-42, 4.4.35
// and base_axis()).
//
//   StepOperators operators(model);    // before building
//   operators.apply(bodies);           // after it
class StepOperators {
 public:
  explicit StepOperators(const StepData_StepModel& model);

  // A sentence, with the instance, for each that cannot be: a scale of zero or below, axes in one line.
  [[nodiscard]] const std::vector<std::string>& sentences() const { return sentences_; }
  void apply(std::vector<Body>& bodies) const;

  // What an operator says, also one that neither scales nor mirrors; nothing for what is none. `mm`: in its
  // unit of length.
  [[nodiscard]] std::optional<gp_Trsf> of(const Standard_Transient* instance, double mm) const;

 private:
  struct Marked {
    gp_Mat turn;  // that the kernel reads instead
    gp_Mat said;  // scale, turn and mirror, without the place
  };
  struct Said {
    gp_Mat turn;
    gp_XYZ local_origin;  // in the file's unit
  };
  [[nodiscard]] gp_Trsf placed(const TopLoc_Location& location) const;
  [[nodiscard]] bool is_marked(const TopLoc_Location& location) const;
  [[nodiscard]] bool holds_marked(const TopoDS_Shape& shape) const;
  [[nodiscard]] TopoDS_Shape resolved(const TopoDS_Shape& shape) const;
  [[nodiscard]] std::optional<gp_Trsf> said_for(const gp_Trsf& read) const;

  std::vector<Marked> marked_;
  std::map<const Standard_Transient*, Said> said_;
  std::vector<std::string> sentences_;
};

}  // namespace anvil
