/// @file
/// One object of each kind that answers questions, and a print of each answer: what one desk says after thousands of
/// questions must be what a new one says.
#pragma once

#include <string_view>

#include "saunter/saunter.hpp"
#include "support/random_maps.hpp"

namespace saunter::test {

/// All that an answer depends on, as one number.
class Print {
 public:
  void add(std::uint64_t value) { value_ = (value_ ^ value) * 1'099'511'628'211ULL + (value_ >> 29U); }
  void add(Cell cell) {
    add(static_cast<std::uint64_t>(static_cast<std::uint32_t>(cell.col)) << 32U | static_cast<std::uint32_t>(cell.row));
  }
  void add(const Verdict& verdict) {
    add(static_cast<std::uint64_t>(verdict.reason));
    add(verdict.at);
  }
  void add(std::span<const Cell> cells) {
    add(cells.size());
    for (const Cell cell : cells) add(cell);
  }
  void add(const Route& route) {
    add(route.verdict());
    add(route.cells());
    for (const std::uint64_t number : {std::uint64_t{route.cost()}, route.expanded(), route.remaining(),
                                       std::uint64_t{route.start_number()}, std::uint64_t{route.goal_number()},
                                       std::uint64_t{route.natural()}, static_cast<std::uint64_t>(route.algorithm())})
      add(number);
  }
  void add(const Field& field) {
    for (const Cell cell : field.board().size.cells()) {
      add(field.cost(cell));
      add(field.next(cell).value_or(Cell{-1, -1}));
      add(field.source(cell));
    }
    add(field.reached_count());
    add(std::uint64_t{field.overflowed()});
    for (const UnusedSource& unused : field.unused()) add(unused.verdict);
  }
  void add(const BitGrid& bits) {
    for (std::uint32_t i = 0; i < bits.size().cell_count(); ++i)
      add(std::uint64_t{bits.test(bits.size().cell(CellIndex{i}))});
  }
  void add(const Regions& regions, const CostGrid& costs) {
    for (const Region& region : regions.list()) {
      add(region.first);
      add(std::uint64_t{region.cells} << 32U | region.id);
    }
    for (std::uint32_t i = 0; i < costs.size().cell_count(); ++i) add(std::uint64_t{regions.at(CellIndex{i})});
    add(std::uint64_t{regions.made_from(costs)});
  }
  void add(const ThreatField& field) {
    for (const Cell cell : field.levels().size().cells()) {
      add(std::uint64_t{field.levels()[cell]});
      add(static_cast<std::uint64_t>(field.most_dangerous_side(cell).operator int()));
    }
  }
  void add(const Occupancy& units) {
    for (UnitId id = 1; id <= units.unit_count(); ++id) {
      add(units.unit(id).cells);
      add(std::uint64_t{units.unit(id).standing});
      for (const Cell cell : units.unit(id).cells) add(std::uint64_t{units.at(cell, units.unit(id).layer)});
    }
    add(units.blocking());
  }
  [[nodiscard]] std::uint64_t value() const { return value_; }

