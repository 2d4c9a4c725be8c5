#include "saunter/region/regions.hpp"

#include <algorithm>
#include <bit>

namespace saunter {
namespace {

/// Open cells next to each other in one row.
struct Run {
  std::int32_t first = 0;
  std::int32_t last = 0;
  std::uint32_t root = 0;  // a run of the same region that comes no later
};

/// Follows roots to the first run of the region, and shortens the way for the next time (path halving).
std::uint32_t find_root(std::vector<Run>& runs, std::uint32_t run) {
  while (runs[run].root != run) {
    runs[run].root = runs[runs[run].root].root;
    run = runs[run].root;
  }
  return run;
}

/// Joins two regions; the earlier first run stays the root.
void join(std::vector<Run>& runs, std::uint32_t a, std::uint32_t b) {
  a = find_root(runs, a);
  b = find_root(runs, b);
  if (a < b) runs[b].root = a;
  if (b < a) runs[a].root = b;
}

/// Appends the runs of open cells of a row.
void find_runs(const BitGrid& open, std::int32_t row, std::vector<Run>& runs) {
  const std::span<const std::uint64_t> words = open.row_words(row);
  constexpr auto margin = static_cast<std::int32_t>(BitGrid::margin);
  bool inside = false;
  for (std::size_t i = 0; i < words.size(); ++i) {
    // Bits where open and shut change places, seen from left to right.
    std::uint64_t changes = words[i] ^ (words[i] << 1U | (inside ? 1U : 0U));
    for (; changes != 0; changes &= changes - 1) {
      const auto col = static_cast<std::int32_t>(i * 64 + static_cast<std::size_t>(std::countr_zero(changes))) - margin;
      if (inside) {
        runs.back().last = col - 1;
      } else {
        runs.push_back({col, col, static_cast<std::uint32_t>(runs.size())});
      }
      inside = !inside;
    }
  }
}

/// Which columns of the next row a run touches across edges: from first - before to last + after. On triangles a run
/// touches only through its cells that point up.
struct Reach {
  std::int32_t before = 0;
  std::int32_t after = 0;
};
Reach reach_down(Tiling tiling, std::int32_t row, const Run& run, bool across_corners) {
  switch (tiling.shape()) {
    case Shape::square: return across_corners ? Reach{1, 1} : Reach{0, 0};
    case Shape::hex_pointy: return tiling.kind({0, row}) == 1 ? Reach{0, 1} : Reach{1, 0};
    case Shape::hex_flat: return {tiling.kind({run.first, row}), tiling.kind({run.last, row})};
    case Shape::triangle: break;
  }
  return {};
}

/// Whether two runs in rows one below the other touch.
bool touch(Tiling tiling, std::int32_t row, const Run& above, const Run& below, bool across_corners) {
  const Reach reach = reach_down(tiling, row, above, across_corners);
  const std::int32_t first = std::max(above.first - reach.before, below.first);
  const std::int32_t last = std::min(above.last + reach.after, below.last);
  if (first > last) return false;
  return tiling.shape() != Shape::triangle || first < last || tiling.kind({first, row}) == 0;
}

/// Whether regions follow from open cells alone. A step across a corner that needs an open way round it joins nothing
/// that its way does not.
bool by_runs(const CostGrid& costs) {
  if (costs.has_sides()) return false;
  const bool corners_join = costs.rules().steps > costs.tiling().edge_count() && costs.rules().corners == Corners::free;
  return !corners_join || costs.tiling().shape() == Shape::square;
}

}  // namespace

Regions::Regions(const CostGrid& costs) : labels_(costs.size()) {
  if (by_runs(costs)) {
    label_runs(costs);
  } else {
    flood(costs);
  }
}

/// Runs of rows joined by union-find (Rosenfeld and Pfaltz 1966 on runs; Galler and Fischer 1964): most cells are only
/// looked at 64 at a time.
void Regions::label_runs(const CostGrid& costs) {
  const Tiling tiling = costs.tiling();
  const Size size = costs.size();
  const bool across_corners = costs.rules().steps > tiling.edge_count() && costs.rules().corners == Corners::free;
  std::vector<Run> runs;
  std::vector<std::uint32_t> row_start;
  row_start.reserve(static_cast<std::size_t>(size.rows) + 1);
  std::uint32_t above = 0;  // first run of the row above
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const auto start = static_cast<std::uint32_t>(runs.size());
    row_start.push_back(start);
    find_runs(costs.open_cells(), row, runs);
    const auto end = static_cast<std::uint32_t>(runs.size());
    std::uint32_t up = above;
    for (std::uint32_t here = start; here < end; ++here) {
      // No tiling reaches more than one column aside.
      while (up < start && runs[up].last + 1 < runs[here].first) ++up;
      for (std::uint32_t other = up; other < start && runs[other].first - 1 <= runs[here].last; ++other) {
        if (touch(tiling, row - 1, runs[other], runs[here], across_corners)) join(runs, other, here);
      }
    }
    above = start;
  }
  row_start.push_back(static_cast<std::uint32_t>(runs.size()));

  std::vector<std::uint32_t> ids(runs.size(), 0);
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const std::span<std::uint32_t> labels = labels_.row(row);
    for (std::uint32_t i = row_start[static_cast<std::size_t>(row)]; i < row_start[static_cast<std::size_t>(row) + 1];
         ++i) {
      const Run& run = runs[i];
      const std::uint32_t root = find_root(runs, i);
      if (root == i) {
        const Cell first{run.first, row};
        list_.push_back({static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first});
        ids[i] = list_.back().id;
      }
      Region& region = list_[ids[root] - 1];
      region.cells += static_cast<std::uint32_t>(run.last - run.first + 1);
      region.box = region.box.joined({run.first, row, run.last + 1, row + 1});
      std::fill(labels.begin() + run.first, labels.begin() + run.last + 1, region.id);
    }
  }
}

/// Cell by cell, asking both ways of every step.
void Regions::flood(const CostGrid& costs) {
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  std::vector<Cell> line;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell first{col, row};
      if (!costs.open(first) || labels_[first] != 0) continue;
      Region region{static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first};
      line.assign(1, first);
      labels_[first] = region.id;
      for (std::size_t i = 0; i < line.size(); ++i) {
        const Cell at = line[i];
        region.box = region.box.joined(Rect::of(at));
        const auto kind = static_cast<unsigned>(costs.tiling().kind(at));
        for (unsigned left = costs.moves(at); left != 0; left &= left - 1) {
          const auto d = static_cast<unsigned>(std::countr_zero(left));
          const Cell next = at + hood.offset[kind][d];
          const unsigned from_next = costs.moves(next);
          if (labels_[next] != 0 || ((from_next >> hood.opposite[kind][d]) & 1U) == 0) continue;
          labels_[next] = region.id;
          line.push_back(next);
        }
      }
      region.cells = static_cast<std::uint32_t>(line.size());
      list_.push_back(region);
    }
  }
}

const Region* Regions::largest() const {
  const auto most =
      std::max_element(list_.begin(), list_.end(), [](const Region& a, const Region& b) { return a.cells < b.cells; });
  return most == list_.end() ? nullptr : &*most;
}

}  // namespace saunter
