/// @file
/// Where a walker has been.
///
/// Units: steps.
/// Errors: counts of another size than the map's are left out.
/// Cost: O(cells), a number a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"
#include "saunter/grid/grid.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Cells shaded by how often they were walked on, with the number where it fits, and the last stretch as a line.
class Walked : public Overlay {
 public:
  Walked(Grid<std::uint32_t> counts, std::vector<Cell> last_stretch)
      : counts_(std::move(counts)), last_stretch_(std::move(last_stretch)) {}
  [[nodiscard]] Tier tier() const override { return Tier::paths; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  /// Calls f(cell, count) for every cell of the map that was walked on.
  template <typename F>
  void for_each_walked(const Map& map, F&& f) const;
  [[nodiscard]] std::uint32_t most() const;

  Grid<std::uint32_t> counts_;
  std::vector<Cell> last_stretch_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
