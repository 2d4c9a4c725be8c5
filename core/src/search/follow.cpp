#include "saunter/search/follow.hpp"

namespace saunter::inline v0_2 {

void to_world(const Frame& frame, std::span<const Cell> cells, std::vector<Point>& out) {
  out.clear();
  for (const Cell cell : cells) out.push_back(frame.centre(cell));
}

double length_of(std::span<const Point> points) {
  double sum = 0;
  for (std::size_t i = 1; i < points.size(); ++i) sum += length(points[i] - points[i - 1]);
  return sum;
}

void Follower::begin(std::span<const Point> points, double arrive_within) {
  SAUNTER_EXPECT(arrive_within > 0);
  points_.assign(points.begin(), points.end());
  arrive_within_ = arrive_within;
  next_ = 0;
}

std::optional<Point> Follower::head_for(Point position) {
  while (next_ < points_.size()) {
    const Point point = points_[next_];
    const bool near = length(position - point) <= arrive_within_;
    const bool between = next_ > 0 && next_ + 1 < points_.size();
    const bool passed = between && dot(position - point, point - points_[next_ - 1]) >= 0;
    if (!near && !passed) return point;
    ++next_;
  }
  return std::nullopt;
}

double Follower::remaining(Point position) const {
  if (arrived()) return 0;
  return length(points_[next_] - position) + length_of(std::span(points_).subspan(next_));
}

}  // namespace saunter::inline v0_2
