/// @file
/// What a search has looked at.
///
/// Units: costs in hundredths.
/// Errors: none: without visits nothing is shown.
/// Cost: O(visits), a bit a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"
#include "saunter/search/query.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Expanded cells, shaded by their order; their numbers where they fit. Of several visits to a cell the first counts.
class Visits : public Overlay {
 public:
  explicit Visits(std::vector<Visit> visits) : visits_(std::move(visits)) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Visit> visits_;
};

/// The colour of the n-th of `count` visits, before it is laid over the ground by visit_opacity.
[[nodiscard]] Rgb visit_color(std::size_t n, std::size_t count);
inline constexpr double visit_opacity = 0.62;

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
