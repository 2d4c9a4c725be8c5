/// @file
/// Caves: ground dug by wandering agents, or noise made smooth.
///
/// Units: cells; shares in per cent, chances in ten-thousandths.
/// Errors: nothing open where nothing could be dug; see CaveOptions.
/// Cost: O(cells) a round of smoothing, O(steps) of agents, regions and joins once; 30 bytes a cell while it works.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <string_view>

#include "saunter/generate/made.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/threat/side.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class CaveMethod : std::uint8_t {
  agents,  ///< walks at random that dig as they go (the drunkard's walk)
  noise    ///< cells open by chance, then each like most of its neighbours (cellular automata; Johnson et al. 2010)
};
[[nodiscard]] std::string_view method_name(CaveMethod method);

/// Which of the regions that were dug stay. Regions are those of edge steps.
enum class Keep : std::uint8_t {
  largest,    ///< the one with the most cells, the first among equals
  all_joined  ///< all of `least_cells` at least, joined by the cheapest digging; smaller ones are filled
};

struct CaveOptions {
  CaveMethod by = CaveMethod::noise;
  std::uint64_t seed = 1;
  /// noise: each cell's chance to be open; nothing = 55. agents: digging stops at this share of the cells inside the
  /// rim; nothing = never. Per cent, clipped to 0 .. 100.
  std::optional<int> open = {};
  /// noise: rounds in which each cell becomes what most of its neighbours are, those across corners too, ties as it is;
  /// cells on the rim and off the map count as closed.
  int smooth = 4;
  // Agents.
  int agents = 8;
  int agent_steps = 400;          ///< of each
  bool start_on_dug = false;      ///< each starts on a cell that is open already, else in the middle of the map
  int straight = 50;              ///< chance in per cent to go on in the same direction
  std::optional<Side> lean = {};  ///< a side they lean to ...
  int lean_chance = 0;            ///< ... with this chance in per cent, before anything else is drawn
  Keep keep = Keep::largest;
  std::uint32_t least_cells = 1;  ///< of regions kept by all_joined
};

/// Makes a cave a little at a time. The same as `make_cave` when it has ended.
class CaveMaker {
 public:
  /// @pre a sound board of at most 2^28 cells, else nothing is made
  CaveMaker(Board board, const CaveOptions& options);

  /// Goes on by so many steps: of agents, or rows of cells (noise); keeping and joining is one. @return whether it has
  /// ended
  bool run(std::uint64_t steps);
  /// Cells that the last call of run() dug, in order (agents), at most the last 4096; noise: none.
  [[nodiscard]] std::span<const Cell> last() const { return last_; }
  /// The cave as far as it is dug. O(cells)
  [[nodiscard]] Made so_far() const;
  /// The finished cave; runs it to its end first.
  [[nodiscard]] Made take();

 private:
  enum class Stage : std::uint8_t { dig, smooth, keep, done };

  void dig_by_agent();
  void set_out();
  [[nodiscard]] Direction towards(Side side);
  void dig(Cell cell);
  void draw_row();
  void smooth_row();
  void keep_regions();
  [[nodiscard]] bool inside(Cell cell) const;

  Board board_;
  CaveOptions options_;
  Dice dice_;
  BitGrid open_;
  BitGrid before_;  // the round of smoothing before
  Stage stage_ = Stage::dig;
  std::int32_t row_ = 0;
  int round_ = 0;
  int agent_ = 0;
  int step_ = 0;
  Cell at_;
  std::optional<Side> heading_;
  std::size_t most_ = 0;                                  // cells dug
  std::array<std::array<std::int8_t, 6>, 2> sides_ = {};  // that edge directions lead to, by kind
  std::vector<Cell> dug_;
  std::vector<Cell> last_;
};

[[nodiscard]] Made make_cave(Board board, const CaveOptions& options);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
