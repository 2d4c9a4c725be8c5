#include "edits.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "saunter/ground/paint.hpp"
#include "saunter/io/text.hpp"
#include "saunter/io/write_scenario.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

std::string found_text(const Json& value) {
  const std::string text = dumped(value);
  constexpr std::size_t most = 60;
  return text.size() <= most ? text : text.substr(0, most) + "...";
}

[[noreturn]] void refuse(const char* key, const Json& found, const std::string& expected) {
  throw Refused{fmt::format("{}: found {}, expected {}", key, found_text(found), expected)};
}

int whole(const Json& object, const char* key, int least, int most) {
  const Json& value = object.contains(key) ? object[key] : Json();
  const std::string expected = fmt::format("a whole number from {} to {}", least, most);
  if (!value.is_number_integer()) refuse(key, value, expected);
  const auto number = value.get<std::int64_t>();
  if (number < least || number > most) refuse(key, value, expected);
  return static_cast<int>(number);
}

Cell cell_from(const Json& value, const char* key) {
  const auto coordinate = [&](const Json& number) {
    if (!number.is_number_integer()) refuse(key, value, "a cell as [column, row]");
    const auto whole = number.get<std::int64_t>();
    if (whole < -max_line_cells || whole > std::int64_t{2} * max_line_cells) refuse(key, value, "a cell of the map");
    return static_cast<std::int32_t>(whole);
  };
  if (!value.is_array() || value.size() != 2) refuse(key, value, "a cell as [column, row]");
  return {coordinate(value[0]), coordinate(value[1])};
}

Cell cell_member(const Json& object, const char* key) { return cell_from(object.value(key, Json()), key); }

Cell cell_on_map(const Map& map, const Json& object, const char* key) {
  const Cell cell = cell_member(object, key);
  check_on_map(map, cell, key);
  return cell;
}

std::size_t choice(const Json& object, const char* key, std::initializer_list<std::string_view> words) {
  const std::string word = text_member(object, key);
  std::size_t number = 0;
  std::string names;
  for (const std::string_view known : words) {
    if (word == known) return number;
    names.append(names.empty() ? "" : ", ").append(known);
    ++number;
  }
  Words::refuse_word(key, word, "one of " + names);
}

/// Where a stroke goes: the cells that a shape between pointer positions holds. They are found by painting a blank map,
/// so that heights go where terrain would.
std::vector<Cell> stroked(const Map& map, const Json& edit) {
  constexpr std::size_t most_positions = 100'000;
  const Json& list = member(edit, "cells", Json::value_t::array, "a list of cells");
  if (list.empty() || list.size() > most_positions) refuse("cells", list.size(), "1 to 100000 cells");
  std::vector<Cell> cells;
  for (const Json& one : list) cells.push_back(cell_from(one, "cells"));
  const std::size_t with = choice(edit, "with", {"line", "block", "disk", "flood"});
  const Cell first = cells.front();
  const Cell last = cells.back();
  const Terrain any{};
  Map blank(map.board(), {any, any, any});
  std::vector<Cell> all;
  const auto take = [&](const Painted& painted) { all.insert(all.end(), painted.cells.begin(), painted.cells.end()); };
  if (with == 0) {
    for (std::size_t i = 0; i < cells.size(); ++i) take(paint_line(blank, cells[i > 0 ? i - 1 : 0], cells[i], 1));
  } else if (with == 1) {
    const auto [left, right] = std::minmax(first.col, last.col);
    const auto [top, bottom] = std::minmax(first.row, last.row);
    take(paint_rect(blank, {left, top, right + 1, bottom + 1}, 1));
  } else if (with == 2) {
    const int radius = whole(edit, "radius", 0, 100);
    for (const Cell cell : cells) take(paint_disk(blank, cell, radius, 1));
  } else if (map.size().contains(last)) {
    const bool heights = edit.contains("height");
    const auto alike = [&](Cell cell) {
      return heights ? map.height_at(cell) == map.height_at(last) : map.terrain_at(cell) == map.terrain_at(last);
    };
    for (const Cell cell : map.size().cells()) blank.set_terrain(cell, alike(cell) ? 1 : 0);
    take(paint_flood(blank, last, 2));
  }
  return all;
}

void paint(io::Scenario& scenario, const Json& edit) {
  Map& map = scenario.map;
  if (edit.contains("height")) {
    const auto height = static_cast<std::int16_t>(whole(edit, "height", -32'768, 32'767));
    for (const Cell cell : stroked(map, edit)) map.set_height(cell, height);
    return;
  }
  const std::string name = text_member(edit, "terrain");
  const auto kind = map.find_kind(name);
  if (!kind) Words::refuse_word("terrain", name, "the name of a terrain");
  for (const Cell cell : stroked(map, edit)) map.set_terrain(cell, *kind);
}

