/// @file
/// The bytes of an index: made, checked and read.
#pragma once

#include <optional>
#include <string_view>

#include "hub_lists.hpp"
#include "index.hpp"
#include "../kernel/pack.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// How a board's places were chosen.
enum class PlaceKind : std::uint32_t {
  turning_points = 1,  ///< the cells where ways bend: squares of one cost
  passages = 2,        ///< every cell that is not inside a passage
  passages_twice = 3   ///< the same; ways cost what both their ends cost, so that both directions cost the same
};

/// Everything that decides about answers on a board, as one number: tiling, size, rules, entry costs, legal steps.
[[nodiscard]] std::uint64_t fingerprint(const CostGrid& costs);

/// The parts an index is put together from.
struct IndexParts {
  PlaceKind kind = PlaceKind::passages;
  std::vector<std::uint32_t> cells;   // by place, packed
  std::vector<std::uint32_t> places;  // by number in reading order
  std::vector<std::uint32_t> first;   // by place, one more than places
  std::vector<std::uint8_t> text;     // of the ways of core places
};

/// An index as 8-byte words: a head of fixed length, then the arrays one after the other, each from a word's start on.
/// The same bytes on every machine whose numbers have their lowest byte first.
template <unsigned sides>
[[nodiscard]] std::vector<std::uint64_t> make_block(const IndexParts& parts, std::span<const IndexWay<sides>> ways,
                                                    const HubLists<sides>& lists, const CostGrid& costs);

/// An index in a block, or why it is not one for this board.
struct OpenedBlock {
  Index index = {};
  PlaceKind kind = PlaceKind::passages;
  std::string_view problem = {};  ///< empty: none
};
/// Looks at length, checksum and board; what the numbers say is for sound() to tell. O(bytes) @param block  must
/// outlive the index, and begin at a multiple of 8
[[nodiscard]] OpenedBlock open_block(std::span<const std::byte> block, const CostGrid& costs);

}  // namespace saunter::inline v0_2::detail
