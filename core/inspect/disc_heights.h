// How high triangles reach within a disc square to a direction: every triangle that comes into it counts,
// however thin what it belongs to. Internal to core/inspect.
#pragma once

#include <functional>
#include <gp_Ax2.hxx>
#include <optional>
#include <vector>

#include "part/mesh.h"

namespace anvil {

class DiscHeights {
 public:
  // Heights are measured along `axis` from the origin. The triangles must outlive this; only those `wanted`
  // says yes to are taken, or all.
  DiscHeights(const std::vector<Triangle>& triangles, const gp_Dir& axis,
              const std::function<bool(const Triangle&)>& wanted = {});

  struct Highest {
    double level_mm = 0;
    int face = -1;
  };
  // Exact for the triangles. Nothing when none comes into the disc, or none higher than `above`.
  [[nodiscard]] std::optional<Highest> within(const gp_Pnt& centre, double radius_mm, double above_mm) const;

 private:
  struct Corner {
    double x, y, level;
  };
  struct Flat {
    Corner a, b, c;
    double top;
    int face;
  };
  [[nodiscard]] Corner flat(const gp_Pnt& p) const;
  void fill_cells();
  [[nodiscard]] int column_of(double x) const;
  [[nodiscard]] int row_of(double y) const;
  static std::optional<double> height_in_disc(const Flat& t, const Corner& centre, double radius_mm);

  gp_Ax2 frame_;
  std::vector<Flat> flats_;
  double left_ = 0, low_ = 0, cell_ = 1;
  int columns_ = 0, rows_ = 0;
  std::vector<std::vector<int>> cells_;  // triangles, the highest first
};

}  // namespace anvil
