// What of a part does not depend on names, colours and numbers: the shapes of its bodies in their order, the
// topology index over them, and what was worked out from them. Shared by all parts with the same shapes, so
// that to rename, hide or colour a body computes nothing and keeps no copy.
#pragma once

#include <TopoDS_Compound.hxx>
#include <atomic>
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
  // `donors`: geometries that may have some of these bodies; they are not kept alive.
  PartGeometry(std::vector<TopoDS_Shape> shapes,
               const std::vector<std::shared_ptr<const PartGeometry>>& donors);

  [[nodiscard]] const std::vector<TopoDS_Shape>& shapes() const { return shapes_; }
  [[nodiscard]] const TopoDS_Compound& compound() const { return compound_; }
  // Made when first asked for, from any thread: of a chain of corrections most states are never looked at.
  [[nodiscard]] const TopologyIndex& topology() const;
  [[nodiscard]] bool is_indexed() const { return indexed_.load(std::memory_order_acquire); }
  [[nodiscard]] Kept& kept() const { return kept_; }

  // Over all faces, edges and vertices with where they lie and what they lie on: equal for what is read twice
  // from one file, another one for everything that was moved or changed. Of a body: the same for it alone, so
  // that bodies a change did not touch keep theirs. Worked out when first asked for, linear in faces; from
  // any thread.
  [[nodiscard]] const ContentKey& id() const;
  [[nodiscard]] const ContentKey& body_id(int body) const;

 private:
  void name() const;
  void index() const;
  std::vector<TopoDS_Shape> shapes_;
  TopoDS_Compound compound_;
  mutable std::once_flag index_once_;
  mutable std::atomic<bool> indexed_ = false;
  mutable TopologyIndex topology_;
  mutable std::vector<std::weak_ptr<const PartGeometry>> donors_;  // until it is indexed
  mutable Kept kept_;
  mutable std::once_flag named_;
  mutable ContentKey id_;
  mutable std::vector<ContentKey> body_ids_;
};

using GeometryPtr = std::shared_ptr<const PartGeometry>;

// That of a donor when it has the very same shapes. Otherwise bodies that a donor has are taken over from its
// index, where that has been made, and only the others are looked at.
GeometryPtr geometry_of(std::vector<TopoDS_Shape> shapes, const std::vector<GeometryPtr>& donors = {});

}  // namespace anvil
