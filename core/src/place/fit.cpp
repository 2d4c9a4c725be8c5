#include "saunter/place/fit.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "saunter/grid/area.hpp"

namespace saunter {
namespace {

constexpr std::string_view points_up = "points up";
constexpr std::int32_t far_away = 1 << 20;  // from any cell of any map

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

/// Rows of bits with clear words around them, so that any shift of a row can be read without asking.
class PaddedRows {
 public:
  PaddedRows(const BitGrid& bits, std::int32_t most_aside)
      : pad_(static_cast<std::size_t>(most_aside) / 64 + 2),
        stride_(bits.row_words(0).size() + 2 * pad_),
        words_(stride_ * static_cast<std::size_t>(bits.size().rows), 0) {
    for (std::int32_t row = 0; row < bits.size().rows; ++row) {
      const auto from = bits.row_words(row);
      std::copy(from.begin(), from.end(), words_.begin() + static_cast<std::ptrdiff_t>(start(row)));
    }
  }
  /// Keeps of each bit of `out` only what is also set so many places further right.
  void keep_shifted(std::span<std::uint64_t> out, std::int32_t row, std::int32_t aside) const {
    // A whole number of words, then 0 to 63 places.
    const std::int32_t words = aside >= 0 ? aside / 64 : -((63 - aside) / 64);
    const auto shift = static_cast<unsigned>(aside - words * 64);
    const std::uint64_t* from = words_.data() + static_cast<std::ptrdiff_t>(start(row)) + words;
    if (shift == 0) {
      for (std::size_t i = 0; i < out.size(); ++i) out[i] &= from[i];
    } else {
      for (std::size_t i = 0; i < out.size(); ++i) out[i] &= from[i] >> shift | from[i + 1] << (64 - shift);
    }
  }

