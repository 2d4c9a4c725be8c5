#include "saunter/region/regions.hpp"

#include <algorithm>
#include <bit>
#include <numeric>

namespace saunter::inline v0 {
namespace {

/// Open cells next to each other in one row.
struct RowRun {
  std::int32_t first = 0;
  std::int32_t last = 0;
  std::uint32_t root = 0;  // a run of the same region that comes no later
};

/// Follows roots to the first run of the region, and shortens the way for the next time (path halving).
std::uint32_t find_root(std::vector<RowRun>& runs, std::uint32_t run) {
  while (runs[run].root != run) {
    runs[run].root = runs[runs[run].root].root;
    run = runs[run].root;
  }
  return run;
}

/// Joins two regions; the earlier first run stays the root.
void join(std::vector<RowRun>& runs, std::uint32_t a, std::uint32_t b) {
  a = find_root(runs, a);
  b = find_root(runs, b);
  if (a < b) runs[b].root = a;
  if (b < a) runs[a].root = b;
}

/// Appends the runs of open cells of a row.
void find_runs(const BitGrid& open, std::int32_t row, std::vector<RowRun>& runs) {
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

/// How far the cells of a row touch those of the row below, to the left and to the right. Flat hexes: by the column.
struct Reach {
  std::int32_t before = 0;
  std::int32_t after = 0;
};
Reach reach_down(Tiling tiling, std::int32_t row, bool across_corners) {
  if (tiling.shape() == Shape::square) return across_corners ? Reach{1, 1} : Reach{0, 0};
  if (tiling.shape() == Shape::hex_pointy) return tiling.kind({0, row}) == 1 ? Reach{0, 1} : Reach{1, 0};
  return {};
}

/// Whether two runs in rows one below the other touch.
template <Shape shape>
bool touch(Tiling tiling, std::int32_t row, const RowRun& above, const RowRun& below, Reach reach) {
  if constexpr (shape == Shape::hex_flat) reach = {tiling.kind({above.first, row}), tiling.kind({above.last, row})};
  const std::int32_t first = std::max(above.first - reach.before, below.first);
  const std::int32_t last = std::min(above.last + reach.after, below.last);
  if (first > last) return false;
  // Triangles touch the row below only where they point up: every other one.
  return shape != Shape::triangle || first < last || tiling.kind({first, row}) == 0;
}

/// Joins the runs of a row, from number `start` on, with those of the row above, from number `above` on.
template <Shape shape>
void join_rows(Tiling tiling, std::int32_t row, std::uint32_t above, std::uint32_t start, bool across_corners,
               std::vector<RowRun>& runs) {
  const Reach reach = reach_down(tiling, row - 1, across_corners);
  const auto end = static_cast<std::uint32_t>(runs.size());
  for (std::uint32_t here = start; here < end; ++here) {
    // No tiling reaches more than one column aside.
    while (above < start && runs[above].last + 1 < runs[here].first) ++above;
    for (std::uint32_t other = above; other < start && runs[other].first - 1 <= runs[here].last; ++other) {
      if (touch<shape>(tiling, row - 1, runs[other], runs[here], reach)) join(runs, other, here);
    }
  }
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
  labels_.set_proves_apart(true);
  if (by_runs(costs)) {
    label_runs(costs);
  } else {
    flood(costs);
  }
  labels_.numbers().resize(list_.size() + 1);
  std::iota(labels_.numbers().begin(), labels_.numbers().end(), 0U);
  labels_.set_stamp(costs.stamp());
}

/// Runs of rows joined by union-find (Rosenfeld and Pfaltz 1966 on runs; Galler and Fischer 1964): most cells are only
/// looked at 64 at a time.
void Regions::label_runs(const CostGrid& costs) {
  const Tiling tiling = costs.tiling();
  const Size size = costs.size();
  const bool across_corners = costs.rules().steps > tiling.edge_count() && costs.rules().corners == Corners::free;
  std::vector<RowRun> runs;
  std::vector<std::uint32_t> row_start;
  row_start.reserve(static_cast<std::size_t>(size.rows) + 1);
  std::uint32_t above = 0;  // first run of the row above
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const auto start = static_cast<std::uint32_t>(runs.size());
    row_start.push_back(start);
    find_runs(costs.open_cells(), row, runs);
    switch (tiling.shape()) {
      case Shape::square: join_rows<Shape::square>(tiling, row, above, start, across_corners, runs); break;
      case Shape::hex_pointy: join_rows<Shape::hex_pointy>(tiling, row, above, start, false, runs); break;
      case Shape::hex_flat: join_rows<Shape::hex_flat>(tiling, row, above, start, false, runs); break;
      case Shape::triangle: join_rows<Shape::triangle>(tiling, row, above, start, false, runs); break;
    }
    above = start;
  }
  row_start.push_back(static_cast<std::uint32_t>(runs.size()));

  std::vector<std::uint32_t> ids(runs.size(), 0);
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const std::span<std::uint32_t> labels = labels_.names().row(row);
    for (std::uint32_t i = row_start[static_cast<std::size_t>(row)]; i < row_start[static_cast<std::size_t>(row) + 1];
         ++i) {
      const RowRun& run = runs[i];
      if (run.root == i) {
        const Cell first{run.first, row};
        list_.push_back({static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first});
        ids[i] = list_.back().id;
      } else {
        ids[i] = ids[run.root];  // of the same region, and earlier
      }
      Region& region = list_[ids[i] - 1];
      region.cells += static_cast<std::uint32_t>(run.last - run.first + 1);
      region.box.left = std::min(region.box.left, run.first);
      region.box.right = std::max(region.box.right, run.last + 1);
      region.box.bottom = row + 1;
      std::fill(labels.begin() + run.first, labels.begin() + run.last + 1, region.id);
    }
  }
}

/// Cell by cell, asking both ways of every step.
void Regions::flood(const CostGrid& costs) {
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  Grid<std::uint32_t>& names = labels_.names();
  std::vector<Cell> line;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell first{col, row};
      if (!costs.open(first) || names[first] != 0) continue;
      Region region{static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first};
      line.assign(1, first);
      names[first] = region.id;
      for (std::size_t i = 0; i < line.size(); ++i) {
        const Cell at = line[i];
        region.box = region.box.joined(Rect::of(at));
        const auto kind = static_cast<unsigned>(costs.tiling().kind(at));
        for (const Direction d : directions(costs.moves(at))) {
          const Cell next = at + hood.offset[kind][d.index()];
          const bool both_ways = (unsigned{costs.moves(next)} >> hood.opposite[kind][d.index()] & 1U) != 0;
          if (!both_ways) labels_.set_proves_apart(false);
          if (names[next] != 0 || !both_ways) continue;
          names[next] = region.id;
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

}  // namespace saunter::inline v0
