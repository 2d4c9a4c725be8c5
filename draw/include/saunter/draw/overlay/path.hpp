/// @file
/// Paths over the map.
///
/// Units: cells.
/// Errors: none: fewer than two cells show nothing.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// A path through the centres of its cells; with a threat field its exposed parts in another colour.
class Path : public Overlay {
 public:
  /// @param threat  null = none; must live until the picture is made
  explicit Path(std::vector<Cell> cells, const ThreatField* threat = nullptr)
      : cells_(std::move(cells)), threat_(threat) {}
  [[nodiscard]] Tier tier() const override { return Tier::paths; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
  const ThreatField* threat_;
};

/// The cells a path is straightened to: dots joined by a thin line.
class Waypoints : public Overlay {
 public:
  explicit Waypoints(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::paths; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  std::vector<Cell> cells_;
};

/// A line of sight between two cells, and the cells that hide something: framed.
class SightLine : public Overlay {
 public:
  SightLine(Cell from, Cell to, std::vector<Cell> hidden_by) : from_(from), to_(to), hidden_by_(std::move(hidden_by)) {}
  [[nodiscard]] Tier tier() const override { return Tier::paths; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  Cell from_;
  Cell to_;
  std::vector<Cell> hidden_by_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
