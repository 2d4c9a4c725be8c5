// Grids and scenarios.
#include "handles.hpp"

using namespace saunter;
using namespace saunter::c;

saunter_status saunter_grid_create(const saunter_board* board, const saunter_rules* rules, const uint16_t* entry_costs,
                                   size_t count, saunter_grid** out) {
  return guarded([&] {
    expect_given(out, "out");
    expect_given(entry_costs, "entry_costs");
    const Board place = board_of(board);
    expect_count(count, place.size.cell_count(), "entry_costs");
    const saunter_rules told = taken(rules, "rules");
    Mover mover;
    mover.rules.steps = told.steps;
    if (told.corners < 0 || told.corners > 2) fail(SAUNTER_BAD_ARGUMENT, "corners: expected 0, 1 or 2");
    mover.rules.corners = static_cast<Corners>(told.corners);
    if (told.diagonal != 0)
      mover.rules.diagonal = static_cast<Length>(std::min<std::uint32_t>(told.diagonal, 1U << 30U));
    if (const auto problem = mover_problem(place.tiling, mover)) {
      fail(SAUNTER_BAD_ARGUMENT, "rules: expected " + std::string(*problem));
    }
    auto grid = std::make_unique<saunter_grid>();
    grid->own = CostGrid::from_hundredths(place, mover.rules, {entry_costs, count});
    *out = grid.release();
    return SAUNTER_OK;
  });
}

void saunter_grid_free(saunter_grid* grid) {
  // One of a live map belongs to it.
  if (is_own(grid) && grid->costs == &grid->own) delete grid;
}

saunter_status saunter_grid_board(const saunter_grid* grid, saunter_board* out) {
  return guarded([&] {
    give_board(held(grid, "grid").costs->board(), out);
    return SAUNTER_OK;
  });
}

saunter_status saunter_grid_cost(const saunter_grid* grid, saunter_cell cell, uint16_t* out) {
  return guarded([&] {
    expect_given(out, "out");
    *out = held(grid, "grid").costs->entry(cell_of(cell));
    return SAUNTER_OK;
  });
}

saunter_status saunter_grid_set_cost(saunter_grid* grid, saunter_cell cell, uint16_t entry_cost) {
  return guarded([&] {
    saunter_grid& held_grid = held(grid, "grid");
    if (held_grid.costs != &held_grid.own) {
      fail(SAUNTER_BAD_ARGUMENT, "grid: found one of a live map, which its commits keep; expected one of your own");
    }
    if (!held_grid.own.set_entry(cell_of(cell), entry_cost))
      fail(SAUNTER_BAD_ARGUMENT, "cell: expected one of the map");
    return SAUNTER_OK;
  });
}

namespace {

saunter_status give_scenario(io::Result<io::Scenario> read, saunter_scenario** out) {
  if (!read) fail(SAUNTER_BAD_INPUT, read.error().message());
  auto scenario = std::make_unique<saunter_scenario>();
  scenario->scenario = std::move(read).value();
  *out = scenario.release();
  return SAUNTER_OK;
}

/// The name of the n-th of a list; a wrong handle has none.
template <typename List>
const char* name_of(const saunter_scenario* scenario, List io::Scenario::*list, size_t number) {
  if (!is_own(scenario)) return nullptr;
  const List& all = scenario->scenario.*list;
  return number < all.size() ? all[number].name.c_str() : nullptr;
}

}  // namespace

saunter_status saunter_scenario_load(const char* file, saunter_scenario** out) {
  return guarded([&] {
    expect_given(file, "file");
    expect_given(out, "out");
    return give_scenario(io::read_scenario(file), out);
  });
}

saunter_status saunter_scenario_parse(const char* text, size_t bytes, const char* name, saunter_scenario** out) {
  return guarded([&] {
    expect_given(text, "text");
    expect_given(out, "out");
    return give_scenario(io::parse_scenario({text, bytes}, name == nullptr ? "scenario" : name, std::nullopt), out);
  });
}

void saunter_scenario_free(saunter_scenario* scenario) { free_own(scenario); }

saunter_status saunter_scenario_board(const saunter_scenario* scenario, saunter_board* out) {
  return guarded([&] {
    give_board(held(scenario, "scenario").scenario.map.board(), out);
    return SAUNTER_OK;
  });
}

const char* saunter_scenario_mover(const saunter_scenario* scenario, size_t number) {
  return name_of(scenario, &io::Scenario::movers, number);
}
const char* saunter_scenario_unit(const saunter_scenario* scenario, size_t number) {
  return name_of(scenario, &io::Scenario::units, number);
}
const char* saunter_scenario_threat(const saunter_scenario* scenario, size_t number) {
  return name_of(scenario, &io::Scenario::threats, number);
}

saunter_status saunter_scenario_grid(const saunter_scenario* scenario, const char* mover, const char* as_unit,
                                     saunter_grid** out) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    expect_given(out, "out");
    const Mover& who = told.movers[mover_number(told.movers, mover)];
    const std::string self = as_unit == nullptr ? "" : as_unit;
    if (!self.empty()) (void)unit_of(told, as_unit);
    const BitGrid occupied = told.occupied(self);
    auto grid = std::make_unique<saunter_grid>();
    grid->own = bake(told.map, who, &occupied);
    *out = grid.release();
    return SAUNTER_OK;
  });
}
