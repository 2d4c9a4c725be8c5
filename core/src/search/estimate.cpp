#include "saunter/search/estimate.hpp"

#include <algorithm>
#include <array>
#include <cstdlib>

namespace saunter::inline v0_2 {
namespace {

constexpr Length triangle_near_corner = 173;
constexpr Length triangle_far_corner = 200;

}  // namespace

Estimate::Estimate(const CostGrid& costs, Cell goal)
    : Estimate(costs.tiling(), costs.rules(), costs.lowest_entry(), goal) {}

Estimate::Estimate(Tiling tiling, const StepRules& rules, EntryCost cheapest, Cell goal)
    : tiling_(tiling), goal_(goal) {
  edge_ = cheapest;
  const int steps = rules.steps == 0 ? default_steps(tiling) : rules.steps;
  across_corners_ = steps > tiling_.edge_count();
  if (tiling_.shape() == Shape::square) {
    corner_ = std::min<std::uint64_t>(step_cost(rules.diagonal, cheapest), 2 * edge_);
  } else {
    corner_ = std::min<std::uint64_t>(step_cost(triangle_near_corner, cheapest), 2 * edge_);
    far_corner_ = std::min<std::uint64_t>(step_cost(triangle_far_corner, cheapest), 3 * edge_);
  }
}

std::uint64_t Estimate::operator()(Cell from) const {
  if (!across_corners_) return edge_ * static_cast<std::uint64_t>(tiling_.edge_distance(from, goal_));
  if (tiling_.shape() == Shape::triangle) return on_triangles(from);
  const auto cols = static_cast<std::uint64_t>(std::abs(std::int64_t{from.col} - goal_.col));
  const auto rows = static_cast<std::uint64_t>(std::abs(std::int64_t{from.row} - goal_.row));
  const std::uint64_t both = std::min(cols, rows);
  return corner_ * both + edge_ * (cols + rows - 2 * both);
}

/// Between triangles that point the same way the three strip differences add up to zero. A near corner step changes
/// two of them by one, against each other; a far corner step and an edge step together take one from each of two
/// strips and two from the third.
std::uint64_t Estimate::between_alike(std::int64_t a, std::int64_t b, std::int64_t c) const {
  std::array<std::uint64_t, 3> by = {static_cast<std::uint64_t>(std::abs(a)), static_cast<std::uint64_t>(std::abs(b)),
                                     static_cast<std::uint64_t>(std::abs(c))};
  std::sort(by.begin(), by.end());
  return by[0] * std::min(far_corner_ + edge_, 2 * corner_) + (by[1] - by[0]) * corner_;
}

std::uint64_t Estimate::on_triangles(Cell from) const {
  const auto a = tiling_.strips(from);
  const auto b = tiling_.strips(goal_);
  // With the second strip counted backwards, an edge step from an up triangle adds one to one strip, from a down one
  // takes one; a far corner step adds one to two strips and takes one from the third (or the other way round).
  std::array<std::int64_t, 3> d = {b[0] - a[0], a[1] - b[1], b[2] - a[2]};
  const std::int64_t sum = d[0] + d[1] + d[2];
  if (sum == 0) return between_alike(d[0], d[1], d[2]);
  std::uint64_t least = ~std::uint64_t{0};
  for (std::size_t strip = 0; strip < 3; ++strip) {
    std::array<std::int64_t, 3> by_edge = d;
    by_edge[strip] -= sum;
    std::array<std::int64_t, 3> by_corner = {d[0] - sum, d[1] - sum, d[2] - sum};
    by_corner[strip] += 2 * sum;
    least = std::min({least, edge_ + between_alike(by_edge[0], by_edge[1], by_edge[2]),
                      far_corner_ + between_alike(by_corner[0], by_corner[1], by_corner[2])});
  }
  return least;
}

}  // namespace saunter::inline v0_2
