/// @file
/// Walkers as the law words them, by angles of cell centres: slow, obvious, and without the library's arithmetic of exits.
#pragma once

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>
#include <tuple>
#include <vector>

#include "saunter/grid/frame.hpp"
#include "saunter/walk.hpp"

namespace saunter::test {

class SlowWalker {
 public:
  SlowWalker(WalkerKind kind, Cell from, std::optional<Cell> goal, std::uint64_t most_steps)
      : kind_(kind), goal_(goal), most_steps_(most_steps), cell_(from), way_{from}, began_{from}, tried_{from} {
    counts_[from] = 1;
  }

  WalkEnd end = WalkEnd::none;
  std::uint64_t steps = 0;
  std::uint64_t restarts = 0;
  [[nodiscard]] Cell cell() const { return cell_; }
  [[nodiscard]] std::size_t visited() const { return counts_.size(); }

  /// One tick. @param changed  whether the ground has since the last one. @return whether it stepped
  bool tick(const CostGrid& costs, bool changed) {
    if (changed) {
      met_.clear();
      began_.clear();
    }
    const std::vector<Exit> exits = this->exits(costs);
    if (goal_ && *goal_ == cell_) {
      end = WalkEnd::arrived;
    } else if (loops(costs, exits)) {
      end = WalkEnd::loop;
    } else if (exits.empty()) {
      end = WalkEnd::stuck;
    } else if (steps == most_steps_) {
      end = WalkEnd::steps;
    }
    if (end != WalkEnd::none) return false;
    go(kind_ == WalkerKind::explore ? explored(costs, exits) : turned(costs, exits));
    return true;
  }

 private:
  /// A neighbour across an edge, and at which angle it lies, in degrees clockwise from north.
  struct Exit {
    int angle = 0;
    Cell cell;
  };
  static int turn(int from, int to) { return ((to - from) % 360 + 360) % 360; }
  static int angle_to(Tiling tiling, Cell from, Cell to) {
    const Frame frame(tiling);
    const Point way = frame.centre(to) - frame.centre(from);
    return turn(0, static_cast<int>(std::lround(std::atan2(way.x, -way.y) * 180 / std::numbers::pi)));
  }
  /// All edge neighbours, or those a step leads to, by angle.
  [[nodiscard]] std::vector<Exit> exits(const CostGrid& costs, bool all = false) const {
    std::vector<Exit> exits;
    for (Direction d{0}; d < costs.tiling().edge_count(); ++d) {
      const Cell next = costs.tiling().neighbour(cell_, d);
      if (all || holds(costs.moves(cell_), d)) exits.push_back({angle_to(costs.tiling(), cell_, next), next});
    }
    std::sort(exits.begin(), exits.end(), [](const Exit& a, const Exit& b) { return a.angle < b.angle; });
    return exits;
  }
  [[nodiscard]] std::int64_t heuristic(const CostGrid& costs, Cell cell) const {
    return costs.tiling().edge_distance(cell, *goal_);
  }

  bool loops(const CostGrid& costs, const std::vector<Exit>& exits) {
    if (kind_ == WalkerKind::explore) {
      if (steps == 0 || began_.count(cell_) == 0) return false;
      for (const Exit& exit : exits) {
        if (tried_.count(exit.cell) == 0) return false;
      }
      return way_.size() == 1 || !leads_to(exits, way_[way_.size() - 2]);
    }
    if (kind_ == WalkerKind::turn_to_goal || kind_ == WalkerKind::wander || exits.empty()) return false;
    const bool turns = kind_ == WalkerKind::turn_right || kind_ == WalkerKind::turn_left;
    const bool triangle = costs.tiling().shape() == Shape::triangle;
    const int heading = heading_ ? *heading_ : exits.front().angle;
    const bool begins = triangle && !heading_;
    return !met_.insert({cell_, heading, triangle && turns && bent_right_, begins}).second;
  }
  static bool leads_to(const std::vector<Exit>& exits, Cell cell) {
    return std::any_of(exits.begin(), exits.end(), [&](const Exit& exit) { return exit.cell == cell; });
  }

  /// The exit of least rank.
  template <typename Rank>
  static Exit least(const std::vector<Exit>& exits, Rank&& rank) {
    return *std::min_element(exits.begin(), exits.end(),
                             [&](const Exit& a, const Exit& b) { return rank(a) < rank(b); });
  }

  Exit turned(const CostGrid& costs, const std::vector<Exit>& exits) const {
    const bool first = !heading_.has_value();
    const bool to_goal = kind_ == WalkerKind::turn_to_goal;
    if (first && to_goal) return least(exits, [&](const Exit& exit) { return heuristic(costs, exit.cell); });
    const int heading = first ? exits.front().angle : *heading_;
    if (kind_ == WalkerKind::right_hand || kind_ == WalkerKind::left_hand) {
      const int back = heading + 180;
      return least(exits, [&](const Exit& exit) {
        const int round = kind_ == WalkerKind::right_hand ? turn(exit.angle, back) : turn(back, exit.angle);
        return round == 0 ? 360 : round;
      });
    }
    const bool triangle = costs.tiling().shape() == Shape::triangle;
    const int straight = !triangle || first ? heading : turn(0, bent_right_ ? heading - 60 : heading + 60);
    if (to_goal) {
      for (const Exit& exit : exits) {
        if (exit.angle == straight) return exit;
      }
      return least(exits, [&](const Exit& exit) {
        const int right = turn(heading, exit.angle);
        const auto walked = counts_.find(exit.cell);
        return std::tuple(heuristic(costs, exit.cell), walked == counts_.end() ? 0 : walked->second,
                          std::min(right, 360 - right), right > 180);
      });
    }
    return least(exits, [&](const Exit& exit) {
      return kind_ == WalkerKind::turn_right ? turn(straight, exit.angle) : turn(exit.angle, straight);
    });
  }

  Exit explored(const CostGrid& costs, const std::vector<Exit>& exits) {
    std::vector<Exit> untried;
    for (const Exit& exit : exits) {
      if (tried_.count(exit.cell) == 0) untried.push_back(exit);
    }
    const auto by_heuristic = [&](const Exit& exit) { return heuristic(costs, exit.cell); };
    if (untried.empty() && way_.size() > 1) {
      const Cell before = way_[way_.size() - 2];
      for (const Exit& exit : exits) {
        if (exit.cell != before) continue;
        way_.pop_back();
        return exit;
      }
    }
    if (untried.empty()) {
      ++restarts;
      tried_ = {cell_};
      way_ = {cell_};
      began_.insert(cell_);
      untried = exits;
    }
    const Exit next = least(untried, by_heuristic);
    tried_.insert(next.cell);
    way_.push_back(next.cell);
    return next;
  }

  void go(const Exit& exit) {
    if (heading_ && turn(*heading_, exit.angle) != 180) bent_right_ = turn(*heading_, exit.angle) < 180;
    heading_ = exit.angle;
    cell_ = exit.cell;
    ++counts_[cell_];
    ++steps;
  }

  WalkerKind kind_;
  std::optional<Cell> goal_;
  std::uint64_t most_steps_;
  Cell cell_;
  std::optional<int> heading_;
  bool bent_right_ = false;
  std::map<Cell, int> counts_;
  std::vector<Cell> way_;   // explore: from where it began to here
  std::set<Cell> began_;    // with nothing changed since
  std::set<Cell> tried_;
  std::set<std::tuple<Cell, int, bool, bool>> met_;
};

}  // namespace saunter::test
