/// @file
/// Where units fit, what they would cover, what must stay connected.
///
/// Units: cells.
/// Errors: none: lists that are empty show nothing.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Anchors at which a unit fits: discs.
class Spots : public Overlay {
 public:
  explicit Spots(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// The cells a unit would cover: framed.
class Ghost : public Overlay {
 public:
  explicit Ghost(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::things; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// Cells that can be acted on from those of a field: dots.
class InRange : public Overlay {
 public:
  explicit InRange(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  std::vector<Cell> cells_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
