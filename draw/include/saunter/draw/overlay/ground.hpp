/// @file
/// What the map is made of: terrain, entry costs or heights; and where a mover cannot stand.
///
/// Units: costs in hundredths, heights in the map's units.
/// Errors: none: without heights nothing is shown.
/// Cost: O(cells) a picture.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/draw/overlay.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/ground/mover.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Terrain in the scenario's colours, with what it costs to enter.
class Terrains : public Overlay {
 public:
  /// @param mover  whose costs the legend gives; null = the terrain's own. Must live until the picture is made
  explicit Terrains(const Mover* mover = nullptr) : mover_(mover) {}
  [[nodiscard]] Tier tier() const override { return Tier::ground; }
  void shade(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const Mover* mover_;
};

/// Entry costs as a ramp from low to high, with numbers where they fit.
class EntryCosts : public Overlay {
 public:
  /// @param costs  must live until the picture is made
  explicit EntryCosts(const CostGrid& costs) : costs_(costs) {}
  [[nodiscard]] Tier tier() const override { return Tier::ground; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  const CostGrid& costs_;
};

/// Heights as a ramp, with numbers where they fit. Nothing where the map has none.
class Heights : public Overlay {
 public:
  explicit Heights(const Map& map);
  [[nodiscard]] Tier tier() const override { return Tier::ground; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  int lowest_ = 0;
  int highest_ = 0;
};

/// Hatching where the mover cannot stand.
class Blocked : public Overlay {
 public:
  /// @param costs  must live until the picture is made
  explicit Blocked(const CostGrid& costs) : costs_(costs) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const CostGrid& costs_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