 private:
  std::uint64_t value_ = 14'695'981'039'346'656'037ULL;
};

/// A map and all that is known of it.
struct World {
  explicit World(Random& random, int most)
      : ground(random_ground(random, most, random.chance(50))),
        regions(ground.costs),
        sight(ground.map.board()),
        threat(ground.map.board()) {
    for (int i = 0; i < 20; ++i) sight.set_opaque(random.cell(size()), true);
    for (int i = 0; i < 3; ++i) (void)threat.add(sight, source(random));
  }
  [[nodiscard]] Size size() const { return ground.map.size(); }
  [[nodiscard]] Tiling tiling() const { return ground.map.tiling(); }
  [[nodiscard]] Threat source(Random& random) const {
    Threat made{.at = random.cell(size()),
                .levels = {{40_hundredths, 5}, {100_hundredths, 1}},
                .needs_sight = random.chance(50)};
    made.range = Hundredths(static_cast<std::uint32_t>(random.whole(0, 900)));
    if (random.chance(50)) {
      made.facing = Side{random.whole(0, side_count(tiling()) - 1)};
      made.arc = random.whole(1, 360);
    }
    return made;
  }
  Ground ground;
  Regions regions;  // stale after a change, until brought up to date
  SightGrid sight;
  ThreatField threat;
};

struct Desk {
  Searcher searcher;
  SteppedSearch stepped;
  WarySearcher wary;
  Lookout lookout;
  Fitter fitter;
  Field field;
  std::vector<Cell> cells;
  std::vector<Visit> trace;
  BitGrid bits;
};

/// Mostly cells of the map, some off it.
inline Cell some_cell(Random& random, Size size) {
  if (random.chance(4)) return {random.whole(-3, size.cols + 2), random.whole(-3, size.rows + 2)};
  return random.cell(size);
}

/// Any options that do not contradict each other, over memory of the caller.
inline RouteOptions random_options(Random& random, const World& on, std::vector<EntryChange>& changes,
                                   std::vector<Visit>& trace) {
  static const std::vector<Algorithm> algorithms = {Algorithm::automatic, Algorithm::astar,  Algorithm::dijkstra,
                                                    Algorithm::bfs,       Algorithm::greedy, Algorithm::jump, Algorithm::dead_ends};
  RouteOptions options;
  options.by = random.one_of(algorithms);
  const bool least = options.by != Algorithm::bfs && options.by != Algorithm::greedy;
  if (options.by == Algorithm::astar && random.chance(20)) {
    options.weight = Hundredths(static_cast<std::uint32_t>(random.whole(100, 300)));
  } else if (least && random.chance(20)) {
    options.natural = true;
  } else if (least && on.tiling().shape() != Shape::triangle && random.chance(15)) {
    options.turn_cost = Hundredths(static_cast<std::uint32_t>(random.whole(1, 200)));
    if (random.chance(50)) options.heading = Direction{random.whole(0, default_steps(on.tiling()) - 1)};
  }
  if (options.by != Algorithm::bfs && random.chance(20))
    options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 4000)));
  if (random.chance(15)) options.limit = static_cast<std::uint64_t>(random.whole(1, 150));
  if (random.chance(25)) options.or_nearest = true;
  if (random.chance(50)) options.labels = &on.regions.labels();
  if (random.chance(20)) options.trace = &trace;
  if (random.chance(35)) {
    const int count = random.whole(1, 12);
    for (int i = 0; i < count; ++i) {
      const auto cost = static_cast<std::uint32_t>(random.chance(40) ? 0 : random.whole(1, 900));
      const Cell cell = some_cell(random, on.size());
      // Where barriers take part, what is blocked can't be opened.
      const bool unknown = on.ground.costs.has_sides() && !on.ground.costs.open(cell);
      changes.push_back({cell, Hundredths(unknown ? 0 : cost)});
    }
    options.changes = changes;
  }
  return options;
}

inline constexpr int question_kinds = 9;
inline constexpr std::string_view question_names[question_kinds] = {
    "route", "query", "stepped", "field", "tour", "wary", "sight", "placing", "joins and chokes"};

