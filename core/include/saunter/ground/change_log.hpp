/// @file
/// Which cells of a grid have changed since when.
///
/// Units: revisions, which count changes.
/// Errors: none.
/// Cost: O(1) a change of one cell; 8 bytes for 64 cells once there have been more than 64 changes.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The last changes as they were, those before them by tiles: of each the revision after its last one.
class ChangeLog {
 public:
  /// Takes the memory that the next change may need.
  void make_room(Size size) {
    if (count_ == recent_.size() && tiles_.empty()) tiles_.resize(across(size.cols) * across(size.rows));
  }
  /// @param after  the revision it led to, larger than all before. @pre make_room(size)
  void note(Rect block, std::uint64_t after, Size size) {
    if (count_ < recent_.size()) {
      recent_[count_++] = {block, after};
      return;
    }
    const Recent oldest = recent_[first_];
    recent_[first_] = {block, after};
    first_ = (first_ + 1) % recent_.size();
    gone_ = oldest.after;
    for (std::int32_t row = oldest.block.top / side; row * side < oldest.block.bottom; ++row) {
      for (std::int32_t col = oldest.block.left / side; col * side < oldest.block.right; ++col) {
        tiles_[static_cast<std::size_t>(row) * across(size.cols) + static_cast<std::size_t>(col)] = oldest.after;
      }
    }
  }
  template <typename Visit>
  void for_each_since(std::uint64_t since, Size size, Visit&& visit) const {
    if (gone_ > since) {
      const std::size_t cols = across(size.cols);
      for (std::size_t row = 0; row * cols < tiles_.size(); ++row) {
        for (std::size_t col = 0; col < cols; ++col) {
          const std::size_t first = col;
          while (col < cols && tiles_[row * cols + col] > since) ++col;
          if (col == first) continue;
          const auto top = static_cast<std::int32_t>(row) * side;
          visit(Rect{static_cast<std::int32_t>(first) * side, top, static_cast<std::int32_t>(col) * side, top + side}
                    .grown(0, size));
        }
      }
    }
    for (std::size_t i = 0; i < count_; ++i) {
      const Recent& change = recent_[(first_ + i) % recent_.size()];
      if (change.after > since) visit(change.block);
    }
  }

 private:
  static constexpr std::int32_t side = 8;
  struct Recent {
    Rect block;
    std::uint64_t after = 0;
  };
  static std::size_t across(std::int32_t cells) { return (static_cast<std::size_t>(cells) + side - 1) / side; }

  std::array<Recent, 64> recent_ = {};  // a ring
  std::size_t first_ = 0;               // the oldest
  std::size_t count_ = 0;
  std::uint64_t gone_ = 0;  // the last revision that is not among the recent ones
  std::vector<std::uint64_t> tiles_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
