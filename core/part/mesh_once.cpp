#include "part/mesh_once.h"

#include <mutex>

#include "part/mesh.h"

namespace anvil {
namespace {

struct Meshed {
  std::once_flag once;
};

}  // namespace

void mesh_once(const Part& part) {
  auto& meshed = part.kept().get<Meshed>([] { return std::make_shared<Meshed>(); });
  std::call_once(meshed.once, [&] {
    std::vector<Body> without;
    for (const Body& body : part.bodies())
      if (!body.meshed) without.push_back(body);
    if (!without.empty()) mesh_shape(compound_of(without));
  });
}

}  // namespace anvil
