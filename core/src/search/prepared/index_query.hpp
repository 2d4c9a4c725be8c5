/// @file
/// Questions to an index.
#pragma once

#include <vector>

#include "index.hpp"
#include "saunter/grid/cell.hpp"

namespace saunter::inline v0_2::detail {

/// A place a cell leads to directly, and what that costs.
struct Lead {
  std::uint32_t place = 0;
  Cost cost = 0;
};

/// A goal's half of a question, for many starts.
struct GoalHalf {
  std::vector<HubCost> hubs;  // the least of each, by number
  std::vector<HubCost> low;   // places outside the core that lead there
  [[nodiscard]] std::size_t memory() const { return bytes_of(hubs, low); }
};

/// Finds least costs between places by searching from both towards more important ones (Geisberger and others 2008) as
/// far as the core, and there by the hubs that both ends have in common (Abraham and others 2011).
class IndexQuery {
 public:
  /// What the least-cost way between any of some places and any of some others costs; more than max_cost: none known.
  std::uint64_t least(const Index& index, std::span<const Lead> from, std::span<const Lead> to);
  /// That way as stretches, the last one first. The leads it joins are its ends. @pre least() has just found it
  void write_stretches(const Index& index, std::vector<Stretch>& out);
  /// The first place and the last of that way.
  [[nodiscard]] std::uint32_t first_place() const { return ends_[0]; }
  [[nodiscard]] std::uint32_t last_place() const { return ends_[1]; }

  /// Makes the start's half, for many questions from one start.
  void begin_from(const Index& index, std::span<const Lead> from);
  /// The same answers as least(index, from, to) for the start begun with.
  std::uint64_t least_to(const Index& index, std::span<const Lead> to);
  /// Makes a goal's half, and asks with it: the same answers as least_to(), but without a way.
  void make_half(const Index& index, std::span<const Lead> to, GoalHalf& out);
  [[nodiscard]] std::uint64_t least_cost(const GoalHalf& goal) const;
  /// Places both halves have taken from their queues, and core places whose hubs were looked at.
  [[nodiscard]] std::uint64_t expanded() const {
    return halves_[0].low.size() + halves_[0].core.size() + halves_[1].low.size() + halves_[1].core.size();
  }
  [[nodiscard]] std::size_t memory() const;

 private:
  /// A place that one side has reached.
  struct Reached {
    std::uint32_t query = 0;
    std::uint32_t place = 0;
    Cost cost = 0;
    std::uint32_t parent = 0;  // the place before; itself where it is a lead
    std::uint32_t way = 0;     // from there, among all ways
  };
  /// The places one side has reached, by place, in a table of open addressing.
  struct Half {
    std::vector<Reached> table;
    std::uint32_t query = 0;
    std::size_t count = 0;
    CostHeap heap;
    std::vector<std::uint64_t> core;  // cost above place, ascending
    std::vector<std::uint32_t> low;   // other places reached
    void begin();
    void grow();
    [[nodiscard]] std::size_t slot(std::uint32_t place) const {
      return static_cast<std::size_t>((place * 0x9E37'79B1U) >> 8U) & (table.size() - 1);
    }
    [[nodiscard]] const Reached* find(std::uint32_t place) const;
    /// The entry of a place; a new one where it was not reached.
    Reached& at(std::uint32_t place);
  };
  struct FromHub {
    Cost cost = 0;
    std::uint16_t query = 0;
    std::uint16_t end = 0;  // of which core place of the start's it is a hub, as its place in the list of them
  };

  template <unsigned sides>
  static bool led_past(const Index& index, const Half& half, std::uint32_t place, Cost cost, unsigned side);
  template <unsigned sides>
  void search(const Index& index, std::span<const Lead> leads, unsigned side);
  void spread(const Index& index);
  template <unsigned sides>
  std::uint64_t join(const Index& index);
  [[nodiscard]] std::uint32_t core_start(const Index& index) const;
  template <unsigned sides>
  void write(const Index& index, std::vector<Stretch>& out);
  template <unsigned sides>
  struct HubWalk;

  std::array<Half, 2> halves_;
  std::vector<FromHub> from_hubs_;
  std::uint16_t hubs_query_ = 0;
  std::vector<Stretch> first_half_;  // of a way's core part
  // The best way found.
  std::uint64_t best_ = 0;
  std::uint32_t meet_ = 0;  // the place both halves reached, or the hub
  bool by_hub_ = false;
  std::array<std::uint32_t, 2> core_ends_ = {};  // the start's as its place in the list of them
  std::array<std::uint32_t, 2> ends_ = {};
};

}  // namespace saunter::inline v0_2::detail
