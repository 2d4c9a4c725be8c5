#include "placement.hpp"

#include <algorithm>

#include "../search/kernel/beside.hpp"

namespace saunter::inline v0_2::detail {
namespace {

constexpr std::string_view points_up = "points up";
void make_set(std::vector<std::uint32_t>& numbers) {
  std::sort(numbers.begin(), numbers.end());
  numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
}

bool share(const std::vector<std::uint64_t>& a, const std::vector<std::uint64_t>& b) {
  return std::find_first_of(a.begin(), a.end(), b.begin(), b.end()) != a.end();
}

}  // namespace

CellTerms::CellTerms(const FitTerms& terms) : terms_(terms), map_(*terms.map) {
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

Placement::Placement(FitScratch& scratch, const FitTerms& terms)
    : scratch_(scratch), terms_(terms), map_(*terms.map), tiling_(map_.tiling()), cell_terms_(terms) {
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
    for_each_place_beside(
        *terms_.costs, cell, scratch_.body, [&](Cell place) { return terms_.costs->open(place); },
        [&](Cell place) { looked_at_.push_back(terms_.regions->at(place)); });
  }
  make_set(wanted_);
  looked_at_.insert(looked_at_.end(), wanted_.begin(), wanted_.end());
  make_set(looked_at_);
}

bool Placement::look_at_cells(const Footprint& footprint, const Pose& pose, std::vector<FitProblem>& found) {
  std::vector<Cell>& cells = scratch_.cells;
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
    if (const UnitId by = cell_terms_.occupied(cell); by != 0) found.push_back({FitFault::occupied, cell, by});
  }
  for (const Cell cell : cells) {
    if (cell_terms_.hot(cell)) found.push_back({FitFault::threat, cell});
  }
  if (tiling_.shape() == Shape::triangle && tiling_.kind(pose.at) != 0 && !footprint.either_way_up()) {
    found.push_back({.why = FitFault::rule, .at = pose.at, .rule = points_up});
  }
  return whole;
}

void Placement::look_at_flatness(std::vector<FitProblem>& found) const {
  if (!terms_.flatness || scratch_.cells.empty()) return;
  const auto lower = [&](Cell a, Cell b) { return map_.height_at(a) < map_.height_at(b); };
  const Cell low = *std::min_element(scratch_.cells.begin(), scratch_.cells.end(), lower);
  const Cell high = *std::max_element(scratch_.cells.begin(), scratch_.cells.end(), lower);
  if (map_.height_at(high) - map_.height_at(low) > *terms_.flatness) found.push_back({FitFault::ground, high});
}

void Placement::look_at_barriers(std::vector<FitProblem>& found) const {
  const std::vector<Cell>& cells = scratch_.cells;
  for (const Cell cell : cells) {
    for (Direction d{0}; map_.has_barriers() && d < tiling_.edge_count(); ++d) {
      const Cell other = tiling_.neighbour(cell, d);
      if (other < cell || !std::binary_search(cells.begin(), cells.end(), other)) continue;
      if (map_.closed(cell, d) || map_.closed(other, tiling_.direction(other, cell))) {
        found.push_back({.why = FitFault::barrier, .at = cell, .across = other});
      }
    }
  }
}

void Placement::look_at_rules(const Pose& pose, std::vector<FitProblem>& found) const {
  for (const Rule& rule : terms_.rules) {
    if (rule.holds && !rule.holds(scratch_.cells))
      found.push_back({.why = FitFault::rule, .at = pose.at, .rule = rule.name});
  }
}

template <typename Open>
std::vector<Cell> Placement::places_of(Cell cell, Open&& open) const {
  if (open(cell)) return {cell};
  std::vector<Cell> places;
  for_each_place_beside(*terms_.costs, cell, scratch_.body, open, [&](Cell place) { places.push_back(place); });
  return places;
}

void Placement::look_at_kept(std::vector<FitProblem>& found) {
  if (kept_.empty()) return;
  const std::vector<Cell>& cells = scratch_.cells;
  const auto covered = [&](Cell cell) { return std::binary_search(cells.begin(), cells.end(), cell); };
  for (const Cell cell : kept_) {
    if (covered(cell)) found.push_back({FitFault::covers, cell});
  }
  ++scratch_.asked;
  find_lost();
  scratch_.probe.begin(*terms_.costs, *terms_.regions, scratch_.lost, looked_at_);
  if (scratch_.probe.whole()) ++scratch_.nearby;
  std::vector<std::vector<std::uint64_t>> parts;  // of the places that are left
  for (const Cell cell : kept_) {
    std::vector<std::uint64_t>& mine = parts.emplace_back();
    if (covered(cell)) continue;
    for (const Cell place : places_of(cell, [&](Cell at) { return scratch_.probe.open(at); })) {
      mine.push_back(scratch_.probe.part(place));
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

bool Placement::joined_now(std::size_t a, std::size_t b) const {
  const auto in_one_region = [&](Cell p) {
    return std::any_of(places_[b].begin(), places_[b].end(), [&](Cell q) { return terms_.regions->same(p, q); });
  };
  return std::any_of(places_[a].begin(), places_[a].end(), in_one_region);
}

/// Bodies of large movers lie about their places.
void Placement::find_lost() {
  const int size = terms_.mover->size;
  std::vector<Cell>& lost = scratch_.lost;
  lost.clear();
  for (const Cell cell : scratch_.cells) {
    if (size == 1) {
      lost.push_back(cell);
      continue;
    }
    for_each_place_over(tiling_, cell, size, scratch_.body, [&](Cell place) { lost.push_back(place); });
  }
  std::sort(lost.begin(), lost.end());
  lost.erase(std::unique(lost.begin(), lost.end()), lost.end());
}

}  // namespace saunter::inline v0_2::detail
