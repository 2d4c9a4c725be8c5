/// @file
/// Mazes by rows. Cells of a row that are joined, by whatever rows lie above, form a set; every set goes on into the
/// next row at least once, so that the last row can join them all.
#pragma once

#include <algorithm>
#include <array>
#include <span>
#include <utility>
#include <vector>

#include "../search/kernel/union_find.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/grid/tiling.hpp"

namespace saunter::inline v0_2::detail {

/// @pre every cell has a neighbour in its row, or one in the next (all boards but triangles of one column)
class Eller {
 public:
  Eller(Tiling tiling, Size size)
      : tiling_(tiling),
        size_(size),
        open_(static_cast<std::size_t>(size.cols)),
        below_(open_.size()),
        set_(open_.size(), none),
        set_below_(open_.size(), none) {
    find_sides();
  }

  /// Makes the next row. @return its open sides; valid until the next call
  std::span<const std::uint8_t> make_row(Dice& dice) {
    std::swap(open_, below_);
    std::swap(set_, set_below_);
    std::fill(below_.begin(), below_.end(), std::uint8_t{0});
    std::fill(set_below_.begin(), set_below_.end(), none);
    number_sets();
    const bool last = row_ + 1 == size_.rows;
    join_along(dice, last);
    if (!last) {
      join_sets_without_exit(dice);
      go_on(dice);
    }
    ++row_;
    return open_;
  }

 private:
  static constexpr std::uint32_t none = ~std::uint32_t{0};

  /// The sides of a cell of some kind, as bits: to the next cell of its row and back from there, and those that lead
  /// into the next row.
  struct Sides {
    struct Down {
      std::int32_t cols = 0;
      std::uint8_t out = 0;
      std::uint8_t in = 0;
    };
    std::uint8_t along = 0;
    std::uint8_t back = 0;
    std::array<Down, 3> exits = {};
    unsigned exit_count = 0;
  };
  /// A way from a cell of the row into the next one, with the bits of its side on both ends.
  struct Exit {
    std::int32_t col;
    std::int32_t to;
    std::uint8_t out;
    std::uint8_t in;
  };

  [[nodiscard]] unsigned kind(std::int32_t col) const { return static_cast<unsigned>(tiling_.kind({col, row_})); }

  void find_sides() {
    const Neighbourhood& hood = tiling_.neighbourhood();
    for (unsigned k = 0; k < 2; ++k) {
      for (unsigned d = 0; d < static_cast<unsigned>(hood.edges); ++d) {
        const Offset by = hood.offset[k][d];
        const auto out = static_cast<std::uint8_t>(1U << d);
        const auto in = static_cast<std::uint8_t>(1U << hood.opposite[k][d]);
        if (by == Offset{1, 0}) {
          sides_[k].along = out;
          sides_[k].back = in;
        }
        if (by.rows == 1) sides_[k].exits[sides_[k].exit_count++] = {by.cols, out, in};
      }
    }
  }

  /// Fresh numbers: those of sets that came from above are kept apart, cells that none leads to are sets of their own.
  void number_sets() {
    sets_.begin(0);
    renamed_.assign(2 * set_.size() + 2, none);
    for (std::uint32_t& set : set_) {
      if (set == none) {
        set = sets_.add();
      } else {
        std::uint32_t& name = renamed_[set];
        if (name == none) name = sets_.add();
        set = name;
      }
    }
  }

  [[nodiscard]] std::uint32_t root(std::int32_t col) { return sets_.root(set_[static_cast<std::size_t>(col)]); }

  void open_along(std::int32_t col) {
    const auto at = static_cast<std::size_t>(col);
    const Sides& sides = sides_[kind(col)];
    open_[at] = static_cast<std::uint8_t>(open_[at] | sides.along);
    open_[at + 1] = static_cast<std::uint8_t>(open_[at + 1] | sides.back);
    (void)sets_.join(set_[at], set_[at + 1]);
  }

  void join_along(Dice& dice, bool all) {
    for (std::int32_t col = 0; col + 1 < size_.cols; ++col) {
      if (root(col) == root(col + 1)) continue;
      if (all || dice.pick(2) == 0) open_along(col);
    }
  }

  void list_exits() {
    exits_.clear();
    for (std::int32_t col = 0; col < size_.cols; ++col) {
      const Sides& sides = sides_[kind(col)];
      for (unsigned i = 0; i < sides.exit_count; ++i) {
        const std::int32_t to = col + sides.exits[i].cols;
        if (to >= 0 && to < size_.cols) exits_.push_back({col, to, sides.exits[i].out, sides.exits[i].in});
      }
    }
  }

  /// Triangles: a set whose cells all point down joins one beside it.
  void join_sets_without_exit(Dice& dice) {
    list_exits();
    if (tiling_.shape() != Shape::triangle) return;
    has_exit_.assign(sets_.size(), false);
    for (const Exit& exit : exits_) has_exit_[root(exit.col)] = true;
    for (std::int32_t col = 0; col < size_.cols; ++col) {
      if (has_exit_[root(col)]) continue;
      const bool left = col > 0;
      const bool right = col + 1 < size_.cols;
      open_along(left && (!right || dice.pick(2) == 0) ? col - 1 : col);
      has_exit_[root(col)] = true;  // what lies beside it points up
    }
  }

  /// Opens sides into the next row as chance has it, and one for each set that has none.
  void go_on(Dice& dice) {
    left_.assign(sets_.size(), 0);  // exits of a set that are not decided yet
    went_on_.assign(sets_.size(), false);
    for (const Exit& exit : exits_) ++left_[root(exit.col)];
    for (const Exit& exit : exits_) {
      const std::uint32_t set = root(exit.col);
      const bool must = --left_[set] == 0 && !went_on_[set];
      if (!must && dice.pick(2) != 0) continue;
      const auto at = static_cast<std::size_t>(exit.col);
      const auto to = static_cast<std::size_t>(exit.to);
      std::uint32_t& below = set_below_[to];
      if (below != none && sets_.root(below) == set) continue;  // joined already, and went on therefore
      open_[at] = static_cast<std::uint8_t>(open_[at] | exit.out);
      below_[to] = static_cast<std::uint8_t>(below_[to] | exit.in);
      join_through(below, set);
    }
    for (std::uint32_t& set : set_below_) {
      if (set != none) set = sets_.root(set);
    }
  }
  /// A cell below belongs to a set from now on, or joins that with the one it belonged to.
  void join_through(std::uint32_t& below, std::uint32_t set) {
    if (below == none) {
      below = set;
      went_on_[set] = true;
      return;
    }
    const std::uint32_t other = sets_.root(below);
    const std::uint32_t exits = left_[set] + left_[other];
    (void)sets_.join(set, other);
    const std::uint32_t joined = sets_.root(set);
    left_[joined] = exits;
    went_on_[joined] = true;
  }

  Tiling tiling_;
  Size size_;
  std::array<Sides, 2> sides_ = {};  // by kind
  std::int32_t row_ = 0;
  std::vector<std::uint8_t> open_;
  std::vector<std::uint8_t> below_;  // the next row's, as far as it is known
  std::vector<std::uint32_t> set_;
  std::vector<std::uint32_t> set_below_;
  UnionFind sets_;
  std::vector<std::uint32_t> renamed_;
  std::vector<Exit> exits_;
  std::vector<std::uint32_t> left_;
  std::vector<bool> went_on_;
  std::vector<bool> has_exit_;
};

}  // namespace saunter::inline v0_2::detail
