// Turn-based reach, reasons, targets and ways over several turns against brute force on random maps.
#include <catch2/catch.hpp>
#include <map>
#include <tuple>

#include "saunter/search/path.hpp"
#include "saunter/search/stepped_field.hpp"
#include "saunter/turn/acting.hpp"
#include "saunter/turn/turn_route.hpp"
#include "support/oracle.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// A random board with stops, cells passed over and changes.
struct Puzzle {
  explicit Puzzle(std::uint64_t seed, int most = 11) : random(seed) {
    const Tiling tiling = random.one_of(all_tilings());
    map = random_map(random, tiling, random_size(random, most));
    if (random.chance(40)) add_random_edges(random, map);
    mover = random_mover(random, tiling);
    costs = bake(map, mover);
    stops = BitGrid(map.size());
    passed = BitGrid(map.size());
    const int stop_share = random.whole(0, 40);
    const int passed_share = random.whole(0, 40);
    for (const Cell cell : map.size().cells()) {
      if (random.chance(stop_share)) stops.set(cell);
      if (random.chance(passed_share)) passed.set(cell);
    }
    stop_places = places_on(map.board(), mover.size, stops);
    passed_places = places_on(map.board(), mover.size, passed);
    if (random.chance(50)) {
      for (int i = random.whole(1, 8); i > 0; --i) {
        const Cell cell = random.cell(map.size());
        const int cost = random.chance(40) ? 0 : random.whole(1, 500);
        const bool named =
            std::any_of(changes.begin(), changes.end(), [&](const EntryChange& c) { return c.cell == cell; });
        if (!named) changes.push_back({cell, static_cast<EntryCost>(cost)});
      }
    }
    from = random.cell(map.size());
  }
  /// The grid with the changes made.
  [[nodiscard]] CostGrid changed() const { return bake_changed(map, mover, changes); }
  [[nodiscard]] TurnTerms terms(std::optional<Hundredths> points) const {
    return {.points = points, .stops = &stops, .passed = &passed, .changes = changes};
  }

  Random random;
  Map map;
  Mover mover;
  CostGrid costs;
  BitGrid stops;
  BitGrid passed;
  BitGrid stop_places;  // of the mover
  BitGrid passed_places;
  std::vector<EntryChange> changes;
  Cell from;
};

/// Least costs from a cell (or to it) when stops are not left again, by relaxing until nothing changes.
std::vector<std::uint64_t> least_with_stops(const CostGrid& costs, Cell source, const BitGrid* stops, bool to_source) {
  const Size size = costs.size();
  std::vector<std::uint64_t> least(size.cell_count(), never);
  if (!costs.open(source)) return least;
  least[size.index(source).value()] = 0;
  for (bool changed = true; changed;) {
    changed = false;
    for (const Cell cell : size.cells()) {
      for (const Direction d : directions(costs.open(cell) ? costs.moves(cell) : 0)) {
        const Cell next = costs.tiling().neighbour(cell, d);
        const Cell known = to_source ? next : cell;
        const Cell other = to_source ? cell : next;
        if (stops != nullptr && known != source && stops->test(known)) continue;
        const std::uint64_t at = least[size.index(known).value()];
        if (at == never || at + costs.cost_of_step(cell, d) >= least[size.index(other).value()]) continue;
        least[size.index(other).value()] = at + costs.cost_of_step(cell, d);
        changed = true;
      }
    }
  }
  return least;
}

}  // namespace

