/// @file
/// Least costs and ways on a prepared board as it was when it was prepared.
#pragma once

#include <optional>

#include "prepared_map.hpp"
#include "run_writer.hpp"
#include "saunter/search/prepared.hpp"

namespace saunter::inline v0_2::detail {

/// A goal of many questions.
struct PreparedGoal {
  Cell cell;
  GoalHalf half;
  [[nodiscard]] std::size_t memory() const { return half.memory(); }
};

/// One question after the other to prepared maps.
class PreparedWays {
 public:
  /// What the way of least cost from one open cell to another costs; more than max_cost: none, or too dear a one.
  std::uint64_t least(const PreparedMap& map, Cell from, Cell to);
  /// The start's half alone, for many goals; then one goal after the other.
  void begin_from(const PreparedMap& map, Cell from);
  std::uint64_t least_to(const PreparedMap& map, Cell to);

  /// What has nothing to do with the start is worked out beforehand; the way can't be asked for then.
  void prepare_goal(const PreparedMap& map, Cell to, PreparedGoal& out);
  std::uint64_t least_to(const PreparedMap& map, const PreparedGoal& goal);

  /// Begins to take the way found last apart. @pre it costs at most max_cost
  void begin_legs(const PreparedMap& map);
  /// The next straight part of it, from its start on; nothing when the goal is reached.
  std::optional<Leg> next_leg(const PreparedMap& map);
  /// The whole way, cell by cell.
  void write_cells(const PreparedMap& map, std::vector<Cell>& out);
  /// Places looked at for the question asked last.
  [[nodiscard]] std::uint64_t expanded() const { return made_ == Made::over_places ? query_.expanded() : 1; }
  [[nodiscard]] std::size_t memory() const;

 private:
  /// How the way found last is made up.
  enum class Made : std::uint8_t { of_nothing, directly, over_places };

  static void find_leads(const PreparedMap& map, Cell cell, bool from_cell, std::vector<Lead>& out);
  [[nodiscard]] std::uint64_t unscaled(const PreparedMap& map, std::uint64_t cost) const;
  /// Whether a straight way is the answer; it is then noted.
  bool straight_way(const PreparedMap& map, Cell to);
  /// The least to `to_` where no straight way leads there. @pre begin_from()
  std::uint64_t over_places(const PreparedMap& map);
  std::uint64_t beside_places(const PreparedMap& map, std::uint64_t least);
  void add_lead(const PreparedMap& map, Cell cell, std::uint32_t place, bool from_cell);
  /// Gets the runs of the next part into `runs_`. @return false at the end
  bool more_runs(const PreparedMap& map);

  IndexQuery query_;
  std::vector<Lead> leads_;
  RunWriter writer_;
  Cell from_;
  Cell to_;
  Made made_ = Made::of_nothing;
  unsigned leaving_ = 0;  // directly, along a passage
  // What is left of the way.
  std::vector<Stretch> stretches_;
  bool first_left_ = false;  // the parts before the first stretch and after the last
  bool last_left_ = false;
  std::vector<Straight> runs_;
  std::size_t next_run_ = 0;
  Cell at_;
};

}  // namespace saunter::inline v0_2::detail
