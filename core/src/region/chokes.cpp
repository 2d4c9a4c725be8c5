#include "saunter/region/chokes.hpp"

#include <algorithm>
#include <bit>
#include <functional>

#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint8_t no_direction = 255;

/// The two-way steps that decide about chokes. Where all steps follow from open cells or corners are strict, a two-way
/// step across a corner has a two-way way of edge steps beside it, which is there as long as the step is: edges are
/// enough.
unsigned deciding_moves(const CostGrid& costs, Cell cell) {
  const unsigned both = two_way_moves(costs, cell);
  const Corners corners = costs.rules().corners;
  const bool edges_decide = corners == Corners::strict || (corners == Corners::lenient && !costs.has_sides());
  return edges_decide ? both & ((1U << static_cast<unsigned>(costs.tiling().edge_count())) - 1) : both;
}

/// Depth-first search over one region at a time, its stack written into the cells.
class DepthFirst {
 public:
  explicit DepthFirst(const CostGrid& costs)
      : costs_(costs),
        order_(costs.size()),
        low_(costs.size()),
        size_(costs.size()),
        back_(costs.size(), no_direction) {}

  /// Visits everything from a first cell. @param found  takes a cell and the sizes of the parts that only it holds
  template <typename Found>
  void run(Cell first, std::uint32_t cells, Found&& found) {
    const Tiling tiling = costs_.tiling();
    const Neighbourhood& hood = tiling.neighbourhood();
    std::vector<Frame> stack;
    stack.push_back(enter(first));
    std::vector<std::uint32_t> parts;
    while (!stack.empty()) {
      Frame& frame = stack.back();
      const Cell cell = frame.cell;
      if (frame.left != 0) {
        const auto d = static_cast<unsigned>(std::countr_zero(frame.left));
        frame.left &= frame.left - 1;
        const auto kind = static_cast<unsigned>(tiling.kind(cell));
        const Cell next = cell + hood.offset[kind][d];
        if (order_[next] == 0) {
          back_[next] = hood.opposite[kind][d];
          stack.push_back(enter(next));
        } else if (d != back_[cell]) {
          low_[cell] = std::min(low_[cell], order_[next]);
        }
        continue;
      }
      // Everything below is done: which parts hang on this cell alone?
      parts.clear();
      std::uint32_t below = 0;
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      for (const Direction d : directions(deciding_moves(costs_, cell))) {
        const Cell next = cell + hood.offset[kind][d.index()];
        if (back_[next] != hood.opposite[kind][d.index()] || order_[next] < order_[cell]) continue;  // not a child
        size_[cell] += size_[next];
        if (low_[next] < order_[cell]) continue;
        parts.push_back(size_[next]);
        below += size_[next];
      }
      const bool root = cell == first;
      if (!root && !parts.empty()) parts.push_back(cells - 1 - below);
      if (parts.size() > 1) found(cell, parts);
      stack.pop_back();
      if (!root) {
        const Cell parent = stack.back().cell;
        low_[parent] = std::min(low_[parent], low_[cell]);
      }
    }
  }

 private:
  struct Frame {
    Cell cell;
    unsigned left = 0;  // directions not yet followed
  };
  Frame enter(Cell cell) {
    order_[cell] = low_[cell] = ++entered_;
    size_[cell] = 1;
    return {cell, deciding_moves(costs_, cell)};
  }

  const CostGrid& costs_;
  Grid<std::uint32_t> order_;
  Grid<std::uint32_t> low_;
  Grid<std::uint32_t> size_;
  Grid<std::uint8_t> back_;
  std::uint32_t entered_ = 0;
};

/// Lenient corners beside one-way edges: a step across a corner may be open one way past one place and the other way
/// past another, and then falls with either.
class LenientChokes {
 public:
  LenientChokes(const CostGrid& costs, const Regions& regions)
      : costs_(costs), regions_(regions), hood_(costs.tiling().neighbourhood()) {}

  /// Places without which some step across a corner could no longer be taken both ways.
  [[nodiscard]] std::vector<Cell> suspects() const {
    std::vector<Cell> list;
    const Size size = costs_.size();
    for (const Cell cell : size.cells()) {
      const auto kind = static_cast<unsigned>(costs_.tiling().kind(cell));
      const unsigned corners = two_way_moves(costs_, cell) >> static_cast<unsigned>(hood_.edges)
                                                                  << static_cast<unsigned>(hood_.edges);
      for (const Direction d : directions(corners)) {
        for (const CornerWay& way : hood_.ways[kind][d.index()]) {
          Cell at = cell;
          for (unsigned i = 0; i + 1 < way.count; ++i) {
            at = costs_.tiling().neighbour(at, Direction(way.steps[i]));
            if (size.contains(at) && costs_.open(at) && !both_ways_without(cell, d, at)) list.push_back(at);
          }
        }
      }
    }
    return list;
  }

