#include "scan/scan.h"

#include <list>
#include <map>
#include <mutex>

#include "base/tolerance.h"

namespace anvil {
namespace {

// Of one part. One region grows at a time; what is known is told meanwhile.
class ScanMemory {
 public:
  Result<RegionPtr> region(const Part& part, int body, const RegionWish& wish, const Progress& progress) {
    if (const auto known = find(body, wish)) return *known;
    const std::lock_guard alone(growing_);
    if (const auto known = find(body, wish)) return *known;
    progress.say("reading the scan", -1);
    auto grown = grow_region(graph(part, body), wish, progress);
    if (!grown && grown.error().code == RefusalCode::kCancelled) return refuse(grown);
    Result<RegionPtr> result =
        grown ? Result<RegionPtr>(std::make_shared<const Region>(std::move(*grown))) : refuse(grown);
    keep({body, wish, result});
    return result;
  }

  std::optional<Result<RegionPtr>> find(int body, const RegionWish& wish) const {
    const std::lock_guard lock(knowing_);
    for (const Known& known : regions_)
      if (known.body == body && known.wish == wish) return known.region;
    return std::nullopt;
  }

 private:
  struct Known {
    int body;
    RegionWish wish;
    Result<RegionPtr> region;
  };

  void keep(Known known) {
    const std::lock_guard lock(knowing_);
    regions_.push_front(std::move(known));
    constexpr size_t kKept = 64, kKeptTriangles = 4000000;
    size_t count = 0, triangles = 0;
    regions_.remove_if([&](const Known& k) {
      triangles += k.region ? (*k.region)->triangles.size() : 0;
      return ++count > kKept || (count > 1 && triangles > kKeptTriangles);
    });
  }

  const MeshGraph& graph(const Part& part, int body) {
    auto at = graphs_.find(body);
    if (at == graphs_.end()) at = graphs_.emplace(body, mesh_graph(part.bodies()[body].shape)).first;
    return at->second;
  }

  std::mutex growing_;
  mutable std::mutex knowing_;
  std::map<int, MeshGraph> graphs_;
  std::list<Known> regions_;
};

ScanMemory& memory_of(const Part& part) {
  return part.kept().get<ScanMemory>([] { return std::make_shared<ScanMemory>(); });
}

}  // namespace

bool operator==(const RegionWish& a, const RegionWish& b) {
  return a.at.Distance(b.at) == 0 && a.seen_from.XYZ().IsEqual(b.seen_from.XYZ(), 0) &&
         a.within_mm == b.within_mm && a.as == b.as;
}

Result<RegionPtr> region_at(const Part& part, int body, const RegionWish& wish, const Progress& progress) {
  if (body < 0 || body >= static_cast<int>(part.bodies().size()) ||
      part.bodies()[body].kind != BodyKind::kMesh)
    return refuse(RefusalCode::kUnknownName, "the scan the region was grown on is no longer there");
  return memory_of(part).region(part, body, wish, progress);
}

bool is_region_known(const Part& part, int body, const RegionWish& wish) {
  return memory_of(part).find(body, wish).has_value();
}

}  // namespace anvil
