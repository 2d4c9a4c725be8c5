/// @file
/// All anchors of a footprint at once, by rows of bits.
#pragma once

#include <array>
#include <cstdlib>
#include <cstring>
#include <span>
#include <vector>

#include "../search/kernel/legal_steps.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/place/footprint.hpp"

namespace saunter::inline v0_2::detail {

/// Rows of bits with clear words around them, so that any shift of a row can be read without asking.
class PaddedRows {
 public:
  PaddedRows(const BitGrid& bits, std::int32_t most_aside)
      : pad_(static_cast<std::size_t>(most_aside) / 64 + 2),
        stride_(bits.row_words(0).size() + 2 * pad_),
        words_(stride_ * static_cast<std::size_t>(bits.size().rows), 0) {
    for (std::int32_t row = 0; row < bits.size().rows; ++row) {
      const auto from = bits.row_words(row);
      std::copy(from.begin(), from.end(), words_.begin() + static_cast<std::ptrdiff_t>(start(row)));
    }
  }
  /// Keeps of each bit of `out` only what is also set so many places further right.
  void keep_shifted(std::span<std::uint64_t> out, std::int32_t row, std::int32_t aside) const {
    // A whole number of words, then 0 to 63 places.
    const std::int32_t words = aside >= 0 ? aside / 64 : -((63 - aside) / 64);
    const auto shift = static_cast<unsigned>(aside - words * 64);
    const std::uint64_t* from = words_.data() + static_cast<std::ptrdiff_t>(start(row)) + words;
    if (shift == 0) {
      for (std::size_t i = 0; i < out.size(); ++i) out[i] &= from[i];
    } else {
      for (std::size_t i = 0; i < out.size(); ++i) out[i] &= from[i] >> shift | from[i + 1] << (64 - shift);
    }
  }

 private:
  [[nodiscard]] std::size_t start(std::int32_t row) const { return static_cast<std::size_t>(row) * stride_ + pad_; }
  std::size_t pad_;
  std::size_t stride_;
  std::vector<std::uint64_t> words_;
};

/// Where each part of a unit lies from its anchor, by the parities of the anchor's row and column, and which anchors
/// have a wanted bit at each of their parts.
class SpotRows {
 public:
  SpotRows(Tiling tiling, Size size, const Footprint& footprint, int turn, bool mirrored)
      : tiling_(tiling),
        size_(size),
        any_triangle_(footprint.either_way_up()),
        by_column_(tiling.shape() == Shape::hex_flat || tiling.shape() == Shape::triangle) {
    std::vector<Cell> cells;
    for (std::int32_t parity = 0; parity < 4; ++parity) {
      const Cell anchor{parity & 1, parity >> 1};
      cells_in_pose(tiling, footprint, {anchor, turn, mirrored}, cells);
      for (const Cell cell : cells) {
        parts_[static_cast<unsigned>(parity)].push_back(cell - anchor);
        // Farther than the map is wide nothing fits, and the padding need not follow.
        const std::int64_t aside = std::abs(std::int64_t{cell.col} - anchor.col);
        most_aside_ = static_cast<std::int32_t>(
            std::max<std::int64_t>(most_aside_, std::min<std::int64_t>(aside, std::int64_t{size.cols} + 1)));
      }
    }
  }

  /// All anchors on the map for which every part lies on a set bit.
  [[nodiscard]] BitGrid where_all(const BitGrid& bits) const {
    BitGrid spots(size_);
    if (size_.cell_count() == 0) return spots;
    const PaddedRows rows(bits, most_aside_);
    std::vector<std::uint64_t> legal(spots.row_words(0).size());
    for (std::int32_t row = 0; row < size_.rows; ++row) {
      const std::span<std::uint64_t> out = spots.row_words(row);
      for (std::int32_t odd = 0; odd < (by_column_ ? 2 : 1); ++odd) {
        if (tiling_.shape() == Shape::triangle && !any_triangle_ && tiling_.kind({odd, row}) != 0) continue;
        begin_row(odd, legal);
        bool any = true;
        for (const Offset part : parts(odd, row)) {
          any = any && on_map(row, part);
          if (any) rows.keep_shifted(legal, row + part.rows, part.cols);
        }
        for (std::size_t i = 0; any && i < out.size(); ++i) out[i] |= legal[i];
      }
      cut_margins(out, size_);
    }
    return spots;
  }

