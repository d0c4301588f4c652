// Outlines of a part at levels along an axis, from its display mesh. Walls that are cylinders along the axis
// are drawn as arcs of their own circle, not as chords of the mesh. Internal to core/inspect.
#pragma once

#include <array>
#include <cstdint>
#include <gp_Ax2.hxx>
#include <vector>

#include "part/mesh.h"
#include "part/part.h"

namespace anvil {

struct FlatPoint {
  double x = 0, y = 0;
};

// Closed; the material lies to the left. Side i leads from point i to the next and belongs to face i.
struct Outline {
  std::vector<FlatPoint> points;
  std::vector<int> faces;
  [[nodiscard]] double area() const;  // negative for a void
};

class MeshSlicer {
 public:
  // Linear in triangles. X, Y and levels are read in the frame.
  MeshSlicer(const Part& part, const gp_Ax2& frame, double arc_tolerance_mm);

  struct Slice {
    std::vector<Outline> outlines;
    bool complete = true;  // false: the mesh has gaps there, and what did not close was left out
  };
  [[nodiscard]] Slice at(double level) const;

  [[nodiscard]] double lowest() const { return lowest_; }
  [[nodiscard]] double highest() const { return highest_; }
  // Between two levels every triangle stands upright or lies flat: all sections there are the same.
  [[nodiscard]] bool is_prismatic(double bottom, double top) const;

 private:
  struct Vertex {
    double x, y, level;
  };
  struct Side {
    int low, high;   // vertices, the smaller number first
    int owner = -1;  // the face both triangles belong to, -1 where two faces meet
  };
  struct Facet {
    std::array<int, 3> vertices, sides;
    int face;
    bool slanted;
    double bottom, top;
  };
  struct Circle {
    FlatPoint centre;
    double radius_mm = 0;  // 0: the face is no cylinder along the axis
  };
  // `bodies` by face.
  void index_facets(const std::vector<Triangle>& triangles, const std::vector<int>& bodies,
                    const gp_Ax2& frame);
  void index_sides();
  [[nodiscard]] FlatPoint crossing(const Side& side, double level) const;
  void add_arc(Outline& outline, const Side& from_side, const Side& to_side, double level, int face) const;

  std::vector<Vertex> vertices_;
  std::vector<Side> sides_;
  std::vector<Facet> facets_;
  std::vector<Circle> circles_;  // by face
  double arc_tolerance_mm_, lowest_ = 0, highest_ = 0;
};

}  // namespace anvil
