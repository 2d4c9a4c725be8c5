/// @file
/// How dangerous each cell is, and from which side.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "saunter/sight/sight.hpp"
#include "saunter/threat/levels.hpp"
#include "saunter/threat/side.hpp"

namespace saunter {

/// Up to a part of the range it has this level.
struct ThreatBand {
  Length fraction = 100;    ///< hundredths of the range, 1 .. 100
  std::uint16_t level = 1;  ///< as a list, bands make any curve
};

/// Something dangerous that stands in one place.
struct ThreatSource {
  Cell at = {};
  Length range = 0;                       ///< hundredths of an edge step, straight; 0 = its own cell
  std::vector<ThreatBand> levels = {{}};  ///< fractions strictly rising; beyond the last the level is 0
  bool needs_sight = false;               ///< only cells it sees
  std::optional<Side> facing = {};        ///< where it looks; nothing = everywhere
  int arc = 360;                          ///< whole angle in degrees, 1 .. 360; only with `facing`
  Length strength = 100;                  ///< levels times so many hundredths, rounded half up
};

/// What comes from where, for someone who faces a side.
struct ThreatAround {
  int ahead = 0;
  int behind = 0;
  int left = 0;  ///< the strongest side of the left flank
  int right = 0;
};

/// Levels of danger of all cells, from any number of sources.
///
/// A cell's level is the sum over the sources, at most 65,535; each side's the sum over those that lie on that side, at
/// most 255. A source on the cell itself counts once for the level and for every side. Opaque cells and those where
/// nothing can be have level 0.
///
/// Adding, moving or removing a source touches only the cells it covers and gives what a field made anew would.
/// Memory: 10 bytes a cell, and a bit for each cell of the block that a source covers. Reading is `const`.
class ThreatField {
 public:
  using SourceId = std::uint32_t;

  ThreatField() = default;
  /// @param nowhere  cells that never have a level, such as void; same size as the board, or empty for none
  explicit ThreatField(Board board, BitGrid nowhere = {});

  /// @return its number, valid until it is removed. O(cells covered).
  /// @pre source.at is on the map; `sight` has the same board here and below
  SourceId add(const SightGrid& sight, ThreatSource source);
  /// Another place, or other properties. O(cells covered before and after).
  void move(SourceId id, const SightGrid& sight, Cell to);
  void replace(SourceId id, const SightGrid& sight, ThreatSource source);
  void remove(SourceId id);
  /// After cells within a block became opaque or clear: looks again for every source whose range meets the block.
  void refresh(const SightGrid& sight, Rect changed);

  [[nodiscard]] const Board& board() const { return board_; }
  [[nodiscard]] std::size_t source_count() const { return alive_; }
  [[nodiscard]] const ThreatSource& source(SourceId id) const { return records_[id].source; }
  /// What one source adds to a cell; 0 where it does not reach. O(1).
  [[nodiscard]] std::uint16_t level_from(SourceId id, Cell cell) const;

  /// 0 .. 65,535. O(1). @pre the cell is on the map, here and below
  [[nodiscard]] std::uint16_t level(Cell cell) const { return levels_[cell]; }
  /// For searches that weigh danger.
  [[nodiscard]] const Levels& levels() const { return levels_; }
  /// 0 .. 255. @pre 0 <= side < side_count
  [[nodiscard]] int side(Cell cell, Side side) const { return sides_[cell][static_cast<unsigned>(side)]; }
  /// The side most comes from, the first clockwise from north among equals; -1 where nothing does.
  [[nodiscard]] Side most_dangerous_side(Cell cell) const;
  /// A flank is what lies between ahead and behind: three sides, on hexes two.
  [[nodiscard]] ThreatAround around(Cell cell, Side facing) const;
  /// The largest level of all cells. O(cells).
  [[nodiscard]] std::uint16_t highest() const;
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  struct Record {
    ThreatSource source;
    std::vector<std::int64_t> farthest;    // of each band, as distance_squared
    std::vector<std::uint16_t> strengths;  // its level, times the source's strength
    Rect box;                              // holds every cell it covers
    std::vector<std::uint64_t> covered;    // a bit for each cell of the box; every row begins a word
    bool alive = false;
  };

  void look(Record& record, const SightGrid& sight);
  void lift(Record& record);
  void set_down(Record& record, const SightGrid& sight);
  void put(const Record& record);
  void take_away(const Record& record);
  [[nodiscard]] static std::uint16_t level_of(const Record& record, std::int64_t distance_squared);
  [[nodiscard]] static bool covers(const Record& record, Cell cell);
  [[nodiscard]] Rect reach(const ThreatSource& source) const;
  void sum_up(Cell cell);
  /// Calls f(cell, level, side) for all cells a source covers; side -1 for its own cell.
  template <typename F>
  void for_each_covered(const Record& record, F&& f) const;

  Board board_;
  BitGrid nowhere_;
  Levels levels_;
  Grid<std::array<std::uint8_t, 8>> sides_;
  std::vector<Record> records_;
  std::size_t alive_ = 0;
  std::uint64_t revision_ = 0;
  Lookout lookout_;
  std::vector<Cell> seen_;
};

}  // namespace saunter
