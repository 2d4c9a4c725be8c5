#include "saunter/place/gather.hpp"

#include <algorithm>

#include "assignment.hpp"
#include "saunter/grid/area.hpp"
#include "saunter/search/unstick.hpp"
#include "way_table.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

namespace {

/// A cell of a formation: columns and rows away, on hexes along the axes q and r.
Cell beside(Tiling tiling, Cell middle, Offset by) {
  if (!tiling.is_hex()) return middle + by;
  const Axial axial = tiling.to_axial(middle);
  return tiling.from_axial({axial.q + by.cols, axial.r + by.rows});
}

}  // namespace

class Gatherer::Work {
 public:
  const Gathering& gather(const CostGrid& costs, std::span<const Cell> units, Cell rally, const GatherOptions& options);

 private:
  void choose_places(const CostGrid& costs, std::size_t wanted, Cell rally, const GatherOptions& options);
  bool take(const CostGrid& costs, Cell cell);
  void assign(std::size_t count, const GatherOptions& options);

  /// A cell that travel from the rally cell leads to.
  struct Near {
    Cost cost = 0;
    std::uint32_t index = 0;
    friend bool operator<(const Near& a, const Near& b) {
      return a.cost != b.cost ? a.cost < b.cost : a.index < b.index;
    }
  };

  Searcher searcher_;
  Field field_;
  std::vector<Near> near_;
  BitGrid full_;  // cells under a place that is chosen, or taken
  std::vector<Cell> body_;
  std::vector<Cost> costs_;  // a row for each unit, a column for each place
  WayTable ways_;
  Assignment assignment_;
  Gathering answer_;
};

/// Chooses a place where a body fits.
bool Gatherer::Work::take(const CostGrid& costs, Cell cell) {
  body_cells(costs.tiling(), cell, costs.mover_size(), body_);
  if (std::any_of(body_.begin(), body_.end(), [&](Cell part) { return full_.test(part); })) return false;
  answer_.places.push_back(cell);
  for (const Cell part : body_) full_.set(part);
  return true;
}

void Gatherer::Work::choose_places(const CostGrid& costs, std::size_t wanted, Cell rally,
                                   const GatherOptions& options) {
  Source start{rally};
  if (!costs.open(rally)) {
    const std::optional<WayOut> out = unstick(costs, rally);
    if (!out) return;
    start.cell = out->cells.back();
  }
  searcher_.reach(costs, {&start, 1}, field_);
  if (options.taken != nullptr && options.taken->size() == costs.size()) {
    full_ = *options.taken;
  } else if (full_.size() == costs.size()) {
    full_.clear();
  } else {
    full_ = BitGrid(costs.size());
  }
  if (!options.formation.empty()) {
    for (const Offset offset : options.formation) {
      if (answer_.places.size() == wanted) return;
      const Cell slot = beside(costs.tiling(), start.cell, offset);
      if (field_.reached(slot)) (void)take(costs, slot);
    }
  }
  near_.clear();
  for (const Cell cell : costs.size().cells()) {
    if (field_.reached(cell)) near_.push_back({field_.cost(cell), costs.size().index(cell).value()});
  }
  // Few of many cells are wanted: the nearest first, a heap at a time.
  const auto later = [](const Near& a, const Near& b) { return b < a; };
  std::make_heap(near_.begin(), near_.end(), later);
  while (!near_.empty() && answer_.places.size() < wanted) {
    std::pop_heap(near_.begin(), near_.end(), later);
    (void)take(costs, costs.size().cell(CellIndex{near_.back().index}));
    near_.pop_back();
  }
}

void Gatherer::Work::assign(std::size_t count, const GatherOptions& options) {
  if (options.aim == GatherAim::soonest) {
    const std::uint32_t bound = assignment_.least_bound(costs_, count);
    for (Cost& cost : costs_) cost = cost <= bound ? cost : Assignment::forbidden;
  }
  const std::span<const std::uint32_t> place_of = assignment_.least_sum(costs_, count);
  for (std::size_t unit = 0; unit < count; ++unit) {
    const std::uint32_t cost = costs_[unit * count + place_of[unit]];
    if (cost == Assignment::forbidden) continue;
    Gathered& gathered = answer_.units[unit];
    gathered.to = answer_.places[place_of[unit]];
    gathered.cost = cost;
    ++answer_.placed;
    answer_.sum += cost;
    answer_.last = std::max(answer_.last, cost);
  }
}

const Gathering& Gatherer::Work::gather(const CostGrid& costs, std::span<const Cell> units, Cell rally,
                                        const GatherOptions& options) {
  answer_.units.clear();
  answer_.places.clear();
  answer_.placed = 0;
  answer_.sum = 0;
  answer_.last = 0;
  for (const Cell cell : units) answer_.units.push_back({cell, {}, 0});
  const std::size_t count = std::min(units.size(), most_units);
  choose_places(costs, count, rally, options);
  if (answer_.places.empty() || count == 0) return answer_;
  costs_.resize(count * count);  // a row for each unit; where places are missing too
  ways_.measure(costs, units.first(count), answer_.places, field_, costs_, count);
  assign(count, options);
  return answer_;
}

Gatherer::Gatherer() : work_(std::make_unique<Work>()) {}
Gatherer::~Gatherer() = default;
Gatherer::Gatherer(Gatherer&&) noexcept = default;
Gatherer& Gatherer::operator=(Gatherer&&) noexcept = default;

const Gathering& Gatherer::gather(const CostGrid& costs, std::span<const Cell> units, Cell rally,
                                  const GatherOptions& options) & {
  return work_->gather(costs, units, rally, options);
}

}  // namespace saunter::inline v0_2
