// What of a part does not depend on names, colours and numbers: the shapes of its bodies in their order, the
// topology index over them, and what was worked out from them. Shared by all parts with the same shapes, so
// that to rename, hide or colour a body computes nothing and keeps no copy.
#pragma once

#include <TopoDS_Compound.hxx>
#include <memory>
#include <mutex>
#include <vector>

#include "base/content_key.h"
#include "base/kept.h"
#include "part/topology_index.h"

namespace anvil {

TopoDS_Compound compound_of(const std::vector<TopoDS_Shape>& shapes);

class PartGeometry {
 public:
  PartGeometry(std::vector<TopoDS_Shape> shapes, TopologyIndex topology);

  [[nodiscard]] const std::vector<TopoDS_Shape>& shapes() const { return shapes_; }
  [[nodiscard]] const TopoDS_Compound& compound() const { return compound_; }
  [[nodiscard]] const TopologyIndex& topology() const { return topology_; }
  [[nodiscard]] Kept& kept() const { return kept_; }

  // Over all faces, edges and vertices with where they lie and what they lie on: equal for what is read twice
  // from one file, another one for everything that was moved or changed. Of a body: the same for it alone, so
  // that bodies a change did not touch keep theirs. Worked out when first asked for, linear in faces; from
  // any thread.
  [[nodiscard]] const ContentKey& id() const;
  [[nodiscard]] const ContentKey& body_id(int body) const;

 private:
  void name() const;
  std::vector<TopoDS_Shape> shapes_;
  TopoDS_Compound compound_;
  TopologyIndex topology_;
  mutable Kept kept_;
  mutable std::once_flag named_;
  mutable ContentKey id_;
  mutable std::vector<ContentKey> body_ids_;
};

using GeometryPtr = std::shared_ptr<const PartGeometry>;

// That of a donor when it has the very same shapes. Otherwise bodies that a donor has are taken over from its
// index, and only the others are looked at.
GeometryPtr geometry_of(std::vector<TopoDS_Shape> shapes, const std::vector<GeometryPtr>& donors = {});

}  // namespace anvil
