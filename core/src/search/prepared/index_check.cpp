#include "index_check.hpp"

#include <algorithm>
#include <vector>

#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// Whether a list of starts rises from 0 to an end.
bool rises(std::span<const std::uint32_t> starts, std::size_t count, std::size_t end) {
  return starts.size() == count + 1 && starts.front() == 0 && starts.back() == end &&
         std::is_sorted(starts.begin(), starts.end());
}

/// The places are those of the board, each numbered once.
bool sound_places(const PreparedMap& map) {
  const Index& index = map.index;
  const std::size_t count = index.count();
  if (index.places.size() != count || index.core > count || map.places().count() != count) return false;
  const auto in_range = [&](std::uint32_t place) { return place < count; };
  if (!std::all_of(index.places.begin(), index.places.end(), in_range)) return false;
  for (std::uint32_t i = 0; i < count; ++i) {
    if (!map.places().holds(map.cell(i)) || map.place(map.cell(i)) != i) return false;
  }
  return true;
}

/// Whether a text leads from one cell to another by legal steps that cost so much.
bool sound_text(const Index& index, const CostGrid& costs, std::size_t at, Cell from, Cell to, std::uint64_t cost,
                bool twice) {
  std::uint64_t sum = 0;
  for (; at < index.text.size() && index.text[at] != 0; ++at) {
    const Direction direction(index.text[at] >> 4U);
    for (unsigned steps = index.text[at] & 15U; steps > 0; --steps) {
      if (!holds(costs.moves(from), direction)) return false;
      sum += costs.cost_of_step(from, direction);
      if (twice) sum += costs.entry(from);
      from = costs.tiling().neighbour(from, direction);
    }
  }
  return at < index.text.size() && from == to && sum == cost;
}

/// Ways lead to other places; those of the core as they are written, and back as well.
template <unsigned sides>
bool sound_core_ways(const Index& index, const CostGrid& costs, bool twice) {
  for (std::uint32_t place = 0; place < index.core; ++place) {
    for (const IndexWay<sides>& way : index.ways<sides>(place)) {
      if (way.to >= index.core || way.to == place) return false;
      const auto others = index.ways<sides>(way.to);
      const auto other = std::find_if(others.begin(), others.end(), [&](const auto& back) { return back.to == place; });
      if (other == others.end() || other->cost[0] != way.cost[sides - 1]) return false;
      if (way.cost[0] == unreached) continue;
      if (!sound_text(index, costs, way.middle[0], unpack(index.cells[place]), unpack(index.cells[way.to]), way.cost[0],
                      twice))
        return false;
    }
  }
  return true;
}

/// Whether a way of the board leads from one place to another, as noted, and costs so much.
bool sound_direct(const PreparedMap& map, std::uint32_t from, std::uint32_t to, unsigned leaving, std::uint64_t cost) {
  const Cell start = map.cell(from);
  const Cell end = map.cell(to);
  if (map.kind == PlaceKind::turning_points)
    return TurningPoints::straight_way(map.base, start, end) && Estimate(map.base, end)(start) == cost;
  if (!holds(map.base.moves(start), Direction(leaving))) return false;
  const Passages::Walk walk = Passages::walk(map.base, map.places(), start, leaving, [](const Passages::Walk&) {});
  const std::uint64_t counted =
      map.kind == PlaceKind::passages_twice ? std::uint64_t{walk.there} + walk.back : walk.there;
  return walk.end == end && counted == cost;
}

