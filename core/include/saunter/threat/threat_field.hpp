/// @file
/// How dangerous each cell is, and from which side.
///
/// Units: levels 0 to 65,535, ranges in edge steps.
/// Errors: threats that can't be placed give no_threat or false.
/// Cost: O(cells covered) a change, O(1) a question; 10 bytes a cell.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/change_set.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/sight/sight.hpp"
#include "saunter/threat/levels.hpp"
#include "saunter/threat/side.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Up to a part of the range it has this level.
struct ThreatBand {
  Hundredths fraction = 1_steps;  ///< part of the range, 0.01 .. 1.00
  std::uint16_t level = 1;        ///< as a list, bands make any curve
};

/// Something dangerous that stands in one place.
struct Threat {
  Cell at = {};
  Hundredths range = {};                  ///< straight, in edge steps (`7.5_steps`); 0 = its own cell
  std::vector<ThreatBand> levels = {{}};  ///< fractions strictly rising; beyond the last the level is 0
  bool needs_sight = false;               ///< only cells it sees
  std::optional<Facing> facing = {};      ///< where it looks; nothing = everywhere
  int arc = 360;                          ///< whole angle in degrees, 1 .. 360; only with `facing`
  Hundredths strength = 1_steps;          ///< levels times so much, rounded half up
};

/// What comes from where, for someone who faces a side.
struct ThreatAround {
  int ahead = 0;
  int behind = 0;
  int left = 0;  ///< the sum of the left flank's sides, at most 65535
  int right = 0;
};

/// Levels of danger of all cells, from any number of threats.
///
/// A cell's level is the sum over the threats, at most 65,535; each side's the sum over those that lie on that side, at
/// most 255. A threat on the cell itself counts once for the level and for every side. Opaque cells and those where
/// nothing can be have level 0.
///
/// Adding, moving or removing a threat touches only the cells it covers and gives what a field made anew would. When a
/// call throws, nothing has changed (`refresh`: some threats have looked again, others not; call it again).
/// Memory: 10 bytes a cell, and a bit for each cell of the block that a threat covers. Reading is `const` and answered
/// off the map: no level. What was moved from is empty.
class ThreatField {
 public:
  using ThreatId = std::uint32_t;
  static constexpr ThreatId no_threat = ~ThreatId{0};

  ThreatField() = default;
  /// @param nowhere  cells that never have a level, such as void; of another size than the board: none
  explicit ThreatField(Board board, BitGrid nowhere = {});

  /// @return its number, valid until it is removed; `no_threat` when it does not stand on the map, a fraction is not
  /// 0.01 to 1.00 or the arc not 1 to 360 degrees about a side. O(cells covered).
  /// @pre `sight` has the same board, here and below; else nothing is done
  ThreatId add(const SightGrid& sight, const Threat& threat);
  /// Another place, or other properties. False, and nothing is done, when there is no such threat (any more) or it
  /// can't be so. O(cells covered before and after).
  bool move(ThreatId id, const SightGrid& sight, Cell to);
  bool turn(ThreatId id, const SightGrid& sight, Facing facing);
  bool replace(ThreatId id, const SightGrid& sight, const Threat& threat);
  bool remove(ThreatId id);
  /// A cell becomes one that never has a level, or is none any more; to be followed by `refresh`.
  void set_nowhere(Cell cell, bool nowhere) { nowhere_.set(cell, nowhere); }
  /// After cells within some blocks became opaque or clear: looks again, once, for every threat whose range meets one.
  void refresh(const SightGrid& sight, const ChangeSet& changed);

  [[nodiscard]] Board board() const { return {tiling_, levels_.size()}; }
  [[nodiscard]] std::size_t threat_count() const { return alive_; }
  /// Whether a threat can be so: on the map, with fractions and an arc as `add` wants them.
  [[nodiscard]] static bool can_be(const Board& board, const Threat& threat);
  /// A block that holds every cell a threat can cover, whatever hides them.
  [[nodiscard]] Rect reach(const Threat& threat) const;
  /// Whether there is such a threat.
  [[nodiscard]] bool known(ThreatId id) const { return id < records_.size() && records_[id].alive; }
  /// One without levels when it is not known.
  [[nodiscard]] const Threat& threat(ThreatId id) const;
  /// What one threat adds to a cell; 0 where it does not reach, and when it is not known. O(1).
  [[nodiscard]] std::uint16_t level_from(ThreatId id, Cell cell) const;

  /// 0 .. 65,535. O(1).
  [[nodiscard]] std::uint16_t level(Cell cell) const { return levels_[cell]; }
  /// For searches that weigh danger.
  [[nodiscard]] const Levels& levels() const { return levels_; }
  /// The levels that some threats alone give; unknown ones give none. @param out  made anew. O(cells + cells covered)
  void levels_of(std::span<const ThreatId> ids, Levels& out) const;
  /// 0 .. 255; 0 for what is no side.
  [[nodiscard]] int side(Cell cell, Side side) const { return side >= 0 && side < 8 ? sides_[cell][side.index()] : 0; }
  /// The side most comes from, the first clockwise from north among equals; -1 where nothing does.
  [[nodiscard]] Side most_dangerous_side(Cell cell) const;
  /// A flank is what lies between ahead and behind: three sides, on hexes two. Nothing for what is no side.
  [[nodiscard]] ThreatAround around(Cell cell, Side facing) const;
  /// The largest level of all cells. O(cells).
  [[nodiscard]] std::uint16_t highest() const;
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  struct Record {
    Threat threat;
    std::vector<std::int64_t> farthest;    // of each band, as distance_squared
    std::vector<std::uint16_t> strengths;  // its level, times the threat's strength
    Rect box;                              // holds every cell it covers
    std::vector<std::uint64_t> covered;    // a bit for each cell of the box; every row begins a word
    bool alive = false;
  };

  /// What a threat covers; nothing when it can't be so.
  [[nodiscard]] bool look(const Threat& threat, const SightGrid& sight);
  void exchange(Record& record, Record& by);
  void put(const Record& record);
  void take_away(const Record& record);
  [[nodiscard]] static std::uint16_t level_of(const Record& record, std::int64_t distance_squared);
  [[nodiscard]] static bool covers(const Record& record, Cell cell);
  void sum_up(Cell cell);
  /// Calls f(cell, level, side) for all cells a threat covers; side -1 for its own cell.
  template <typename F>
  void for_each_covered(const Record& record, F&& f) const;

  Tiling tiling_;
  BitGrid nowhere_;
  Levels levels_;
  Grid<std::array<std::uint8_t, 8>> sides_;
  std::vector<Record> records_;
  std::size_t alive_ = 0;
  std::uint64_t revision_ = 0;
  Lookout lookout_;
  std::vector<Cell> seen_;
  Record looked_;  // what the last look saw; then whatever it took the place of
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
