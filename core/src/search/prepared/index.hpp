/// @file
/// A prepared map's index as one block of bytes, which files hold as it is.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <type_traits>
#include <vector>

#include "contraction.hpp"

namespace saunter::inline v0_2::detail {

/// A hub in a list, and what getting there (or from there) costs.
struct HubCost {
  std::uint32_t hub = 0;
  Cost cost = 0;
};

/// The lists of one direction: for each core place the hubs it leads to (or is led to by), by number.
struct HubTable {
  std::span<const std::uint32_t> first;  // one more than core places
  std::span<const HubCost> hubs;
  std::span<const std::uint16_t> way;  // the first way towards the hub, as its place among the place's own

  /// Where a place's list has a hub, or where it would. Looks first where lists of even spread would have it.
  [[nodiscard]] std::uint32_t find(std::uint32_t place, std::uint32_t hub, double about) const;
};

/// Part of a way in one direction, as text holds it: direction above steps, 1 to 15.
struct Straight {
  static constexpr unsigned most_steps = 15;
  std::uint8_t direction = 0;
  std::uint32_t steps = 0;
};

/// Part of a way: between two places.
struct Stretch {
  enum class By : std::uint8_t {
    direct,       ///< by a way of the board that leaves the first place as noted
    direct_back,  ///< by the way of the board that leaves the last place as noted, gone back
    middle,       ///< over a place that was taken away earlier
    text          ///< written out
  };
  std::uint32_t from = 0;
  std::uint32_t to = 0;
  std::uint32_t how = 0;  ///< the direction noted, the place, or where the text begins
  By by = By::direct;
};

/// What an index consists of. Core places come first, by importance, and keep the ways between them, written out; all
/// others keep the ways to places that are more important.
struct Index {
  static constexpr std::uint32_t none = ~std::uint32_t{0};

  std::uint32_t sides = 1;
  std::uint32_t core = 0;
  std::span<const std::uint32_t> cells;   // by place, packed
  std::span<const std::uint32_t> places;  // by number in reading order
  std::span<const std::uint32_t> first;   // by place, one more than places
  std::span<const std::uint32_t>
      way_words;                       // IndexWay<sides>; of core places, `middle` is where the text of the way begins
  std::span<const std::uint8_t> text;  // runs, each way ended by 0
  std::array<HubTable, 2> hubs;        // the second only with two sides

  [[nodiscard]] std::size_t count() const { return cells.size(); }
  template <unsigned n>
  [[nodiscard]] std::span<const IndexWay<n>> ways(std::uint32_t place) const {
    static_assert(std::is_trivially_copyable_v<IndexWay<n>> && sizeof(IndexWay<n>) % 4 == 0);
    const auto* const all = reinterpret_cast<const IndexWay<n>*>(way_words.data());
    return {all + first[place], all + first[place + 1]};
  }
  /// A way from one end to the other. @param back  from where it leads to the place that keeps it
  template <unsigned n>
  [[nodiscard]] Stretch stretch(std::uint32_t place, const IndexWay<n>& way, bool back) const;
};

template <unsigned n>
Stretch Index::stretch(std::uint32_t place, const IndexWay<n>& way, bool back) const {
  const std::uint32_t from = back ? way.to : place;
  const std::uint32_t to = back ? place : way.to;
  if (place < core) {  // the other place keeps the text of the way back
    if (!back) return {from, to, way.middle[0], Stretch::By::text};
    for (const IndexWay<n>& other : ways<n>(way.to)) {
      if (other.to == place) return {from, to, other.middle[0], Stretch::By::text};
    }
    return {from, to, 0, Stretch::By::text};  // none: the text before the first
  }
  const std::uint32_t middle = way.middle[back ? IndexWay<n>::back : IndexWay<n>::there];
  if (!Middle::is_direct(middle)) return {from, to, middle, Stretch::By::middle};
  return {from, to, Middle::leaving(middle), back && n == 1 ? Stretch::By::direct_back : Stretch::By::direct};
}

inline std::uint32_t HubTable::find(std::uint32_t place, std::uint32_t hub, double about) const {
  const std::uint32_t begin = first[place];
  const std::uint32_t end = first[place + 1];
  auto at = begin + static_cast<std::uint32_t>(about * (end - begin));
  std::uint32_t low = begin;
  std::uint32_t high = end;
  for (std::uint32_t step = 4; low < high; step *= 2) {
    at = at < low ? low : at >= high ? high - 1 : at;
    if (hubs[at].hub == hub) return at;
    if (hubs[at].hub < hub) {
      low = at + 1;
      at = high - at > step ? at + step : low + (high - low) / 2;
    } else {
      high = at;
      at = at - low > step ? at - step : low + (high - low) / 2;
    }
  }
  return low;
}

}  // namespace saunter::inline v0_2::detail
