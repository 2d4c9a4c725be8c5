/// @file
/// What stands on the map.
///
/// Units: cells.
/// Errors: cells off the map are left out.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>
#include <string>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Something that stands on the map.
struct Unit {
  std::string name = {};
  std::vector<Cell> cells = {};
};

/// Units as boxes with their names. Nothing else is written in their cells.
class Units : public Overlay {
 public:
  explicit Units(std::vector<Unit> units) : units_(std::move(units)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void number(Stage& stage) const override;
  void paint(Stage& stage) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Unit> units_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