/// Puts one question of a kind and prints the answer. All chance comes from `random`.
inline std::uint64_t ask(Desk& desk, const World& on, int kind, Random& random) {
  Print print;
  const CostGrid& costs = on.ground.costs;
  const Size size = on.size();
  std::vector<EntryChange> changes;
  desk.trace.clear();
  const auto add_trace = [&] {
    for (const Visit& visit : desk.trace) {
      print.add(std::uint64_t{visit.cell.value()} << 32U | visit.parent.value());
      print.add(visit.cost);
      print.add(visit.estimate);
    }
  };
  std::vector<Source> starts;
  const auto draw_starts = [&](int most) {
    const int count = random.whole(1, most);
    for (int i = 0; i < count; ++i)
      starts.push_back({some_cell(random, size),
                        Hundredths(static_cast<std::uint32_t>(random.chance(50) ? 0 : random.whole(1, 700)))});
  };
  std::vector<Cell> goals;
  const auto draw_goals = [&](int most) {
    const int count = random.whole(1, most);
    for (int i = 0; i < count; ++i) goals.push_back(some_cell(random, size));
  };
  if (kind == 0) {
    const RouteOptions options = random_options(random, on, changes, desk.trace);
    const Cell from = some_cell(random, size);
    print.add(desk.searcher.route(costs, from, some_cell(random, size), options));
    add_trace();
  } else if (kind == 1 || kind == 2) {
    draw_starts(3);
    draw_goals(3);
    Query query{.starts = starts, .goals = goals, .within = random.chance(70) ? 0 : random.whole(1, 5)};
    query.beside = random.chance(20);
    const int wanted = random.whole(2, 40);
    const auto until = [&](Cell cell) { return (cell.col * 7 + cell.row * 3) % wanted == 1; };
    if (random.chance(15)) query.until = until;
    const RouteOptions options = random_options(random, on, changes, desk.trace);
    if (kind == 1) {
      print.add(desk.searcher.route(costs, query, options));
    } else {
      desk.stepped.begin(costs, query, options);
      const auto first = static_cast<std::uint64_t>(random.whole(1, 60));
      desk.stepped.run(first);
      for (const Cell cell : size.cells()) {
        print.add(static_cast<std::uint64_t>(desk.stepped.state(cell)));
        if (desk.stepped.state(cell) != CellState::unseen) print.add(std::uint64_t{desk.stepped.cost(cell)});
      }
      print.add(std::uint64_t{desk.stepped.stale()});
      if (random.chance(70)) {
        while (!desk.stepped.run(25)) {
        }
        print.add(desk.stepped.route());
      }
    }
    add_trace();
  } else if (kind == 3) {
    draw_starts(4);
    FieldOptions options{.count_steps = random.chance(25)};
    if (random.chance(40)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 3000)));
    if (random.chance(50)) {
      desk.searcher.reach(costs, starts, desk.field, options);
    } else {
      desk.searcher.field_to(costs, starts, desk.field, options);
    }
    print.add(desk.field);
    print.add(std::uint64_t{desk.field.made_from(costs)});
    cells_in_range(desk.field, random.whole(0, 5), desk.bits);
    print.add(desk.bits);
  } else if (kind == 4) {
    draw_goals(4);
    RouteOptions options = random_options(random, on, changes, desk.trace);
    options.trace = nullptr;
    options.or_nearest = false;
    const VisitOrder order = random.chance(50) ? VisitOrder::best : VisitOrder::given;
    const Tour found = tour(desk.searcher, costs, some_cell(random, size), goals, order, options);
    print.add(found.verdict);
    print.add(found.cells);
    print.add(found.cost);
    print.add(found.expanded);
    for (const std::size_t stop : found.order) print.add(stop);
  } else if (kind == 5) {
    WaryOptions options;
    options.care.wary = Hundredths(static_cast<std::uint32_t>(random.whole(0, 300)));
    if (random.chance(40)) options.care.linger = Hundredths(static_cast<std::uint32_t>(random.whole(0, 100)));
    if (random.chance(30)) options.care.highest = static_cast<std::uint16_t>(random.whole(0, 8));
    if (random.chance(30)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 6000)));
    if (random.chance(20)) options.limit = static_cast<std::uint64_t>(random.whole(1, 200));
    const Cell from = some_cell(random, size);
    const WaryRoute& route = desk.wary.route(costs, on.threat.levels(), from, some_cell(random, size), options);
    print.add(route.verdict());
    print.add(route.cells());
    print.add(route.measure().weighed);
    print.add(route.expanded());
  } else if (kind == 6) {
    std::optional<Hundredths> range;
    if (random.chance(60)) range = Hundredths(static_cast<std::uint32_t>(random.whole(0, 1200)));
    desk.lookout.visible(on.sight, some_cell(random, size), range, desk.cells);
    print.add(desk.cells);
  } else if (kind == 7) {
    std::vector<Offset> parts;
    const int count = random.whole(1, 3);
    for (int i = 0; i < count; ++i) parts.push_back({random.whole(-1, 2), i});
    const Footprint footprint(parts);
    draw_goals(3);
    const bool fresh = on.regions.made_from(costs);
    FitTerms terms{.map = &on.ground.map, .mover = &on.ground.mover, .levels = &on.threat.levels()};
    if (random.chance(30)) terms.highest = static_cast<std::uint16_t>(random.whole(0, 6));
    if (random.chance(30)) terms.flatness = random.whole(0, 4);
    if (fresh && random.chance(70)) {
      terms.keep_open = goals;
      terms.costs = &costs;
      terms.regions = &on.regions;
    }
    const int turn = on.tiling().shape() == Shape::triangle ? 0 : random.whole(0, 2);
    if (random.chance(50)) print.add(desk.fitter.spots(terms, footprint, turn));
    for (const FitProblem& problem : desk.fitter.problems(terms, footprint, {some_cell(random, size), turn})) {
      print.add(static_cast<std::uint64_t>(problem.why));
      print.add(problem.at);
      print.add(problem.apart_from.value_or(Cell{-9, -9}));
    }
  } else {
    const Cell start = some_cell(random, size);
    const Regions regions(costs);
    for (const Choke& choke : find_chokes(costs, regions)) print.add(choke.cell);
    print.add(cut_off_from(costs, start).cut_off);
    if (const auto far = farthest_from(desk.searcher, costs, start)) print.add(far->cell);
    if (on.ground.mover.size > 1) return print.value();
    const JoinPlan plan = plan_joins(on.ground.map, on.ground.mover, costs, regions, BreachCosts(on.ground.map, costs));
    print.add(plan.joins.size());
  }
  return print.value();
}

}  // namespace saunter::test