TEST_CASE("fields with stops, changes and an end are those of the changed board, on 2,000 random maps") {
  Searcher searcher;
  SteppedField stepped;
  Field field;
  Field by_slices;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Puzzle board(seed);
    Random& random = board.random;
    const CostGrid changed = board.changed();
    const bool to_source = random.chance(50);
    const auto least = least_with_stops(changed, board.from, &board.stop_places, to_source);
    FieldOptions options{.changes = board.changes, .stops = &board.stops};
    if (random.chance(50)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 3000)));
    std::vector<Cell> until;
    if (random.chance(50)) {
      for (int i = random.whole(1, 3); i > 0; --i) until.push_back(random.cell(board.map.size()));
      options.until = until;
    }
    // With an end: all that costs no more than the costliest of its cells, unless one of them can't be reached.
    const std::uint64_t budget = options.budget ? std::uint64_t{Length{*options.budget}} : max_cost;
    std::uint64_t most = 0;
    bool waits = false;
    for (const Cell cell : until) {
      if (!changed.open(cell)) continue;
      waits = true;
      const std::uint64_t cost = least[board.map.size().index(cell).value()];
      most = std::max(most, cost > budget ? never : cost);
    }
    if (!waits) most = never;
    const Source source{board.from};
    if (to_source) {
      searcher.field_to(board.costs, {&source, 1}, field, options);
      stepped.begin_field_to(board.costs, {&source, 1}, by_slices, options);
    } else {
      searcher.reach(board.costs, {&source, 1}, field, options);
      stepped.begin_reach(board.costs, {&source, 1}, by_slices, options);
    }
    while (!stepped.run(static_cast<std::uint64_t>(random.whole(1, 7)))) continue;
    std::size_t reached = 0;
    for (const Cell cell : board.map.size().cells()) {
      const std::uint64_t cost = least[board.map.size().index(cell).value()];
      const bool within = cost != never && cost <= std::min(budget, most);
      INFO("cell " << cell.col << ',' << cell.row);
      CAPTURE(cost, most, budget, field.cost(cell), until.size(), to_source);
      REQUIRE(field.reached(cell) == within);
      REQUIRE(by_slices.cost(cell) == field.cost(cell));
      REQUIRE(by_slices.next(cell) == field.next(cell));
      if (!within) continue;
      ++reached;
      REQUIRE(field.cost(cell) == cost);
      if (cell == board.from) continue;
      // The first neighbour in the fixed order that adds up and is not a stop.
      std::optional<Cell> wanted;
      for (Direction d{0}; d < changed.rules().steps && !wanted; ++d) {
        const Cell next = changed.tiling().neighbour(cell, d);
        if (!changed.open(next) || (next != board.from && board.stop_places.test(next))) continue;
        const Cell enters = to_source ? next : cell;
        const Cell leaves = to_source ? cell : next;
        const Direction step = changed.tiling().direction(leaves, enters);
        if (!holds(changed.moves(leaves), step)) continue;
        const std::uint64_t there = least[board.map.size().index(next).value()];
        if (there != never && there + changed.cost_of_step(leaves, step) == cost) wanted = next;
      }
      REQUIRE(field.next(cell) == wanted);
    }
    REQUIRE(field.reached_count() == reached);
    REQUIRE(by_slices.reached_count() == reached);
    // A repair after a change of the grid makes it as if anew.
    const Cell edited = random.cell(board.map.size());
    (void)board.costs.set_entry(edited, static_cast<EntryCost>(random.chance(50) ? 0 : random.whole(1, 400)));
    (void)searcher.repair(board.costs, field);
    Field anew;
    if (to_source) {
      searcher.field_to(board.costs, {&source, 1}, anew, options);
    } else {
      searcher.reach(board.costs, {&source, 1}, anew, options);
    }
    REQUIRE(field.costs() == anew.costs());
    REQUIRE(field.reached_count() == anew.reached_count());
  }
}

TEST_CASE("a turn ends where the law says, and tells one reason elsewhere, on 1,500 random maps") {
  TurnReach turn;
  std::map<TurnAnswer, int> seen;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Puzzle board(seed);
    Random& random = board.random;
    const CostGrid changed = board.changed();
    std::optional<Hundredths> points;
    if (random.chance(85)) points = Hundredths(static_cast<std::uint32_t>(random.whole(0, 1500)));
    Grid<UnitId> units(board.map.size());
    for (int i = 0; i < 4; ++i) units[random.cell(board.map.size())] = static_cast<UnitId>(random.whole(1, 3));
    const std::vector<UnitId> friends(random.chance(50) ? 1U : 0U, 2);
    const UnitId itself = board.map.size().contains(board.from) ? std::as_const(units)[board.from] : 0;
    turn.ask(board.costs, board.from, board.terms(points));
    const auto stopped = least_with_stops(changed, board.from, &board.stop_places, false);
    const auto free = least_with_stops(changed, board.from, nullptr, false);
    const std::uint64_t most = points ? std::uint64_t{Length{*points}} : max_cost;
    REQUIRE((turn.verdict().reason == Reason::found) == changed.open(board.from));
    std::vector<Cell> body;
    for (const Cell cell : board.map.size().cells()) {
      INFO("cell " << cell.col << ',' << cell.row);
      const std::size_t i = board.map.size().index(cell).value();
      const bool leads = stopped[i] <= most;
      REQUIRE(turn.can_end(cell) == (leads && !board.passed_places.test(cell)));
      const TurnReason why = turn.why(board.costs, cell, &units, board.changes, friends);
      ++seen[why.answer];
      body_cells(board.map.tiling(), cell, board.mover.size, body);
      const bool off = std::any_of(body.begin(), body.end(), [&](Cell c) { return !board.map.size().contains(c); });
      if (off) {
        REQUIRE(why.answer == TurnAnswer::off_map);
      } else if (leads) {
        REQUIRE(why.answer == (board.passed_places.test(cell) ? TurnAnswer::passed_over : TurnAnswer::reached));
        REQUIRE(why.cost == stopped[i]);
        const bool stop = cell != board.from && board.stop_places.test(cell);
        if (points) REQUIRE(why.left == (stop ? 0 : most - stopped[i]));
      } else if (!changed.open(board.from)) {
        REQUIRE(why.answer == TurnAnswer::start_unusable);
      } else if (!changed.open(cell)) {
        const auto on = std::find_if(body.begin(), body.end(), [&](Cell c) {
          const UnitId by = std::as_const(units)[c];
          return by != 0 && by != itself && (friends.empty() || by != friends.front());
        });
        REQUIRE(why.answer == (on == body.end() ? TurnAnswer::cannot_stand : TurnAnswer::occupied));
        if (on != body.end()) REQUIRE(why.by == std::as_const(units)[*on]);
      } else if (free[i] == never) {
        REQUIRE(why.answer == TurnAnswer::no_way);
      } else if (free[i] <= most) {
        REQUIRE(why.answer == TurnAnswer::stop_between);
        REQUIRE(why.cost == free[i]);
        REQUIRE(board.stop_places.test(why.at));
      } else {
        REQUIRE(why.answer == TurnAnswer::too_dear);
        const std::uint64_t all = stopped[i] == never ? free[i] : stopped[i];
        REQUIRE(why.cost == all);
        REQUIRE(why.missing == all - most);
      }
    }
  }
  for (const auto answer :
       {TurnAnswer::reached, TurnAnswer::occupied, TurnAnswer::cannot_stand, TurnAnswer::passed_over,
        TurnAnswer::stop_between, TurnAnswer::too_dear, TurnAnswer::no_way}) {
    CHECK(seen[answer] > share_of(20));  // the test has met them all
  }
}

