/// @file
/// What a unit covers: a set of cells relative to its anchor.
///
/// Units: cells relative to an anchor; turns in quarters or sixths.
/// Errors: a footprint has at least one cell; turns wrap round.
/// Cost: O(cells), allocates its list.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/area.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The cells a placed unit covers, relative to its anchor.
///
/// Squares: offsets are columns and rows; a turn takes (c, r) to (-r, c). Hexes: offsets are kept on the axes q and r
/// (the same unit looks alike wherever it stands); a turn takes (q, r) to (-r, q + r). Triangles: offsets are columns
/// and rows, the anchor must point the way it does in the drawing (up, its top left), and there are no turns.
class Footprint {
 public:
  /// One cell, the anchor, drawn.
  Footprint() : parts_{{0, 0}} {}
  /// From offsets: columns and rows on squares and triangles, q and r on hexes. Kept in the order given, each once.
  explicit Footprint(std::vector<Offset> parts);
  /// The cells a mover of a size covers (see body_cells). It is not drawn: on triangles it fits either way up.
  [[nodiscard]] static Footprint of_size(Tiling tiling, int size);

  [[nodiscard]] const std::vector<Offset>& parts() const { return parts_; }
  [[nodiscard]] std::size_t cell_count() const { return parts_.size(); }
  /// Whether a triangle's orientation does not matter to it.
  [[nodiscard]] bool either_way_up() const { return either_way_up_; }

  /// Turned clockwise on the screen about the anchor: quarters on squares, sixths on hexes.
  /// @pre turns == 0 on triangles, where nothing is turned
  [[nodiscard]] Footprint turned(Tiling tiling, int turns) const;
  /// Left and right exchanged, as seen on the screen: columns change their sign; on hexes the anchor's column of
  /// centres is the mirror.
  [[nodiscard]] Footprint mirrored(Tiling tiling) const;
  /// The covered cells when the anchor stands on a cell; they may lie off the map. Appends nothing else to `out`,
  /// which is cleared first. O(cells); allocates only when `out` must grow.
  void cells_at(Tiling tiling, Cell anchor, std::vector<Cell>& out) const;

 private:
  std::vector<Offset> parts_;
  bool either_way_up_ = false;
};

/// How a unit stands: mirrored first, then turned, then put with its anchor on a cell.
struct Pose {
  Cell at = {};
  int turn = 0;  ///< 0 .. full_turn - 1; what is beyond counts round again
  bool mirrored = false;
  friend bool operator==(const Pose&, const Pose&) = default;
};

/// The cells a footprint covers in a pose; they may lie off the map. `out` is cleared first. O(cells x turns)
void cells_in_pose(Tiling tiling, const Footprint& footprint, const Pose& pose, std::vector<Cell>& out);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
