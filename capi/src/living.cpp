// Frames, and a map that changes.
#include <cmath>

#include "handles.hpp"
#include "saunter/grid/frame.hpp"
#include "saunter/io/play.hpp"

using namespace saunter;
using namespace saunter::c;

namespace {

Frame frame_of(const saunter_frame* frame) {
  expect_given(frame, "frame");
  const saunter_frame told = taken(frame, "frame");
  const double cell_size = told.cell_size == 0 ? 1 : told.cell_size;
  const bool invertible = cell_size >= 1e-100 && cell_size <= 1e100;  // its square is a number too
  if (!invertible || !std::isfinite(told.origin_x) || !std::isfinite(told.origin_y)) {
    fail(SAUNTER_BAD_ARGUMENT, "frame: expected a size from 1e-100 to 1e100 and a finite origin");
  }
  return Frame(tiling_of(told.tiling), cell_size, {told.origin_x, told.origin_y},
               told.y_up != 0 ? WorldY::up : WorldY::down);
}

/// An edit that was not taken is a no, in words.
saunter_status status_of(const Edited& edited) {
  if (edited) return SAUNTER_OK;
  set_message((std::string(fault_name(edited.why)) + " at " + std::to_string(edited.at.col) + "," +
               std::to_string(edited.at.row))
                  .c_str());
  return SAUNTER_NO;
}

RouteId kept_route(const saunter_live& live, uint32_t number) {
  if (std::find(live.routes.begin(), live.routes.end(), RouteId(number)) == live.routes.end()) {
    fail(SAUNTER_BAD_ARGUMENT, "number: found none of a route that is kept");
  }
  return RouteId(number);
}

}  // namespace

saunter_status saunter_frame_centre(const saunter_frame* frame, saunter_cell cell, double* x, double* y) {
  return guarded([&] {
    expect_given(x, "x");
    expect_given(y, "y");
    const Point centre = frame_of(frame).centre(cell_of(cell));
    *x = centre.x;
    *y = centre.y;
    return SAUNTER_OK;
  });
}

saunter_status saunter_frame_cell_at(const saunter_frame* frame, double x, double y, saunter_cell* out) {
  return guarded([&] {
    expect_given(out, "out");
    *out = to_c(frame_of(frame).cell_at({x, y}));
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_create(const saunter_scenario* scenario, saunter_live** out) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    expect_given(out, "out");
    (void)mover_number(told.movers, nullptr);
    auto live = std::make_unique<saunter_live>(io::live_map(told));
    for (const io::Unit& unit : told.units) live->units.push_back(unit.name);
    live->grids.resize(told.movers.size());
    *out = live.release();
    return SAUNTER_OK;
  });
}

void saunter_live_free(saunter_live* live) { free_own(live); }

saunter_status saunter_live_set_terrain(saunter_live* live, saunter_cell cell, const char* terrain) {
  return guarded([&] {
    LiveMap& map = held(live, "live").map;
    expect_given(terrain, "terrain");
    const auto kind = map.map().find_kind(terrain);
    if (!kind) fail(SAUNTER_BAD_ARGUMENT, "terrain: found \"" + std::string(terrain) + "\", which there is not");
    return status_of(map.set_terrain(cell_of(cell), *kind));
  });
}

saunter_status saunter_live_close_edge(saunter_live* live, saunter_cell a, saunter_cell b, uint32_t closed) {
  return guarded([&] { return status_of(held(live, "live").map.close_edge(cell_of(a), cell_of(b), closed != 0)); });
}

saunter_status saunter_live_move_unit(saunter_live* live, const char* unit, saunter_cell at, int32_t turn) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    expect_given(unit, "unit");
    const auto found = std::find(told.units.begin(), told.units.end(), unit);
    if (found == told.units.end()) {
      fail(SAUNTER_BAD_ARGUMENT, "unit: found \"" + std::string(unit) + "\", which there is not");
    }
    expect_turn(told.map.board().tiling, turn);
    const auto id = static_cast<UnitId>(found - told.units.begin() + 1);
    return status_of(told.map.move(id, {cell_of(at), turn, false}));
  });
}

saunter_status saunter_live_close_for(saunter_live* live, saunter_cell cell, int64_t commits) {
  return guarded([&] {
    const auto times = commits < 0 ? std::nullopt : std::optional<std::uint64_t>(static_cast<std::uint64_t>(commits));
    return status_of(held(live, "live").map.close_for(cell_of(cell), times));
  });
}

saunter_status saunter_live_commit(saunter_live* live, size_t* changed) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    const Change& change = told.map.commit();
    told.changed.clear();
    for (const ChangedCell& cell : change.cells) told.changed.push_back(to_c(cell.cell));
    if (changed != nullptr) *changed = told.changed.size();
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_changed(const saunter_live* live, const saunter_cell** cells, size_t* count) {
  return guarded([&] {
    const saunter_live& told = held(live, "live");
    expect_given(cells, "cells");
    expect_given(count, "count");
    *cells = told.changed.empty() ? nullptr : told.changed.data();
    *count = told.changed.size();
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_grid(saunter_live* live, const char* mover, const saunter_grid** out) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    expect_given(out, "out");
    const std::size_t number = mover_number(told.map.movers(), mover);
    std::unique_ptr<saunter_grid>& grid = told.grids[number];
    if (!grid) grid = std::make_unique<saunter_grid>();
    grid->costs = &told.map.costs(number);
    *out = grid.get();
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_keep_route(saunter_live* live, const char* mover, saunter_cell from, saunter_cell to,
                                       uint32_t* number) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    expect_given(number, "number");
    const std::size_t who = mover_number(told.map.movers(), mover);
    told.routes.reserve(told.routes.size() + 1);
    const RouteId id = told.map.keep_route(who, cell_of(from), cell_of(to));
    told.routes.push_back(id);
    *number = id.value();
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_stand_at(saunter_live* live, uint32_t number, saunter_cell cell) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    const RouteId id = kept_route(told, number);
    told.map.stand_at(id, cell_of(cell));
    (void)told.map.follow(id);
    return SAUNTER_OK;
  });
}

saunter_status saunter_live_follow(saunter_live* live, uint32_t number, int32_t* standing, saunter_route* out) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    const RouteId id = kept_route(told, number);
    if (out != nullptr) expect_result(out, "out");
    const StandingRoute& route = told.map.route(id);
    const RouteReport& report = route.report();  // commits renew it
    if (standing != nullptr) *standing = static_cast<std::int32_t>(report.standing);
    if (out != nullptr) {
      saunter_route about = route_of({route.reason(), report.at}, route.cells(), route.expanded());
      about.cost = report.cost.value_or(0);
      give(about, out);
    }
    return route.found() ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_live_drop_route(saunter_live* live, uint32_t number) {
  return guarded([&] {
    saunter_live& told = held(live, "live");
    const RouteId id = kept_route(told, number);
    told.map.drop_route(id);
    std::erase(told.routes, id);
    return SAUNTER_OK;
  });
}
