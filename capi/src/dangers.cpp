// Sight and danger.
#include "handles.hpp"

using namespace saunter;
using namespace saunter::c;

saunter_status saunter_sight_create(const saunter_board* board, const uint8_t* opaque, size_t count,
                                    saunter_sight** out) {
  return guarded([&] {
    expect_given(opaque, "opaque");
    expect_given(out, "out");
    const Board place = board_of(board);
    expect_count(count, place.size.cell_count(), "opaque");
    BitGrid hides(place.size);
    for (const Cell cell : place.size.cells()) hides.set(cell, *opaque++ != 0);
    auto sight = std::make_unique<saunter_sight>();
    sight->grid = SightGrid(place, hides);
    *out = sight.release();
    return SAUNTER_OK;
  });
}

saunter_status saunter_scenario_sight(const saunter_scenario* scenario, saunter_sight** out) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    expect_given(out, "out");
    auto sight = std::make_unique<saunter_sight>();
    sight->grid = told.sight();
    sight->nowhere = void_terrain(told.map);
    *out = sight.release();
    return SAUNTER_OK;
  });
}

void saunter_sight_free(saunter_sight* sight) { free_own(sight); }

saunter_status saunter_sees(const saunter_sight* sight, saunter_cell from, saunter_cell to, saunter_cell* hidden_by) {
  return guarded([&] {
    const SightGrid& grid = held(sight, "sight").grid;
    for (const saunter_cell cell : {from, to}) {
      if (!grid.size().contains(cell_of(cell))) fail(SAUNTER_BAD_ARGUMENT, "from, to: expected cells of the map");
    }
    const auto hides = saunter::hidden_by(grid, cell_of(from), cell_of(to));
    if (hides && hidden_by != nullptr) *hidden_by = to_c(*hides);
    return hides ? SAUNTER_NO : SAUNTER_OK;
  });
}

saunter_status saunter_visible(const saunter_sight* sight, saunter_cell from, uint32_t range, uint8_t* out,
                               size_t count) {
  return guarded([&] {
    const SightGrid& grid = held(sight, "sight").grid;
    expect_given(out, "out");
    expect_count(count, grid.size().cell_count(), "out");
    if (!grid.size().contains(cell_of(from))) fail(SAUNTER_BAD_ARGUMENT, "from: expected a cell of the map");
    std::vector<Cell> seen;
    Lookout().visible(grid, cell_of(from), range == 0 ? std::nullopt : std::optional<Hundredths>(range), seen);
    std::fill_n(out, count, std::uint8_t{0});
    const BitGrid& nowhere = sight->nowhere;
    for (const Cell cell : seen) out[grid.size().index(cell).value()] = nowhere.test(cell) ? 0 : 1;
    return SAUNTER_OK;
  });
}

namespace {

Threat threat_of(const saunter_threat* given, const Board& board) {
  expect_given(given, "threat");
  const saunter_threat told = taken(given, "threat");
  Threat threat{.at = cell_of(told.at), .range = Hundredths(told.range), .levels = {}};
  const std::uint32_t near = told.near_part == 0 ? 100 : told.near_part;
  if (near > 100) fail(SAUNTER_BAD_ARGUMENT, "near_part: expected 1 to 100");
  threat.levels.push_back({Hundredths(near), told.level});
  if (near < 100) threat.levels.push_back({1_steps, told.far_level});
  threat.needs_sight = told.needs_sight != 0;
  if (told.looks != 0) {
    threat.facing = Facing::from_degrees(told.facing);
    threat.arc = told.arc;
  }
  if (!ThreatField::can_be(board, threat)) {
    fail(SAUNTER_BAD_ARGUMENT, "threat: expected one on the map, with an arc of 1 to 360 degrees");
  }
  return threat;
}

/// A threat there is.
ThreatField& with_threat(saunter_danger& danger, uint32_t number) {
  if (!danger.field.known(number)) fail(SAUNTER_BAD_ARGUMENT, "number: found none of a threat");
  return danger.field;
}

}  // namespace

saunter_status saunter_danger_create(const saunter_sight* sight, saunter_danger** out) {
  return guarded([&] {
    const SightGrid& grid = held(sight, "sight").grid;
    expect_given(out, "out");
    auto danger = std::make_unique<saunter_danger>();
    danger->sight = grid;
    danger->field =
        sight->nowhere.size() == grid.size() ? ThreatField(grid.board(), sight->nowhere) : ThreatField(grid.board());
    *out = danger.release();
    return SAUNTER_OK;
  });
}

saunter_status saunter_scenario_danger(const saunter_scenario* scenario, uint64_t tick, saunter_danger** out) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    expect_given(out, "out");
    auto danger = std::make_unique<saunter_danger>();
    danger->sight = told.sight();
    danger->field = told.threat_field(danger->sight, tick);
    *out = danger.release();
    return SAUNTER_OK;
  });
}

void saunter_danger_free(saunter_danger* danger) { free_own(danger); }

saunter_status saunter_danger_add(saunter_danger* danger, const saunter_threat* threat, uint32_t* number) {
  return guarded([&] {
    saunter_danger& told = held(danger, "danger");
    expect_given(number, "number");
    *number = told.field.add(told.sight, threat_of(threat, told.field.board()));
    return SAUNTER_OK;
  });
}

saunter_status saunter_danger_move(saunter_danger* danger, uint32_t number, saunter_cell to) {
  return guarded([&] {
    saunter_danger& told = held(danger, "danger");
    if (!with_threat(told, number).move(number, told.sight, cell_of(to))) {
      fail(SAUNTER_BAD_ARGUMENT, "to: expected a cell of the map");
    }
    return SAUNTER_OK;
  });
}

saunter_status saunter_danger_turn(saunter_danger* danger, uint32_t number, int32_t facing) {
  return guarded([&] {
    saunter_danger& told = held(danger, "danger");
    if (!with_threat(told, number).turn(number, told.sight, Facing::from_degrees(facing))) {
      fail(SAUNTER_BAD_ARGUMENT, "facing: found a threat that can't look there");
    }
    return SAUNTER_OK;
  });
}

saunter_status saunter_danger_remove(saunter_danger* danger, uint32_t number) {
  return guarded([&] {
    (void)with_threat(held(danger, "danger"), number).remove(number);
    return SAUNTER_OK;
  });
}

saunter_status saunter_danger_level(const saunter_danger* danger, saunter_cell cell, uint16_t* out) {
  return guarded([&] {
    const ThreatField& field = held(danger, "danger").field;
    expect_given(out, "out");
    *out = field.level(cell_of(cell));
    return SAUNTER_OK;
  });
}

saunter_status saunter_danger_levels(const saunter_danger* danger, uint16_t* out, size_t count) {
  return guarded([&] {
    const ThreatField& field = held(danger, "danger").field;
    expect_given(out, "out");
    const auto levels = field.levels().values();
    expect_count(count, levels.size(), "out");
    std::copy(levels.begin(), levels.end(), out);
    return SAUNTER_OK;
  });
}
