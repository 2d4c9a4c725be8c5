/// @file
/// Making an index, a little at a time.
#pragma once

#include <memory>

#include "index_block.hpp"
#include "passages.hpp"
#include "turning_points.hpp"

namespace saunter::inline v0_2::detail {

/// How places of a board are found; what an index and its maker share.
struct PlacesOf {
  PlaceKind kind = PlaceKind::passages;
  unsigned sides = 1;

  /// What suits a board: turning points where they are enough, and one side where ways cost the same both ways.
  [[nodiscard]] static PlacesOf board(const CostGrid& costs);
};

/// Runs the parts of the work one after the other.
class IndexMaker {
 public:
  virtual ~IndexMaker() = default;
  IndexMaker() = default;
  IndexMaker(const IndexMaker&) = delete;
  IndexMaker& operator=(const IndexMaker&) = delete;

  /// Does some of the work. @return whether it is done
  virtual bool work(std::size_t amount, const Workers& workers) = 0;
  /// How much is done, about: 0 to 1.
  [[nodiscard]] virtual double share_done() const = 0;
  [[nodiscard]] virtual std::vector<std::uint64_t> block() const = 0;
  [[nodiscard]] virtual std::size_t memory() const = 0;

  /// @param costs  must outlive the maker
  [[nodiscard]] static std::unique_ptr<IndexMaker> make(const CostGrid& costs, std::size_t most_bytes);
};

}  // namespace saunter::inline v0_2::detail
