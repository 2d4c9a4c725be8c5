#include "saunter/place/scatter.hpp"

#include <algorithm>
#include <numeric>

#include "../search/kernel/beside.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/ground/bake.hpp"

namespace saunter::inline v0_2 {
namespace {

/// What grows as units are put down.
class Ground {
 public:
  Ground(const FitTerms& terms, const ScatterOptions& options)
      : terms_(terms),
        spacing_(std::max(options.spacing, 0)),
        reachable_from_(options.reachable_from),
        covered_(terms.map->size()),
        near_(terms.map->size()) {
    const bool keeps = !terms.keep_open.empty();
    const bool askable = terms.mover != nullptr && (!keeps || (terms.costs != nullptr && terms.regions != nullptr));
    SAUNTER_EXPECT(askable || (!keeps && !reachable_from_));
    follows_ = askable && (keeps || reachable_from_);
    if (!follows_) return;
    // Baked again with what is put down, the grid must keep what stood there before.
    blocking_ = BitGrid(terms.map->size());
    for (const Cell cell : blocking_.size().cells()) {
      if (terms.units == nullptr) break;
      const UnitId self = terms.units->at(cell, terms.layer);
      blocking_.set(cell, terms.units->blocking().test(cell) && (self == 0 || self != terms.self));
    }
    costs_ = terms.costs != nullptr ? *terms.costs : bake(*terms.map, *terms.mover, &blocking_);
    regions_ = Regions(costs_);
    terms_.costs = &costs_;
    terms_.regions = &regions_;
  }

  [[nodiscard]] const FitTerms& terms() const { return terms_; }
  [[nodiscard]] bool covered(Cell cell) const { return covered_.test(cell); }
  [[nodiscard]] bool too_near(Cell cell) const { return near_.test(cell); }

  /// @return false, and nothing is put down, when something could not be got at any more
  bool put(const std::vector<Cell>& cells) {
    if (follows_) block(cells, true);
    put_down_.push_back(cells);
    if (reachable_from_ && !(follows_ && all_reachable())) {
      put_down_.pop_back();
      if (follows_) block(cells, false);
      return false;
    }
    for (const Cell cell : cells) {
      covered_.set(cell);
      disk_of_cells(terms_.map->tiling(), cell, spacing_, near_.size(), disk_);
      for (const Cell near : disk_) near_.set(near);
    }
    return true;
  }

 private:
  void block(std::span<const Cell> cells, bool blocks) {
    Rect about;
    for (const Cell cell : cells) {
      blocking_.set(cell, blocks);
      about = about.joined(Rect::of(cell));
    }
    regions_.update(costs_, rebake(costs_, *terms_.map, *terms_.mover, about, &blocking_));
  }

  /// Shows the regions from which a mover gets at a cell, or in which it stands there.
  template <typename Visit>
  void for_each_region(Cell cell, Visit&& visit) {
    if (costs_.open(cell)) {
      visit(regions_.at(cell));
      return;
    }
    detail::for_each_place_beside(
        costs_, cell, disk_, [&](Cell place) { return costs_.open(place); },
        [&](Cell place) { visit(regions_.at(place)); });
  }

  [[nodiscard]] bool all_reachable() {
    home_.clear();
    for_each_region(*reachable_from_, [&](std::uint32_t region) { home_.push_back(region); });
    return std::all_of(put_down_.begin(), put_down_.end(), [&](const std::vector<Cell>& cells) {
      return std::any_of(cells.begin(), cells.end(), [&](Cell cell) {
        bool leads = false;
        for_each_region(cell, [&](std::uint32_t region) {
          leads = leads || std::find(home_.begin(), home_.end(), region) != home_.end();
        });
        return leads;
      });
    });
  }

  FitTerms terms_;
  int spacing_;
  std::optional<Cell> reachable_from_;
  bool follows_ = false;
  BitGrid covered_;
  BitGrid near_;  // cells too near to what was put down
  BitGrid blocking_;
  CostGrid costs_;
  Regions regions_;
  std::vector<std::vector<Cell>> put_down_;
  std::vector<std::uint32_t> home_;  // regions of the cell all must be reachable from
  std::vector<Cell> disk_;
};

}  // namespace

ScatterResult scatter(Fitter& fitter, const FitTerms& terms, std::span<const ScatterUnit> units,
                      const ScatterOptions& options) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {};
  const Map& map = *terms.map;
  const Tiling tiling = map.tiling();
  const std::uint64_t weights = std::accumulate(units.begin(), units.end(), std::uint64_t{0},
                                                [](std::uint64_t sum, const ScatterUnit& t) { return sum + t.weight; });
  SAUNTER_EXPECT(weights > 0 && options.spacing >= 0);
  if (weights == 0) return {};
  Dice dice(options.seed);
  std::vector<std::uint32_t> order(map.size().cell_count());
  std::iota(order.begin(), order.end(), 0U);
  Ground ground(terms, options);
  ScatterResult result;
  std::vector<Cell> cells;
  // The next of a drawn order is chosen when it is wanted (Fisher and Yates 1938).
  for (std::size_t i = 0; i < order.size() && result.placed.size() < options.most; ++i) {
    std::swap(order[i], order[i + static_cast<std::size_t>(dice.below(order.size() - i))]);
    // Every number is drawn for every cell, so that one that is passed by changes nothing for the next.
    const bool tried = dice.chance(options.chance);
    std::uint64_t drawn = dice.below(weights);
    Pose pose{.at = map.size().cell(CellIndex{order[i]})};
    const auto turn = static_cast<int>(dice.below(static_cast<std::uint64_t>(full_turn(tiling))));
    const bool mirrored = dice.below(2) == 1;
    if (options.turned) pose.turn = turn;
    if (options.mirrored) pose.mirrored = mirrored;
    if (!tried) {
      ++result.passed_by;
      continue;
    }
    ++result.tried;
    std::size_t unit = 0;
    while (drawn >= units[unit].weight) drawn -= units[unit++].weight;
    cells_in_pose(tiling, units[unit].footprint, pose, cells);
    if (std::any_of(cells.begin(), cells.end(), [&](Cell cell) { return ground.covered(cell); })) {
      ++result.refused[static_cast<unsigned>(FitFault::occupied)];
      continue;
    }
    if (std::any_of(cells.begin(), cells.end(), [&](Cell cell) { return ground.too_near(cell); })) {
      ++result.too_near;
      continue;
    }
    const std::vector<FitProblem> problems = fitter.problems(ground.terms(), units[unit].footprint, pose);
    if (!problems.empty()) {
      ++result.refused[static_cast<unsigned>(problems.front().why)];
      continue;
    }
    if (!ground.put(cells)) {
      ++result.refused[static_cast<unsigned>(FitFault::cuts_off)];
      continue;
    }
    result.placed.push_back({unit, pose});
  }
  return result;
}

}  // namespace saunter::inline v0_2
