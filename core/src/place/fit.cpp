#include "saunter/place/fit.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <queue>

#include "saunter/grid/area.hpp"
#include "spot_rows.hpp"

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

}  // namespace

std::string_view fault_name(FitFault fault) {
  switch (fault) {
    case FitFault::off_map: return "off-map";
    case FitFault::ground: return "ground";
    case FitFault::barrier: return "barrier";
    case FitFault::occupied: return "occupied";
    case FitFault::threat: return "threat";
    case FitFault::rule: return "rule";
    case FitFault::covers: return "covers";
    case FitFault::cuts_off: return "cuts-off";
  }
  return "";
}

/// Questions about one set of terms: what does not depend on the pose is made once.
class Placement {
 public:
  Placement(Fitter& home, const FitTerms& terms)
      : home_(home), terms_(terms), map_(*terms.map), tiling_(map_.tiling()), cell_terms_(terms) {
    const bool askable = terms.mover != nullptr && terms.costs != nullptr && terms.regions != nullptr &&
                         terms.regions->made_from(*terms.costs) && terms.costs->size() == map_.size();
    SAUNTER_EXPECT(terms.keep_open.empty() || askable);
    if (!askable) return;
    for (const Cell cell : terms.keep_open) {
      if (std::find(kept_.begin(), kept_.end(), cell) == kept_.end()) kept_.push_back(cell);
    }
    for (const Cell cell : kept_) {
      places_.push_back(places_of(cell, [&](Cell place) { return terms_.costs->open(place); }));
      for (const Cell place : places_.back()) wanted_.push_back(terms_.regions->at(place));
      // Should the cell itself be lost as a place, those beside it count.
      for (Direction d{0}; d < tiling_.edge_count(); ++d)
        looked_at_.push_back(terms_.regions->at(tiling_.neighbour(cell, d)));
    }
    make_set(wanted_);
    looked_at_.insert(looked_at_.end(), wanted_.begin(), wanted_.end());
    make_set(looked_at_);
  }

  /// What single cells, barriers and the ground under the whole thing say. @return whether all of it is on the map
  bool look_at_cells(const Footprint& footprint, const Pose& pose, std::vector<FitProblem>& found) {
    std::vector<Cell>& cells = home_.cells_;
    // So far away that cells about the anchor would leave the range of numbers: it is enough to name the anchor.
    const auto beyond = [](std::int32_t place) { return place < -far_away || place > far_away; };
    cells.clear();
    if (beyond(pose.at.col) || beyond(pose.at.row)) {
      found.push_back({FitFault::off_map, pose.at});
      return false;
    }
    cells_in_pose(tiling_, footprint, pose, cells);
    std::sort(cells.begin(), cells.end());
    for (const Cell cell : cells) {
      if (!map_.size().contains(cell)) found.push_back({FitFault::off_map, cell});
    }
    const bool whole = found.empty();
    std::erase_if(cells, [&](Cell cell) { return !map_.size().contains(cell); });
    for (const Cell cell : cells) {
      if (!cell_terms_.ground(cell)) found.push_back({FitFault::ground, cell});
    }
    look_at_flatness(found);
    look_at_barriers(found);
    for (const Cell cell : cells) {
      if (const ThingId by = cell_terms_.occupied(cell); by != 0) found.push_back({FitFault::occupied, cell, by});
    }
    for (const Cell cell : cells) {
      if (cell_terms_.hot(cell)) found.push_back({FitFault::threat, cell});
    }
    if (tiling_.shape() == Shape::triangle && tiling_.kind(pose.at) != 0 && !footprint.either_way_up()) {
      found.push_back({FitFault::rule, pose.at, 0, {}, points_up});
    }
    return whole;
  }
  void look_at_flatness(std::vector<FitProblem>& found) const {
    if (!terms_.flatness || home_.cells_.empty()) return;
    const auto lower = [&](Cell a, Cell b) { return map_.height_at(a) < map_.height_at(b); };
    const Cell low = *std::min_element(home_.cells_.begin(), home_.cells_.end(), lower);
    const Cell high = *std::max_element(home_.cells_.begin(), home_.cells_.end(), lower);
    if (map_.height_at(high) - map_.height_at(low) > *terms_.flatness) found.push_back({FitFault::ground, high});
  }
  void look_at_barriers(std::vector<FitProblem>& found) const {
    const std::vector<Cell>& cells = home_.cells_;
    for (const Cell cell : cells) {
      for (Direction d{0}; map_.has_barriers() && d < tiling_.edge_count(); ++d) {
        const Cell other = tiling_.neighbour(cell, d);
        if (other < cell || !std::binary_search(cells.begin(), cells.end(), other)) continue;
        if (map_.closed(cell, d) || map_.closed(other, tiling_.direction(other, cell))) {
          found.push_back({FitFault::barrier, cell});
        }
      }
    }
  }
  void look_at_rules(const Pose& pose, std::vector<FitProblem>& found) const {
    for (const Rule& rule : terms_.rules) {
      if (rule.holds && !rule.holds(home_.cells_)) found.push_back({FitFault::rule, pose.at, 0, {}, rule.name});
    }
  }

