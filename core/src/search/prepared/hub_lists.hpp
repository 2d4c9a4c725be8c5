/// @file
/// For every place of a graph the few hubs that any least-cost way from it to another must meet.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "contraction.hpp"

namespace saunter::inline v0_2::detail {

/// One hub of a place: what getting there costs, and the first way to take, as its place among the ways of the place.
struct Hub {
  std::uint32_t hub = 0;
  Cost cost = 0;
  std::uint16_t way = 0;
};

/// Hub lists by searches from one hub after the other, cut off wherever lists made before know a way as cheap (pruned
/// landmark labelling; Akiba, Iwata, Yoshida 2013). Several hubs at a time: what only hubs of the same turn make
/// needless is struck off afterwards, so that the lists are the same with any number of workers.
template <unsigned sides>
class HubLists {
 public:
  /// Hubs are numbered by the order; so are the places of the lists.
  void begin(const Core<sides>& core, const std::vector<std::uint32_t>& order);
  bool work(std::size_t amount, const Workers& workers);
  /// The hubs of a place, by number: those it leads to, or (with two sides) those that lead to it.
  [[nodiscard]] const std::vector<Hub>& hubs(std::uint32_t place, unsigned side) const { return lists_[side][place]; }
  /// Hubs done with.
  [[nodiscard]] std::size_t done_count() const { return next_; }
  [[nodiscard]] const Core<sides>& core() const { return core_; }

 private:
  struct Found {
    std::uint32_t place = 0;
    Hub hub;
  };
  struct Bench {
    std::vector<Cost> cost;              // by place
    std::vector<std::uint32_t> towards;  // the hub: the place it was reached from
    std::vector<Cost> from_hub;          // by hub
    CostHeap heap;
    std::vector<std::uint32_t> touched;
  };
  void search(std::uint32_t hub, unsigned side, Bench& bench, std::vector<Found>& found) const;
  void keep(const std::vector<Found>& found, unsigned side, std::uint32_t first_of_turn);

  Core<sides> core_;  // numbered by the order
  std::array<std::vector<std::vector<Hub>>, sides> lists_;
  std::vector<Bench> benches_;
  std::vector<std::vector<Found>> found_;
  std::uint32_t next_ = 0;
};

extern template class HubLists<1>;
extern template class HubLists<2>;

}  // namespace saunter::inline v0_2::detail
