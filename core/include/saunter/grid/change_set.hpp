/// @file
/// What has changed, as a few blocks of cells.
///
/// Units: cells.
/// Errors: none: cells off a map are kept like others, and ignored by whoever follows.
/// Cost: O(blocks) to add one, at most `most_blocks` are kept; no allocation.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <cstddef>
#include <span>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Blocks that hold every changed cell, for everything that follows a map: `rebake`, regions, danger. Changes far apart
/// stay apart, so that the cost of following is that of the changes and not of all that lies between them; blocks that
/// touch, and those whose joining costs least where there are too many, become one.
class ChangeSet {
 public:
  static constexpr std::size_t most_blocks = 8;

  ChangeSet() = default;
  /// One block alone: a block is a change wherever one is asked for.
  ChangeSet(Rect block) { add(block); }  // NOLINT(google-explicit-constructor): a block is a change

  void add(Cell cell) { add(Rect::of(cell)); }
  /// Empty blocks add nothing.
  void add(Rect block) {
    if (block.empty()) return;
    // A block that swallows others may then touch more.
    for (std::size_t i = 0; i < count_;) {
      if (blocks_[i].joined(block).cell_count() <= blocks_[i].cell_count() + block.cell_count()) {
        block = block.joined(blocks_[i]);
        blocks_[i] = blocks_[--count_];
        i = 0;
      } else {
        ++i;
      }
    }
    if (count_ == most_blocks) {
      const std::size_t nearest = cheapest_to_join(block);
      const Rect joined = block.joined(blocks_[nearest]);
      blocks_[nearest] = blocks_[--count_];
      add(joined);
      return;
    }
    blocks_[count_++] = block;
  }
  void add(const ChangeSet& others) {
    for (const Rect block : others.blocks()) add(block);
  }
  void clear() { count_ = 0; }

  [[nodiscard]] bool empty() const { return count_ == 0; }
  [[nodiscard]] std::span<const Rect> blocks() const { return std::span(blocks_).first(count_); }
  /// The smallest block that holds all.
  [[nodiscard]] Rect whole() const {
    Rect all;
    for (const Rect block : blocks()) all = all.joined(block);
    return all;
  }

 private:
  [[nodiscard]] std::size_t cheapest_to_join(Rect block) const {
    const auto added = [&](std::size_t i) { return blocks_[i].joined(block).cell_count() - blocks_[i].cell_count(); };
    std::size_t best = 0;
    for (std::size_t i = 1; i < count_; ++i) {
      if (added(i) < added(best)) best = i;
    }
    return best;
  }

  std::array<Rect, most_blocks> blocks_ = {};
  std::size_t count_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
