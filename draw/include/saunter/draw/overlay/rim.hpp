/// @file
/// The lines between cells, the numbers of columns and rows, and what closes the way from cell to cell.
///
/// Units: pixels, columns and rows from 0.
/// Errors: none: what has no room is left out.
/// Cost: O(cells) a picture.
/// Threads: any number, nothing is shared.
#pragma once

#include <array>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// The cells' edges, where cells are large enough.
class Outlines : public Overlay {
 public:
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void paint(Stage& stage) const override;
};

/// Column and row numbers along the rim.
class Coordinates : public Overlay {
 public:
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
};

/// Closed sides: thick lines; thin ones with teeth where only one way is closed. Where cells are too small for lines,
/// they are darker the more of their sides are closed.
class Barriers : public Overlay {
 public:
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void paint(Stage& stage) const override;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
