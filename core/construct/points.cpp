#include <GCPnts_AbscissaPoint.hxx>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {

Construction point_at() {
  Construction c;
  c.id = "point.at";
  c.makes = Makes::kPoint;
  c.sentence = "Point at {1}";
  c.roles = {Need::kPoint};
  c.rank = 10;
  c.solve = [](const Inputs& in) { return one(PointDatum{*in[0].point}); };
  c.rank_for = [](const Inputs& in) { return in[0].is_circular_edge ? 22 : 10; };
  return c;
}

Construction point_on_edge() {
  Construction c;
  c.id = "point.on-edge";
  c.makes = Makes::kPoint;
  c.sentence = "Point along edge {1}, at a ratio of its length";
  c.roles = {Need::kEdge};
  c.rank = 30;
  c.parameters = {{"ratio", "Ratio", Quantity::kRatio, "0.5"}};
  c.solve = [](const Inputs& in) -> Solutions {
    const double ratio = in.numbers.at("ratio");
    if (ratio < 0 || ratio > 1)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("the ratio {:.4g} lies off the edge: give 0 to 1", ratio));
    const BRepAdaptor_Curve curve(TopoDS::Edge(in[0].shape));
    const GCPnts_AbscissaPoint at(curve, ratio * GCPnts_AbscissaPoint::Length(curve), curve.FirstParameter());
    if (!at.IsDone()) return refuse(RefusalCode::kGeometry, "the length of the edge cannot be measured");
    return one(PointDatum{curve.Value(at.Parameter())});
  };
  return c;
}

}  // namespace anvil
