#include "construct/registry.h"

#include "construct/families.h"

namespace anvil {

const std::vector<Construction>& constructions() {
  static const std::vector<Construction> all{
#define CONSTRUCTION(name) name(),
#include "construct/constructions.def"
#undef CONSTRUCTION
  };
  return all;
}

const Construction* find_construction(const std::string& id) {
  for (const Construction& construction : constructions())
    if (construction.id == id) return &construction;
  return nullptr;
}

}  // namespace anvil
