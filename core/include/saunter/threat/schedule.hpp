/// @file
/// Threats that move and turn while time goes on.
///
/// Units: ticks from 0, degrees clockwise from north, levels 0 to 65,535.
/// Errors: schedules that are not sound are refused: false.
/// Cost: O(cells) to add a threat, O(threats near) a question; 2 bytes a cell of each post's block.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Where a threat stands and looks from a tick on.
struct Post {
  std::uint32_t tick = 0;
  Cell at = {};
  std::optional<Facing> facing = {};  ///< nothing: everywhere
  friend bool operator==(const Post&, const Post&) = default;
};

/// The posts of a threat, each held until the next begins.
struct Schedule {
  std::vector<Post> posts = {};  ///< ticks strictly rising from 0
  std::uint32_t repeat = 0;  ///< starts over every so many ticks, more than the last post's; 0 = the last post stays

  /// Whether it is as it should be.
  [[nodiscard]] bool sound() const;
  /// The post held at a tick. O(posts). @pre sound(), else one at tick 0 that holds nothing
  [[nodiscard]] const Post& at(std::uint64_t tick) const;
  friend bool operator==(const Schedule&, const Schedule&) = default;
};

/// A threat as it is at a tick: at its post's place, looking its way.
[[nodiscard]] Threat threat_at(const Threat& threat, const Schedule& schedule, std::uint64_t tick);

/// A threat that stays in its place and looks from one facing round to another and back: clockwise from `first` to
/// `last`, `by` degrees every `ticks` ticks, the last turn of each way perhaps shorter.
/// @pre 1 <= by <= 360 and ticks >= 1, else it looks at `first` for good. Degrees count round
[[nodiscard]] Schedule sweep(Cell at, int first, int last, int by, std::uint32_t ticks = 1);

/// When something that repeats is again as it was.
struct Clock {
  std::uint64_t settled = 0;  ///< from this tick on everything repeats
  std::uint64_t period = 1;   ///< ticks after which it does; 0 = more than `most_period`
  static constexpr std::uint64_t most_period = 1U << 20U;

  /// Ticks of one number are alike for ever after.
  [[nodiscard]] std::uint64_t phase(std::uint64_t tick) const {
    return tick < settled || period == 0 ? tick : settled + (tick - settled) % period;
  }
  /// Takes in something else that is as it stays from `from` on, or repeats every `repeat` ticks (0 = it does not).
  void join(std::uint64_t from, std::uint64_t repeat);
};

/// The danger of each cell at each tick, from threats with schedules. Levels are those of a `ThreatField` in which
/// every threat stands at its post of that tick.
class TimedDanger {
 public:
  TimedDanger() = default;
  /// @param nowhere  cells that never have a level; of another size than the board: none
  explicit TimedDanger(Board board, BitGrid nowhere = {});

  /// Adds a threat. @return false, and nothing is added, when a post of it can't be so (see ThreatField::add) or the
  /// schedule is not sound. @cost O(cells of the board + cells covered from all posts); a threat field of the board is
  /// made for a while
  bool add(const SightGrid& sight, const Threat& threat, const Schedule& schedule);
  /// One that stays as it is.
  bool add(const SightGrid& sight, const Threat& threat);

  [[nodiscard]] Board board() const { return {tiling_, ever_.size()}; }
  [[nodiscard]] std::size_t threat_count() const { return watches_.size(); }
  /// 0 off the map. O(1) where no threat ever reaches, else O(threats x log posts).
  [[nodiscard]] std::uint16_t level(Cell cell, std::uint64_t tick) const;
  /// The largest level of some cells, such as those a large mover covers. The same for each.
  [[nodiscard]] std::uint16_t level(std::span<const Cell> body, std::uint64_t tick) const;
  /// All cells at a tick. @param out  made anew. O(cells + cells covered)
  void levels(std::uint64_t tick, Levels& out) const;
  [[nodiscard]] const Clock& clock() const { return clock_; }

 private:
  /// What a threat does from one post.
  struct View {
    Rect box;
    std::vector<std::uint16_t> levels;  // of the block's cells, row by row
  };
  struct Watch {
    Schedule schedule;
    std::vector<View> views;
  };
  /// A threat that some block of cells lies near.
  struct Near {
    std::uint32_t watch = 0;
    std::uint32_t next = 0;  // link, from 1
  };
  [[nodiscard]] const View& view(const Watch& watch, std::uint64_t tick) const;

  Tiling tiling_;
  BitGrid nowhere_;
  BitGrid ever_;  // cells that some threat reaches from some post
  std::vector<Watch> watches_;
  static constexpr std::int32_t block = 32;  // cells of a side
  Grid<std::uint32_t> first_near_;           // by block: the first link, from 1; 0 = no threat comes near
  std::vector<Near> near_;
  Clock clock_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
