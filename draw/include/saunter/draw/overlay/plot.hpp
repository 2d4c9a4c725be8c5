/// @file
/// Figures beside a map.
///
/// Units: hundredths.
/// Errors: none: without points nothing is shown.
/// Cost: O(points).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>
#include <cstdint>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// A route of a trade-off: hundredths, both.
struct PlotPoint {
  std::uint64_t cost = 0;
  std::uint64_t exposure = 0;
  bool chosen = false;
};

/// Cost to the right, exposure upward, the chosen route larger.
class Plot : public Overlay {
 public:
  explicit Plot(std::vector<PlotPoint> points) : points_(std::move(points)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void explain(Legend& legend) const override;

 private:
  std::vector<PlotPoint> points_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
