#include "prepared_ways.hpp"

#include <algorithm>

#include "../kernel/legal_steps.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// What a walk to or from a place counts for, as the ways of the index count.
std::uint64_t counted(const PreparedMap& map, const Passages::Walk& walk, bool from_cell) {
  if (map.kind == PlaceKind::passages_twice) return std::uint64_t{walk.there} + walk.back;
  return from_cell ? walk.there : walk.back;
}

Passages::Walk walk_from(const PreparedMap& map, Cell cell, unsigned direction) {
  return Passages::walk(map.base, map.places(), cell, direction, [](const Passages::Walk&) {});
}

/// Writes the cells of a straight part. @return the last of them
Cell write_straight(const Tiling& tiling, Cell cell, Straight part, std::vector<Cell>& out) {
  const Neighbourhood& hood = tiling.neighbourhood();
  const std::size_t at = out.size();
  out.resize(at + part.steps);
  Cell* const cells = out.data() + at;
  if (tiling.shape() == Shape::square) {
    const Offset by = hood.offset[0][part.direction];
    for (std::uint32_t i = 0; i < part.steps; ++i) cells[i] = cell = {cell.col + by.cols, cell.row + by.rows};
    return cell;
  }
  for (std::uint32_t i = 0; i < part.steps; ++i) {
    cells[i] = cell = cell + hood.offset[static_cast<unsigned>(tiling.kind(cell))][part.direction];
  }
  return cell;
}

}  // namespace

void PreparedWays::find_leads(const PreparedMap& map, Cell cell, bool from_cell, std::vector<Lead>& out) {
  out.clear();
  if (map.places().holds(cell)) {
    out.push_back({map.place(cell), 0});
    return;
  }
  if (map.kind == PlaceKind::turning_points) {
    map.bends.for_each_direct(map.base, cell, [&](Cell end, Cost cost) { out.push_back({map.place(end), cost}); });
    return;
  }
  for_each_direction(map.base.moves_on_map(cell), [&](unsigned d) {
    const Passages::Walk walk = walk_from(map, cell, d);
    const std::uint64_t cost = counted(map, walk, from_cell);
    if (cost <= max_cost) out.push_back({map.place(walk.end), static_cast<Cost>(cost)});
  });
}

/// Costs that count both ends of each step, as the costs they stand for.
std::uint64_t PreparedWays::unscaled(const PreparedMap& map, std::uint64_t cost) const {
  if (map.kind != PlaceKind::passages_twice || cost > max_cost) return cost;
  return (cost + map.base.entry(to_) - map.base.entry(from_)) / 2;
}

bool PreparedWays::straight_way(const PreparedMap& map, Cell to) {
  to_ = to;
  made_ = from_ == to ? Made::of_nothing : Made::directly;
  return from_ == to || (map.kind == PlaceKind::turning_points && TurningPoints::straight_way(map.base, from_, to));
}

void PreparedWays::begin_from(const PreparedMap& map, Cell from) {
  from_ = from;
  find_leads(map, from, true, leads_);
  query_.begin_from(map.index, leads_);
}

std::uint64_t PreparedWays::least_to(const PreparedMap& map, Cell to) {
  return straight_way(map, to) ? Estimate(map.base, to)(from_) : over_places(map);
}

std::uint64_t PreparedWays::over_places(const PreparedMap& map) {
  find_leads(map, to_, false, leads_);
  made_ = Made::over_places;
  return beside_places(map, unscaled(map, query_.least_to(map.index, leads_)));
}

void PreparedWays::prepare_goal(const PreparedMap& map, Cell to, PreparedGoal& out) {
  out.cell = to;
  find_leads(map, to, false, leads_);
  query_.make_half(map.index, leads_, out.half);
}

std::uint64_t PreparedWays::least_to(const PreparedMap& map, const PreparedGoal& goal) {
  if (straight_way(map, goal.cell)) return Estimate(map.base, goal.cell)(from_);
  return beside_places(map, unscaled(map, query_.least_cost(goal.half)));
}

std::uint64_t PreparedWays::least(const PreparedMap& map, Cell from, Cell to) {
  from_ = from;
  if (straight_way(map, to)) return Estimate(map.base, to)(from);
  begin_from(map, from);
  return over_places(map);
}

