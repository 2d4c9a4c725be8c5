/// @file
/// What updates of regions work in.
#pragma once

#include <algorithm>
#include <span>
#include <vector>

#include "run_labels.hpp"
#include "saunter/region/regions.hpp"
#include "turn_floods.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// What is known of some cells of a region.
struct Tally {
  std::uint32_t cells = 0;
  Rect box;
  Cell first;

  void take(Cell cell) {
    if (cells == 0 || cell < first) first = cell;
    box = box.joined(Rect::of(cell));
    ++cells;
  }
  void take(const Tally& other) {
    if (other.cells == 0) return;
    if (cells == 0 || other.first < first) first = other.first;
    box = box.joined(other.box);
    cells += other.cells;
  }
};

}  // namespace detail

/// What updates work in, kept for the next one.
struct RegionsUpdater::Scratch {
  static constexpr std::uint32_t no_group = ~std::uint32_t{0};

  /// Open cells of the window that are connected within it. Its flood sets out from those around the block.
  struct Group {
    std::uint32_t name = 0;  // 0 until it has one of its own
    std::uint32_t any_old = 0;
    detail::Tally inside;  // its cells in the block
    detail::Tally found;   // cells its flood has found, other than those
  };
  /// An old region about the block.
  struct Old {
    std::uint32_t number = 0;
    std::vector<std::uint32_t> groups;
    detail::Tally lost;  // to the block or to floods
    std::uint32_t heir = no_group;
  };
  /// A region as it is afterwards.
  struct Heir {
    detail::Tally tally;
    std::uint32_t id = 0;
  };

  /// The old regions met so far, seldom more than a few; their lists keep their memory.
  class Olds {
   public:
    void begin() {
      count_ = 0;
      by_number_.clear();
    }
    Old& operator[](std::uint32_t number) {
      const auto found =
          std::lower_bound(by_number_.begin(), by_number_.end(), number,
                           [](const Entry& entry, std::uint32_t wanted) { return entry.number < wanted; });
      if (found != by_number_.end() && found->number == number) return olds_[found->place];
      if (count_ == olds_.size()) olds_.emplace_back();
      by_number_.insert(found, {number, static_cast<std::uint32_t>(count_)});
      Old& old = olds_[count_++];
      old.number = number;
      old.groups.clear();
      old.lost = {};
      old.heir = no_group;
      return old;
    }
    [[nodiscard]] std::span<Old> all() { return std::span(olds_).first(count_); }

   private:
    struct Entry {
      std::uint32_t number = 0;
      std::uint32_t place = 0;
    };
    std::vector<Old> olds_;
    std::vector<Entry> by_number_;
    std::size_t count_ = 0;
  };

  std::vector<std::uint32_t> group_at;
  std::vector<Group> groups;
  detail::TurnFloods floods;
  std::vector<std::uint32_t> group_named;
  Olds olds;
  std::vector<Heir> heirs;
  std::vector<std::uint32_t> heir_of;
  std::vector<std::uint32_t> order;
  std::vector<std::uint32_t> now;
  std::vector<Region> next;
  Regions::Making making;  // for regions made anew
};

}  // namespace saunter::inline v0_2