 private:
  [[nodiscard]] std::size_t start(std::int32_t row) const { return static_cast<std::size_t>(row) * stride_ + pad_; }
  std::size_t pad_;
  std::size_t stride_;
  std::vector<std::uint64_t> words_;
};

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
  // So far away that cells about the anchor would leave the range of numbers: it is enough to name the anchor.
  const auto beyond = [](std::int32_t place) { return place < -far_away || place > far_away; };
  if (beyond(pose.at.col) || beyond(pose.at.row)) return {{FitFault::off_map, pose.at}};
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
  std::array<std::vector<Offset>, 4> parts;  // by parity of row and column
  std::int32_t most_aside = 0;
  std::vector<Cell> cells;
  for (std::int32_t parity = 0; parity < 4; ++parity) {
    const Cell anchor{parity & 1, parity >> 1};
    cells_in_pose(tiling, footprint, {anchor, turn, mirrored}, cells);
    for (const Cell cell : cells) {
      parts[static_cast<unsigned>(parity)].push_back(cell - anchor);
      // Farther than the map is wide nothing fits, and the padding need not follow.
      most_aside = std::max(most_aside, std::min(std::abs(cell.col - anchor.col), size.cols + 1));
    }
  }
  const PaddedRows rows(free, most_aside);
  std::vector<std::uint64_t> legal(spots.row_words(0).size());
  const auto end = static_cast<std::size_t>(size.cols) + BitGrid::margin;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const std::span<std::uint64_t> out = spots.row_words(row);
    for (std::int32_t odd = 0; odd < (by_column ? 2 : 1); ++odd) {
      if (tiling.shape() == Shape::triangle && tiling.kind({odd, row}) != 0) continue;
      constexpr std::uint64_t even_places = 0x5555'5555'5555'5555;  // the margin is even
      std::fill(legal.begin(), legal.end(), !by_column ? ~std::uint64_t{0} : even_places << static_cast<unsigned>(odd));
      bool any = true;
      for (const Offset part : parts[static_cast<unsigned>(odd + 2 * (row & 1))]) {
        any = any && row + part.rows >= 0 && row + part.rows < size.rows && std::abs(part.cols) <= most_aside;
        if (any) rows.keep_shifted(legal, row + part.rows, part.cols);
      }
      for (std::size_t i = 0; any && i < out.size(); ++i) out[i] |= legal[i];
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

/// The pieces that what is left of the region falls into about the lost places. A single one: every way through them
/// can go round.
void Fitter::find_pieces(const CostGrid& costs, std::span<const EntryChange> lost) {
  Rect window;
  for (const EntryChange& change : lost) window = window.joined(Rect::of(change.cell));
  const std::int32_t reach = costs.tiling().shape() == Shape::triangle ? 2 : 1;  // columns a step can lead aside
  window = window.grown(reach, costs.size());
  ++question_;
  std::size_t count = 0;
  for (std::int32_t row = window.top; row < window.bottom; ++row) {
    for (std::int32_t col = window.left; col < window.right; ++col) {
      const Cell first{col, row};
      if (!ground_.open(first) || regions_->at(first) != wanted_region_ || marked(first)) continue;
      if (floods_.size() <= count) floods_.emplace_back();
      Flood& flood = floods_[count];
      flood.line.assign(1, first);
      flood.done = 0;
      flood.root = count;
      marks_[first] = question_ << 24U | count;
      for (std::size_t i = 0; i < flood.line.size(); ++i) {
        for (unsigned steps = both_ways(costs, flood.line[i]); steps != 0; steps &= steps - 1) {
          const Cell next = costs.tiling().neighbour(flood.line[i], std::countr_zero(steps));
          if (!window.contains(next) || marked(next)) continue;
          marks_[next] = question_ << 24U | count;
          flood.line.push_back(next);
        }
      }
      ++count;
    }
  }
  floods_.resize(count);
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
  find_pieces(costs, lost_);
  if (floods_.size() < 2) {
    ++nearby_;
    std::erase_if(kept, [&](Cell cell) { return ground_.open(cell); });
    return kept;
  }
  flood_pieces(costs);
  // What no flood has seen belongs to the one that has not ended.
  std::size_t rest = 0;
  for (std::size_t i = 0; i < floods_.size(); ++i) {
    if (floods_[i].done < floods_[i].line.size()) rest = root_of(i);
  }
  const auto piece = [&](Cell cell) { return marked(cell) ? root_of(marks_[cell] & 0xFF'FFFFU) : rest; };
  const std::size_t first = piece(kept.front());
  std::erase_if(kept, [&](Cell cell) { return ground_.open(cell) && piece(cell) == first; });
  return kept;
}

/// The pieces grow by turns until all have met, or all but one are closed in: the smaller ones decide.
void Fitter::flood_pieces(const CostGrid& costs) {
  const auto undecided = [&] {
    std::size_t one = floods_.size();
    for (std::size_t i = 0; i < floods_.size(); ++i) {
      if (floods_[i].done == floods_[i].line.size()) continue;
      if (one != floods_.size() && root_of(i) != one) return true;
      one = root_of(i);
    }
    return false;
  };
  while (undecided()) {
    for (bool changed = false; !changed;) {
      for (std::size_t i = 0; i < floods_.size(); ++i) {
        Flood& flood = floods_[i];
        if (flood.done == flood.line.size()) continue;
        const Cell cell = flood.line[flood.done++];
        for (unsigned steps = both_ways(costs, cell); steps != 0; steps &= steps - 1) {
          const Cell next = costs.tiling().neighbour(cell, std::countr_zero(steps));
          if (!marked(next)) {
            marks_[next] = question_ << 24U | i;
            flood.line.push_back(next);
            continue;
          }
          const std::size_t mine = root_of(i);
          const std::size_t other = root_of(marks_[next] & 0xFF'FFFFU);
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
  // Farther off, squares of distances would not fit, and all but the direction is the same.
  wished = {std::clamp(wished.col, -far_away, far_away), std::clamp(wished.row, -far_away, far_away)};
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
