/// @file
/// Following a path through the game's world.
///
/// Units: world units, seconds are the caller's.
/// Errors: a path of no points has arrived.
/// Cost: O(1) a frame, O(points) to begin.
/// Threads: one at a time; each thread its own.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/frame.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// World positions of cell centres. `out` is cleared first. O(cells)
void to_world(const Frame& frame, std::span<const Cell> cells, std::vector<Point>& out);

/// Length of the line through these positions, world units.
[[nodiscard]] double length_of(std::span<const Point> points);

/// Tells a unit where to head next. Holds a copy of the path; allocates only when given a longer one than before.
class Follower {
 public:
  Follower() = default;
  /// @param points         the path in world units: cells or way points
  /// @param arrive_within  a point counts as reached this near, world units; > 0
  Follower(std::span<const Point> points, double arrive_within) { begin(points, arrive_within); }
  void begin(std::span<const Point> points, double arrive_within);

  /// Takes the unit's position and returns the point to head for, or nothing when the last one has been reached. A
  /// point in between also counts as reached when the unit has passed it: when it is beyond the line through the point
  /// square to the leg that led there. Amortised O(1).
  [[nodiscard]] std::optional<Point> head_for(Point position);
  [[nodiscard]] bool arrived() const { return next_ == points_.size(); }
  /// Number of the point to head for; the number of points when arrived.
  [[nodiscard]] std::size_t next_number() const { return next_; }
  /// What is left from a position over the remaining points, world units.
  [[nodiscard]] double remaining(Point position) const;

 private:
  std::vector<Point> points_;
  double arrive_within_ = 0;
  std::size_t next_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