/// Short cuts of the other places lead over places that keep both halves, which cost less: taking them apart ends.
template <unsigned sides>
bool sound_ways(const PreparedMap& map) {
  const Index& index = map.index;
  const auto half = [&](std::uint32_t middle, std::uint32_t to, unsigned side) -> std::uint64_t {
    for (const IndexWay<sides>& way : index.ways<sides>(middle)) {
      if (way.to == to) return way.cost[side];
    }
    return unreached;
  };
  for (std::uint32_t place = index.core; place < index.count(); ++place) {
    for (const IndexWay<sides>& way : index.ways<sides>(place)) {
      if (way.to >= index.count() || way.to == place) return false;
      for (unsigned side = 0; side < sides; ++side) {
        if (way.cost[side] == unreached) continue;
        if (way.cost[side] == 0) return false;
        const std::uint32_t middle = way.middle[side];
        const bool back = side != 0;  // from way.to to place
        if (Middle::is_direct(middle)) {
          const std::uint32_t from = back ? way.to : place;
          if (!sound_direct(map, from, back ? place : way.to, Middle::leaving(middle), way.cost[side])) return false;
          continue;
        }
        if (middle >= index.count() || middle < index.core) return false;
        const std::uint64_t to_middle = half(middle, back ? way.to : place, IndexWay<sides>::back);
        const std::uint64_t on = half(middle, back ? place : way.to, IndexWay<sides>::there);
        if (to_middle == 0 || on == 0 || to_middle + on != way.cost[side]) return false;
      }
    }
  }
  return true;
}

/// Hubs rise in every list, and the first way towards each leads to a place that has the same hub, so much nearer.
template <unsigned sides>
bool sound_hubs(const Index& index, unsigned side) {
  const HubTable& table = index.hubs[side];
  if (!rises(table.first, index.core, table.hubs.size())) return false;
  if (table.way.size() != table.hubs.size()) return false;
  const unsigned along = side == 0 ? IndexWay<sides>::there : IndexWay<sides>::back;
  for (std::uint32_t place = 0; place < index.core; ++place) {
    const auto ways = index.ways<sides>(place);
    for (std::uint32_t i = table.first[place]; i < table.first[place + 1]; ++i) {
      const auto [hub, cost] = table.hubs[i];
      if (hub >= index.core || (i > table.first[place] && hub <= table.hubs[i - 1].hub)) return false;
      if (hub == place) {
        if (cost != 0) return false;
        continue;
      }
      if (table.way[i] >= ways.size()) return false;
      const IndexWay<sides>& way = ways[table.way[i]];
      if (way.cost[along] == unreached) return false;
      const std::uint32_t there = table.find(way.to, hub, 0.5);
      if (there >= table.first[way.to + 1] || table.hubs[there].hub != hub) return false;
      if (std::uint64_t{table.hubs[there].cost} + way.cost[along] != cost) return false;
    }
  }
  return true;
}

/// Every place has one way to another at most, which leads there or back: whoever looks for it finds the one that was
/// checked.
template <unsigned sides>
bool single_ways(const Index& index) {
  std::vector<std::uint32_t> last_from(index.count(), Index::none);  // NOLINT(misc-const-correctness): written to below
  for (std::uint32_t place = 0; place < index.count(); ++place) {
    for (const IndexWay<sides>& way : index.ways<sides>(place)) {
      const auto leads = [](Cost cost) { return cost != unreached; };
      if (way.to >= index.count() || last_from[way.to] == place) return false;
      if (std::none_of(way.cost.begin(), way.cost.end(), leads)) return false;
      last_from[way.to] = place;
    }
  }
  return true;
}

template <unsigned sides>
bool all_sound(const PreparedMap& map) {
  const Index& index = map.index;
  const std::size_t ways = index.way_words.size() * 4 / sizeof(IndexWay<sides>);
  if (index.way_words.size() * 4 % sizeof(IndexWay<sides>) != 0 || !rises(index.first, index.count(), ways))
    return false;
  const bool twice = map.kind == PlaceKind::passages_twice;
  if (!sound_places(map) || !single_ways<sides>(index) || !sound_core_ways<sides>(index, map.base, twice) ||
      !sound_ways<sides>(map))
    return false;
  for (unsigned side = 0; side < sides; ++side) {
    if (!sound_hubs<sides>(index, side)) return false;
  }
  return true;
}

}  // namespace

bool sound(const PreparedMap& map) {
  const PlacesOf wanted = PlacesOf::board(map.base);
  if (wanted.kind != map.kind || wanted.sides != map.index.sides) return false;
  return map.index.sides == 1 ? all_sound<1>(map) : all_sound<2>(map);
}

}  // namespace saunter::inline v0_2::detail
