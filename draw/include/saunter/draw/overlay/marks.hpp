/// @file
/// Single cells that a question or an answer names.
///
/// Units: cells.
/// Errors: cells off the map are left out; long lists end with how many more there are.
/// Cost: O(cells shown).
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>
#include <string>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Cells with a letter on a disc: where a way starts (S), where it is to end (G), what is to stay reachable (K).
class Ends : public Overlay {
 public:
  enum class Kind : std::uint8_t { start, goal, kept };
  Ends(Kind kind, std::vector<Cell> cells) : kind_(kind), cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  Kind kind_;
  std::vector<Cell> cells_;
};

/// Cells kept out of for one question: crosses.
class Avoided : public Overlay {
 public:
  explicit Avoided(std::vector<Cell> cells) : cells_(std::move(cells)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Cell> cells_;
};

/// A cell that an answer names, in a ring, and why.
class Ring : public Overlay {
 public:
  Ring(Cell cell, std::string why) : cell_(cell), why_(std::move(why)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  Cell cell_;
  std::string why_;
};

/// Something wrong at a cell; the legend says what, in the order given.
struct Problem {
  Cell at;
  std::string what;
};

/// Where something is wrong: crosses in a warning colour.
class Problems : public Overlay {
 public:
  explicit Problems(std::vector<Problem> problems) : problems_(std::move(problems)) {}
  [[nodiscard]] Tier tier() const override { return Tier::marks; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<Problem> problems_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
