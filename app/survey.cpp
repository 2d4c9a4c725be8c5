#include <fmt/format.h>

#include "shared.hpp"

#include "saunter/ground/glyph.hpp"

namespace saunter::app {
namespace {

struct Survey {
  Common common;
  std::string mover;
};

struct Kept {
  io::Scenario scenario;
  std::vector<draw::Thing> things;
};

std::vector<std::size_t> cells_by_kind(const Map& map) {
  std::vector<std::size_t> count(map.kinds().size(), 0);
  for (const TerrainId id : map.terrain().values()) ++count[id];
  return count;
}

double share(std::size_t part, std::size_t whole) {
  return whole == 0 ? 0 : 100.0 * static_cast<double>(part) / static_cast<double>(whole);
}

/// One mover's line: what it can stand on.
struct Walkable {
  const Mover* mover = nullptr;
  std::size_t cells = 0;
};

std::vector<Walkable> walkable_cells(const io::Scenario& scenario, const std::string& only) {
  std::vector<Walkable> list;
  for (const Mover& mover : scenario.movers) {
    if (!only.empty() && mover.name != only) continue;
    list.push_back({&mover, bake_for(scenario, mover).open_cells().count()});
  }
  return list;
}

std::string cost_text(const Terrain& kind) {
  if (kind.is_void) return "void";
  return kind.cost == blocked ? "blocked" : to_decimal(kind.cost);
}

void add_notes(const io::Scenario& scenario, const std::vector<std::size_t>& counts,
               const std::vector<Walkable>& walkable, std::vector<std::string>& notes) {
  for (std::size_t id = 0; id < counts.size(); ++id) {
    if (counts[id] == 0) notes.push_back("terrain " + scenario.map.kinds()[id].name + " is never used");
  }
  for (const Walkable& w : walkable) {
    if (w.cells == 0) notes.push_back("mover " + w.mover->name + " can stand nowhere");
  }
  for (const io::Unit& unit : scenario.units) {
    for (const Cell cell : unit.cells) {
      if (scenario.map.kind(scenario.map.terrain_at(cell)).cost != blocked) continue;
      notes.push_back("unit " + unit.name + " stands on blocked ground at " + show(cell));
      break;
    }
  }
}

Answer survey(const Survey& options) {
  auto kept = std::make_shared<Kept>(Kept{load(options.common), {}});
  const io::Scenario& scenario = kept->scenario;
  if (!options.mover.empty()) (void)choose_mover(scenario, options.mover);
  kept->things = things_of(scenario);
  const Map& map = scenario.map;
  const auto counts = cells_by_kind(map);
  const auto walkable = walkable_cells(scenario, options.mover);
  std::vector<std::string> notes;
  add_notes(scenario, counts, walkable, notes);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "survey"},
                 {"title", scenario.title},
                 {"tiling", tiling_name(map.tiling())},
                 {"size", {map.size().cols, map.size().rows}}};
  const std::size_t all = map.size().cell_count();
  std::string& text = answer.text;
  text = fmt::format("{}\n{} map, {} x {} cells\n\nterrain\n", scenario.title, tiling_name(map.tiling()),
                     map.size().cols, map.size().rows);
  Json movers = Json::array();
  for (const Walkable& w : walkable) {
    movers.push_back({{"name", w.mover->name},
                      {"steps", w.mover->rules.steps},
                      {"size", w.mover->size},
                      {"walkable", w.cells},
                      {"share", json_cost(std::llround(share(w.cells, all) * 100))}});
  }
  answer.json["movers"] = movers;
  Json terrain = Json::array();
  for (std::size_t id = 0; id < counts.size(); ++id) {
    const Terrain& kind = map.kinds()[id];
    std::string glyph;
    append_glyph(glyph, kind.glyph);
    text += fmt::format("  {} {:<12} {:>7} cells {:>5.1f} %   {}\n", glyph, kind.name, counts[id],
                        share(counts[id], all), cost_text(kind));
    terrain.push_back({{"name", kind.name},
                       {"glyph", glyph},
                       {"cells", counts[id]},
                       {"cost", kind.cost == blocked ? Json() : json_cost(kind.cost)}});
  }
  answer.json["terrain"] = terrain;
  text += walkable.empty() ? "" : "movers\n";
  for (const Walkable& w : walkable) {
    text += fmt::format("  {:<14} stands on {:>6} cells {:>5.1f} %\n", w.mover->name, w.cells, share(w.cells, all));
  }
  if (!scenario.units.empty()) text += "units\n";
  for (const io::Unit& unit : scenario.units) {
    text += fmt::format("  {:<14} at {} ({})\n", unit.name, show(unit.at), counted(unit.cells.size(), "cell", "cells"));
  }
  answer.json["units"] = scenario.units.size();
  answer.json["threats"] = scenario.threats.size();
  answer.json["notes"] = notes;
  for (const std::string& note : notes) text += "note: " + note + "\n";

  draw::Picture picture{.title = scenario.title, .map = &map, .things = kept->things};
  picture.facts = {{"size", fmt::format("{} x {}", map.size().cols, map.size().rows)}};
  for (const Walkable& w : walkable) {
    picture.facts.emplace_back(w.mover->name + " can stand on", fmt::format("{:.1f} %", share(w.cells, all)));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.picture = picture;
  return answer;
}

}  // namespace

void add_survey(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<Survey>();
  CLI::App& command = *app.add_subcommand("survey", "what a map holds and who can walk on it");
  command.footer("Example: saunter survey demo/strand.toml");
  add_common(command, options->common);
  command.add_option("--mover", options->mover, "only this mover");
  command.callback([&chosen, options] { chosen = {[options] { return survey(*options); }, &options->common}; });
}

}  // namespace saunter::app