/// What the least over places comes to where both ends are inside passages: the same one, perhaps.
std::uint64_t PreparedWays::beside_places(const PreparedMap& map, std::uint64_t least) {
  if (map.kind == PlaceKind::turning_points || map.places().holds(from_) || map.places().holds(to_)) return least;
  for_each_direction(map.base.moves_on_map(from_), [&](unsigned d) {
    (void)Passages::walk(map.base, map.places(), from_, d, [&](const Passages::Walk& walk) {
      if (walk.end != to_ || walk.there >= least) return;
      least = walk.there;
      made_ = Made::directly;
      leaving_ = d;
    });
  });
  return least;
}

/// The part between a cell and the place its way leads over: there, or back.
void PreparedWays::add_lead(const PreparedMap& map, Cell cell, std::uint32_t place, bool from_cell) {
  const Cell end = map.cell(place);
  if (end == cell) return;
  if (map.kind == PlaceKind::turning_points) {
    from_cell ? RunWriter::straight(cell, end, runs_) : RunWriter::straight(end, cell, runs_);
    return;
  }
  std::uint64_t least = ~std::uint64_t{0};
  unsigned leaving = 0;
  for_each_direction(map.base.moves_on_map(cell), [&](unsigned d) {
    const Passages::Walk walk = walk_from(map, cell, d);
    const std::uint64_t cost = counted(map, walk, from_cell);
    if (walk.end != end || cost >= least) return;
    least = cost;
    leaving = d;
  });
  from_cell ? writer_.passage(map.base, cell, leaving, end, runs_)
            : writer_.passage_back(map.base, cell, leaving, end, runs_);
}

void PreparedWays::begin_legs(const PreparedMap& map) {
  stretches_.clear();
  runs_.clear();
  next_run_ = 0;
  at_ = from_;
  first_left_ = made_ != Made::of_nothing;
  last_left_ = made_ == Made::over_places;
  if (made_ == Made::over_places) query_.write_stretches(map.index, stretches_);
}

bool PreparedWays::more_runs(const PreparedMap& map) {
  runs_.clear();
  next_run_ = 0;
  if (first_left_) {
    first_left_ = false;
    if (made_ == Made::over_places) {
      add_lead(map, from_, query_.first_place(), true);
    } else if (map.kind == PlaceKind::turning_points) {
      RunWriter::straight(from_, to_, runs_);
    } else {
      writer_.passage(map.base, from_, leaving_, to_, runs_);
    }
    return true;
  }
  if (!stretches_.empty()) {
    writer_.next(map.ground(), stretches_, runs_);
    return true;
  }
  if (!last_left_) return false;
  last_left_ = false;
  add_lead(map, to_, query_.last_place(), false);
  return true;
}

void PreparedWays::write_cells(const PreparedMap& map, std::vector<Cell>& out) {
  begin_legs(map);
  out.assign(1, from_);
  const Tiling tiling = map.base.tiling();
  while (more_runs(map)) {
    for (const Straight part : runs_) at_ = write_straight(tiling, at_, part, out);
  }
}

std::optional<Leg> PreparedWays::next_leg(const PreparedMap& map) {
  Leg leg{at_, {}, 0};
  const Tiling tiling = map.base.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  for (;;) {
    if (next_run_ == runs_.size()) {
      if (!more_runs(map)) break;
      continue;
    }
    const Straight part = runs_[next_run_];
    if (leg.steps > 0 && part.direction != leg.direction.index()) break;
    ++next_run_;
    leg.direction = Direction(part.direction);
    leg.steps += part.steps;
    if (tiling.shape() == Shape::square) {
      const Offset by = hood.offset[0][part.direction];
      const auto steps = static_cast<std::int32_t>(part.steps);
      at_ = {at_.col + by.cols * steps, at_.row + by.rows * steps};
    } else {
      for (std::uint32_t i = 0; i < part.steps; ++i) at_ = tiling.neighbour(at_, leg.direction);
    }
  }
  if (leg.steps == 0) return std::nullopt;
  return leg;
}

std::size_t PreparedWays::memory() const {
  return query_.memory() + writer_.memory() + bytes_of(leads_, stretches_, runs_);
}

}  // namespace saunter::inline v0_2::detail
