#include "saunter/place/fit.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "saunter/grid/area.hpp"

namespace saunter {
namespace {

constexpr std::string_view points_up = "points up";

/// What terms say about single cells.
class CellTerms {
 public:
  explicit CellTerms(const FitTerms& terms) : terms_(terms), map_(*terms.map) {
    for (std::size_t i = 0; i < map_.kinds().size(); ++i) {
      const auto id = static_cast<TerrainId>(i);
      const Terrain& kind = map_.kinds()[i];
      const EntryCost cost = terms.mover != nullptr ? terms.mover->cost_on(id, kind) : kind.cost;
      ground_[i] = cost != blocked && !kind.is_void;
      if (!terms.allowed.empty()) {
        ground_[i] = std::find(terms.allowed.begin(), terms.allowed.end(), id) != terms.allowed.end();
      }
    }
  }
  [[nodiscard]] bool ground(Cell cell) const { return ground_[map_.terrain_at(cell)]; }
  [[nodiscard]] ThingId occupied(Cell cell) const {
    if (terms_.things == nullptr) return 0;
    const ThingId there = terms_.things->at(cell, terms_.layer);
    return there == terms_.self ? 0 : there;
  }
  [[nodiscard]] bool hot(Cell cell) const {
    return terms_.levels != nullptr && terms_.highest && (*terms_.levels)[cell] > *terms_.highest;
  }

