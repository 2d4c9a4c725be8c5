#include "shared.hpp"

#include <fmt/format.h>
#include <filesystem>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "saunter/io/text.hpp"
#include "scene.hpp"

namespace saunter::app {

void refuse_large(Size size, std::size_t most_cells) {
  if (size.cell_count() <= most_cells) return;
  throw Refused{
      fmt::format("found a map of {} x {} cells, expected at most {} here", size.cols, size.rows, most_cells)};
}

io::Scenario load(const Common& common) {
  if (common.handed != nullptr) return *common.handed->scenario;
  // Standard input can be read once only.
  const io::Result<std::string> text = io::read_file(common.scenario);
  if (!text) throw Refused{text.error().message()};
  const bool from_input = common.scenario == "-";
  const std::string name = from_input ? "<stdin>" : common.scenario;
  const std::string folder = from_input ? "" : std::filesystem::path(common.scenario).parent_path().string();
  io::Result<io::Scenario> scenario = io::parse_scenario(text.value(), name, folder);
  if (scenario) return std::move(scenario).value();
  if (!common.all_errors) throw Refused{scenario.error().message()};
  constexpr std::size_t most_told = 100;
  const std::vector<io::Error> errors = io::scenario_errors(text.value(), name, folder);
  Refused refused{errors.empty() ? scenario.error().message() : errors.front().message()};
  for (std::size_t i = 1; i < errors.size() && i < most_told; ++i) refused.more.push_back(errors[i].message());
  if (errors.size() > most_told) {
    const bool more_unread = errors.size() >= io::most_errors;
    refused.more.push_back((more_unread ? "and at least " : "and ") + std::to_string(errors.size() - most_told) +
                           " more");
  }
  throw Refused(std::move(refused));
}

const Mover& choose_mover(const io::Scenario& scenario, const std::string& name) {
  if (const Mover* mover = scenario.find_mover(name)) return *mover;
  if (scenario.movers.empty()) throw Refused{"found no mover in the scenario, expected a [mover.name]"};
  std::string names;
  for (const Mover& mover : scenario.movers) names += (names.empty() ? "" : ", ") + mover.name;
  throw Refused{"--mover: found " + io::shown(name) + ", expected one of " + names};
}

void check_unit(const io::Scenario& scenario, const std::string& as_unit) {
  if (as_unit.empty() || scenario.find_unit(as_unit) != nullptr) return;
  throw Refused{"--as: found " + io::shown(as_unit) + ", expected the name of a [[unit]]"};
}

CostGrid bake_for(const io::Scenario& scenario, const Mover& mover, const std::string& as_unit) {
  check_unit(scenario, as_unit);
  const BitGrid occupied = scenario.occupied(as_unit);
  return bake(scenario.map, mover, &occupied);
}

void check_on_map(const Map& map, Cell cell, const char* option) {
  if (map.size().contains(cell)) return;
  throw Refused{fmt::format("{}: found {}, expected a cell of the map, which is {} x {}", option, show(cell),
                            map.size().cols, map.size().rows)};
}

void MoverWords::add_words(Words& words) {
  words.heading("Who walks");
  words.text("--mover", mover, "who walks (default: the first mover of the file)");
  words.text("--as", as_unit, "the unit that walks: its own cells are not in its way");
}

void add_file(Answer& answer, const std::string& file, const std::string& bytes) {
  if (bytes.empty()) throw Refused{io::shown(file) + ": found nothing that could be made, expected a smaller map"};
  auto pending = io::PendingFile::write(file, bytes);
  if (!pending) throw Refused{pending.error().message()};
  answer.files.push_back(std::move(pending).value());
}

Watch::Watch(const io::Scenario& scenario, const std::string& as_unit, std::uint64_t tick)
    : sight(scenario.threats.empty() ? SightGrid() : scenario.sight(as_unit)),
      field(scenario.threat_field(sight, tick)) {
  for (const io::NamedThreat& named : scenario.threats) threats.push_back({named.name, named.at_tick(tick)});
}

Levels Watch::levels_for(const Mover& mover) const {
  return levels_for_size(field.board().tiling, field.levels(), mover.size);
}

draw::Units units_of(const io::Scenario& scenario) {
  std::vector<draw::Unit> units;
  units.reserve(scenario.units.size());
  for (const io::Unit& unit : scenario.units) units.push_back({unit.name, unit.cells});
  return draw::Units(std::move(units));
}

draw::Picture picture_of(const io::Scenario& scenario, const Mover* mover) {
  draw::Picture picture(scenario.title, scenario.map);
  picture.add(draw::Terrains(mover)).add(draw::Outlines()).add(draw::Barriers()).add(units_of(scenario));
  picture.add(draw::Coordinates());
  return picture;
}

void Ready::make(const Common& common, const MoverWords& words) {
  scenario = load(common);
  paged = !common.page.empty();
  make_for(words);
}

void Ready::make_for(const MoverWords& words) {
  mover = &choose_mover(scenario, words.mover);
  costs = bake_for(scenario, *mover, words.as_unit);
}

draw::Picture Ready::picture() const {
  draw::Picture picture = picture_of(scenario, mover);
  picture.add(draw::Blocked(costs));
  return picture;
}

void Ready::add_scene(Answer& answer, std::span<const Cell> from, std::span<const Cell> to) const {
  if (!paged) return;
  answer.scene = scene_json(*this);
  answer.replay["from"] = json_cells(from);
  answer.replay["to"] = json_cells(to);
}

void Ready::refuse_cell(Answer& answer, const std::string& who, const Verdict& verdict) const {
  answer.exit_code = exit_no;
  answer.picture = picture();
  answer.picture->facts = {{"mover", mover->name}};
  answer.picture->add(draw::Ring(verdict.at, to_string(verdict)));
  add_scene(answer, {}, {});
  answer.json["reason"] = reason_name(verdict.reason);
  answer.json["at"] = json_cell(verdict.at);
  answer.text = who + ": " + to_string(verdict) + "\n";
}

std::vector<std::string> split(const std::string& text, char at) {
  std::vector<std::string> parts;
  std::size_t from = 0;
  for (;;) {
    const std::size_t to = text.find(at, from);
    parts.push_back(text.substr(from, to - from));
    if (to == std::string::npos) return parts;
    from = to + 1;
  }
}

std::string show(Cell cell) { return std::to_string(cell.col) + "," + std::to_string(cell.row); }

Json json_cell(Cell cell) { return Json::array({cell.col, cell.row}); }

Json json_cells(std::span<const Cell> cells) {
  Json list = Json::array();
  for (const Cell cell : cells) list.push_back(json_cell(cell));
  return list;
}

Json json_cost(std::int64_t hundredths) {
  if (hundredths % 100 == 0) return hundredths / 100;
  // The double nearest to n / 100 prints as exactly those two decimals.
  return static_cast<double>(hundredths) / 100;
}

std::string tiling_name(Tiling tiling) {
  switch (tiling.shape()) {
    case Shape::square: return "square";
    case Shape::triangle: return "triangle";
    case Shape::hex_pointy:
    case Shape::hex_flat: break;
  }
  return "hex";
}

std::string exposure_text(const Exposure& measure) {
  return fmt::format("exposure {} ({}, at most {} in a row)", decimal_sum(measure.exposure),
                     counted(measure.exposed_steps, "exposed step", "exposed steps"), measure.longest);
}

std::string counted(std::uint64_t count, const std::string& one, const std::string& many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

}  // namespace saunter::app