void set_barrier(Map& map, const Json& edit) {
  const Cell from = cell_on_map(map, edit, "from");
  const Cell to = cell_on_map(map, edit, "to");
  const Direction there = map.tiling().direction(from, to);
  if (there < 0 || there >= map.tiling().edge_count()) {
    throw Refused{fmt::format("to: found {}, expected a cell that shares an edge with {}", show(to), show(from))};
  }
  const std::size_t sides = choice(edit, "sides", {"closed", "one-way", "open"});
  map.set_closed(from, there, sides == 0);
  map.set_closed(to, map.tiling().direction(to, from), sides != 2);
}

/// The command `fit` says whether it can stand there, and why not.
void move_unit(io::Scenario& scenario, const Json& edit) {
  const std::string name = text_member(edit, "name");
  const auto unit =
      std::find_if(scenario.units.begin(), scenario.units.end(), [&](const io::Unit& one) { return one.name == name; });
  if (unit == scenario.units.end()) Words::refuse_word("name", name, "the name of a [[unit]]");
  const Cell at = cell_member(edit, "at");
  const int turn = whole(edit, "turn", 0, full_turn(scenario.map.tiling()) - 1);
  const Asked asked = ask({"fit", "-", "--unit", name, "--at", show(at), "--turn", std::to_string(turn)}, {&scenario});
  if (asked.answer.exit_code != exit_yes) throw Refused{name + ": " + asked.answer.text};
  unit->at = at;
  unit->turn = turn;
  cells_in_pose(scenario.map.tiling(), unit->footprint, {at, turn, false}, unit->cells);
}

void set_threat(io::Scenario& scenario, const Json& edit) {
  const std::string name = text_member(edit, "name");
  const auto named = std::find_if(scenario.threats.begin(), scenario.threats.end(),
                                  [&](const io::NamedThreat& one) { return one.name == name; });
  if (named == scenario.threats.end()) Words::refuse_word("name", name, "the name of a [[threat]]");
  Threat threat = named->threat;
  if (edit.contains("at")) threat.at = cell_on_map(scenario.map, edit, "at");
  if (edit.contains("range")) threat.range = Hundredths(static_cast<std::uint32_t>(whole(edit, "range", 0, 6'553'500)));
  if (edit.contains("arc")) threat.arc = whole(edit, "arc", 1, 360);
  if (edit.contains("facing")) {
    threat.facing.reset();
    if (!edit["facing"].is_null()) threat.facing = Facing::from_degrees(whole(edit, "facing", 0, 359));
  }
  if (named->schedule && (edit.contains("at") || edit.contains("facing"))) {
    throw Refused{name + " follows a schedule, which says where it is; expected one without"};
  }
  named->threat = threat;
}

void add_threat(io::Scenario& scenario, const Json& edit) {
  io::NamedThreat made{.name = text_member(edit, "name"), .threat = {.at = cell_on_map(scenario.map, edit, "at")}};
  constexpr std::size_t most_threats = 1000;
  const bool taken = std::any_of(scenario.threats.begin(), scenario.threats.end(),
                                 [&](const io::NamedThreat& one) { return one.name == made.name; });
  if (made.name.empty() || taken) Words::refuse_word("name", made.name, "a name that no other has");
  if (scenario.threats.size() >= most_threats) throw Refused{"found 1000 threats, expected no more"};
  made.threat.range = 6_steps;
  made.threat.levels = {{0.5_steps, 2}, {1_steps, 1}};
  made.threat.needs_sight = true;
  scenario.threats.push_back(std::move(made));
}

void remove_thing(io::Scenario& scenario, const Json& edit) {
  const std::string name = text_member(edit, "name");
  const std::size_t removed =
      std::erase_if(scenario.threats, [&](const io::NamedThreat& one) { return one.name == name; }) +
      std::erase_if(scenario.units, [&](const io::Unit& one) { return one.name == name; });
  if (removed == 0) Words::refuse_word("name", name, "the name of a threat or a unit");
}

}  // namespace

const Json& member(const Json& object, const char* key, Json::value_t kind, const char* expected) {
  static const Json nothing;
  const Json& value = object.is_object() && object.contains(key) ? object[key] : nothing;
  if (value.type() != kind) refuse(key, value, expected);
  return value;
}

std::string text_member(const Json& object, const char* key) {
  return member(object, key, Json::value_t::string, "a text").get<std::string>();
}

std::string text_of(const io::Scenario& scenario) {
  auto files = io::write_scenario(scenario, "map", io::one_file);
  if (!files) throw Refused{files.error().message()};
  return std::move(files.value().front().bytes);
}

void apply_edit(io::Scenario& scenario, const Json& edit) {
  switch (choice(edit, "do", {"paint", "barrier", "unit", "threat", "new-threat", "remove"})) {
    case 0: return paint(scenario, edit);
    case 1: return set_barrier(scenario.map, edit);
    case 2: return move_unit(scenario, edit);
    case 3: return set_threat(scenario, edit);
    case 4: return add_threat(scenario, edit);
    default: return remove_thing(scenario, edit);
  }
}

}  // namespace saunter::app