  /// Takes away anchors where a barrier, closed one way or both, would run between two parts.
  void keep_unbarred(const Map& map, BitGrid& spots) const {
    const std::array<BitGrid, max_directions> clear = unbarred(map);
    std::vector<std::uint64_t> legal(spots.row_words(0).size());
    for (Direction d{0}; d < tiling_.edge_count(); ++d) {
      std::array<std::vector<Offset>, 4> inner;  // by parities, each edge from its earlier cell
      for (std::int32_t parity = 0; parity < 4; ++parity)
        inner[static_cast<unsigned>(parity)] = inner_edges(parity & 1, parity >> 1, d);
      const bool none_within = std::all_of(inner.begin(), inner.end(), [](const auto& list) { return list.empty(); });
      if (none_within || clear[d.index()].size() != size_) continue;
      const PaddedRows rows(clear[d.index()], most_aside_);
      for (std::int32_t row = 0; row < size_.rows; ++row) {
        const std::span<std::uint64_t> out = spots.row_words(row);
        for (std::int32_t odd = 0; odd < (by_column_ ? 2 : 1); ++odd) {
          begin_row(odd, legal);
          const std::uint64_t places = legal[0];
          for (const Offset part : inner[static_cast<unsigned>(odd + 2 * (row & 1))]) {
            if (on_map(row, part)) rows.keep_shifted(legal, row + part.rows, part.cols);
          }
          for (std::size_t i = 0; i < out.size(); ++i) out[i] &= legal[i] | ~places;
        }
      }
    }
  }

  /// Every cell of a map.
  [[nodiscard]] static BitGrid all_of(Size size) {
    BitGrid all(size);
    for (std::int32_t row = 0; row < size.rows; ++row) {
      const std::span<std::uint64_t> words = all.row_words(row);
      std::fill(words.begin(), words.end(), ~std::uint64_t{0});
      cut_margins(words, size);
    }
    return all;
  }

 private:
  /// By edge, the cells that no barrier, closed one way or both, parts from a later one across it; empty grids where
  /// there is none.
  [[nodiscard]] std::array<BitGrid, max_directions> unbarred(const Map& map) const {
    std::array<BitGrid, max_directions> clear;
    const Neighbourhood& hood = tiling_.neighbourhood();
    const auto bar = [&](unsigned edge, Cell earlier) {
      if (clear[edge].size() != size_) clear[edge] = all_of(size_);
      clear[edge].set(earlier, false);
    };
    for (std::int32_t row = 0; row < size_.rows; ++row) {
      const std::span<const std::uint8_t> sets = map.closed_layer().row(row);
      for (std::size_t col = 0; col < sets.size(); ++col) {
        std::uint64_t eight = 1;
        if (col + 8 <= sets.size()) std::memcpy(&eight, sets.data() + col, sizeof(eight));
        if (eight == 0) {  // most cells have none
          col += 7;
          continue;
        }
        const Cell cell{static_cast<std::int32_t>(col), row};
        const auto kind = static_cast<unsigned>(tiling_.kind(cell));
        for_each_direction(sets[col], [&](unsigned edge) {
          const Cell other = cell + hood.offset[kind][edge];
          bar(cell < other ? edge : hood.opposite[kind][edge], cell < other ? cell : other);
        });
      }
    }
    return clear;
  }
  [[nodiscard]] const std::vector<Offset>& parts(std::int32_t odd, std::int32_t row) const {
    return parts_[static_cast<unsigned>(odd + 2 * (row & 1))];
  }
  [[nodiscard]] bool on_map(std::int32_t row, Offset part) const {
    const std::int64_t at = std::int64_t{row} + part.rows;
    return at >= 0 && at < size_.rows && part.cols >= -most_aside_ && part.cols <= most_aside_;
  }
  /// The parts from which an edge leads to a later part.
  [[nodiscard]] std::vector<Offset> inner_edges(std::int32_t odd, std::int32_t row, Direction d) const {
    const Cell anchor{odd, row & 1};
    std::vector<Offset> found;
    for (const Offset part : parts(odd, row)) {
      const Cell cell = anchor + part;
      const Cell other = tiling_.neighbour(cell, d);
      if (!(cell < other)) continue;
      for (const Offset second : parts(odd, row)) {
        if (anchor + second == other) found.push_back(part);
      }
    }
    return found;
  }
  void begin_row(std::int32_t odd, std::vector<std::uint64_t>& legal) const {
    constexpr std::uint64_t even_places = 0x5555'5555'5555'5555;  // the margin is even
    std::fill(legal.begin(), legal.end(), !by_column_ ? ~std::uint64_t{0} : even_places << static_cast<unsigned>(odd));
  }
  /// A unit need not cover its anchor, but the anchor must be on the map.
  static void cut_margins(std::span<std::uint64_t> out, Size size) {
    const auto end = static_cast<std::size_t>(size.cols) + BitGrid::margin;
    out[0] &= ~std::uint64_t{0} << BitGrid::margin;
    for (std::size_t i = end / 64; i < out.size(); ++i) {
      out[i] &= i > end / 64 ? 0 : (std::uint64_t{1} << (end % 64)) - 1;
    }
  }

  Tiling tiling_;
  Size size_;
  bool any_triangle_;
  bool by_column_;                            // neighbours depend on the parity of a column
  std::array<std::vector<Offset>, 4> parts_;  // by parity of column and row
  std::int32_t most_aside_ = 0;
};

}  // namespace saunter::inline v0_2::detail
