#include "run_labels.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>

namespace saunter::inline v0_2::detail {
namespace {

/// A row read word by word.
class RowOfRuns {
 public:
  explicit RowOfRuns(std::uint32_t first_number) : before_(first_number) {}

  void read(std::uint64_t word) {
    const std::uint64_t shifted = word << 1U | last_;
    begins = word & ~shifted;
    past = shifted & ~word;
    last_ = word >> 63U;
    // In each byte how many begin in the bytes below it, and in the highest how many there are in all.
    std::uint64_t sums = begins - (begins >> 1U & 0x5555'5555'5555'5555U);
    sums = (sums & 0x3333'3333'3333'3333U) + (sums >> 2U & 0x3333'3333'3333'3333U);
    sums = ((sums + (sums >> 4U)) & 0x0F0F'0F0F'0F0F'0F0FU) * 0x0101'0101'0101'0101U;
    in_word_ = static_cast<std::uint32_t>(sums >> 56U);
    sums_ = sums << 8U;
  }
  /// The number of the last stretch that begins at a bit or before it.
  [[nodiscard]] std::uint32_t number_at(unsigned bit) const;
  void leave() { before_ += in_word_; }
  [[nodiscard]] std::uint32_t count() const { return before_; }

  std::uint64_t begins = 0;  // bits of cells that a stretch begins at
  std::uint64_t past = 0;    // bits of cells just past a stretch's end

 private:
  std::uint32_t before_;  // how many begin in earlier words and rows
  std::uint32_t in_word_ = 0;
  std::uint64_t last_ = 0;
  std::uint64_t sums_ = 0;
};

/// For a byte and a bit of it: how many bits are set up to that one.
constexpr std::array<std::uint8_t, 2048> bits_up_to = [] {
  std::array<std::uint8_t, 2048> table{};
  for (unsigned i = 0; i < table.size(); ++i) {
    table[i] = static_cast<std::uint8_t>(std::popcount(i >> 3U & ((2U << (i & 7U)) - 1U)));
  }
  return table;
}();

std::uint32_t RowOfRuns::number_at(unsigned bit) const {
  const unsigned byte = bit & 56U;
  const auto in_byte = static_cast<unsigned>(begins >> byte) & 255U;
  return before_ + (static_cast<std::uint32_t>(sums_ >> byte) & 255U) + bits_up_to[in_byte << 3U | (bit & 7U)] - 1;
}

/// Which cells of a row touch the row below them, and where beside straight down: bits of whole words.
struct Touching {
  std::uint64_t straight = ~std::uint64_t{0};
  std::uint64_t from_end = 0;    // by the bit past a stretch's end: that end touches the cell to its right below
  std::uint64_t from_begin = 0;  // a stretch that begins there touches the cell to its left below
};

Touching touching(Tiling tiling, std::int32_t row, bool corners) {
  constexpr std::uint64_t all = ~std::uint64_t{0};
  constexpr std::uint64_t even = 0x5555'5555'5555'5555U;
  static_assert(BitGrid::margin % 2 == 0, "columns and bits are even together");
  const bool first_kind = tiling.kind({0, row}) == 0;
  switch (tiling.shape()) {
    case Shape::square: return {all, corners ? all : 0, corners ? all : 0};
    case Shape::hex_pointy: return {all, first_kind ? 0 : all, first_kind ? all : 0};
    case Shape::hex_flat: {
      const std::uint64_t reaches_aside = first_kind ? ~even : even;
      return {all, ~reaches_aside, reaches_aside};
    }
    case Shape::triangle: return {first_kind ? even : ~even, 0, 0};
  }
  return {};
}

/// Four cells at a time, up to three of them past the end.
void fill_past_end(std::uint32_t* at, std::uint32_t* end, std::uint32_t name) {
  const std::array<std::uint32_t, 4> four{name, name, name, name};
  for (; at < end; at += 4) std::memcpy(at, four.data(), sizeof(four));
}

}  // namespace

/// Rem's: both climb by turns, and each place passed hangs on the other's parent.
SAUNTER_INLINE inline void RunLabels::join(std::uint32_t a, std::uint32_t b) {
  std::uint32_t* const parents = parents_.data();
  while (parents[a] != parents[b]) {
    if (parents[a] < parents[b]) std::swap(a, b);
    const std::uint32_t up = parents[a];
    parents[a] = parents[b];
    if (up == a) return;
    a = up;
  }
}

template <Shape shape, bool corners>
void RunLabels::join_all(const CostGrid& costs) {
  constexpr bool aside = corners || shape == Shape::hex_pointy || shape == Shape::hex_flat;
  const BitGrid& open = costs.open_cells();
  std::uint32_t above_first = 0;
  std::uint32_t here_first = 0;
  for (std::int32_t row = 0; row < costs.size().rows; ++row) {
    const Touching touch = touching(costs.tiling(), row - 1, corners);
    const std::span<const std::uint64_t> above = open.row_words(row - 1);
    const std::span<const std::uint64_t> here = open.row_words(row);
    RowOfRuns upper(above_first);
    RowOfRuns lower(here_first);
    std::uint64_t both_before = 0;
    std::uint64_t meet_before = 0;
    for (std::size_t i = 0; i < here.size(); ++i) {
      upper.read(above[i]);
      lower.read(here[i]);
      const std::uint64_t both = above[i] & here[i];
      std::uint64_t pairs = both & ~(both << 1U | both_before);  // where stretches of both rows begin to run together
      if constexpr (shape == Shape::triangle) {
        const std::uint64_t meet = pairs;
        pairs = (meet | meet << 1U | meet_before) & both & touch.straight;
        meet_before = meet >> 63U;
      }
      if constexpr (aside) {
        pairs |= (lower.begins & upper.past & touch.from_end) | (upper.begins & lower.past & touch.from_begin);
      }
      both_before = both >> 63U;
      for (; pairs != 0; pairs &= pairs - 1) {
        const auto bit = static_cast<unsigned>(std::countr_zero(pairs));
        join(upper.number_at(bit), lower.number_at(bit));
      }
      upper.leave();
      lower.leave();
    }
    above_first = here_first;
    here_first = lower.count();
  }
}

void RunLabels::number() {
  regions_ = 0;
  for (std::uint32_t i = 0; i < parents_.size(); ++i) {
    parents_[i] = parents_[i] == i ? ++regions_ : parents_[parents_[i]];
  }
}

void RunLabels::write(const CostGrid& costs, Grid<std::uint32_t>& names, std::vector<Region>& list) const {
  const Size size = costs.size();
  list.assign(regions_, Region{});
  std::uint32_t* const all = names.values().data();
  const std::uint32_t* id = parents_.data();
  std::uint32_t seen = 0;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    std::uint32_t* const cells = all + static_cast<std::size_t>(row) * static_cast<std::size_t>(size.cols);
    std::uint32_t* const row_end = cells + size.cols;
    const bool near_end = (size.rows - 1 - row) < 4;  // rows of one cell: three past the end are in the third row on
    const auto fill = [&](std::int32_t from, std::int32_t to, std::uint32_t name) {
      if (near_end) {
        std::fill(cells + from, cells + to, name);
      } else {
        fill_past_end(cells + from, cells + to, name);
      }
    };
    std::uint64_t inside = 0;
    std::int32_t since = 0;
    const std::span<const std::uint64_t> words = costs.open_cells().row_words(row);
    for (std::size_t i = 0; i < words.size(); ++i) {
      std::uint64_t changes = words[i] ^ (words[i] << 1U | inside);
      inside = words[i] >> 63U;
      for (; changes != 0; changes &= changes - 1) {
        const auto bit = static_cast<std::int32_t>(i * 64) + std::countr_zero(changes);
        const std::int32_t col = bit - static_cast<std::int32_t>(BitGrid::margin);
        if ((words[i] >> (bit % 64) & 1U) != 0) {
          fill(since, col, 0);
        } else {
          const std::uint32_t region_id = *id++;
          fill(since, col, region_id);
          Region& region = list[region_id - 1];
          if (region_id > seen) {
            region = {++seen, 0, Rect::of({since, row}), {since, row}};
          }
          region.cells += static_cast<std::uint32_t>(col - since);
          region.box.left = std::min(region.box.left, since);
          region.box.right = std::max(region.box.right, col);
          region.box.bottom = row + 1;
        }
        since = col;
      }
    }
    fill(since, static_cast<std::int32_t>(row_end - cells), 0);
  }
}

void RunLabels::run(const CostGrid& costs, Grid<std::uint32_t>& names, std::vector<Region>& list) {
  const BitGrid& open = costs.open_cells();
  std::size_t count = 0;
  for (std::int32_t row = 0; row < costs.size().rows; ++row) {
    std::uint64_t last = 0;
    for (const std::uint64_t word : open.row_words(row)) {
      count += static_cast<std::size_t>(std::popcount(word & ~(word << 1U | last)));
      last = word >> 63U;
    }
  }
  parents_.resize(count);
  for (std::uint32_t i = 0; i < count; ++i) parents_[i] = i;
  const bool corners = costs.rules().steps > costs.tiling().edge_count() && costs.rules().corners == Corners::free;
  switch (costs.tiling().shape()) {
    case Shape::square:
      if (corners) {
        join_all<Shape::square, true>(costs);
      } else {
        join_all<Shape::square, false>(costs);
      }
      break;
    case Shape::hex_pointy: join_all<Shape::hex_pointy, false>(costs); break;
    case Shape::hex_flat: join_all<Shape::hex_flat, false>(costs); break;
    case Shape::triangle: join_all<Shape::triangle, false>(costs); break;
  }
  number();
  write(costs, names, list);
}

}  // namespace saunter::inline v0_2::detail
