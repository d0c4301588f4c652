#include "inspect/highest_on_face.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <algorithm>
#include <vector>

namespace anvil {
namespace {

constexpr int kOfSpan = 12, kOfStraightSpan = 3;  // lines; one span alone has twice as many
constexpr int kMostLines = 120, kFineNet = 8, kRounds = 12;
constexpr size_t kMostPeaks = 16;
constexpr double kGain = 5e-4, kWorthwhile = 0.25;

// Along one parameter: the ends of the spans within the range, and lines evenly between them.
std::vector<double> lines_through(const std::vector<double>& ends, double first, double last, bool straight) {
  std::vector<double> spans{first};
  for (const double end : ends)
    if (end > first && end < last) spans.push_back(end);
  spans.push_back(last);
  const int count = static_cast<int>(spans.size()) - 1;
  const int wanted = straight ? kOfStraightSpan : count == 1 ? 2 * kOfSpan : kOfSpan;
  const int of_span = std::clamp(kMostLines / count, 1, wanted);
  std::vector<double> lines;
  for (int s = 0; s < count; ++s)
    for (int i = 0; i < of_span; ++i) lines.push_back(spans[s] + (spans[s + 1] - spans[s]) * i / of_span);
  lines.push_back(last);
  return lines;
}

bool is_straight(const BRepAdaptor_Surface& surface, bool along_u) {
  const GeomAbs_SurfaceType type = surface.GetType();
  if (type == GeomAbs_SurfaceOfExtrusion) return !along_u;
  if (type != GeomAbs_BSplineSurface && type != GeomAbs_BezierSurface) return false;
  return (along_u ? surface.UDegree() : surface.VDegree()) == 1;
}

// The ends of what is one polynomial, along u or v. A swept surface does not tell those of the curve it was
// swept from.
std::vector<double> ends_of_spans(const BRepAdaptor_Surface& surface, bool along_u) {
  const GeomAbs_SurfaceType type = surface.GetType();
  const auto of = [](int count, const auto& fill) {
    TColStd_Array1OfReal ends(1, count + 1);
    fill(ends);
    return std::vector<double>(ends.begin(), ends.end());
  };
  if ((type == GeomAbs_SurfaceOfExtrusion && along_u) || (type == GeomAbs_SurfaceOfRevolution && !along_u)) {
    const Handle(Adaptor3d_Curve) curve = surface.BasisCurve();
    return of(curve->NbIntervals(GeomAbs_CN), [&](auto& ends) { curve->Intervals(ends, GeomAbs_CN); });
  }
  if (along_u)
    return of(surface.NbUIntervals(GeomAbs_CN), [&](auto& ends) { surface.UIntervals(ends, GeomAbs_CN); });
  return of(surface.NbVIntervals(GeomAbs_CN), [&](auto& ends) { surface.VIntervals(ends, GeomAbs_CN); });
}

class Search {
 public:
  Search(const TopoDS_Face& face, const std::function<std::optional<double>(double, double)>& value)
      : outline_(face, 1e-6), value_(value) {
    BRepTools::UVBounds(face, u0_, u1_, v0_, v1_);
    const BRepAdaptor_Surface surface(face);  // within its bounds, which may lie beyond the knots of one turn
    us_ = lines_through(ends_of_spans(surface, true), u0_, u1_, is_straight(surface, true));
    vs_ = lines_through(ends_of_spans(surface, false), v0_, v1_, is_straight(surface, false));
  }

  std::optional<HighestOnFace> run() {
    std::optional<HighestOnFace> best;
    for (const Peak& peak : peaks()) {
      if (best && peak.at.value < kWorthwhile * best->value) break;
      const HighestOnFace refined = refine(peak);
      if (!best || refined.value > best->value) best = refined;
    }
    return best;
  }

 private:
  struct Peak {
    HighestOnFace at;
    double du = 0, dv = 0;  // to the lines beside it
  };

  double at(double u, double v) const {
    const auto value = value_(u, v);
    return value && *value > 0 && outline_.Perform(gp_Pnt2d(u, v)) != TopAbs_OUT ? *value : 0;
  }

  // Samples that none beside them is higher than, the highest first.
  std::vector<Peak> peaks() const {
    const int across = static_cast<int>(us_.size()), along = static_cast<int>(vs_.size());
    std::vector<double> net(us_.size() * vs_.size());
    const auto sample = [&](int i, int j) -> double& { return net[static_cast<size_t>(i) * vs_.size() + j]; };
    for (int i = 0; i < across; ++i)
      for (int j = 0; j < along; ++j) sample(i, j) = at(us_[i], vs_[j]);
    std::vector<Peak> found;
    for (int i = 0; i < across; ++i)
      for (int j = 0; j < along; ++j) {
        const int left = std::max(0, i - 1), right = std::min(across - 1, i + 1), below = std::max(0, j - 1),
                  above = std::min(along - 1, j + 1);
        double beside = 0;
        for (int a = left; a <= right; ++a)
          for (int b = below; b <= above; ++b) beside = std::max(beside, sample(a, b));
        if (sample(i, j) <= 0 || sample(i, j) < beside) continue;
        found.push_back({{sample(i, j), us_[i], vs_[j]},
                         std::max(us_[i] - us_[left], us_[right] - us_[i]),
                         std::max(vs_[j] - vs_[below], vs_[above] - vs_[j])});
      }
    std::stable_sort(found.begin(), found.end(),
                     [](const Peak& a, const Peak& b) { return a.at.value > b.at.value; });
    return thinned(found);
  }

  // On a surface that is the same along one parameter whole lines are as high: one place of each is enough.
  static std::vector<Peak> thinned(const std::vector<Peak>& peaks) {
    std::vector<Peak> kept;
    for (const Peak& peak : peaks) {
      if (kept.size() == kMostPeaks) break;
      const bool is_known = std::any_of(kept.begin(), kept.end(), [&](const Peak& k) {
        return std::abs(k.at.value - peak.at.value) <= 1e-6 * k.at.value &&
               (k.at.u == peak.at.u || k.at.v == peak.at.v);
      });
      if (!is_known) kept.push_back(peak);
    }
    return kept;
  }

  [[nodiscard]] HighestOnFace refine(Peak peak) const {
    for (int round = 0; round < kRounds; ++round) {
      const HighestOnFace before = peak.at;
      for (int i = -kFineNet; i <= kFineNet; ++i)
        for (int j = -kFineNet; j <= kFineNet; ++j) {
          const double u = std::clamp(before.u + peak.du * i / kFineNet, u0_, u1_),
                       v = std::clamp(before.v + peak.dv * j / kFineNet, v0_, v1_);
          const double here = at(u, v);
          if (here > peak.at.value) peak.at = {here, u, v};
        }
      if (peak.at.value - before.value <= kGain * peak.at.value) break;
      peak.du /= kFineNet;
      peak.dv /= kFineNet;
    }
    return peak.at;
  }

  // Asking for a state changes what the classifier remembers, not what it is.
  mutable BRepTopAdaptor_FClass2d outline_;
  const std::function<std::optional<double>(double, double)>& value_;
  double u0_ = 0, u1_ = 0, v0_ = 0, v1_ = 0;
  std::vector<double> us_, vs_;
};

}  // namespace

std::optional<HighestOnFace> highest_on_face(
    const TopoDS_Face& face, const std::function<std::optional<double>(double u, double v)>& value) {
  return Search(face, value).run();
}

}  // namespace anvil
