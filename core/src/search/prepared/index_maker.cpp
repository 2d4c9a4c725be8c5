#include "index_maker.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "../canonical.hpp"
#include "../kernel/legal_steps.hpp"
#include "hub_order.hpp"
#include "run_writer.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// Columns and rows interleaved: places near each other come near each other (Morton 1966).
std::uint64_t curve(Cell cell) {
  const auto spread = [](std::uint64_t bits) {
    bits = (bits | bits << 8U) & 0x00FF'00FFU;
    bits = (bits | bits << 4U) & 0x0F0F'0F0FU;
    bits = (bits | bits << 2U) & 0x3333'3333U;
    return (bits | bits << 1U) & 0x5555'5555U;
  };
  return spread(static_cast<std::uint32_t>(cell.col)) | spread(static_cast<std::uint32_t>(cell.row)) << 1U;
}

bool all_two_way(const CostGrid& costs) {
  if (!costs.has_sides()) return true;
  for (const Cell cell : costs.size().cells()) {
    if (costs.open(cell) && costs.moves_on_map(cell) != moves_into(costs, cell)) return false;
  }
  return true;
}

template <unsigned sides>
class Maker final : public IndexMaker {
 public:
  Maker(const CostGrid& costs, PlaceKind kind, std::size_t most_bytes)
      : costs_(costs), kind_(kind), most_bytes_(most_bytes) {
    if (kind == PlaceKind::turning_points) {
      bends_ = TurningPoints(costs);
    } else {
      passages_ = Passages(costs);
    }
  }

  bool work(std::size_t amount, const Workers& workers) override {
    switch (part_) {
      case Part::begin: begin(); break;
      case Part::join: join(amount); break;
      case Part::contract: contract(amount, workers); break;
      case Part::order:
        if (order_.work(core_, 16 * amount, workers)) {
          lists_.begin(core_, order_.order());
          part_ = Part::lists;
        }
        break;
      case Part::lists:
        if (lists_.work(64 * amount, workers)) part_ = Part::done;
        break;
      case Part::done: break;
    }
    return part_ == Part::done;
  }

  [[nodiscard]] double share_done() const override {
    const auto share = [](std::size_t done, std::size_t of) {
      return static_cast<double>(done) / static_cast<double>(std::max<std::size_t>(1, of));
    };
    switch (part_) {
      case Part::begin:
      case Part::join: return 0.05 * share(next_, cells_.size());
      case Part::contract: {  // the fewer are left, the more work each takes
        const auto log = [](std::size_t n) { return std::log2(1 + static_cast<double>(n)); };
        const double all = log(cells_.size()) - log(core_size());
        const double done = log(cells_.size()) - log(contraction_.left().size());
        return 0.05 + (all > 0 ? 0.4 * std::min(1.0, done / all) : 0);
      }
      case Part::order: return 0.45 + 0.25 * share(order_.order().size(), core_.count());
      case Part::lists: return 0.7 + 0.29 * share(lists_.done_count(), core_.count());
      case Part::done: break;
    }
    return 1;
  }

  [[nodiscard]] std::vector<std::uint64_t> block() const override;
  [[nodiscard]] std::size_t memory() const override {
    return contraction_.memory() + order_.memory() + bytes_of(cells_, number_) + places().memory();
  }

 private:
  enum class Part : std::uint8_t { begin, join, contract, order, lists, done };

  [[nodiscard]] const PlaceSet& places() const {
    return kind_ == PlaceKind::turning_points ? bends_.places() : passages_.places();
  }
  void begin();
  void join(std::size_t amount);
  void join_passages(std::uint32_t place, Cell cell);
  [[nodiscard]] std::size_t core_size() const;
  void contract(std::size_t amount, const Workers& workers);
  void write_core_ways(IndexParts& parts, std::vector<IndexWay<sides>>& ways) const;

  const CostGrid& costs_;
  PlaceKind kind_;
  std::size_t most_bytes_;
  TurningPoints bends_;
  Passages passages_;
  Part part_ = Part::begin;
  std::vector<Cell> cells_;            // along the curve
  std::vector<std::uint32_t> number_;  // along the curve, by number in reading order
  std::size_t next_ = 0;
  Contraction<sides> contraction_;
  std::vector<std::uint32_t> core_places_;
  HubOrder<sides> order_;
  Core<sides> core_;
  HubLists<sides> lists_;
};