 private:
  const FitTerms& terms_;
  const Map& map_;
  std::array<bool, max_terrain_kinds> ground_ = {};
};

/// The 64 bits of a row from a place on, clear beyond its ends.
std::uint64_t bits_from(std::span<const std::uint64_t> words, std::int64_t place) {
  const std::int64_t first = place >> 6;
  const auto shift = static_cast<unsigned>(place & 63);
  const auto at = [&](std::int64_t i) {
    return i >= 0 && i < static_cast<std::int64_t>(words.size()) ? words[static_cast<std::size_t>(i)] : 0;
  };
  const std::uint64_t low = at(first) >> shift;
  return shift == 0 ? low : low | at(first + 1) << (64 - shift);
}

}  // namespace

std::string_view fault_name(FitFault fault) {
  switch (fault) {
    case FitFault::off_map: return "off-map";
    case FitFault::ground: return "ground";
    case FitFault::barrier: return "barrier";
    case FitFault::occupied: return "occupied";
    case FitFault::threat: return "threat";
    case FitFault::rule: return "rule";
    case FitFault::cuts_off: return "cuts-off";
  }
  return "";
}

std::vector<FitProblem> Fitter::problems(const FitTerms& terms, const Footprint& footprint, const Pose& pose) {
  const Map& map = *terms.map;
  const Tiling tiling = map.tiling();
  std::vector<FitProblem> found;
  cells_in_pose(tiling, footprint, pose, cells_);
  std::sort(cells_.begin(), cells_.end());
  for (const Cell cell : cells_) {
    if (!map.size().contains(cell)) found.push_back({FitFault::off_map, cell});
  }
  const bool whole = found.empty();
  std::erase_if(cells_, [&](Cell cell) { return !map.size().contains(cell); });

  const CellTerms cell_terms(terms);
  for (const Cell cell : cells_) {
    if (!cell_terms.ground(cell)) found.push_back({FitFault::ground, cell});
  }
  if (terms.flatness && !cells_.empty()) {
    const auto lower = [&](Cell a, Cell b) { return map.height_at(a) < map.height_at(b); };
    const Cell low = *std::min_element(cells_.begin(), cells_.end(), lower);
    const Cell high = *std::max_element(cells_.begin(), cells_.end(), lower);
    if (map.height_at(high) - map.height_at(low) > *terms.flatness) found.push_back({FitFault::ground, high});
  }
  for (const Cell cell : cells_) {
    for (Direction d = 0; map.has_barriers() && d < tiling.edge_count(); ++d) {
      const Cell other = tiling.neighbour(cell, d);
      if (other < cell || !std::binary_search(cells_.begin(), cells_.end(), other)) continue;
      if (map.closed(cell, d) || map.closed(other, tiling.direction(other, cell))) {
        found.push_back({FitFault::barrier, cell});
      }
    }
  }
  for (const Cell cell : cells_) {
    if (const ThingId by = cell_terms.occupied(cell); by != 0) found.push_back({FitFault::occupied, cell, by});
  }
  for (const Cell cell : cells_) {
    if (cell_terms.hot(cell)) found.push_back({FitFault::threat, cell});
  }
  if (tiling.shape() == Shape::triangle && tiling.kind(pose.at) != 0) {
    found.push_back({FitFault::rule, pose.at, 0, points_up});
  }
  if (!whole) return found;
  for (const Rule& rule : terms.rules) {
    if (!rule.holds(cells_)) found.push_back({FitFault::rule, pose.at, 0, rule.name});
  }
  if (!terms.keep_open.empty()) {
    SAUNTER_EXPECT(terms.costs != nullptr && terms.regions != nullptr);
    for (const Cell cell : cut_off(*terms.costs, terms.mover_size, *terms.regions, terms.keep_open, cells_)) {
      found.push_back({FitFault::cuts_off, cell});
    }
  }
  return found;
}

BitGrid Fitter::spots(const FitTerms& terms, const Footprint& footprint, int turn, bool mirrored) {
  const Map& map = *terms.map;
  BitGrid spots = spots_among(map.tiling(), free_cells(terms), footprint, turn, mirrored);
  const bool more = map.has_barriers() || terms.flatness || !terms.rules.empty() || !terms.keep_open.empty();
  if (!more) return spots;
  for (std::int32_t row = 0; row < map.size().rows; ++row) {
    for (std::int32_t col = 0; col < map.size().cols; ++col) {
      const Cell at{col, row};
      if (spots.test(at) && !fits(terms, footprint, {at, turn, mirrored})) spots.set(at, false);
    }
  }
  return spots;
}

BitGrid free_cells(const FitTerms& terms) {
  const Map& map = *terms.map;
  const CellTerms cell_terms(terms);
  BitGrid free(map.size());
  for (std::int32_t row = 0; row < map.size().rows; ++row) {
    const std::span<std::uint64_t> words = free.row_words(row);
    for (std::int32_t col = 0; col < map.size().cols; ++col) {
      const Cell cell{col, row};
      const bool is_free = cell_terms.ground(cell) && cell_terms.occupied(cell) == 0 && !cell_terms.hot(cell);
      const std::size_t bit = static_cast<std::size_t>(col) + BitGrid::margin;
      words[bit / 64] |= std::uint64_t{is_free ? 1U : 0U} << (bit % 64);
    }
  }
  return free;
}

BitGrid spots_among(Tiling tiling, const BitGrid& free, const Footprint& footprint, int turn, bool mirrored) {
  const Size size = free.size();
  BitGrid spots(size);
  // Where neighbours depend on the parity of a column, even and odd anchors are looked at apart.
  const bool by_column = tiling.shape() == Shape::hex_flat || tiling.shape() == Shape::triangle;
  const auto end = static_cast<std::size_t>(size.cols) + BitGrid::margin;
  std::vector<Cell> cells;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const std::span<std::uint64_t> out = spots.row_words(row);
    for (std::int32_t odd = 0; odd < (by_column ? 2 : 1); ++odd) {
      const Cell anchor{odd, row};
      if (tiling.shape() == Shape::triangle && tiling.kind(anchor) != 0) continue;
      cells_in_pose(tiling, footprint, {anchor, turn, mirrored}, cells);
      constexpr std::uint64_t even_places = 0x5555'5555'5555'5555;  // the margin is even
      const std::uint64_t mask = !by_column ? ~std::uint64_t{0} : odd == 0 ? even_places : even_places << 1U;
      for (std::size_t i = 0; i < out.size(); ++i) {
        std::uint64_t all = mask;
        for (const Cell cell : cells) {
          if (cell.row < 0 || cell.row >= size.rows) {
            all = 0;
          } else {
            all &= bits_from(free.row_words(cell.row), static_cast<std::int64_t>(i * 64) + (cell.col - anchor.col));
          }
          if (all == 0) break;
        }
        out[i] |= all;
      }
    }
    // A thing need not cover its anchor, but the anchor must be on the map.
    out[0] &= ~std::uint64_t{0} << BitGrid::margin;
    for (std::size_t i = end / 64; i < out.size(); ++i) {
      out[i] &= i > end / 64 ? 0 : (std::uint64_t{1} << (end % 64)) - 1;
    }
  }
  return spots;
}

