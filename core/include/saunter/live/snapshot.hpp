/// @file
/// A live map as it was at one moment, for other threads to read.
///
/// Units: costs in hundredths.
/// Errors: what nobody had asked for when it was made is null.
/// Cost: O(1) to read; as much memory as the followers it copies.
/// Threads: reading from any number.
#pragma once

#include <cstdint>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/threat/levels.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Cost grids, regions and levels of one moment; commits leave it as it is. Held by a shared pointer: when the last
/// holder lets it go, its memory is brought up to date for a later one. It may outlive its live map.
class Snapshot {
 public:
  [[nodiscard]] std::uint64_t revision() const { return revision_; }
  /// Null for a mover whose grid, regions or levels nobody had asked for.
  [[nodiscard]] const CostGrid* costs(std::size_t mover) const {
    return mover < parts_.size() && parts_[mover].has_costs ? &parts_[mover].costs : nullptr;
  }
  [[nodiscard]] const Regions* regions(std::size_t mover) const {
    return mover < parts_.size() && parts_[mover].has_regions ? &parts_[mover].regions : nullptr;
  }
  [[nodiscard]] const Levels* levels(std::size_t mover) const {
    return mover < parts_.size() && parts_[mover].has_levels ? &parts_[mover].levels : nullptr;
  }

 private:
  friend class LiveMap;
  struct Part {
    bool has_costs = false;
    bool has_regions = false;
    bool has_levels = false;
    CostGrid costs;
    Regions regions;
    Levels levels;
  };
  std::uint64_t revision_ = 0;
  std::vector<Part> parts_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
