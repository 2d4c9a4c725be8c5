#include <fmt/format.h>

#include "placing.hpp"

namespace saunter::app {
namespace {

struct FitCommand {
  Common common;
  PlacingWords placing;
  std::string footprint;
  std::string unit;
  std::optional<int> size;
  std::optional<int> turn;
  bool mirrored = false;
  std::string at;
  bool all = false;
  std::string nearest;
};

struct Kept : Placing {
  Footprint footprint;
  Pose pose;
  std::vector<FitProblem> problems;
  std::vector<Cell> spots;
  std::vector<Cell> faults;
  std::vector<Cell> ghost;
};

void choose_footprint(const FitCommand& options, Kept& kept) {
  const Tiling tiling = kept.scenario.map.tiling();
  const int ways = (options.footprint.empty() ? 0 : 1) + (options.unit.empty() ? 0 : 1) + (options.size ? 1 : 0);
  if (ways != 1) throw Refused{fmt::format("fit: found {} of --footprint, --unit and --size, expected one", ways)};
  if (!options.unit.empty()) {
    const io::Unit* const unit = kept.scenario.find_unit(options.unit);
    if (unit == nullptr) throw Refused{"--unit: found \"" + options.unit + "\", expected the name of a [[unit]]"};
    kept.footprint = unit->footprint;
    kept.pose.turn = unit->turn;
  } else if (options.size) {
    if (*options.size > 1 && tiling.shape() == Shape::triangle) {
      throw Refused{fmt::format("--size: found {}, expected 1 on triangles", *options.size)};
    }
    kept.footprint = Footprint::of_size(tiling, *options.size);
  } else {
    kept.footprint = parse_footprint(options.footprint, tiling);
  }
  if (options.turn) {
    if (*options.turn >= full_turn(tiling)) {
      throw Refused{fmt::format("--turn: found {}, expected 0 to {}", *options.turn, full_turn(tiling) - 1)};
    }
    kept.pose.turn = *options.turn;
  }
  kept.pose.mirrored = options.mirrored;
}

/// Who or what a reason is about.
Json name_of(const Kept& kept, const FitProblem& problem) {
  if (problem.by != 0) return kept.scenario.units[problem.by - 1].name;
  return problem.rule.empty() ? Json() : Json(problem.rule);
}

void answer_at(Kept& kept, Answer& answer) {
  const Map& map = kept.scenario.map;
  // Nothing is drawn of what lies far off, and its cells need not fit the range of numbers.
  const Rect about = {-max_line_cells, -max_line_cells, 2 * max_line_cells, 2 * max_line_cells};
  if (about.contains(kept.pose.at)) {
    cells_in_pose(map.tiling(), kept.footprint, kept.pose, kept.ghost);
    std::erase_if(kept.ghost, [&](Cell cell) { return !map.size().contains(cell); });
  }
  kept.problems = kept.fitter.problems(kept.terms, kept.footprint, kept.pose);
  const bool fits = kept.problems.empty();
  if (!fits) answer.exit_code = exit_no;
  answer.json["fits"] = fits;
  answer.json["reasons"] = Json::array();
  answer.text += fmt::format("{} at {}\n", fits ? "it fits" : "it does not fit", show(kept.pose.at));
  for (const FitProblem& problem : kept.problems) {
    const Json by = name_of(kept, problem);
    answer.json["reasons"].push_back({{"why", fault_name(problem.why)},
                                      {"at", json_cell(problem.at)},
                                      {"by", by},
                                      {"apart_from", problem.apart_from ? json_cell(*problem.apart_from) : Json()}});
    std::string more = by.is_null() ? "" : ": " + by.get<std::string>();
    if (problem.apart_from) more = " from " + show(*problem.apart_from);
    answer.text += fmt::format("  {} at {}{}\n", fault_name(problem.why), show(problem.at), more);
    kept.faults.push_back(problem.at);
  }
}

Answer fit(const FitCommand& options) {
  auto kept = std::make_shared<Kept>();
  if (options.at.empty() && !options.all && options.nearest.empty()) {
    throw Refused{"fit: found none of --at, --all and --nearest, expected at least one"};
  }
  kept->scenario = load(options.common);
  choose_footprint(options, *kept);
  kept->prepare(options.placing, options.unit);
  const Map& map = kept->scenario.map;

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "fit"}, {"fits", nullptr}, {"reasons", nullptr}, {"spots", nullptr}, {"nearest", nullptr}};
  if (!options.at.empty()) {
    kept->pose.at = parse_cell(options.at, "--at");
    answer_at(*kept, answer);
  }
  if (options.all || !options.nearest.empty()) {
    const BitGrid spots = kept->fitter.spots(kept->terms, kept->footprint, kept->pose.turn, kept->pose.mirrored);
    for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
      if (spots.test(map.size().cell(CellIndex{i}))) kept->spots.push_back(map.size().cell(CellIndex{i}));
    }
    if (kept->spots.empty()) answer.exit_code = exit_no;
    answer.text += fmt::format("it fits at {}\n", counted(kept->spots.size(), "spot", "spots"));
    if (options.all) answer.json["spots"] = json_cells(kept->spots);
    if (!options.nearest.empty()) {
      const Cell wished = parse_cell(options.nearest, "--nearest");
      const auto nearest = nearest_spot(map.tiling(), spots, wished);
      answer.json["nearest"] = nearest ? json_cell(*nearest) : Json();
      if (nearest) {
        answer.text += fmt::format("nearest to {}: {}\n", show(wished), show(*nearest));
        if (kept->ghost.empty()) {
          cells_in_pose(map.tiling(), kept->footprint, {*nearest, kept->pose.turn, kept->pose.mirrored}, kept->ghost);
        }
      }
    }
  }
  draw::Picture picture = kept->picture();
  picture.spots = kept->spots;
  picture.ghost = kept->ghost;
  picture.faults = kept->faults;
  if (!options.at.empty()) picture.facts.emplace_back("fits at " + options.at, kept->problems.empty() ? "yes" : "no");
  for (const FitProblem& problem : kept->problems) {
    if (picture.facts.size() > 8) break;
    picture.facts.emplace_back(std::string(fault_name(problem.why)), show(problem.at));
  }
  if (options.all || !options.nearest.empty()) {
    picture.facts.emplace_back("spots", std::to_string(kept->spots.size()));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_fit(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<FitCommand>();
  CLI::App& command = *app.add_subcommand("fit", "whether a thing can be put somewhere, why not, and where else");
  command.footer("Example: saunter fit demo/strand.toml --unit hut --at 28,24 --mover crab --keep-open 3,4");
  add_common(command, options->common);
  command.add_option("--footprint", options->footprint, "its cells: rows of x and . joined by /, hexes: \"q,r q,r\"");
  command.add_option("--unit", options->unit, "a unit of the file; where it stands now is free to it");
  add_whole(command, "--size", options->size, 1, 32, "so many cells wide and high, hexes: all within size - 1");
  add_whole(command, "--turn", options->turn, 0, 5,
            "turned clockwise, in quarters or sixths (default: as it stands, or 0)");
  command.add_flag("--mirrored", options->mirrored, "left and right exchanged");
  command.add_option("--at", options->at, "the anchor's cell: does it fit there?");
  command.add_flag("--all", options->all, "every cell at which it fits");
  command.add_option("--nearest", options->nearest, "the spot nearest to this cell");
  add_placing(command, options->placing);
  command.callback([&chosen, options] { chosen = {[options] { return fit(*options); }, &options->common}; });
}

}  // namespace saunter::app