unsigned Fitter::both_ways(const CostGrid& costs, Cell cell) const {
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
  unsigned steps = ground_.moves(cell);
  if (!costs.has_sides()) return steps;
  for (unsigned left = steps; left != 0; left &= left - 1) {
    const auto d = static_cast<unsigned>(std::countr_zero(left));
    const unsigned back = ground_.moves(cell + hood.offset[kind][d]);
    if ((back >> hood.opposite[kind][d] & 1U) == 0) steps &= ~(1U << d);
  }
  return steps;
}

/// Whether what is left of the region about the lost places is in one piece there: then every way through them can go
/// round.
bool Fitter::hangs_together(const CostGrid& costs, std::span<const EntryChange> lost) {
  Rect window;
  for (const EntryChange& change : lost) window = window.joined(Rect::of(change.cell));
  const std::int32_t reach = costs.tiling().shape() == Shape::triangle ? 2 : 1;  // columns a step can lead aside
  window = window.grown(reach, costs.size());
  const auto own = [&](Cell cell) { return ground_.open(cell) && wanted_region_ == regions_->at(cell); };
  std::size_t left = 0;
  piece_.clear();
  for (std::int32_t row = window.top; row < window.bottom; ++row) {
    for (std::int32_t col = window.left; col < window.right; ++col) {
      if (!own({col, row})) continue;
      if (left++ == 0) piece_.push_back({col, row});
    }
  }
  if (left == 0) return true;
  ++question_;
  marks_[piece_.front()] = question_ << 24U;
  for (std::size_t i = 0; i < piece_.size(); ++i) {
    for (unsigned steps = both_ways(costs, piece_[i]); steps != 0; steps &= steps - 1) {
      const Cell next = costs.tiling().neighbour(piece_[i], std::countr_zero(steps));
      if (!window.contains(next) || marks_[next] >> 24U == question_) continue;
      marks_[next] = question_ << 24U;
      piece_.push_back(next);
    }
  }
  return piece_.size() == left;
}

std::size_t Fitter::root_of(std::size_t flood) {
  while (floods_[flood].root != flood) flood = floods_[flood].root = floods_[floods_[flood].root].root;
  return flood;
}

std::vector<Cell> Fitter::cut_off(const CostGrid& costs, int mover_size, const Regions& regions,
                                  std::span<const Cell> keep_open, std::span<const Cell> blocks) {
  SAUNTER_EXPECT(!keep_open.empty());
  if (marks_.size() != costs.size()) marks_ = Grid<std::uint64_t>(costs.size());
  regions_ = &regions;
  wanted_region_ = costs.size().contains(keep_open.front()) ? regions.at(keep_open.front()) : 0;
  if (wanted_region_ == 0) return {};
  ++asked_;
  // Places whose body would meet a blocked cell.
  lost_.clear();
  for (const Cell block : blocks) {
    if (costs.tiling().is_hex()) {
      disk_of_cells(costs.tiling(), block, mover_size - 1, body_);
    } else {
      body_cells(costs.tiling(), {block.col - mover_size + 1, block.row - mover_size + 1}, mover_size, body_);
    }
    for (const Cell place : body_) {
      if (costs.open(place)) lost_.push_back({place, blocked});
    }
  }
  if (lost_.empty()) {
    ++nearby_;
    return {};
  }
  ground_.begin(costs, lost_);
  std::vector<Cell> kept;  // those that share the region
  for (const Cell cell : keep_open) {
    if (costs.size().contains(cell) && regions.at(cell) == wanted_region_) kept.push_back(cell);
  }
  if (!ground_.open(kept.front())) {
    ++nearby_;
    return kept;
  }
  const bool one_piece = hangs_together(costs, lost_);
  if (one_piece) {
    ++nearby_;
    std::erase_if(kept, [&](Cell cell) { return ground_.open(cell); });
    return kept;
  }
  flood_from(costs, kept);
  std::vector<Cell> cut;
  for (std::size_t i = 0; i < kept.size(); ++i) {
    if (!ground_.open(kept[i]) || root_of(i) != root_of(0)) cut.push_back(kept[i]);
  }
  return cut;
}

