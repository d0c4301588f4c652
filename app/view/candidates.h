// What lies under the cursor, in the order in which repeated clicks walk through it.
#pragma once

#include <vector>

#include "app/state/session.h"
#include "app/view/occ_view.h"

namespace anvil::app {

struct PickFilter {
  bool faces = true, edges = true, vertices = true, middles = true, centres = true, datums = true;
};

struct Candidate {
  Reference reference;
  gp_Pnt at;         // where, in placed coordinates
  double depth = 0;  // from the eye
};

class CandidateFinder {
 public:
  CandidateFinder(OccView& view, const Session& session) : view_(view), session_(session) {}

  void set_filter(const PickFilter& filter) { filter_ = filter; }
  [[nodiscard]] const PickFilter& filter() const { return filter_; }

  // Nearest the eye first; points snap within a few pixels and come before what they lie on.
  [[nodiscard]] std::vector<Candidate> at(const QPointF& position) const;
  // Faces, edges and vertices inside the rectangle, or touching it.
  [[nodiscard]] std::vector<Reference> in(const QRectF& area, bool touching) const;

 private:
  void add_points(const QPointF& position, std::vector<Candidate>& found) const;
  void add_points_of_arcs(const QPointF& position, const std::vector<Candidate>& under,
                          std::vector<Candidate>& points) const;
  void add_datums(const QPointF& position, std::vector<Candidate>& found) const;
  void add_stock(const QPointF& position, int setup, std::vector<Candidate>& found) const;
  void add_figure(const QPointF& position, int entry, const FigureDatum& figure,
                  std::vector<Candidate>& found) const;
  void add_shapes(const QPointF& position, std::vector<Candidate>& found) const;

  OccView& view_;
  const Session& session_;
  PickFilter filter_;
};

// "flat face", "centre of circle Ø6.600", "Plane 2"
QString candidate_text(const Session& session, const Candidate& candidate);

}  // namespace anvil::app
