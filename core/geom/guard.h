// The edge between OpenCASCADE's exceptions and our values. OpenCASCADE throws Standard_Failure, which is
// no std::exception, so both are caught, here and nowhere else.
#pragma once

#include <Standard_Failure.hxx>
#include <exception>
#include <string>

#include "base/refusal.h"

namespace anvil {

// Runs `work` (returning Result<T>) and turns anything thrown into a refusal naming `what`.
template <class Work>
auto guarded(const char* what, Work&& work) -> decltype(work()) {
  try {
    return work();
  } catch (const Standard_Failure& failure) {
    const char* text = failure.GetMessageString();
    return refuse(RefusalCode::kInternal,
                  std::string(what) + " failed: " + (text && *text ? text : "geometry kernel error"));
  } catch (const std::exception& failure) {
    return refuse(RefusalCode::kInternal, std::string(what) + " failed: " + failure.what());
  }
}

}  // namespace anvil
