/// @file
/// Rooms that were made.
///
/// Units: cells, boxes; numbers from 1.
/// Errors: none: without rooms nothing is shown.
/// Cost: O(rooms).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// A number in the middle of each room's box, in the order given.
class RoomNumbers : public Overlay {
 public:
  explicit RoomNumbers(std::vector<Rect> boxes) : boxes_(std::move(boxes)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  std::vector<Rect> boxes_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
