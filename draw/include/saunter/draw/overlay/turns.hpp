/// @file
/// Movement by turns: where a move ends, what it passes over, what it strikes from.
///
/// Units: cells.
/// Errors: cells off the map are left out.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Cells that end a move: two upright bars.
class Stops : public Overlay {
 public:
  explicit Stops(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// Cells that are passed over but not ended on: three dots in a row.
class PassedOver : public Overlay {
 public:
  explicit PassedOver(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// Cells from which something beyond reach is acted on: framed.
class StrikingCells : public Overlay {
 public:
  explicit StrikingCells(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  std::vector<Cell> cells_;
};

/// Where the turns of a way end: discs with the number of the turn, from 1.
class TurnEnds : public Overlay {
 public:
  explicit TurnEnds(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