TEST_CASE("what can be acted on, from the cheapest cell, equals trying all pairs on 1,500 random maps") {
  TurnReach turn;
  Acting acting;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Puzzle board(seed);
    Random& random = board.random;
    const Size size = board.map.size();
    turn.ask(board.costs, board.from, board.terms(Hundredths(static_cast<std::uint32_t>(random.whole(0, 900)))));
    SightGrid sight(board.map.board());
    for (int i = 0; i < 10; ++i) sight.set_opaque(random.cell(size), true);
    BitGrid nowhere(size);
    for (int i = 0; i < 4; ++i) nowhere.set(random.cell(size));
    ActRange range{.least = random.whole(0, 3)};
    range.most = range.least + random.whole(-1, 4);
    if (random.chance(50)) range.sight = &sight;
    if (random.chance(50)) range.nowhere = &nowhere;
    const bool touches = random.chance(30);
    if (touches) range.touch = &board.costs;
    acting.ask(turn, range);
    Grid<std::uint16_t> levels(size);
    for (std::uint16_t& level : levels.values()) level = static_cast<std::uint16_t>(random.whole(0, 3));
    std::vector<ActPlace> places;
    std::vector<Cell> body;
    std::vector<Cell> targets;
    for (int i = random.whole(1, 3); i > 0; --i) targets.push_back(random.cell(size));
    Strike wanted;
    std::tuple<Cost, Cell> cheapest{unreached, Cell{}};
    for (const Cell target : size.cells()) {
      std::optional<std::tuple<Cost, Cell>> best;
      std::vector<ActPlace> all;
      bool in_range = false;
      const bool may = range.nowhere == nullptr || !nowhere.test(target);
      for (const Cell from : size.cells()) {
        if (!turn.can_end(from) || !may) continue;
        const Tiling tiling = board.map.tiling();
        body_cells(tiling, from, board.mover.size, body);
        bool acts = false;
        const auto near = [&](Cell part) { return tiling.edge_distance(part, target) < (touches ? 1 : range.least); };
        if (std::any_of(body.begin(), body.end(), near)) continue;  // the dead zone is about all of it
        for (const Cell part : body) {
          if (tiling.edge_distance(part, target) > (touches ? 1 : range.most)) continue;
          if (touches && board.map.closed(part, tiling.direction(part, target))) continue;
          in_range = true;
          acts = acts || range.sight == nullptr || sees(sight, part, target);
        }
        const std::tuple<Cost, Cell> here{turn.field().cost(from), from};
        if (acts && (!best || here < *best)) best = here;
        if (acts) all.push_back({from, turn.field().cost(from), std::as_const(levels)[from]});
      }
      REQUIRE(acting.can_act(target) == best.has_value());
      std::stable_sort(all.begin(), all.end(), [](const ActPlace& a, const ActPlace& b) { return a.cost < b.cost; });
      acting.places_for(turn, range, target, &levels, places);
      REQUIRE(places == all);
      if (best) REQUIRE(acting.from(target) == std::get<1>(*best));
      for (const Cell asked : targets) {
        if (asked != target) continue;
        const Strike alone = acting.strike(turn, range, {&target, 1});
        REQUIRE(alone.answer == (best ? ActAnswer::can_act : in_range ? ActAnswer::not_seen : ActAnswer::out_of_range));
        if (best) REQUIRE((alone.from == std::get<1>(*best) && alone.cost == std::get<0>(*best)));
      }
      if (best && *best < cheapest && std::find(targets.begin(), targets.end(), target) != targets.end()) {
        cheapest = *best;
        wanted.answer = ActAnswer::can_act;
      }
    }
    const Strike of_all = acting.strike(turn, range, targets);
    REQUIRE((of_all.answer == ActAnswer::can_act) == (wanted.answer == ActAnswer::can_act));
    if (wanted.answer == ActAnswer::can_act) {
      REQUIRE(of_all.from == std::get<1>(cheapest));
      REQUIRE(of_all.cost == std::get<0>(cheapest));
    }
  }
}

