/// @file
/// Small steps that several commands take.
#pragma once

#include "command.hpp"
#include "saunter/draw/overlay/danger.hpp"
#include "saunter/draw/overlay/units.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/io/layer.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter::app {

/// Reads the scenario or refuses with its error.
[[nodiscard]] io::Scenario load(const Common& common);
/// Refuses a map of more cells.
void refuse_large(Size size, std::size_t most_cells);
/// A mover by name ("" = the first); refuses unknown names and files without movers.
[[nodiscard]] const Mover& choose_mover(const io::Scenario& scenario, const std::string& name);
/// The mover's cost grid with units in its way, all but the one named.
[[nodiscard]] CostGrid bake_for(const io::Scenario& scenario, const Mover& mover, const std::string& as_unit = {});
/// Refuses a name that no unit has ("" is fine).
void check_unit(const io::Scenario& scenario, const std::string& as_unit);
/// Refuses a cell off the map, naming the option.
void check_on_map(const Map& map, Cell cell, const char* option);

/// Who walks: the words most commands share.
struct MoverWords {
  std::string mover;
  std::string as_unit;

  void add_words(Words& words);
};

/// A file to be put in place with the answer; refuses when it can't be written.
void add_file(Answer& answer, const std::string& file, const std::string& bytes);

/// A layer with a value for each cell.
template <typename ValueAt>
io::Layer filled(Size size, ValueAt&& value_at) {
  io::Layer layer{Grid<std::int64_t>(size)};
  for (const Cell cell : size.cells()) layer.values[cell] = value_at(cell);
  return layer;
}
/// Zero means "none" in the layers that count from one.
inline std::int64_t none_for_zero(std::int64_t value) { return value == 0 ? io::Layer::none : value; }

/// A map with its ground, its barriers, its units and coordinates, as all pictures begin.
[[nodiscard]] draw::Picture picture_of(const io::Scenario& scenario, const Mover* mover = nullptr);
[[nodiscard]] draw::Units units_of(const io::Scenario& scenario);

/// A scenario made ready for questions about one mover. Stays where it is: the mover and pictures point into it.
struct Ready {
  io::Scenario scenario;
  const Mover* mover = nullptr;
  CostGrid costs;
  bool paged = false;  ///< --page is given

  Ready() = default;
  ~Ready() = default;
  Ready(const Ready&) = delete;
  Ready& operator=(const Ready&) = delete;

  void make(const Common& common, const MoverWords& words);
  /// The same for a scenario that is there already.
  void make_for(const MoverWords& words);
  /// The map with what the mover cannot enter hatched and everything that stands on it.
  [[nodiscard]] draw::Picture picture() const;
  /// With --page: the map as the page shows it, and where the question begins and ends.
  void add_scene(Answer& answer, std::span<const Cell> from, std::span<const Cell> to) const;
  /// An answer that says no because a cell can't be used: exit code 1, `reason` and `at`, the cell marked on the map.
  void refuse_cell(Answer& answer, const std::string& who, const Verdict& verdict) const;
};

/// The threats of a map: sight, the sum of all, and how pictures show them.
struct Watch {
  SightGrid sight;
  ThreatField field;
  std::vector<draw::NamedThreat> threats;

  Watch() = default;
  /// Where there are no threats, nothing is looked at: `sight` stays empty.
  Watch(const io::Scenario& scenario, const std::string& as_unit, std::uint64_t tick = 0);
  /// The level of each place of a mover.
  [[nodiscard]] Levels levels_for(const Mover& mover) const;
};

/// Entries of a list that a person is shown.
inline constexpr std::size_t most_listed = 12;

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
[[nodiscard]] std::string tiling_name(Tiling tiling);

/// "exposure 12.4 (8 exposed steps, at most 5 in a row)"
[[nodiscard]] std::string exposure_text(const Exposure& measure);

/// "1 step", "2 steps".
[[nodiscard]] std::string counted(std::uint64_t count, const std::string& one, const std::string& many);

}  // namespace saunter::app
