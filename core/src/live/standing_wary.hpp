/// @file
/// A wary route that stands while its unit walks: searched anew where a look is not proof enough.
#pragma once

#include <vector>

#include "saunter/live/standing_route.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter::inline v0_2::detail {

class StandingWary {
 public:
  StandingWary(Cell from, Cell to, const Wariness& care) : from_(from), to_(to), care_(care) {}

  /// The unit has stepped into a cell of a level; its route ends where that is not the next cell of it. It carries its
  /// exposed steps in a row along.
  void stepped(Cell cell, std::uint16_t level);
  /// How it stands now, and the least weighed way from here.
  struct Report {
    Standing standing = Standing::holds;
    std::optional<Cell> at = {};
    std::optional<std::uint64_t> weighed = {};
  };
  Report follow(WarySearcher& searcher, const CostGrid& costs, const Levels& levels);
  [[nodiscard]] std::span<const Cell> cells() const { return std::span(cells_).subspan(passed_); }
  [[nodiscard]] std::uint32_t exposed() const { return exposed_; }
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }

 private:
  [[nodiscard]] std::optional<Cell> first_illegal(const CostGrid& costs, const Levels& levels) const;

  Cell from_;
  Cell to_;
  Wariness care_;
  std::uint32_t exposed_ = 0;
  std::vector<Cell> cells_;
  std::size_t passed_ = 0;
  std::uint64_t expanded_ = 0;
};

}  // namespace saunter::inline v0_2::detail