  /// The sizes of the parts of its region when a place is gone, the largest first.
  [[nodiscard]] std::vector<std::uint32_t> parts_without(Cell gone) const {
    const std::uint32_t id = regions_.at(gone);
    const Rect box = regions_.list()[id - 1].box;
    BitGrid seen(costs_.size());
    seen.set(gone);
    std::vector<std::uint32_t> parts;
    std::vector<Cell> line;
    for (std::int32_t row = box.top; row < box.bottom; ++row) {
      for (std::int32_t col = box.left; col < box.right; ++col) {
        const Cell first{col, row};
        if (regions_.at(first) != id || seen.test(first)) continue;
        line.assign(1, first);
        seen.set(first);
        for (std::size_t i = 0; i < line.size(); ++i) {
          for (const Direction d : directions(two_way_moves(costs_, line[i]))) {
            const Cell next = costs_.tiling().neighbour(line[i], d);
            if (seen.test(next) || !both_ways_without(line[i], d, gone)) continue;
            seen.set(next);
            line.push_back(next);
          }
        }
        parts.push_back(static_cast<std::uint32_t>(line.size()));
      }
    }
    std::sort(parts.begin(), parts.end(), std::greater<>());
    return parts;
  }

 private:
  /// Whether a two-way step still can be taken both ways. @pre neither end is the place that is gone
  [[nodiscard]] bool both_ways_without(Cell from, Direction direction, Cell gone) const {
    if (direction < hood_.edges) return true;
    const unsigned d = direction.index();
    const auto kind = static_cast<unsigned>(costs_.tiling().kind(from));
    const Cell to = from + hood_.offset[kind][d];
    return past(from, d, gone) && past(to, hood_.opposite[kind][d], gone);
  }
  /// Whether one of the two ways round a corner is open without a place.
  [[nodiscard]] bool past(Cell from, unsigned d, Cell gone) const {
    for (const CornerWay& way : hood_.ways[static_cast<unsigned>(costs_.tiling().kind(from))][d]) {
      Cell at = from;
      bool open = true;
      for (unsigned i = 0; i < way.count && open; ++i) {
        open = (unsigned{costs_.moves(at)} >> way.steps[i] & 1U) != 0;
        if (!open) break;
        at = costs_.tiling().neighbour(at, Direction(way.steps[i]));
        open = at != gone;
      }
      if (open) return true;
    }
    return false;
  }

  const CostGrid& costs_;
  const Regions& regions_;
  const Neighbourhood& hood_;
};

}  // namespace

std::vector<Choke> find_chokes(const CostGrid& costs, const Regions& regions) {
  SAUNTER_EXPECT(regions.made_from(costs));
  if (!regions.made_from(costs)) return find_chokes(costs, Regions(costs));
  std::vector<Choke> chokes;
  DepthFirst search(costs);
  for (const Region& region : regions.list()) {
    search.run(region.first, region.cells, [&](Cell cell, std::vector<std::uint32_t>& parts) {
      std::sort(parts.begin(), parts.end(), std::greater<>());
      chokes.push_back({cell, region.id, parts});
    });
  }
  const auto before = [](const Choke& a, const Choke& b) { return a.cell < b.cell; };
  if (costs.rules().corners == Corners::lenient && costs.has_sides() &&
      costs.rules().steps > costs.tiling().edge_count()) {
    const LenientChokes lenient(costs, regions);
    std::vector<Cell> suspects = lenient.suspects();
    for (const Choke& choke : chokes) suspects.push_back(choke.cell);
    std::sort(suspects.begin(), suspects.end());
    suspects.erase(std::unique(suspects.begin(), suspects.end()), suspects.end());
    chokes.clear();
    for (const Cell cell : suspects) {
      std::vector<std::uint32_t> parts = lenient.parts_without(cell);
      if (parts.size() > 1) chokes.push_back({cell, regions.at(cell), std::move(parts)});
    }
  }
  std::sort(chokes.begin(), chokes.end(), before);
  return chokes;
}

std::vector<Corridor> corridors(const CostGrid& costs, const std::vector<Choke>& chokes) {
  const auto find = [&](Cell cell) {
    const auto at = std::lower_bound(chokes.begin(), chokes.end(), cell,
                                     [](const Choke& choke, Cell wanted) { return choke.cell < wanted; });
    return at != chokes.end() && at->cell == cell ? static_cast<std::size_t>(at - chokes.begin()) : chokes.size();
  };
  std::vector<bool> taken(chokes.size(), false);
  std::vector<Corridor> list;
  for (std::size_t i = 0; i < chokes.size(); ++i) {
    if (taken[i]) continue;
    taken[i] = true;
    Corridor corridor{{chokes[i].cell}, chokes[i].region, 0};
    for (std::size_t at = 0; at < corridor.cells.size(); ++at) {
      const Cell cell = corridor.cells[at];
      std::uint32_t beyond = 0;
      const Choke& choke = chokes[find(cell)];
      for (std::size_t side = 1; side < choke.sides.size(); ++side) beyond += choke.sides[side];
      corridor.smaller_side = std::max(corridor.smaller_side, beyond);
      for (const Direction d : directions(two_way_moves(costs, cell))) {
        const Cell next = costs.tiling().neighbour(cell, d);
        const std::size_t number = find(next);
        if (number == chokes.size() || taken[number]) continue;
        taken[number] = true;
        corridor.cells.push_back(next);
      }
    }
    std::sort(corridor.cells.begin(), corridor.cells.end());
    list.push_back(std::move(corridor));
  }
  return list;
}

}  // namespace saunter::inline v0_2
