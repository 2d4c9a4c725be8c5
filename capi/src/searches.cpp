// Routes, fields, reach, regions.
#include "handles.hpp"
#include "saunter/io/prepared.hpp"

using namespace saunter;
using namespace saunter::c;

namespace {

/// The sources of a field or reach.
std::vector<Source> sources(const saunter_cell* cells, size_t count, const char* name) {
  expect_given(cells, name);
  if (count == 0) fail(SAUNTER_BAD_ARGUMENT, std::string(name) + ": found none, expected at least one");
  std::vector<Source> list;
  for (const Cell cell : cells_of(cells, count)) list.push_back({cell});
  return list;
}

RouteOptions route_options(const saunter_route_options& asked, const CostGrid& costs, saunter_searcher& memory) {
  RouteOptions options;
  if (asked.by < SAUNTER_AUTOMATIC || asked.by > SAUNTER_DEAD_ENDS) {
    fail(SAUNTER_BAD_ARGUMENT, "by: found " + std::to_string(asked.by) + ", expected a saunter_search");
  }
  options.by = static_cast<Algorithm>(asked.by);
  const bool bfs = options.by == Algorithm::bfs;
  if (asked.has_budget != 0 && bfs) fail(SAUNTER_BAD_ARGUMENT, "budget: found with bfs, which does not minimise cost");
  if (asked.has_budget != 0) options.budget = Hundredths(asked.budget);
  if (asked.limit != 0) options.limit = asked.limit;
  if (asked.weight != 0) {
    if (asked.weight < 100 || asked.weight > 10'000) fail(SAUNTER_BAD_ARGUMENT, "weight: expected 100 to 10000");
    if (options.by != Algorithm::astar && asked.weight != 100) fail(SAUNTER_BAD_ARGUMENT, "weight: expected astar");
    options.weight = Hundredths(asked.weight);
  }
  const bool minds_cost = !bfs && options.by != Algorithm::greedy;
  if (asked.turn_cost != 0 &&
      (!minds_cost || costs.tiling().shape() == Shape::triangle || asked.natural != 0 || asked.turn_cost > 65'535)) {
    fail(SAUNTER_BAD_ARGUMENT,
         "turn_cost: expected up to 65535, on squares or hexes, for a search of least cost, and "
         "not natural");
  }
  options.turn_cost = Hundredths(asked.turn_cost);
  if (asked.has_heading != 0) {
    if (asked.turn_cost == 0 || asked.heading < 0 || asked.heading >= costs.tiling().direction_count()) {
      fail(SAUNTER_BAD_ARGUMENT, "heading: found " + std::to_string(asked.heading) +
                                     ", expected a direction of the tiling, with a turn_cost");
    }
    options.heading = Direction{asked.heading};
  }
  options.natural = asked.natural != 0;
  if (options.natural && (!minds_cost || options.weight != 100)) {
    fail(SAUNTER_BAD_ARGUMENT, "natural: expected a search of least cost without a weight");
  }
  options.or_nearest = asked.or_nearest != 0;
  if (asked.regions != nullptr) options.labels = &held(asked.regions, "regions").regions.labels();
  if (asked.prepared != nullptr) options.prepared = &held(asked.prepared, "prepared").index;
  memory.changes.clear();
  if (asked.change_count > 0) expect_given(asked.changes, "changes");
  for (std::size_t i = 0; i < asked.change_count; ++i) {
    const saunter_entry_change& change = asked.changes[i];
    const Cell cell = cell_of(change.cell);
    if (change.entry_cost > 65'535) fail(SAUNTER_BAD_ARGUMENT, "changes: expected entry costs up to 65535");
    memory.changes.push_back({cell, Hundredths(change.entry_cost)});
  }
  options.changes = memory.changes;
  return options;
}

/// The cells checked, as many as the caller has room for.
void give_trace(const std::vector<Visit>& visits, Size size, const saunter_route_options& asked) {
  const std::size_t count = std::min(visits.size(), asked.trace_capacity);
  for (std::size_t i = 0; i < count; ++i) {
    const Visit& visit = visits[i];
    saunter_visit told = {};
    told.cell = to_c(size.cell(visit.cell));
    told.parent = to_c(size.cell(visit.parent));
    told.cost = visit.cost;
    told.estimate = visit.estimate;
    asked.trace[i] = told;
  }
}

}  // namespace

saunter_status saunter_searcher_create(saunter_searcher** out) {
  return guarded([&] {
    expect_given(out, "out");
    *out = std::make_unique<saunter_searcher>().release();
    return SAUNTER_OK;
  });
}

void saunter_searcher_free(saunter_searcher* searcher) { free_own(searcher); }

saunter_status saunter_prepared_create(const saunter_grid* grid, saunter_prepared** out) {
  return guarded([&] {
    const CostGrid& costs = *held(grid, "grid").costs;
    expect_given(out, "out");
    auto prepared = std::make_unique<saunter_prepared>();
    prepared->index = prepare(costs);
    *out = prepared.release();
    return SAUNTER_OK;
  });
}

saunter_status saunter_prepared_load(const char* file, const saunter_grid* grid, saunter_prepared** out) {
  return guarded([&] {
    expect_given(file, "file");
    const CostGrid& costs = *held(grid, "grid").costs;
    expect_given(out, "out");
    auto read = io::read_prepared(file, costs);
    if (!read) fail(SAUNTER_BAD_INPUT, read.error().message());
    auto prepared = std::make_unique<saunter_prepared>();
    prepared->index = std::move(read.value());
    *out = prepared.release();
    return SAUNTER_OK;
  });
}

saunter_status saunter_prepared_follow(saunter_prepared* prepared, const saunter_grid* grid) {
  return guarded([&] {
    Prepared& index = held(prepared, "prepared").index;
    if (!index.follow(*held(grid, "grid").costs)) {
      fail(SAUNTER_BAD_ARGUMENT, "grid: found one of another board, expected that of the index");
    }
    return SAUNTER_OK;
  });
}

void saunter_prepared_free(saunter_prepared* prepared) { free_own(prepared); }

saunter_status saunter_find_route(saunter_searcher* searcher, const saunter_grid* grid,
                                  const saunter_route_options* options, saunter_route* out) {
  return guarded([&] {
    saunter_searcher& memory = held(searcher, "searcher");
    const CostGrid& costs = *held(grid, "grid").costs;
    expect_given(options, "options");
    expect_result(out, "out");
    const saunter_route_options asked = taken(options, "options");
    if (asked.start_count == 0 || (asked.goal_count == 0 && asked.until == nullptr)) {
      fail(SAUNTER_BAD_ARGUMENT, "options: found no start or no goal, expected at least one of each");
    }
    expect_given(asked.starts, "starts");
    if (asked.goal_count > 0) expect_given(asked.goals, "goals");
    if (asked.within < 0) fail(SAUNTER_BAD_ARGUMENT, "within: expected 0 or more");
    RouteOptions with = route_options(asked, costs, memory);
    memory.visits.clear();
    if (asked.trace != nullptr) with.trace = &memory.visits;
    memory.starts.clear();
    for (std::size_t i = 0; i < asked.start_count; ++i) {
      memory.starts.push_back(
          {cell_of(asked.starts[i]), Hundredths(asked.start_costs == nullptr ? Cost{0} : asked.start_costs[i])});
    }
    const auto goals = cells_of(asked.goals, asked.goal_count);
    const bool plain = memory.starts.size() == 1 && asked.start_costs == nullptr && goals.size() == 1 &&
                       asked.within == 0 && asked.beside == 0 && asked.until == nullptr;
    const auto is_goal = [&](Cell cell) { return asked.until(asked.until_context, to_c(cell)) != 0; };
    Query query{.starts = memory.starts, .goals = goals, .within = asked.within, .beside = asked.beside != 0};
    if (asked.until != nullptr) query.until = CellTest(is_goal);
    const Route& route = plain ? memory.searcher.route(costs, memory.starts[0].cell, goals[0], with)
                               : memory.searcher.route(costs, query, with);
    saunter_route told = route_of(route.verdict(), route.cells(), route.expanded());
    told.cost = route.cost();
    told.by = static_cast<std::int32_t>(route.algorithm());
    if (told.by > SAUNTER_DEAD_ENDS) told.by = -1;
    told.remaining = route.remaining();
    told.start_number = route.start_number();
    told.goal_number = route.goal_number();
    told.trace_count = memory.visits.size();
    if (asked.trace != nullptr) give_trace(memory.visits, costs.size(), asked);
    give(told, out);
    return route.found() ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_find_wary_route(saunter_searcher* searcher, const saunter_grid* grid,
                                       const saunter_danger* danger, saunter_cell from, saunter_cell to,
                                       const saunter_wary_options* options, saunter_route* out,
                                       saunter_exposure* exposure) {
  return guarded([&] {
    saunter_searcher& memory = held(searcher, "searcher");
    const CostGrid& costs = *held(grid, "grid").costs;
    const ThreatField& field = held(danger, "danger").field;
    expect_result(out, "out");
    if (exposure != nullptr) expect_result(exposure, "exposure");
    const saunter_wary_options asked = taken(options, "options");
    if (field.board().size != costs.size() || field.board().tiling != costs.tiling()) {
      fail(SAUNTER_BAD_ARGUMENT, "danger: found one of another board, expected the grid's");
    }
    if (asked.wary > 6'553'500 || asked.linger > 65'535) fail(SAUNTER_BAD_ARGUMENT, "wary, linger: found too much");
    const int size = asked.mover_size == 0 ? 1 : asked.mover_size;
    if (size > max_mover_size || (size > 1 && costs.tiling().shape() == Shape::triangle)) {
      fail(SAUNTER_BAD_ARGUMENT, "mover_size: expected 1 to 255, on triangles 1");
    }
    WaryOptions with;
    if (asked.wary != 0) with.care.wary = Hundredths(asked.wary);
    with.care.linger = Hundredths(asked.linger);
    if (asked.has_highest != 0) with.care.highest = asked.highest;
    if (asked.has_budget != 0) with.budget = Hundredths(asked.budget);
    if (asked.limit != 0) with.limit = asked.limit;
    if (size > 1) memory.levels = levels_for_size(costs.tiling(), field.levels(), size);
    const Levels& levels = size > 1 ? memory.levels : field.levels();
    const WaryRoute& route = memory.wary.route(costs, levels, cell_of(from), cell_of(to), with);
    saunter_route told = route_of(route.verdict(), route.cells(), route.expanded());
    told.cost = static_cast<std::uint32_t>(std::min<std::uint64_t>(route.measure().cost, UINT32_MAX));
    give(told, out);
    if (exposure != nullptr) {
      const Exposure& measure = route.measure();
      saunter_exposure about = {};
      about.exposed_steps = measure.exposed_steps;
      about.cost = measure.cost;
      about.exposure = measure.exposure;
      about.weighed = measure.weighed;
      about.longest = measure.longest;
      give(about, exposure);
    }
    return route.found() ? SAUNTER_OK : SAUNTER_NO;
  });
}

namespace {

template <typename Ask>
saunter_status make_field(saunter_searcher* searcher, const saunter_grid* grid, const saunter_field_options* options,
                          saunter_field** out, Ask&& ask) {
  return guarded([&] {
    saunter_searcher& memory = held(searcher, "searcher");
    const CostGrid& costs = *held(grid, "grid").costs;
    expect_given(out, "out");
    const saunter_field_options asked = taken(options, "options");
    FieldOptions with;
    if (asked.has_budget != 0) with.budget = Hundredths(asked.budget);
    with.count_steps = asked.count_steps != 0;
    const auto fill = [&](saunter_field& field) {
      field.size = {};  // until it is whole
      const std::size_t sources_given = ask(memory.searcher, costs, field.field, with);
      field.size = costs.size();
      return field.field.unused().size() == sources_given ? SAUNTER_NO : SAUNTER_OK;
    };
    if (asked.again != nullptr) {
      saunter_field& again = held(asked.again, "again");
      *out = &again;
      try {
        return fill(again);
      } catch (...) {
        again.field = Field();  // it may be half written
        throw;
      }
    }
    auto field = std::make_unique<saunter_field>();
    const saunter_status status = fill(*field);
    *out = field.release();
    return status;
  });
}

}  // namespace

saunter_status saunter_field_to(saunter_searcher* searcher, const saunter_grid* grid, const saunter_cell* goals,
                                size_t goal_count, const saunter_field_options* options, saunter_field** out) {
  return make_field(searcher, grid, options, out, [&](Searcher& by, const CostGrid& costs, Field& field, auto& with) {
    by.field_to(costs, sources(goals, goal_count, "goals"), field, with);
    return goal_count;
  });
}

saunter_status saunter_reach(saunter_searcher* searcher, const saunter_grid* grid, const saunter_cell* starts,
                             size_t start_count, const saunter_field_options* options, saunter_field** out) {
  return make_field(searcher, grid, options, out, [&](Searcher& by, const CostGrid& costs, Field& field, auto& with) {
    by.reach(costs, sources(starts, start_count, "starts"), field, with);
    return start_count;
  });
}

void saunter_field_free(saunter_field* field) { free_own(field); }

saunter_status saunter_field_cost(const saunter_field* field, saunter_cell cell, uint32_t* out) {
  return guarded([&] {
    const Field& told = held(field, "field").field;
    expect_given(out, "out");
    const bool reached = told.reached(cell_of(cell));
    *out = reached ? told.cost(cell_of(cell)) : SAUNTER_UNREACHED;
    return reached ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_field_next(const saunter_field* field, saunter_cell cell, saunter_cell* out) {
  return guarded([&] {
    const Field& told = held(field, "field").field;
    expect_given(out, "out");
    const auto next = told.next(cell_of(cell));
    if (next) *out = to_c(*next);
    return next ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_field_costs(const saunter_field* field, uint32_t* out, size_t count) {
  return guarded([&] {
    const saunter_field& told = held(field, "field");
    expect_given(out, "out");
    expect_count(count, told.size.cell_count(), "out");
    for (const Cell cell : told.size.cells()) {
      *out++ = told.field.reached(cell) ? told.field.cost(cell) : SAUNTER_UNREACHED;
    }
    return SAUNTER_OK;
  });
}

saunter_status saunter_regions_create(const saunter_grid* grid, saunter_regions** out) {
  return guarded([&] {
    const CostGrid& costs = *held(grid, "grid").costs;
    expect_given(out, "out");
    auto regions = std::make_unique<saunter_regions>();
    regions->regions = Regions(costs);
    regions->size = costs.size();
    *out = regions.release();
    return SAUNTER_OK;
  });
}

void saunter_regions_free(saunter_regions* regions) { free_own(regions); }

size_t saunter_regions_count(const saunter_regions* regions) {
  return is_own(regions) ? regions->regions.list().size() : 0;
}

saunter_status saunter_regions_at(const saunter_regions* regions, saunter_cell cell, uint32_t* out) {
  return guarded([&] {
    const saunter_regions& told = held(regions, "regions");
    expect_given(out, "out");
    *out = told.size.contains(cell_of(cell)) ? told.regions.at(cell_of(cell)) : 0;
    return SAUNTER_OK;
  });
}

saunter_status saunter_regions_labels(const saunter_regions* regions, uint32_t* out, size_t count) {
  return guarded([&] {
    const saunter_regions& told = held(regions, "regions");
    expect_given(out, "out");
    expect_count(count, told.size.cell_count(), "out");
    for (const Cell cell : told.size.cells()) *out++ = told.regions.at(cell);
    return SAUNTER_OK;
  });
}