/// Floods from all kept cells by turns, until each has met the first one's, is closed in, or the first one's is.
void Fitter::flood_from(const CostGrid& costs, std::span<const Cell> kept) {
  ++question_;
  floods_.resize(kept.size());
  for (std::size_t i = 0; i < kept.size(); ++i) {
    Flood& flood = floods_[i];
    flood.line.clear();
    flood.done = 0;
    flood.root = i;
    if (!ground_.open(kept[i])) continue;
    if (marks_[kept[i]] >> 24U == question_) {  // given twice
      flood.root = marks_[kept[i]] & 0xFF'FFFFU;
      continue;
    }
    marks_[kept[i]] = question_ << 24U | i;
    flood.line.push_back(kept[i]);
  }
  std::vector<bool> open_set(kept.size());
  const auto undecided = [&] {
    open_set.assign(kept.size(), false);
    for (std::size_t i = 0; i < kept.size(); ++i) {
      if (floods_[i].done < floods_[i].line.size()) open_set[root_of(i)] = true;
    }
    if (!open_set[root_of(0)]) return false;
    for (std::size_t i = 1; i < kept.size(); ++i) {
      if (root_of(i) != root_of(0) && open_set[root_of(i)]) return true;
    }
    return false;
  };
  while (undecided()) {
    for (bool changed = false; !changed;) {
      for (std::size_t i = 0; i < kept.size(); ++i) {
        Flood& flood = floods_[i];
        if (flood.done == flood.line.size()) continue;
        const Cell cell = flood.line[flood.done++];
        for (unsigned steps = both_ways(costs, cell); steps != 0; steps &= steps - 1) {
          const Cell next = costs.tiling().neighbour(cell, std::countr_zero(steps));
          std::uint64_t& mark = marks_[next];
          if (mark >> 24U != question_) {
            mark = question_ << 24U | i;
            flood.line.push_back(next);
            continue;
          }
          const std::size_t mine = root_of(i);
          const std::size_t other = root_of(mark & 0xFF'FFFFU);
          if (mine == other) continue;
          floods_[other].root = mine;
          changed = true;
        }
        changed = changed || flood.done == flood.line.size();
      }
    }
  }
}

std::optional<Cell> nearest_spot(Tiling tiling, const BitGrid& spots, Cell wished) {
  std::optional<Cell> nearest;
  std::int64_t least = 0;
  for (std::uint32_t i = 0; i < spots.size().cell_count(); ++i) {
    const Cell cell = spots.size().cell(CellIndex{i});
    if (!spots.test(cell)) continue;
    const std::int64_t distance = distance_squared(tiling, wished, cell);
    if (nearest && distance >= least) continue;
    nearest = cell;
    least = distance;
  }
  return nearest;
}

std::optional<Cell> cheapest_spot(const Field& field, const BitGrid& spots) {
  std::optional<Cell> cheapest;
  for (std::uint32_t i = 0; i < spots.size().cell_count(); ++i) {
    const Cell cell = spots.size().cell(CellIndex{i});
    if (!spots.test(cell) || !field.reached(cell)) continue;
    if (!cheapest || field.cost(cell) < field.cost(*cheapest)) cheapest = cell;
  }
  return cheapest;
}

}  // namespace saunter
