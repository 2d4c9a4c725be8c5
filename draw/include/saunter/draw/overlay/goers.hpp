/// @file
/// Units on their way, each by its number.
///
/// Units: cells.
/// Errors: cells off the map are left out; a unit without cells is only in the legend.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <vector>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// A unit that goes somewhere.
struct Goer {
  std::string name = {};
  std::vector<Cell> trail = {};  ///< where it has been, the cell it stands on last
  std::string state = {};        ///< "arrived", ...
};

/// Units as numbered discs, with the line they have walked. They are numbered from 1 in the order given.
class Goers : public Overlay {
 public:
  explicit Goers(std::vector<Goer> goers) : goers_(std::move(goers)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Goer> goers_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
