#include "shared.hpp"

#include <fmt/format.h>
#include <sys/ioctl.h>
#include <unistd.h>

#include <charconv>
#include <cstdlib>
#include <filesystem>

#include "saunter/draw/terminal.hpp"
#include "saunter/io/rule.hpp"
#include "saunter/io/text.hpp"
#include "saunter/io/way.hpp"

namespace saunter::app {

void add_scenario(CLI::App& command, Common& common) {
  command.add_option("SCENARIO", common.scenario, "scenario file, - for standard input")->required();
  command.add_flag("--json", common.json, "print one JSON object and nothing else");
  command.add_flag("--all-errors", common.all_errors, "tell everything that is wrong with the scenario, a line each");
}

void add_common(CLI::App& command, Common& common) {
  add_scenario(command, common);
  command.add_option("--draw", common.draw, "write a picture: FILE.png or FILE.svg");
}

io::Scenario load(const Common& common) {
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
  throw refused;
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
  if (bytes.empty()) throw Refused{io::shown(file) + ": found nothing that could be made, expected a smaller map"};
  auto pending = io::PendingFile::write(file, bytes);
  if (!pending) throw Refused{pending.error().message()};
  answer.files.push_back(std::move(pending).value());
}

std::int64_t parse_whole(const std::string& text, const std::string& option, std::int64_t least, std::int64_t most) {
  std::int64_t value = 0;
  const char* const end = text.data() + text.size();
  const auto read = std::from_chars(text.data(), end, value);
  if (read.ec == std::errc{} && read.ptr == end && value >= least && value <= most) return value;
  throw Refused{
      fmt::format("{}: found {}, expected a whole number from {} to {}", option, io::shown(text), least, most)};
}

std::uint64_t parse_seed(const std::string& text, const std::string& option) {
  std::uint64_t value = 0;
  const char* const end = text.data() + text.size();
  const auto read = std::from_chars(text.data(), end, value);
  if (read.ec == std::errc{} && read.ptr == end) return value;
  throw Refused{option + ": found " + io::shown(text) + ", expected a whole number from 0 to 18446744073709551615"};
}

Watch::Watch(const io::Scenario& scenario, const std::string& as_unit)
    : sight(scenario.threats.empty() ? SightGrid() : scenario.sight(as_unit)), field(scenario.threat_field(sight)) {
  for (const io::Threat& threat : scenario.threats) watchers.push_back({threat.name, threat.source});
}

Levels Watch::levels_for(const Mover& mover) const {
  return levels_for_size(field.board().tiling, field.levels(), mover.size);
}

std::optional<std::uint16_t> parse_level(const std::optional<std::int64_t>& level) {
  return level ? std::optional(static_cast<std::uint16_t>(*level)) : std::nullopt;
}

Cell parse_cell_on(const Map& map, const std::string& text, const std::string& option) {
  const Cell cell = parse_cell(text, option);
  if (map.size().contains(cell)) return cell;
  throw Refused{fmt::format("{}: found {}, expected a cell of the map, which is {} x {}", option, show(cell),
                            map.size().cols, map.size().rows)};
}

void Ready::make(const Common& common, const Walker& walker) {
  scenario = load(common);
  make_for(walker);
}

void Ready::make_for(const Walker& walker) {
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
  throw Refused{option + ": found " + io::shown(text) + ", expected a cell as col,row"};
}

std::int64_t parse_hundredths(const std::string& text, const std::string& option, std::int64_t least,
                              std::int64_t most) {
  const std::optional<std::int64_t> value = io::parse_hundredths(text);
  if (value && *value >= least && *value <= most) return *value;
  throw Refused{option + ": found " + io::shown(text) + ", expected " + to_decimal(least) + " to " + to_decimal(most) +
                " with at most two decimals"};
}

Algorithm parse_algorithm(const std::string& name) {
  std::string names;
  for (const Algorithm algorithm : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs,
                                    Algorithm::greedy, Algorithm::jump}) {
    if (name == algorithm_name(algorithm)) return algorithm;
    names.append(names.empty() ? "" : ", ").append(algorithm_name(algorithm));
  }
  throw Refused{"--by: found " + io::shown(name) + ", expected one of " + names};
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

void refuse_cell(Answer& answer, const std::string& who, const Verdict& verdict, draw::Picture picture) {
  answer.exit_code = exit_no;
  picture.facts.emplace_back("answer", to_string(verdict));
  // The picture points at what the answer keeps alive.
  const auto at = std::make_shared<std::pair<std::shared_ptr<void>, Cell>>(answer.keep, verdict.at);
  answer.keep = at;
  picture.mark = &at->second;
  answer.pictures = {std::move(picture)};
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
