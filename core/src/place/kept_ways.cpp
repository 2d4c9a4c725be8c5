// Ways that join the cells to be kept open: what touches none of them cuts nothing off.
#include <algorithm>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "placement.hpp"
#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2::detail {

BitGrid Placement::witnesses(const BitGrid& avoided) {
  BitGrid touched(map_.size());
  for (const Cell cell : kept_) touched.set(cell);
  for (const std::uint32_t region : wanted_) mark_ways(region, avoided, touched);
  return touched;
}

/// The places of kept cells in a region, in reading order.
std::vector<Cell> Placement::places_in(std::uint32_t region) const {
  std::vector<Cell> found;
  for (const auto& places : places_) {
    for (const Cell place : places) {
      if (terms_.regions->at(place) == region) found.push_back(place);
    }
  }
  std::sort(found.begin(), found.end());
  found.erase(std::unique(found.begin(), found.end()), found.end());
  return found;
}

/// Ways from one kept place of a region to all others with all they need: bodies, and what lies beside steps across
/// corners. They need not be short: the search goes on where it is nearest to a place not found yet, an avoided cell
/// counting as so many steps more.
void Placement::mark_ways(std::uint32_t region, const BitGrid& avoided, BitGrid& touched) {
  constexpr std::uint32_t avoided_steps = 8;
  const std::vector<Cell> ends = places_in(region);
  const CostGrid& costs = *terms_.costs;
  const Neighbourhood& hood = tiling_.neighbourhood();
  constexpr std::uint8_t unseen = 255;
  constexpr std::uint8_t start = 254;
  Grid<std::uint8_t> back(map_.size(), unseen);
  struct Entry {
    std::uint32_t far = 0;
    std::uint32_t avoided = 0;
    Cell at;
    bool operator<(const Entry& other) const { return far < other.far; }
  };
  std::vector<Cell> wanted(ends.begin() + 1, ends.end());
  BinaryHeap<Entry> queue;
  queue.enqueue({0, 0, ends.front()});
  back[ends.front()] = start;
  const auto look = [&](const Entry& entry) {
    if (wanted.empty()) return Take::stop;
    std::erase(wanted, entry.at);
    return Take::expand;
  };
  best_first(queue, look, [&](const Entry& entry) {
    const auto kind = static_cast<unsigned>(tiling_.kind(entry.at));
    for_each_direction(two_way_moves(costs, entry.at), [&](unsigned d) {
      const Cell next = entry.at + hood.offset[kind][d];
      if (std::as_const(back)[next] != unseen) return;
      back[next] = static_cast<std::uint8_t>(hood.opposite[kind][d]);
      std::int64_t nearest = INT32_MAX;
      for (const Cell end : wanted) nearest = std::min<std::int64_t>(nearest, tiling_.edge_distance(next, end));
      const std::uint32_t crossed = entry.avoided + (avoided.test(next) ? avoided_steps : 0);
      queue.enqueue({static_cast<std::uint32_t>(nearest) + crossed, crossed, next});
    });
  });
  for (Cell at : ends) {
    while (true) {
      mark_body(at, touched);
      const std::uint8_t d = std::as_const(back)[at];
      if (d >= unseen - 1) break;
      mark_beside(at, d, touched);
      at = tiling_.neighbour(at, Direction(d));
    }
  }
}

void Placement::mark_body(Cell place, BitGrid& touched) {
  body_cells(tiling_, place, terms_.mover->size, scratch_.body);
  for (const Cell cell : scratch_.body) touched.set(cell);
}

void Placement::mark_beside(Cell from, unsigned d, BitGrid& touched) {
  const Neighbourhood& hood = tiling_.neighbourhood();
  if (d < static_cast<unsigned>(hood.edges)) return;
  for (const CornerWay& way : hood.ways[static_cast<unsigned>(tiling_.kind(from))][d]) {
    Cell at = from;
    for (unsigned i = 0; i + 1 < way.count; ++i) {
      at = tiling_.neighbour(at, Direction(way.steps[i]));
      mark_body(at, touched);
    }
  }
}

}  // namespace saunter::inline v0_2::detail
