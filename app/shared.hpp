/// @file
/// Small steps that several commands take.
#pragma once

#include "command.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/io/layer.hpp"
#include "saunter/search/route.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter::app {

/// Reads the scenario or refuses with its error.
[[nodiscard]] io::Scenario load(const Common& common);
/// A mover by name ("" = the first); refuses unknown names and files without movers.
[[nodiscard]] const Mover& choose_mover(const io::Scenario& scenario, const std::string& name);
/// The mover's cost grid with units in its way, all but the one named.
[[nodiscard]] CostGrid bake_for(const io::Scenario& scenario, const Mover& mover, const std::string& as_unit = {});

/// Refuses a name that no unit has ("" is fine).
void check_unit(const io::Scenario& scenario, const std::string& as_unit);

/// Who walks: the words most commands share.
struct Walker {
  std::string mover;
  std::string as_unit;
};
void add_walker(CLI::App& command, Walker& walker);
/// An option that takes a cell and may be given several times.
CLI::Option* add_cells(CLI::App& command, const std::string& name, std::vector<std::string>& cells,
                       const std::string& help);
/// A file to be put in place with the answer; refuses when it can't be written.
void add_file(Answer& answer, const std::string& file, const std::string& bytes);

/// A layer with a value for each cell.
template <typename ValueAt>
io::Layer filled(Size size, ValueAt&& value_at) {
  io::Layer layer{Grid<std::int64_t>(size)};
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) layer.values[CellIndex{i}] = value_at(size.cell(CellIndex{i}));
  return layer;
}
/// Zero means "none" in the layers that count from one.
inline std::int64_t none_for_zero(std::int64_t value) { return value == 0 ? io::Layer::none : value; }

/// A whole number in decimal digits, perhaps with a minus; refuses anything else, naming the option.
[[nodiscard]] std::int64_t parse_whole(const std::string& text, const std::string& option, std::int64_t least,
                                       std::int64_t most);
/// A seed: 0 to 2^64 - 1.
[[nodiscard]] std::uint64_t parse_seed(const std::string& text, const std::string& option);
/// An option that takes a whole number from `least` to `most`.
template <typename Number>
CLI::Option* add_whole(CLI::App& command, const std::string& name, Number& number, std::int64_t least,
                       std::int64_t most, const std::string& help) {
  return command.add_option_function<std::string>(
      name,
      [&number, name, least, most](const std::string& text) {
        const std::int64_t value = parse_whole(text, name, least, most);
        if constexpr (std::is_arithmetic_v<Number>) {
          number = static_cast<Number>(value);
        } else {
          number = static_cast<typename Number::value_type>(value);
        }
      },
      help);
}
/// Edge steps beyond these nobody means.
inline constexpr std::int64_t most_edge_steps = 1000;

/// A scenario made ready for questions about one mover. Stays where it is: the mover and pictures point into it.
struct Ready {
  io::Scenario scenario;
  const Mover* mover = nullptr;
  CostGrid costs;
  std::vector<draw::Thing> things;

  Ready() = default;
  ~Ready() = default;
  Ready(const Ready&) = delete;
  Ready& operator=(const Ready&) = delete;

  void make(const Common& common, const Walker& walker);
  /// The same for a scenario that is there already.
  void make_for(const Walker& walker);
  /// The map with what the mover cannot enter hatched and everything that stands on it.
  [[nodiscard]] draw::Picture picture() const;
};

/// What watches the map: sight, the sum of all threats, and how pictures show them.
struct Watch {
  SightGrid sight;
  ThreatField field;
  std::vector<draw::Watcher> watchers;

  Watch() = default;
  /// Where nothing watches, nothing is looked at: `sight` stays empty.
  Watch(const io::Scenario& scenario, const std::string& as_unit);
  /// The level of each place of a mover.
  [[nodiscard]] Levels levels_for(const Mover& mover) const;
};

/// "12,3": two 32-bit whole numbers and a comma, nothing else; refuses anything else, naming the option.
[[nodiscard]] Cell parse_cell(const std::string& text, const std::string& option);
/// "12.5" in hundredths; refuses anything else, naming the option.
[[nodiscard]] std::int64_t parse_hundredths(const std::string& text, const std::string& option, std::int64_t least,
                                            std::int64_t most);
/// The number of --max-threat, if it was given.
[[nodiscard]] std::optional<std::uint16_t> parse_level(const std::optional<std::int64_t>& level);
/// "astar" and so on; refuses anything else, naming --by.
[[nodiscard]] Algorithm parse_algorithm(const std::string& name);
[[nodiscard]] std::vector<std::string> split(const std::string& text, char at);

[[nodiscard]] std::string show(Cell cell);
[[nodiscard]] Json json_cell(Cell cell);
[[nodiscard]] Json json_cells(std::span<const Cell> cells);
/// A cost as a JSON number with at most two decimals.
[[nodiscard]] Json json_cost(std::int64_t hundredths);
inline Json json_sum(std::uint64_t hundredths) { return json_cost(static_cast<std::int64_t>(hundredths)); }
[[nodiscard]] inline std::string decimal_sum(std::uint64_t hundredths) {
  return to_decimal(static_cast<std::int64_t>(hundredths));
}
/// A cell of a question about a place that must be on the map; refuses one that is not, naming the option.
[[nodiscard]] Cell parse_cell_on(const Map& map, const std::string& text, const std::string& option);
[[nodiscard]] std::string tiling_name(Tiling tiling);

/// An answer that says no because a cell can't be used: exit code 1, `reason` and `at`, and the map with the cell
/// marked.
void refuse_cell(Answer& answer, const std::string& who, const Verdict& verdict, draw::Picture picture);

/// The things a picture of the scenario shows.
[[nodiscard]] std::vector<draw::Thing> things_of(const io::Scenario& scenario);
/// The terminal picture for standard output: in colour on a terminal unless NO_COLOR is set; a note when it is too
/// wide.
[[nodiscard]] std::string terminal_picture(const draw::Picture& picture);

/// "exposure 12.4 (8 exposed steps, at most 5 in a row)"
[[nodiscard]] std::string exposure_text(const Exposure& measure);

/// "1 step", "2 steps".
[[nodiscard]] std::string counted(std::uint64_t count, const std::string& one, const std::string& many);

}  // namespace saunter::app
