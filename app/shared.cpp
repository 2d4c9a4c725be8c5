#include "shared.hpp"

#include <fmt/format.h>
#include <sys/ioctl.h>
#include <unistd.h>

#include <cstdlib>

#include "saunter/draw/terminal.hpp"
#include "saunter/io/rule.hpp"
#include "saunter/io/way.hpp"

namespace saunter::app {

void add_common(CLI::App& command, Common& common) {
  command.add_option("SCENARIO", common.scenario, "scenario file, - for standard input")->required();
  command.add_flag("--json", common.json, "print one JSON object and nothing else");
  command.add_option("--draw", common.draw, "write a picture: FILE.png or FILE.svg");
}

io::Scenario load(const Common& common) {
  io::Result<io::Scenario> scenario = io::read_scenario(common.scenario);
  if (!scenario) throw Refused{scenario.error().message()};
  return std::move(scenario).value();
}

const Mover& choose_mover(const io::Scenario& scenario, const std::string& name) {
  if (const Mover* mover = scenario.find_mover(name)) return *mover;
  if (scenario.movers.empty()) throw Refused{"found no mover in the scenario, expected a [mover.name]"};
  std::string names;
  for (const Mover& mover : scenario.movers) names += (names.empty() ? "" : ", ") + mover.name;
  throw Refused{"--mover: found \"" + name + "\", expected one of " + names};
}

void check_unit(const io::Scenario& scenario, const std::string& as_unit) {
  if (as_unit.empty() || scenario.find_unit(as_unit) != nullptr) return;
  throw Refused{"--as: found \"" + as_unit + "\", expected the name of a [[unit]]"};
}

CostGrid bake_for(const io::Scenario& scenario, const Mover& mover, const std::string& as_unit) {
  check_unit(scenario, as_unit);
  const BitGrid occupied = scenario.occupied(as_unit);
  return bake(scenario.map, mover, &occupied);
}

void add_walker(CLI::App& command, Walker& walker) {
  command.add_option("--mover", walker.mover, "who walks (default: the first mover of the file)");
  command.add_option("--as", walker.as_unit, "the unit that walks: its own cells are not in its way");
}

CLI::Option* add_cells(CLI::App& command, const std::string& name, std::vector<std::string>& cells,
                       const std::string& help) {
  return command.add_option(name, cells, help)
      ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll)
      ->expected(1)
      ->allow_extra_args(false);
}

void add_file(Answer& answer, const std::string& file, const std::string& bytes) {
  auto pending = io::PendingFile::write(file, bytes);
  if (!pending) throw Refused{pending.error().message()};
  answer.files.push_back(std::move(pending).value());
}

void check_edge_steps(const std::optional<int>& steps, const std::string& option) {
  if (!steps || (*steps >= 0 && *steps <= 1000)) return;
  throw Refused{option + ": found " + std::to_string(*steps) + ", expected 0 to 1000"};
}

Watch::Watch(const io::Scenario& scenario, const std::string& as_unit)
    : sight(scenario.threats.empty() ? SightGrid() : scenario.sight(as_unit)), field(scenario.threat_field(sight)) {
  for (const io::Threat& threat : scenario.threats) watchers.push_back({threat.name, threat.source});
}

Levels Watch::levels_for(const Mover& mover) const {
  return levels_for_size(field.board().tiling, field.levels(), mover.size);
}

std::optional<std::uint16_t> parse_level(const std::optional<std::int64_t>& level) {
  if (!level) return std::nullopt;
  if (*level >= 0 && *level <= 65'535) return static_cast<std::uint16_t>(*level);
  throw Refused{fmt::format("--max-threat: found {}, expected 0 to 65535", *level)};
}

Cell parse_cell_on(const Map& map, const std::string& text, const std::string& option) {
  const Cell cell = parse_cell(text, option);
  if (map.size().contains(cell)) return cell;
  throw Refused{fmt::format("{}: found {}, expected a cell of the map, which is {} x {}", option, show(cell),
                            map.size().cols, map.size().rows)};
}

void Ready::make(const Common& common, const Walker& walker) {
  scenario = load(common);
  mover = &choose_mover(scenario, walker.mover);
  costs = bake_for(scenario, *mover, walker.as_unit);
  things = things_of(scenario);
}

draw::Picture Ready::picture() const {
  draw::Picture picture{.title = scenario.title, .map = &scenario.map, .costs = &costs, .mover = mover};
  picture.layers.blocked = true;
  picture.things = things;
  return picture;
}

Cell parse_cell(const std::string& text, const std::string& option) {
  Cell cell;
  if (io::parse_cell(text, cell)) return cell;
  throw Refused{option + ": found \"" + text + "\", expected a cell as col,row"};
}

std::int64_t parse_hundredths(const std::string& text, const std::string& option, std::int64_t least,
                              std::int64_t most) {
  const std::optional<std::int64_t> value = io::parse_hundredths(text);
  if (value && *value >= least && *value <= most) return *value;
  throw Refused{option + ": found \"" + text + "\", expected " + to_decimal(least) + " to " + to_decimal(most) +
                " with at most two decimals"};
}

Algorithm parse_algorithm(const std::string& name) {
  std::string names;
  for (const Algorithm algorithm : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs,
                                    Algorithm::greedy, Algorithm::jump}) {
    if (name == algorithm_name(algorithm)) return algorithm;
    names.append(names.empty() ? "" : ", ").append(algorithm_name(algorithm));
  }
  throw Refused{"--by: found \"" + name + "\", expected one of " + names};
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

void refuse_cell(Answer& answer, const std::string& who, const Verdict& verdict) {
  answer.exit_code = exit_no;
  answer.json["reason"] = reason_name(verdict.reason);
  answer.json["at"] = json_cell(verdict.at);
  answer.text = who + ": " + to_string(verdict) + "\n";
}

std::vector<draw::Thing> things_of(const io::Scenario& scenario) {
  std::vector<draw::Thing> things;
  for (const io::Unit& unit : scenario.units) things.push_back({unit.name, unit.cells});
  return things;
}

std::string terminal_picture(const draw::Picture& picture) {
  draw::TerminalOptions options{.max_columns = 400};
  if (isatty(STDOUT_FILENO) != 0) {
    const char* no_color = std::getenv("NO_COLOR");
    options.color = no_color == nullptr || *no_color == '\0';
    winsize window = {};
    if (ioctl(STDOUT_FILENO, TIOCGWINSZ, &window) == 0 && window.ws_col > 0) options.max_columns = window.ws_col;
  }
  std::string view = draw::terminal_view(picture, options);
  if (view.empty()) view = "(the map is too large to show here; use --draw FILE.png)\n";
  return view;
}

std::string exposure_text(const Exposure& measure) {
  return fmt::format("exposure {} ({}, at most {} in a row)", decimal_sum(measure.exposure),
                     counted(measure.exposed_steps, "exposed step", "exposed steps"), measure.longest);
}

std::string counted(std::uint64_t count, const std::string& one, const std::string& many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

}  // namespace saunter::app