  /// Which cells to be kept open lie under the thing or are cut off by it.
  void look_at_kept(std::vector<FitProblem>& found) {
    if (kept_.empty()) return;
    const std::vector<Cell>& cells = home_.cells_;
    const auto covered = [&](Cell cell) { return std::binary_search(cells.begin(), cells.end(), cell); };
    for (const Cell cell : kept_) {
      if (covered(cell)) found.push_back({FitFault::covers, cell});
    }
    ++home_.asked_;
    find_lost();
    home_.probe_.begin(*terms_.costs, *terms_.regions, home_.lost_, looked_at_);
    if (home_.probe_.whole()) ++home_.nearby_;
    std::vector<std::vector<std::uint64_t>> parts;  // of the places that are left
    for (const Cell cell : kept_) {
      std::vector<std::uint64_t>& mine = parts.emplace_back();
      if (covered(cell)) continue;
      for (const Cell place : places_of(cell, [&](Cell at) { return home_.probe_.open(at); })) {
        mine.push_back(home_.probe_.part(place));
      }
    }
    for (std::size_t i = 0; i < kept_.size(); ++i) {
      for (std::size_t k = 0; k < i && !covered(kept_[i]); ++k) {
        if (covered(kept_[k]) || !joined_now(k, i) || share(parts[k], parts[i])) continue;
        found.push_back({FitFault::cuts_off, kept_[i], 0, kept_[k]});
        break;
      }
    }
  }

  /// The cells on ways that now join the cells to be kept open, and those cells themselves: a thing that touches none
  /// of them cuts nothing off. The ways go round `avoided` as far as they can.
  [[nodiscard]] BitGrid witnesses(const BitGrid& avoided) {
    BitGrid touched(map_.size());
    for (const Cell cell : kept_) touched.set(cell);
    for (const std::uint32_t region : wanted_) mark_ways(region, avoided, touched);
    return touched;
  }
  [[nodiscard]] bool keeps() const { return !kept_.empty(); }
  [[nodiscard]] Tiling tiling() const { return tiling_; }

 private:
  static void make_set(std::vector<std::uint32_t>& numbers) {
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
  }
  template <typename Open>
  [[nodiscard]] std::vector<Cell> places_of(Cell cell, Open&& open) const {
    if (open(cell)) return {cell};
    std::vector<Cell> places;
    if (!map_.size().contains(cell)) return places;
    for (Direction d{0}; d < tiling_.edge_count(); ++d) {
      const Cell beside = tiling_.neighbour(cell, d);
      if (open(beside)) places.push_back(beside);
    }
    return places;
  }
  [[nodiscard]] bool joined_now(std::size_t a, std::size_t b) const {
    const auto in_one_region = [&](Cell p) {
      return std::any_of(places_[b].begin(), places_[b].end(), [&](Cell q) { return terms_.regions->same(p, q); });
    };
    return std::any_of(places_[a].begin(), places_[a].end(), in_one_region);
  }
  static bool share(const std::vector<std::uint64_t>& a, const std::vector<std::uint64_t>& b) {
    return std::find_first_of(a.begin(), a.end(), b.begin(), b.end()) != a.end();
  }

