// The edge between OpenCASCADE's exceptions and our values. OpenCASCADE throws Standard_Failure, which is
// no std::exception, so both are caught, here and nowhere else.
#pragma once

#include <Standard_Failure.hxx>
#include <Standard_OutOfMemory.hxx>
#include <algorithm>
#include <exception>
#include <new>
#include <string>

#include "base/memory.h"
#include "base/refusal.h"

namespace anvil {

// In one line, however many the library wrote.
inline Refusal failed_because(const char* what, std::string why) {
  std::replace(why.begin(), why.end(), '\n', ' ');
  return {RefusalCode::kInternal, std::string(what) + " failed: " + why};
}

// Runs `work` (returning Result<T>) and turns anything thrown into a refusal naming `what`.
template <class Work>
auto guarded(const char* what, Work&& work) -> decltype(work()) {
  try {
    return work();
  } catch (const Standard_OutOfMemory&) {
    return refuse(out_of_memory(what, ""));
  } catch (const std::bad_alloc&) {
    return refuse(out_of_memory(what, ""));
  } catch (const Standard_Failure& failure) {
    const char* text = failure.GetMessageString();
    return refuse(failed_because(what, text && *text ? text : "geometry kernel error"));
  } catch (const std::exception& failure) {
    return refuse(failed_because(what, failure.what()));
  } catch (...) {
    return refuse(failed_because(what, "an error of a kind nobody knows"));
  }
}

}  // namespace anvil
