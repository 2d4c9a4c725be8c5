#include "saunter/search/follow.hpp"

namespace saunter {

void to_world(const Frame& frame, std::span<const Cell> cells, std::vector<Eigen::Vector2d>& out) {
  out.clear();
  for (const Cell cell : cells) out.push_back(frame.centre(cell));
}

double length_of(std::span<const Eigen::Vector2d> points) {
  double sum = 0;
  for (std::size_t i = 1; i < points.size(); ++i) sum += (points[i] - points[i - 1]).norm();
  return sum;
}

void Follower::begin(std::span<const Eigen::Vector2d> points, double arrive_within) {
  SAUNTER_EXPECT(arrive_within > 0);
  points_.assign(points.begin(), points.end());
  arrive_within_ = arrive_within;
  next_ = 0;
}

std::optional<Eigen::Vector2d> Follower::head_for(const Eigen::Vector2d& position) {
  while (next_ < points_.size()) {
    const Eigen::Vector2d& point = points_[next_];
    const bool near = (position - point).norm() <= arrive_within_;
    const bool between = next_ > 0 && next_ + 1 < points_.size();
    const bool passed = between && (position - point).dot(point - points_[next_ - 1]) >= 0;
    if (!near && !passed) return point;
    ++next_;
  }
  return std::nullopt;
}

double Follower::remaining(const Eigen::Vector2d& position) const {
  if (arrived()) return 0;
  return (points_[next_] - position).norm() + length_of(std::span(points_).subspan(next_));
}

}  // namespace saunter
