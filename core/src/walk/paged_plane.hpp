/// @file
/// A value for each cell of a map, kept only for the parts of it that have been written to.
#pragma once

#include <algorithm>
#include <array>
#include <memory>
#include <vector>

#include "saunter/grid/cell.hpp"

namespace saunter::inline v0_2::detail {

/// Blocks of 64 x 64 cells: which one a cell lies in, and where.
struct Block {
  static constexpr unsigned shift = 6;
  static constexpr std::uint32_t mask = (1U << shift) - 1;
  static constexpr std::size_t cells = std::size_t{1} << (2 * shift);

  /// Names the block.
  [[nodiscard]] static Cell corner_of(Cell cell) {
    return {cell.col & ~static_cast<std::int32_t>(mask), cell.row & ~static_cast<std::int32_t>(mask)};
  }
  [[nodiscard]] static std::size_t place_of(Cell cell) { return place(spot_of(cell)); }

  /// A place with free bits above its column and above its row: a step is one addition, and a free bit that is set
  /// tells that it has left the block.
  static constexpr std::uint32_t row = 1U << (shift + 2);
  static constexpr std::uint32_t outside = ~(mask | mask * row);
  [[nodiscard]] static std::uint32_t spot_of(Cell cell) {
    return (static_cast<std::uint32_t>(cell.col) & mask) + (static_cast<std::uint32_t>(cell.row) & mask) * row;
  }
  [[nodiscard]] static std::size_t place(std::uint32_t spot) { return (spot >> 2U & mask << shift) | (spot & mask); }
  [[nodiscard]] static Cell cell(Cell corner, std::uint32_t spot) {
    return {corner.col + static_cast<std::int32_t>(spot & mask), corner.row + static_cast<std::int32_t>(spot / row)};
  }
};

/// Such blocks, made when first written to: memory for the ground touched, reading without a search.
template <typename Value>
class PagedPlane {
 public:
  void begin(Size size) {
    size_ = {};  // until there are pages for it: memory may run out before
    touched_.clear();
    pages_.clear();
    across_ = (static_cast<std::size_t>(size.or_empty().cols) + Block::mask) >> Block::shift;
    pages_.resize(across_ * ((static_cast<std::size_t>(size.or_empty().rows) + Block::mask) >> Block::shift));
    size_ = size.or_empty();
  }
  /// The same, for a board of the same size with the memory it has.
  void begin_again(Size size) {
    if (size.or_empty() != size_) return begin(size);
    for_all([](Value& value) { value = {}; });
  }
  /// `Value{}` off the map.
  [[nodiscard]] Value at(Cell cell) const {
    if (!size_.contains(cell)) return {};
    const std::unique_ptr<Page>& page = pages_[page_of(cell)];
    return page == nullptr ? Value{} : (*page)[Block::place_of(cell)];
  }
  /// What is written off the map is lost.
  [[nodiscard]] Value& operator[](Cell cell) {
    if (!size_.contains(cell)) return elsewhere_ = {};
    const std::size_t number = page_of(cell);
    if (pages_[number] == nullptr) {
      touched_.push_back(number);  // first: what is listed twice or in vain does no harm
      pages_[number] = std::make_unique<Page>();
    }
    return (*pages_[number])[Block::place_of(cell)];
  }
  /// The block that a cell of the map lies in, its values by Block::place_of(cell); it stays where it is.
  [[nodiscard]] auto& block(Cell cell) {
    (void)(*this)[cell];
    return *pages_[page_of(cell)];
  }
  /// Calls change(value) for every value that has ever been written, and others beside them.
  template <typename Change>
  void for_all(Change&& change) {
    for (const std::size_t number : touched_) {
      if (pages_[number] == nullptr) continue;
      for (Value& value : *pages_[number]) change(value);
    }
  }
  [[nodiscard]] std::size_t bytes() const {
    return pages_.capacity() * sizeof(std::unique_ptr<Page>) + touched_.capacity() * sizeof(std::size_t) +
           touched_.size() * sizeof(Page);
  }

 private:
  using Page = std::array<Value, Block::cells>;

  [[nodiscard]] std::size_t page_of(Cell cell) const {
    return (static_cast<std::size_t>(cell.row) >> Block::shift) * across_ +
           (static_cast<std::size_t>(cell.col) >> Block::shift);
  }

  Size size_;
  Value elsewhere_ = {};
  std::size_t across_ = 0;
  std::vector<std::unique_ptr<Page>> pages_;
  std::vector<std::size_t> touched_;
};

}  // namespace saunter::inline v0_2::detail
