#include <fmt/format.h>

#include "saunter/ground/glyph.hpp"
#include "saunter/region/passages.hpp"
#include "saunter/region/regions.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

double share(std::size_t part, std::size_t whole) {
  return whole == 0 ? 0 : 100.0 * static_cast<double>(part) / static_cast<double>(whole);
}

constexpr int largest_size_told = 4;

/// One mover's line: what it can stand on, in how many regions.
struct Walkable {
  const Mover* mover = nullptr;
  std::size_t cells = 0;
  std::size_t regions = 0;
  std::vector<Passage> by_size = {};
};

std::vector<Walkable> walkable_cells(const io::Scenario& scenario, const std::string& only) {
  std::vector<Walkable> list;
  for (const Mover& mover : scenario.movers) {
    if (!only.empty() && mover.name != only) continue;
    const BitGrid occupied = scenario.occupied();
    const CostGrid costs = bake(scenario.map, mover, &occupied);
    list.push_back({&mover, costs.open_cells().count(), Regions(costs).list().size(),
                    passages(scenario.map, mover, largest_size_told, &occupied)});
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
  for (const Terrain& kind : scenario.map.kinds()) {
    if (std::u32string_view(U"SGUK*+!@\u00D7\u2591").find(kind.glyph) == std::u32string_view::npos) continue;
    std::string glyph;
    append_glyph(glyph, kind.glyph);
    notes.push_back("terrain " + kind.name + " has the glyph " + glyph + ", which terminal views use as a mark");
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

Json json_of(const std::vector<Walkable>& walkable, std::size_t all) {
  Json movers = Json::array();
  for (const Walkable& w : walkable) {
    Json by_size = Json::array();
    for (const Passage& p : w.by_size) {
      by_size.push_back({{"size", p.size}, {"walkable", p.cells}, {"regions", p.regions}, {"largest", p.largest}});
    }
    movers.push_back({{"name", w.mover->name},
                      {"steps", w.mover->rules.steps},
                      {"size", w.mover->size},
                      {"walkable", w.cells},
                      {"regions", w.regions},
                      {"by_size", by_size},
                      {"share", json_cost(std::llround(share(w.cells, all) * 100))}});
  }
  return movers;
}

void tell_movers(const std::vector<Walkable>& walkable, std::size_t all, std::string& text) {
  text += walkable.empty() ? "" : "movers\n";
  for (const Walkable& w : walkable) {
    text += fmt::format("  {:<10} stands on {:>6} cells {:>5.1f} %, in {}\n", w.mover->name, w.cells,
                        share(w.cells, all), counted(w.regions, "region", "regions"));
    for (const Passage& p : w.by_size) {
      text += fmt::format("    size {}: {:>6} cells in {}, the largest {}\n", p.size, p.cells,
                          counted(p.regions, "region", "regions"), p.largest);
    }
  }
}

// Each of these adds its lines to the text and its key to the JSON.

void tell_terrain(const Map& map, const std::vector<std::size_t>& counts, Answer& answer) {
  const std::size_t all = map.size().cell_count();
  Json terrain = Json::array();
  answer.text += "terrain\n";
  for (std::size_t id = 0; id < counts.size(); ++id) {
    const Terrain& kind = map.kinds()[id];
    std::string glyph;
    append_glyph(glyph, kind.glyph);
    answer.text += fmt::format("  {} {:<12} {:>7} cells {:>5.1f} %   {}\n", glyph, kind.name, counts[id],
                               share(counts[id], all), cost_text(kind));
    terrain.push_back({{"name", kind.name},
                       {"glyph", glyph},
                       {"cells", counts[id]},
                       {"cost", kind.cost == blocked ? Json() : json_cost(kind.cost)}});
  }
  answer.json["terrain"] = terrain;
}

void tell_units(const io::Scenario& scenario, Answer& answer) {
  answer.json["units"] = Json::array();
  if (!scenario.units.empty()) answer.text += "units\n";
  for (const io::Unit& unit : scenario.units) {
    answer.text +=
        fmt::format("  {:<14} at {} ({})\n", unit.name, show(unit.at), counted(unit.cells.size(), "cell", "cells"));
    answer.json["units"].push_back(
        {{"name", unit.name}, {"at", json_cell(unit.at)}, {"cells", json_cells(unit.cells)}});
  }
}

/// ", 6 posts, again every 18 ticks"
std::string schedule_text(const io::NamedThreat& named) {
  if (!named.schedule) return {};
  std::string text = ", " + counted(named.schedule->posts.size(), "post", "posts");
  if (named.schedule->repeat != 0) text += fmt::format(", again every {} ticks", named.schedule->repeat);
  return text;
}

void tell_threats(const io::Scenario& scenario, Answer& answer) {
  answer.json["threats"] = Json::array();
  if (!scenario.threats.empty()) answer.text += "threats\n";
  for (const io::NamedThreat& named : scenario.threats) {
    const Threat& threat = named.threat;
    answer.json["threats"].push_back(
        {{"name", named.name}, {"at", json_cell(threat.at)}, {"range", json_cost(threat.range)}});
    const std::string facing =
        threat.facing
            ? fmt::format(", facing {}, {} degrees", facing_name(scenario.map.tiling(), *threat.facing), threat.arc)
            : "";
    answer.text +=
        fmt::format("  {:<14} at {}, range {}{}{}{}\n", named.name, show(threat.at), to_decimal(threat.range),
                    threat.needs_sight ? ", by sight" : "", facing, schedule_text(named));
  }
}

void tell_spots(const io::Scenario& scenario, Answer& answer) {
  answer.json["spots"] = Json::array();
  if (!scenario.spots.empty()) answer.text += "spots\n";
  for (const io::Spot& spot : scenario.spots) {
    answer.json["spots"].push_back({{"name", spot.name}, {"at", json_cell(spot.at)}});
    answer.text += fmt::format("  {:<14} at {}\n", spot.name, show(spot.at));
  }
}

void tell_patrols(const io::Scenario& scenario, Answer& answer) {
  answer.json["patrols"] = Json::array();
  if (!scenario.patrols.empty()) answer.text += "patrols\n";
  for (const io::Patrol& patrol : scenario.patrols) {
    const std::string& mover = scenario.find_mover(patrol.mover)->name;
    answer.json["patrols"].push_back(
        {{"name", patrol.name}, {"mover", mover}, {"cells", json_cells(patrol.cells)}, {"loop", patrol.loop}});
    answer.text += fmt::format("  {:<14} by {}, {}{}\n", patrol.name, mover,
                               counted(patrol.cells.size(), "cell", "cells"), patrol.loop ? ", round and round" : "");
  }
}

class SurveyCommand final : public Command {
 public:
  SurveyCommand() : Command("survey", "what a map holds and who can walk on it", "survey demo/strand.toml") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.text("--mover", mover_, "only this mover");
  }

  Answer answer() override {
    scenario_ = load(common);
    if (!mover_.empty()) (void)choose_mover(scenario_, mover_);
    const Map& map = scenario_.map;
    const std::size_t all = map.size().cell_count();
    const auto counts = cells_of_each_kind(map);
    const auto walkable = walkable_cells(scenario_, mover_);
    std::vector<std::string> notes;
    add_notes(scenario_, counts, walkable, notes);

    Answer answer;
    answer.json = {{"command", "survey"},
                   {"title", scenario_.title},
                   {"tiling", tiling_name(map.tiling())},
                   {"size", {map.size().cols, map.size().rows}}};
    answer.text = fmt::format("{}\n{} map, {} x {} cells\n\n", scenario_.title, tiling_name(map.tiling()),
                              map.size().cols, map.size().rows);
    answer.json["movers"] = json_of(walkable, all);
    tell_terrain(map, counts, answer);
    answer.json["regions"] = walkable.empty() ? Json() : Json(walkable.front().regions);
    tell_movers(walkable, all, answer.text);
    tell_units(scenario_, answer);
    tell_threats(scenario_, answer);
    tell_spots(scenario_, answer);
    tell_patrols(scenario_, answer);
    answer.json["notes"] = notes;
    for (const std::string& note : notes) answer.text += "note: " + note + "\n";
    answer.picture = picture_of(scenario_);
    answer.picture->facts = {{"size", fmt::format("{} x {}", map.size().cols, map.size().rows)}};
    for (const Walkable& w : walkable) {
      answer.picture->facts.emplace_back(w.mover->name + " can stand on", fmt::format("{:.1f} %", share(w.cells, all)));
    }
    return answer;
  }

 private:
  std::string mover_;

  io::Scenario scenario_;
};

}  // namespace

std::unique_ptr<Command> make_survey() { return std::make_unique<SurveyCommand>(); }

}  // namespace saunter::app