template <unsigned sides>
void Maker<sides>::begin() {
  std::vector<std::pair<std::uint64_t, Cell>> sorted;
  sorted.reserve(places().count());
  places().cells().for_each_set([&](Cell cell) { sorted.emplace_back(curve(cell), cell); });
  std::sort(sorted.begin(), sorted.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  number_.resize(sorted.size());
  for (const auto& [key, cell] : sorted) {
    number_[places().number(cell)] = static_cast<std::uint32_t>(cells_.size());
    cells_.push_back(cell);
  }
  const Cost factor = kind_ == PlaceKind::passages_twice ? 2 : 1;
  const Cost edge = factor * costs_.lowest_entry();
  typename Contraction<sides>::Floor floor{edge, edge, 1};
  if (costs_.tiling().shape() == Shape::square) {
    const Cost diagonal =
        costs_.rules().steps == 8 ? step_cost(costs_.step_length(0, 4), costs_.lowest_entry()) : 2 * edge;
    floor.diagonal = std::min(factor * diagonal, 2 * edge);
  } else if (costs_.tiling().shape() == Shape::triangle) {
    floor.stride = 2;
  }
  contraction_.begin(cells_, floor);
  part_ = Part::join;
}

template <unsigned sides>
void Maker<sides>::join(std::size_t amount) {
  const std::size_t last = std::min(cells_.size(), next_ + amount);
  for (; next_ < last; ++next_) {
    const auto place = static_cast<std::uint32_t>(next_);
    if (kind_ != PlaceKind::turning_points) {
      join_passages(place, cells_[next_]);
      continue;
    }
    bends_.for_each_direct(costs_, cells_[next_], [&](Cell other, Cost cost) {
      IndexWay<sides> way{.to = number_[places().number(other)]};
      way.cost.fill(cost);
      way.middle.fill(Middle::direct(0));
      contraction_.add(place, way);
    });
  }
  if (next_ == cells_.size()) part_ = Part::contract;
}

template <unsigned sides>
void Maker<sides>::join_passages(std::uint32_t place, Cell cell) {
  for_each_direction(costs_.moves_on_map(cell) | moves_into(costs_, cell), [&](unsigned d) {
    const Passages::Walk walk = Passages::walk(costs_, places(), cell, d, [](const Passages::Walk&) {});
    if (walk.end == cell) return;  // a circle
    IndexWay<sides> way{.to = number_[places().number(walk.end)]};
    if constexpr (sides == 1) {
      const std::uint64_t cost =
          kind_ == PlaceKind::passages_twice ? std::uint64_t{walk.there} + walk.back : walk.there;
      if (cost > max_cost) return;
      way.cost = {static_cast<Cost>(cost)};
      way.middle = {Middle::direct(d)};
    } else {
      way.cost = {walk.there, walk.back};
      way.middle = {Middle::direct(d), Middle::direct(walk.arriving)};
    }
    contraction_.add(place, way);
  });
}

template <unsigned sides>
std::size_t Maker<sides>::core_size() const {
  // Measured: with fewer, the searches outside take longer; with more, the lists grow, and the time to make them.
  constexpr std::size_t share = 20;
  constexpr std::size_t cells_a_place = 256;
  constexpr std::size_t most = 24'576;
  // A place of the core takes about so many bytes for its list; the lists are half of an index, or less.
  constexpr std::size_t list_bytes = 2000;
  const std::size_t fits = std::max<std::size_t>(16, most_bytes_ / (2 * list_bytes));
  return std::min(
      {std::max(cells_.size() / share, costs_.size().cell_count() / cells_a_place), most, fits, cells_.size()});
}

/// As far as the core, whose ways are kept as they are then.
template <unsigned sides>
void Maker<sides>::contract(std::size_t amount, const Workers& workers) {
  if (!contraction_.work(amount, core_size(), workers)) return;
  core_places_.assign(contraction_.left().begin(), contraction_.left().end());
  std::vector<std::uint32_t> within(cells_.size(), 0);
  for (std::uint32_t i = 0; i < core_places_.size(); ++i) within[core_places_[i]] = i;
  core_.first.assign(1, 0);
  for (const std::uint32_t place : core_places_) {
    for (IndexWay<sides> way : contraction_.ways(place)) {
      way.to = within[way.to];
      core_.ways.push_back(way);
    }
    core_.first.push_back(core_.ways.size());
  }
  order_.begin(core_.count());
  part_ = Part::order;
}

/// Writes the ways of core places out: no short cut has to be taken apart for them.
template <unsigned sides>
void Maker<sides>::write_core_ways(IndexParts& parts, std::vector<IndexWay<sides>>& ways) const {
  Index index;
  index.sides = sides;
  index.cells = parts.cells;
  index.first = parts.first;
  index.way_words = {reinterpret_cast<const std::uint32_t*>(ways.data()), ways.size() * sizeof(IndexWay<sides>) / 4};
  const WayGround ground{costs_, index, kind_ == PlaceKind::turning_points};
  RunWriter writer;
  std::vector<Straight> runs;
  std::vector<Stretch> stretches;
  std::vector<std::uint32_t> starts;
  for (std::uint32_t place = 0; place < core_places_.size(); ++place) {
    for (const IndexWay<sides>& way : index.ways<sides>(place)) {
      starts.push_back(static_cast<std::uint32_t>(parts.text.size()));
      if (way.cost[0] == unreached) continue;
      runs.clear();
      stretches.assign(1, index.stretch<sides>(place, way, false));
      while (!stretches.empty()) writer.next(ground, stretches, runs);
      write_text(runs, parts.text);
    }
  }
  for (std::size_t i = 0; i < starts.size(); ++i) ways[i].middle.fill(starts[i]);
}

template <unsigned sides>
std::vector<std::uint64_t> Maker<sides>::block() const {
  const std::size_t core = core_places_.size();
  // Core places by importance, then the others along the curve.
  std::vector<std::uint32_t> place_of(cells_.size(), Index::none);
  std::vector<std::uint32_t> old(cells_.size());
  for (std::uint32_t i = 0; i < core; ++i) {
    old[i] = core_places_[order_.order()[i]];
    place_of[old[i]] = i;
  }
  auto next = static_cast<std::uint32_t>(core);
  for (std::uint32_t i = 0; i < cells_.size(); ++i) {
    if (place_of[i] != Index::none) continue;
    old[next] = i;
    place_of[i] = next++;
  }
  IndexParts parts;
  parts.kind = kind_;
  std::vector<IndexWay<sides>> ways;
  parts.first.push_back(0);
  for (std::uint32_t place = 0; place < old.size(); ++place) {
    parts.cells.push_back(pack(cells_[old[place]]));
    const bool in_core = place < core;
    for (IndexWay<sides> way : in_core ? lists_.core().of(place) : contraction_.ways(old[place])) {
      if (!in_core) way.to = place_of[way.to];
      for (std::uint32_t& middle : way.middle) {
        if (!Middle::is_direct(middle)) middle = place_of[middle];
      }
      ways.push_back(way);
    }
    parts.first.push_back(static_cast<std::uint32_t>(ways.size()));
  }
  write_core_ways(parts, ways);
  parts.places.reserve(number_.size());
  for (const std::uint32_t number : number_) parts.places.push_back(place_of[number]);
  return make_block<sides>(parts, ways, lists_, costs_);
}

}  // namespace

PlacesOf PlacesOf::board(const CostGrid& costs) {
  if (canonical(costs)) return {PlaceKind::turning_points, 1};
  if (!all_two_way(costs)) return {PlaceKind::passages, 2};
  if (costs.lowest_entry() == costs.highest_entry()) return {PlaceKind::passages, 1};
  const bool edges_only = costs.rules().steps == costs.tiling().edge_count();
  return edges_only ? PlacesOf{PlaceKind::passages_twice, 1} : PlacesOf{PlaceKind::passages, 2};
}

std::unique_ptr<IndexMaker> IndexMaker::make(const CostGrid& costs, std::size_t most_bytes) {
  const PlacesOf places = PlacesOf::board(costs);
  if (places.sides == 1) return std::make_unique<Maker<1>>(costs, places.kind, most_bytes);
  return std::make_unique<Maker<2>>(costs, places.kind, most_bytes);
}

}  // namespace saunter::inline v0_2::detail
