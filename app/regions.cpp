#include "saunter/region/regions.hpp"

#include <fmt/format.h>

#include "saunter/io/layer.hpp"
#include "saunter/region/chokes.hpp"
#include "saunter/region/cut_off.hpp"
#include "saunter/region/joins.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct RegionsCommand {
  Common common;
  Walker walker;
  std::string from;
  int least_cells = 1;
  bool join = false;
  int extra = 0;
  bool chokes = false;
  std::string csv;
};

struct Kept : Ready {
  std::optional<Regions> regions;
  std::optional<Cell> from;
  std::vector<Cell> cut_off;
  std::vector<Cell> no_return;
  JoinPlan plan;
  std::vector<Cell> opens;
  std::vector<Choke> chokes;
  std::vector<Cell> choke_cells;
  std::vector<Corridor> corridors;
};

constexpr std::size_t most_told = 12;  // entries of a list that a person is shown

Json region_json(const Region& region) {
  return {{"id", region.id},
          {"cells", region.cells},
          {"box", {region.box.left, region.box.top, region.box.right - 1, region.box.bottom - 1}},
          {"first", json_cell(region.first)}};
}

Json join_json(const Join& join) {
  return {{"from", join.from},
          {"to", join.to},
          {"cost", json_cost(static_cast<std::int64_t>(join.cost))},
          {"opens", json_cells(join.opens)}};
}

std::string cells_text(std::span<const Cell> cells) {
  std::string text;
  for (std::size_t i = 0; i < cells.size() && i < most_told; ++i) text += " " + show(cells[i]);
  if (cells.size() > most_told) text += fmt::format(" and {} more", cells.size() - most_told);
  return text;
}

void find_cut_off(Kept& kept, Answer& answer) {
  if (kept.from) {
    if (!kept.costs.open(*kept.from)) {
      throw Refused{"--from: found " + show(*kept.from) + ", where " + kept.mover->name +
                    " cannot stand; expected a cell it can start from"};
    }
    CutOff found = cut_off_from(kept.costs, *kept.from);
    kept.cut_off = std::move(found.cut_off);
    kept.no_return = std::move(found.no_return);
    answer.exit_code = kept.cut_off.empty() ? exit_yes : exit_no;
    answer.json["cut_off"] = json_cells(kept.cut_off);
    answer.json["no_return"] = json_cells(kept.no_return);
    answer.text += kept.cut_off.empty()
                       ? fmt::format("all of it can be reached from {}\n", show(*kept.from))
                       : fmt::format("{} cut off from {}:{}\n", counted(kept.cut_off.size(), "cell", "cells"),
                                     show(*kept.from), cells_text(kept.cut_off));
    if (!kept.no_return.empty()) {
      answer.text += fmt::format("no return from {}:{}\n", counted(kept.no_return.size(), "cell", "cells"),
                                 cells_text(kept.no_return));
    }
    return;
  }
  answer.exit_code = kept.regions->list().size() > 1 ? exit_no : exit_yes;
  const Region* largest = kept.regions->largest();
  for (std::uint32_t i = 0; largest != nullptr && i < kept.costs.size().cell_count(); ++i) {
    const Cell cell = kept.costs.size().cell(CellIndex{i});
    if (kept.regions->at(cell) != 0 && kept.regions->at(cell) != largest->id) kept.cut_off.push_back(cell);
  }
}

void find_joins(const RegionsCommand& options, Kept& kept, Answer& answer) {
  if (kept.mover->size != 1) {
    throw Refused{"--join: found mover \"" + kept.mover->name + "\" of size " + std::to_string(kept.mover->size) +
                  ", expected one of size 1"};
  }
  const BitGrid occupied = kept.scenario.occupied(options.walker.as_unit);
  const BreachCosts breach(kept.scenario.map, kept.costs, &occupied);
  const JoinOptions wanted{.least_cells = static_cast<std::uint32_t>(options.least_cells),
                           .extra = static_cast<std::size_t>(options.extra)};
  kept.plan = plan_joins(kept.scenario.map, *kept.mover, kept.costs, *kept.regions, breach, wanted);
  answer.json["joins"] = Json::array();
  std::vector<Join> all = kept.plan.joins;
  all.insert(all.end(), kept.plan.extra.begin(), kept.plan.extra.end());
  for (const Join& join : all) {
    answer.json["joins"].push_back(join_json(join));
    kept.opens.insert(kept.opens.end(), join.opens.begin(), join.opens.end());
  }
  answer.json["apart"] = kept.plan.apart;
  if (kept.plan.joins.empty()) {
    answer.text += kept.plan.apart.empty() ? "there is nothing to join\n" : "no join can connect them\n";
  } else {
    answer.text +=
        fmt::format("{} would connect {}, at a cost of {}\n", counted(kept.plan.joins.size(), "join", "joins"),
                    kept.plan.apart.empty() ? "them" : "what can be connected",
                    to_decimal(static_cast<std::int64_t>(kept.plan.cost)));
  }
  for (std::size_t i = 0; i < all.size() && i < most_told; ++i) {
    answer.text += fmt::format("  {} and {} for {}: open{}\n", all[i].from, all[i].to,
                               to_decimal(static_cast<std::int64_t>(all[i].cost)), cells_text(all[i].opens));
  }
  if (all.size() > most_told) answer.text += fmt::format("  and {} more\n", all.size() - most_told);
  if (!kept.plan.apart.empty()) {
    answer.text += "can't be joined to the first:";
    for (const std::uint32_t id : kept.plan.apart) answer.text += " " + std::to_string(id);
    answer.text += "\n";
  }
}

