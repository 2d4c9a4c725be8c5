/// @file
/// Connected regions, what is cut off, what would join them, where they hang by one cell.
///
/// Units: cells counted.
/// Errors: none: lists that are empty show nothing.
/// Cost: O(cells) a picture.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"
#include "saunter/region/regions.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Each region in a colour of its own.
class RegionColors : public Overlay {
 public:
  /// @param regions  must live until the picture is made
  explicit RegionColors(const Regions& regions) : regions_(regions) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const Regions& regions_;
};

/// Cells that can't be reached: hatched.
class CutOff : public Overlay {
 public:
  explicit CutOff(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  std::vector<Cell> cells_;
};

/// Blocked cells to be opened: framed.
class Openings : public Overlay {
 public:
  explicit Openings(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// Cells whose loss splits a region: lozenges.
class Chokes : public Overlay {
 public:
  explicit Chokes(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
