// The thinnest wall round a hole. Internal to core/inspect.
#pragma once

#include <optional>
#include <vector>

#include "inspect/box_tree.h"
#include "inspect/hole_surroundings.h"
#include "part/ray_caster.h"

namespace anvil {

// The mesh tells which faces may be the nearest (within what it is off); distances are those of the surfaces.
class WallFinder {
 public:
  explicit WallFinder(const Part& part);
  [[nodiscard]] std::optional<WallThickness> thinnest(const Hole& hole) const;

 private:
  struct Bore;
  [[nodiscard]] Bore bore_of(const Hole& hole) const;
  [[nodiscard]] bool is_other_side(const Bore& bore, int face) const;
  [[nodiscard]] std::optional<int> met_first(const Bore& bore) const;
  [[nodiscard]] std::vector<int> faces_within(const Bore& bore, double distance_mm) const;
  void look_at(const Bore& bore, int face, std::optional<WallThickness>& thinnest) const;
  [[nodiscard]] bool leads_out_beside(int face, const gp_Pnt& point, const gp_Vec& into) const;
  [[nodiscard]] bool through_material(const Hole& hole, const gp_Pnt& from, int face, const gp_Pnt& to) const;

  const TopologyIndex& topology_;
  const RayCaster& mesh_;
  std::vector<std::vector<int>> triangles_of_face_;
  const BoxTree& triangles_;
};

}  // namespace anvil