void find_all_chokes(Kept& kept, Answer& answer) {
  kept.chokes = find_chokes(kept.costs, *kept.regions);
  for (const Choke& choke : kept.chokes) kept.choke_cells.push_back(choke.cell);
  answer.json["chokes"] = json_cells(kept.choke_cells);
  kept.corridors = corridors(kept.costs, kept.chokes);
  std::vector<Corridor> by_weight = kept.corridors;
  std::stable_sort(by_weight.begin(), by_weight.end(),
                   [](const Corridor& a, const Corridor& b) { return a.smaller_side > b.smaller_side; });
  answer.text += fmt::format("{} in {}\n", counted(kept.chokes.size(), "choke cell", "choke cells"),
                             counted(by_weight.size(), "place", "places"));
  for (std::size_t i = 0; i < by_weight.size() && i < most_told; ++i) {
    const Corridor& corridor = by_weight[i];
    const std::string where = corridor.cells.size() == 1
                                  ? show(corridor.cells.front())
                                  : fmt::format("{} .. {}, {} cells", show(corridor.cells.front()),
                                                show(corridor.cells.back()), corridor.cells.size());
    answer.text += fmt::format("  {}: {} beyond\n", where, counted(corridor.smaller_side, "cell", "cells"));
  }
  if (by_weight.size() > most_told) answer.text += fmt::format("  and {} more\n", by_weight.size() - most_told);
}

Answer regions(const RegionsCommand& options) {
  auto kept = std::make_shared<Kept>();
  if (!options.from.empty()) kept->from = parse_cell(options.from, "--from");
  if (options.extra > 0 && !options.join) throw Refused{"--extra: found without --join, which it belongs to"};
  kept->make(options.common, options.walker);
  kept->regions.emplace(kept->costs);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "regions"}, {"regions", Json::array()}, {"cut_off", nullptr},
                 {"no_return", nullptr}, {"joins", nullptr},         {"chokes", nullptr}};
  std::vector<Region> shown;
  for (const Region& region : kept->regions->list()) {
    if (region.cells >= static_cast<std::uint32_t>(options.least_cells)) shown.push_back(region);
  }
  for (const Region& region : shown) answer.json["regions"].push_back(region_json(region));
  answer.text = fmt::format("{} has {}", kept->mover->name, counted(kept->regions->list().size(), "region", "regions"));
  if (shown.size() < kept->regions->list().size()) {
    answer.text += fmt::format(", {} of at least {} cells", shown.size(), options.least_cells);
  }
  answer.text += "\n";
  std::stable_sort(shown.begin(), shown.end(), [](const Region& a, const Region& b) { return a.cells > b.cells; });
  for (std::size_t i = 0; i < shown.size() && i < most_told; ++i) {
    answer.text += fmt::format("  {}: {}, first {}\n", shown[i].id, counted(shown[i].cells, "cell", "cells"),
                               show(shown[i].first));
  }
  if (shown.size() > most_told) answer.text += fmt::format("  and {} more\n", shown.size() - most_told);
  find_cut_off(*kept, answer);
  if (options.join) find_joins(options, *kept, answer);
  if (options.chokes) find_all_chokes(*kept, answer);
  if (!options.csv.empty()) {
    add_file(answer, options.csv,
             io::to_csv(filled(kept->costs.size(), [&](Cell cell) { return none_for_zero(kept->regions->at(cell)); })));
  }

  draw::Picture picture = kept->picture();
  picture.regions = &*kept->regions;
  picture.cut_off = kept->cut_off;
  picture.opens = kept->opens;
  picture.chokes = kept->choke_cells;
  if (kept->from) picture.start = &*kept->from;
  picture.facts = {{"mover", kept->mover->name}, {"regions", std::to_string(kept->regions->list().size())}};
  if (!kept->cut_off.empty()) picture.facts.emplace_back("cells cut off", std::to_string(kept->cut_off.size()));
  if (options.join) {
    picture.facts.emplace_back("joins", std::to_string(kept->plan.joins.size()));
    picture.facts.emplace_back("joins cost", to_decimal(static_cast<std::int64_t>(kept->plan.cost)));
  }
  if (options.chokes) picture.facts.emplace_back("choke cells", std::to_string(kept->chokes.size()));
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_regions(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<RegionsCommand>();
  CLI::App& command = *app.add_subcommand("regions", "what is cut off, how to join it, what must stay open");
  command.footer("Example: saunter regions demo/strand.toml --mover crab --join --chokes --draw regions.png");
  add_common(command, options->common);
  add_walker(command, options->walker);
  command.add_option("--from", options->from, "tell what can't be reached from here, and what can't be come back from");
  add_whole(command, "--min", options->least_cells, 1, 33'554'432,
            "list and join only regions of at least so many cells");
  command.add_flag("--join", options->join, "which cells to open so that all regions meet, at least cost");
  add_whole(command, "--extra", options->extra, 0, 33'554'432, "so many joins more than needed, for loops");
  command.add_flag("--chokes", options->chokes, "cells whose loss would split a region");
  command.add_option("--csv", options->csv, "write the region of each cell, - where there is none");
  command.callback([&chosen, options] { chosen = {[options] { return regions(*options); }, &options->common}; });
}

}  // namespace saunter::app