namespace {

using Turns = std::tuple<std::uint64_t, std::uint64_t, std::uint64_t>;  // how many, spent in all, in the last

/// Turn by turn: what one turn from each cell to each other costs at least, then the least sum over so many of them.
std::optional<Turns> best_by_turns(const CostGrid& costs, const Puzzle& board, Cell to, std::uint64_t points) {
  const Size size = costs.size();
  const std::size_t count = size.cell_count();
  BitGrid stops = board.stop_places;
  stops.set(board.from, false);  // never one
  std::vector<std::vector<std::uint64_t>> turn(count);
  for (const Cell cell : size.cells()) turn[size.index(cell).value()] = least_with_stops(costs, cell, &stops, false);
  const auto may_end = [&](std::size_t i) {
    return !board.passed_places.test(size.cell(CellIndex{static_cast<std::uint32_t>(i)}));
  };
  std::vector<std::uint64_t> spent(count, never);
  spent[size.index(board.from).value()] = 0;
  const std::size_t goal = size.index(to).value();
  for (std::uint64_t turns = 1; turns <= count; ++turns) {
    std::vector<std::uint64_t> then(count, never);
    std::optional<Turns> best;
    for (std::size_t a = 0; a < count; ++a) {
      for (std::size_t b = 0; b < count && spent[a] != never; ++b) {
        if (a == b || turn[a][b] > points || !may_end(b)) continue;
        then[b] = std::min(then[b], spent[a] + turn[a][b]);
        const Turns here{turns, spent[a] + turn[a][b], turn[a][b]};
        if (b == goal && (!best || here < *best)) best = here;
      }
    }
    if (best) return best;
    spent = then;
  }
  return std::nullopt;
}

}  // namespace

TEST_CASE("ways over turns take the fewest, then the least, then least in the last, on 2,000 small maps") {
  TurnSearcher searcher;
  int found = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Puzzle board(seed, 7);
    Random& random = board.random;
    const CostGrid changed = board.changed();
    const Cell to = random.cell(board.map.size());
    const auto points =
        static_cast<std::uint32_t>(random.chance(80) ? random.whole(100, 2500) : random.whole(1, 70'000));
    const TurnRoute& route = searcher.route(board.costs, board.from, to, board.terms(Hundredths(points)));
    if (!changed.open(board.from)) {
      REQUIRE(route.verdict() == Verdict{Reason::start_blocked, board.from});
      continue;
    }
    if (!changed.open(to) || (to != board.from && board.passed_places.test(to))) {
      REQUIRE(route.verdict() == Verdict{Reason::goal_blocked, to});
      continue;
    }
    if (to == board.from) {
      REQUIRE((route.found() && route.cost() == 0 && route.turns() == 0));
      continue;
    }
    const auto best = best_by_turns(changed, board, to, points);
    REQUIRE(route.found() == best.has_value());
    if (!best) {
      REQUIRE(route.verdict().reason == Reason::no_way);
      continue;
    }
    ++found;
    REQUIRE(route.turns() == std::get<0>(*best));
    REQUIRE(route.cost() == std::get<1>(*best));
    REQUIRE(route.last_turn() == std::get<2>(*best));
    // The way itself: legal, in turns that last, ended by stops and never on a cell passed over.
    REQUIRE(cost_of_path(changed, route.cells()) == route.cost());
    std::size_t first = 0;
    for (const std::uint32_t end : route.ends()) {
      const auto leg = route.cells().subspan(first, end - first + 1);
      REQUIRE(leg.size() > 1);
      REQUIRE(cost_of_path(changed, leg).value() <= points);
      REQUIRE_FALSE(board.passed_places.test(leg.back()));
      for (std::size_t i = 1; i + 1 < leg.size(); ++i) {
        REQUIRE((leg[i] == board.from || !board.stop_places.test(leg[i])));
      }
      first = end;
    }
    REQUIRE(route.cells()[first] == to);
  }
  CHECK(found > share_of(200));
}