  /// Places whose body would meet the thing.
  void find_lost() {
    const int size = terms_.mover->size;
    std::vector<Cell>& lost = home_.lost_;
    lost.clear();
    for (const Cell cell : home_.cells_) {
      if (size == 1) {
        lost.push_back(cell);
        continue;
      }
      if (tiling_.is_hex()) {
        disk_of_cells(tiling_, cell, size - 1, home_.body_);
      } else {
        body_cells(tiling_, cell + Offset{1 - size, 1 - size}, size, home_.body_);
      }
      lost.insert(lost.end(), home_.body_.begin(), home_.body_.end());
    }
    std::sort(lost.begin(), lost.end());
    lost.erase(std::unique(lost.begin(), lost.end()), lost.end());
  }

  /// Ways from one kept place of a region to all others with all they need: bodies, and what lies beside steps across
  /// corners. They need not be short: the search goes on where it is nearest to a place not found yet, an avoided cell
  /// counting as so many steps more.
  void mark_ways(std::uint32_t region, const BitGrid& avoided, BitGrid& touched) {
    constexpr std::uint32_t avoided_steps = 8;
    std::vector<Cell> ends;
    for (const auto& places : places_) {
      for (const Cell place : places) {
        if (terms_.regions->at(place) == region) ends.push_back(place);
      }
    }
    std::sort(ends.begin(), ends.end());
    ends.erase(std::unique(ends.begin(), ends.end()), ends.end());
    const CostGrid& costs = *terms_.costs;
    const Neighbourhood& hood = tiling_.neighbourhood();
    constexpr std::uint8_t unseen = 255;
    constexpr std::uint8_t start = 254;
    Grid<std::uint8_t> back(map_.size(), unseen);
    struct Entry {
      std::uint32_t far = 0;
      std::uint32_t avoided = 0;
      Cell at;
      bool operator<(const Entry& other) const { return far > other.far; }  // the nearest on top of the heap
    };
    std::vector<Cell> wanted(ends.begin() + 1, ends.end());
    std::priority_queue<Entry> line;
    line.push({0, 0, ends.front()});
    back[ends.front()] = start;
    while (!line.empty() && !wanted.empty()) {
      const Entry entry = line.top();
      line.pop();
      const Cell cell = entry.at;
      std::erase(wanted, cell);
      const auto kind = static_cast<unsigned>(tiling_.kind(cell));
      for (unsigned steps = costs.moves(cell); steps != 0; steps &= steps - 1) {
        const auto d = static_cast<unsigned>(std::countr_zero(steps));
        const Cell next = cell + hood.offset[kind][d];
        const auto there = static_cast<std::uint8_t>(hood.opposite[kind][d]);
        if (std::as_const(back)[next] != unseen) continue;
        if (costs.has_sides() && !holds(costs.moves(next), Direction(there))) continue;
        back[next] = there;
        std::int64_t nearest = INT32_MAX;
        for (const Cell end : wanted) nearest = std::min<std::int64_t>(nearest, tiling_.edge_distance(next, end));
        const std::uint32_t crossed = entry.avoided + (avoided.test(next) ? avoided_steps : 0);
        line.push({static_cast<std::uint32_t>(nearest) + crossed, crossed, next});
      }
    }
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
  void mark_body(Cell place, BitGrid& touched) {
    body_cells(tiling_, place, terms_.mover->size, home_.body_);
    for (const Cell cell : home_.body_) touched.set(cell);
  }
  void mark_beside(Cell from, unsigned d, BitGrid& touched) {
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

  Fitter& home_;
  const FitTerms& terms_;
  const Map& map_;
  const Tiling tiling_;
  const CellTerms cell_terms_;
  std::vector<Cell> kept_;                 // each once
  std::vector<std::vector<Cell>> places_;  // of each, as it is now
  std::vector<std::uint32_t> wanted_;      // regions of those
  std::vector<std::uint32_t> looked_at_;   // and of the cells beside
};

std::vector<FitProblem> Fitter::problems(const FitTerms& terms, const Footprint& footprint, const Pose& pose) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {{FitFault::off_map, pose.at}};
  Placement placement(*this, terms);
  std::vector<FitProblem> found;
  if (!placement.look_at_cells(footprint, pose, found)) return found;
  placement.look_at_rules(pose, found);
  placement.look_at_kept(found);
  return found;
}

namespace {

template <typename Change>
void for_each_set(const BitGrid& bits, Change&& change) {
  for (std::int32_t row = 0; row < bits.size().rows; ++row) {
    const std::span<const std::uint64_t> words = bits.row_words(row);
    for (std::size_t i = 0; i < words.size(); ++i) {
      for (std::uint64_t left = words[i]; left != 0; left &= left - 1) {
        const auto bit = static_cast<std::int32_t>(i * 64) + std::countr_zero(left);
        change(Cell{bit - static_cast<std::int32_t>(BitGrid::margin), row});
      }
    }
  }
}

/// The spots that have to be asked about the cells to be kept open: where the thing would touch every set of ways
/// between them that was tried. Each set goes round what is still in doubt, until that pays no more.
BitGrid doubtful_spots(Placement& placement, const SpotRows& rows, const BitGrid& spots, const Footprint& footprint,
                       int turn, bool mirrored) {
  constexpr int most_sets = 3;
  constexpr std::size_t few = 48;  // a set of ways takes about as long as so many questions
  const Tiling tiling = placement.tiling();
  BitGrid doubtful = spots;
  BitGrid avoided(spots.size());
  std::vector<Cell> cells;
  std::size_t count = doubtful.count();
  for (int set = 0; set < most_sets && (set == 0 || count > few); ++set) {
    if (set > 0) {
      avoided.clear();
      for_each_set(doubtful, [&](Cell at) {
        cells_in_pose(tiling, footprint, {at, turn, mirrored}, cells);
        for (const Cell cell : cells) avoided.set(cell);
      });
    }
    BitGrid clear = SpotRows::all_of(spots.size());
    for_each_set(placement.witnesses(avoided), [&](Cell cell) { clear.set(cell, false); });
    for_each_set(rows.where_all(clear), [&](Cell at) { doubtful.set(at, false); });
    const std::size_t before = count;
    count = doubtful.count();
    if (set > 0 && before - count < before / 8) break;
  }
  return doubtful;
}

}  // namespace

BitGrid Fitter::spots(const FitTerms& terms, const Footprint& footprint, int turn, bool mirrored) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {};
  const Map& map = *terms.map;
  SpotRows rows(map.tiling(), map.size(), footprint, turn, mirrored);
  Placement placement(*this, terms);
  BitGrid free = free_cells(terms);
  if (placement.keeps()) {  // what would cover one of them does not fit
    for (const Cell cell : terms.keep_open) free.set(cell, false);
  }
  BitGrid spots = rows.where_all(free);
  if (map.has_barriers()) rows.keep_unbarred(map, spots);
  const bool each = terms.flatness || !terms.rules.empty();
  if (!each && !placement.keeps()) return spots;
  const BitGrid doubtful =
      placement.keeps() ? doubtful_spots(placement, rows, spots, footprint, turn, mirrored) : BitGrid{};
  std::vector<FitProblem> found;
  for (std::int32_t row = 0; row < map.size().rows; ++row) {
    for (std::int32_t col = 0; col < map.size().cols; ++col) {
      const Cell at{col, row};
      if (!spots.test(at)) continue;
      const bool ask_kept = doubtful.test(at);
      if (!each && !ask_kept) continue;
      found.clear();
      const Pose pose{at, turn, mirrored};
      cells_in_pose(map.tiling(), footprint, pose, cells_);
      std::sort(cells_.begin(), cells_.end());
      placement.look_at_flatness(found);
      if (found.empty()) placement.look_at_rules(pose, found);
      if (found.empty() && ask_kept) placement.look_at_kept(found);
      if (!found.empty()) spots.set(at, false);
    }
  }
  return spots;
}

BitGrid free_cells(const FitTerms& terms) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {};
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
  return SpotRows(tiling, free.size(), footprint, turn, mirrored).where_all(free);
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
