#include "exchange/step_units.h"

#include <fmt/format.h>

#include <StepBasic_ConversionBasedUnitAndLengthUnit.hxx>
#include <StepBasic_ConversionBasedUnitAndPlaneAngleUnit.hxx>
#include <StepBasic_HArray1OfNamedUnit.hxx>
#include <StepBasic_LengthUnit.hxx>
#include <StepBasic_MeasureWithUnit.hxx>
#include <StepBasic_NamedUnit.hxx>
#include <StepBasic_SiUnitAndLengthUnit.hxx>
#include <StepBasic_Unit.hxx>
#include <StepGeom_GeomRepContextAndGlobUnitAssCtxAndGlobUncertaintyAssCtx.hxx>
#include <StepGeom_GeometricRepresentationContextAndGlobalUnitAssignedContext.hxx>
#include <cmath>
#include <map>

namespace anvil {
namespace {

using UnitPtr = Handle(StepBasic_NamedUnit);

UnitPtr defined_by(const StepBasic_MeasureWithUnit& measure) {
  return UnitPtr::DownCast(measure.UnitComponent().Value());
}

// Makes every measure that defines a unit one of an SI unit.
class Resolver {
 public:
  explicit Resolver(const StepData_StepModel& model) : model_(model) {}

  std::vector<std::string> run() {
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const auto unit = Handle(StepBasic_ConversionBasedUnit)::DownCast(model_.Value(i));
      if (!unit.IsNull() && is_told_of(unit)) resolve(unit);
    }
    return std::move(sentences_);
  }

 private:
  static bool is_told_of(const Handle(StepBasic_ConversionBasedUnit) & unit) {
    return unit->IsKind(STANDARD_TYPE(StepBasic_ConversionBasedUnitAndLengthUnit)) ||
           unit->IsKind(STANDARD_TYPE(StepBasic_ConversionBasedUnitAndPlaneAngleUnit));
  }

  // False where it comes to no SI unit. Kept lists of what is under way find a unit that leads back to
  // itself.
  bool resolve(const Handle(StepBasic_ConversionBasedUnit) & unit) {
    const auto [at, is_new] = known_.try_emplace(unit.get(), State::kUnderWay);
    if (!is_new) {
      if (at->second == State::kUnderWay)
        tell(unit, "is defined by itself, so that nobody knows how large it is");
      return at->second == State::kGood;
    }
    const bool good = resolve_measure(unit);
    known_[unit.get()] = good ? State::kGood : State::kBad;
    return good;
  }

  bool resolve_measure(const Handle(StepBasic_ConversionBasedUnit) & unit) {
    const Handle(StepBasic_MeasureWithUnit) measure = unit->ConversionFactor();
    if (measure.IsNull() || measure->ValueComponentMember().IsNull()) return false;
    const double value = measure->ValueComponent();
    if (!(value > 0) || !std::isfinite(value)) {
      tell(unit, fmt::format("is defined as {:g} of another", value));
      return false;
    }
    const auto by = Handle(StepBasic_ConversionBasedUnit)::DownCast(defined_by(*measure));
    if (by.IsNull()) return true;
    if (!resolve(by)) return false;
    const Handle(StepBasic_MeasureWithUnit) further = by->ConversionFactor();
    measure->SetValueComponent(value * further->ValueComponent());
    measure->SetUnitComponent(further->UnitComponent());
    return true;
  }

  void tell(const Handle(StepBasic_ConversionBasedUnit) & unit, const std::string& why) {
    const std::string name = unit->Name().IsNull() ? "" : unit->Name()->ToCString();
    sentences_.push_back(fmt::format(
        "The unit {} (#{}) {}; sizes may be wrong: say which unit is meant, or ask for the file again.", name,
        model_.IdentLabel(unit), why));
  }

  enum class State { kUnderWay, kGood, kBad };
  const StepData_StepModel& model_;
  std::map<const Standard_Transient*, State> known_;
  std::vector<std::string> sentences_;
};

double metres(const StepBasic_SiUnit& unit) {
  if (!unit.HasPrefix()) return 1;
  // In the order of StepBasic_SiPrefix: exa … atto.
  constexpr int kPowers[] = {18, 15, 12, 9, 6, 3, 2, 1, -1, -2, -3, -6, -9, -12, -15, -18};
  const auto place = static_cast<size_t>(unit.Prefix());
  return place < std::size(kPowers) ? std::pow(10.0, kPowers[place]) : 1;
}

// Nothing where it is no length.
std::optional<double> mm_in(const UnitPtr& unit) {
  constexpr double kMmInMetre = 1000;
  if (const auto si = Handle(StepBasic_SiUnitAndLengthUnit)::DownCast(unit); !si.IsNull())
    return kMmInMetre * metres(*si);
  const auto converted = Handle(StepBasic_ConversionBasedUnitAndLengthUnit)::DownCast(unit);
  if (converted.IsNull() || converted->ConversionFactor().IsNull()) return std::nullopt;
  const auto si = Handle(StepBasic_SiUnit)::DownCast(defined_by(*converted->ConversionFactor()));
  if (si.IsNull()) return std::nullopt;
  return kMmInMetre * metres(*si) * converted->ConversionFactor()->ValueComponent();
}

Handle(StepBasic_HArray1OfNamedUnit) units_of(const Handle(Standard_Transient) & context) {
  if (const auto plain =
          Handle(StepGeom_GeometricRepresentationContextAndGlobalUnitAssignedContext)::DownCast(context);
      !plain.IsNull())
    return plain->Units();
  if (const auto exact =
          Handle(StepGeom_GeomRepContextAndGlobUnitAssCtxAndGlobUncertaintyAssCtx)::DownCast(context);
      !exact.IsNull())
    return exact->Units();
  return {};
}

}  // namespace

std::vector<std::string> resolve_units(const StepData_StepModel& model) {
  return Resolver(model).run();
}

std::optional<double> length_unit_mm(const Handle(Standard_Transient) & context) {
  const auto units = units_of(context);
  for (int i = 1; !units.IsNull() && i <= units->Length(); ++i)
    if (const auto mm = mm_in(units->Value(i))) return mm;
  return std::nullopt;
}

std::optional<double> length_unit_mm(const StepData_StepModel& model) {
  std::optional<double> found;
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto mm = length_unit_mm(model.Value(i));
    if (mm && found && std::abs(*mm / *found - 1) > 1e-9) return std::nullopt;
    if (mm) found = mm;
  }
  return found;
}

}  // namespace anvil
