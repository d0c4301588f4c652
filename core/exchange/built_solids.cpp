#include "exchange/built_solids.h"

#include <StepShape_ManifoldSolidBrep.hxx>
#include <TransferBRep_ShapeBinder.hxx>
#include <algorithm>

namespace anvil {

void BuiltSolids::Show(const Message_ProgressScope& /*scope*/, Standard_Boolean /*force*/) {
  for (const int count = process_->NbMapped(); seen_ < count;)
    if (process_->Mapped(++seen_)->IsKind(STANDARD_TYPE(StepShape_ManifoldSolidBrep)))
      unfinished_.push_back(seen_);
  const auto is_built = [this](int place) {
    const auto binder = Handle(TransferBRep_ShapeBinder)::DownCast(process_->MapItem(place));
    if (binder.IsNull() || !binder->HasResult() || binder->Result().IsNull()) return false;
    if (binder->Result().ShapeType() == TopAbs_SOLID) tell_(binder->Result());
    return true;
  };
  unfinished_.erase(std::remove_if(unfinished_.begin(), unfinished_.end(), is_built), unfinished_.end());
}

}  // namespace anvil
