/// @file
/// Which pieces of a region still lie together when places were lost or changed.
#pragma once

#include <span>
#include <vector>

#include "../search/kernel/union_find.hpp"
#include "saunter/grid/cell.hpp"

namespace saunter::inline v0_2::detail {

/// Floods that set out from several pieces by turns until all of a contest have met, or all but one set are closed in
/// (the idea of Even and Shiloach 1981: search from both sides at once, stop with the smaller). O(cells of the smaller
/// parts). Keeps its memory.
class TurnFloods {
 public:
  struct Flood {
    std::vector<Cell> line;  ///< what it has found; the first `done` have been looked beyond
    std::size_t done = 0;
    [[nodiscard]] bool ended() const { return done == line.size(); }
  };

  void begin();
  /// One more flood, which has found nothing. @return its number
  std::uint32_t add();
  [[nodiscard]] std::uint32_t size() const { return static_cast<std::uint32_t>(sets_.size()); }
  [[nodiscard]] Flood& operator[](std::uint32_t flood) { return floods_[flood]; }
  [[nodiscard]] const Flood& operator[](std::uint32_t flood) const { return floods_[flood]; }
  /// The floods of a set have met.
  [[nodiscard]] std::uint32_t set_of(std::uint32_t flood) { return sets_.root(flood); }
  /// Tells that two floods have met. @return whether that is new
  bool meet(std::uint32_t a, std::uint32_t b) { return sets_.join(a, b); }

  /// It must be known which of these lie together.
  void contest(std::span<const std::uint32_t> floods);
  /// Finds the floods that must go on: those of contests of which two sets are apart and unfinished. @return whether
  /// there are any
  bool choose_active();
  [[nodiscard]] bool active(std::uint32_t flood) const { return active_[flood]; }
  /// Whether some flood of a set could go on. As of choose_active().
  [[nodiscard]] bool unfinished(std::uint32_t set) const { return open_ends_[set] != 0; }

  /// Lets them go on until nothing is contested.
  /// @param expand  bool expand(flood, cell): looks beyond a cell, adds what it finds to the flood's line, and tells
  ///                whether it has met another
  /// @return false when more than `limit` cells were looked beyond
  template <typename Expand>
  bool run(std::size_t limit, Expand&& expand) {
    std::size_t looked_beyond = 0;
    while (choose_active()) {
      for (bool changed = false; !changed;) {
        for (std::uint32_t flood = 0; flood < size(); ++flood) {
          if (!active_[flood] || floods_[flood].ended()) continue;
          for (int turn = 0; turn < cells_a_turn && !floods_[flood].ended(); ++turn) {
            if (++looked_beyond > limit) return false;
            if (!expand(flood, Cell{floods_[flood].line[floods_[flood].done++]})) continue;
            changed = true;
            break;
          }
          changed = changed || floods_[flood].ended();
        }
      }
    }
    return true;
  }

 private:
  static constexpr int cells_a_turn = 16;

  std::vector<Flood> floods_;  // of which the first size() count
  UnionFind sets_;
  std::vector<std::uint32_t> contested_;   // the floods of all contests, one contest after another
  std::vector<std::size_t> contest_ends_;  // where each ends there
  std::vector<bool> active_;
  std::vector<std::uint32_t> open_ends_;  // of each set, how many floods have not ended
};

}  // namespace saunter::inline v0_2::detail
