// Units of a STEP model that are defined by other units, which are defined by others. Internal to
// core/exchange.
#pragma once

#include <StepData_StepModel.hxx>
#include <optional>
#include <string>
#include <vector>

namespace anvil {

// The kernel follows such a definition one step only: FOOT = 12 INCH, INCH = 25.4 mm came as 12 mm. Every
// unit is defined by an SI unit afterwards. Returns a sentence, with the instance, for each that cannot be:
// one that is defined by itself, or as nothing, or less, of another.
std::vector<std::string> resolve_units(const StepData_StepModel& model);

// mm in the unit of length of a context of representations; nothing where it names none. To be asked after
// resolve_units().
std::optional<double> length_unit_mm(const Handle(Standard_Transient) & context);

// mm in the unit of length that the model's shapes are in; nothing where it names none, or several.
std::optional<double> length_unit_mm(const StepData_StepModel& model);

}  // namespace anvil
