/// @file
/// A board and its index: what a prepared map is, and never changes.
#pragma once

#include <memory>

#include "index_maker.hpp"
#include "index_query.hpp"
#include "run_writer.hpp"
#include "saunter/search/prepared.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// Everything queries read. In any number of threads at once.
struct PreparedMap {
  /// @param block  as made, or read from outside
  PreparedMap(CostGrid board, std::vector<std::uint64_t> block);
  /// Over bytes that the caller keeps. Refused when they are not sound: see problem.
  PreparedMap(CostGrid board, std::span<const std::byte> block);
  PreparedMap(const PreparedMap&) = delete;
  PreparedMap& operator=(const PreparedMap&) = delete;

  [[nodiscard]] const PlaceSet& places() const {
    return kind == PlaceKind::turning_points ? bends.places() : passages.places();
  }
  [[nodiscard]] std::uint32_t place(Cell cell) const { return index.places[places().number(cell)]; }
  [[nodiscard]] Cell cell(std::uint32_t place) const { return unpack(index.cells[place]); }
  [[nodiscard]] WayGround ground() const { return {base, index, kind == PlaceKind::turning_points}; }
  [[nodiscard]] std::size_t memory() const;

  CostGrid base;
  std::vector<std::uint64_t> words;    // where it keeps the block itself
  std::shared_ptr<const void> keeper;  // else: what keeps it
  std::span<const std::byte> bytes;
  std::string_view problem;
  PlaceKind kind = PlaceKind::passages;
  Index index;
  TurningPoints bends;
  Passages passages;

 private:
  void open();
};

}  // namespace detail

struct Prepared::Inside : detail::PreparedMap {
  using detail::PreparedMap::PreparedMap;
};

/// What the searches read of a prepared map.
struct PreparedAccess {
  [[nodiscard]] static const detail::PreparedMap* map(const Prepared& prepared) { return prepared.map_.get(); }
  [[nodiscard]] static std::shared_ptr<const void> keeper(const Prepared& prepared) { return prepared.map_; }
  [[nodiscard]] static const std::vector<Cell>& dearer(const Prepared& prepared) { return prepared.dearer_; }
  [[nodiscard]] static const std::vector<Cell>& cheaper(const Prepared& prepared) { return prepared.cheaper_; }
};

}  // namespace saunter::inline v0_2
