#include "saunter/threat/schedule.hpp"

#include <algorithm>
#include <numeric>

namespace saunter::inline v0_2 {
namespace {

/// @pre the schedule is sound
const Post& held(const Schedule& schedule, std::uint64_t tick) {
  const std::vector<Post>& posts = schedule.posts;
  const std::uint64_t in_round = schedule.repeat == 0 ? tick : tick % schedule.repeat;
  const auto after = std::upper_bound(posts.begin(), posts.end(), in_round,
                                      [](std::uint64_t now, const Post& post) { return now < post.tick; });
  return *(after - 1);
}

}  // namespace

bool Schedule::sound() const {
  if (posts.empty() || posts.front().tick != 0) return false;
  const auto not_rising = [](const Post& a, const Post& b) { return a.tick >= b.tick; };
  if (std::adjacent_find(posts.begin(), posts.end(), not_rising) != posts.end()) return false;
  return repeat == 0 || repeat > posts.back().tick;
}

const Post& Schedule::at(std::uint64_t tick) const {
  static const Post nowhere;
  if (!sound()) return nowhere;
  return held(*this, tick);
}

Threat threat_at(const Threat& threat, const Schedule& schedule, std::uint64_t tick) {
  Threat now = threat;
  const Post& post = schedule.at(tick);
  now.at = post.at;
  now.facing = post.facing;
  return now;
}

Schedule sweep(Cell at, int first, int last, int by, std::uint32_t ticks) {
  constexpr int full = 360;
  Schedule swept{{{0, at, Facing::from_degrees(first)}}, 0};
  const int wide = ((last - first) % full + full) % full;
  if (by < 1 || by > full || ticks < 1 || wide == 0) return swept;
  std::uint32_t tick = 0;
  const auto look = [&](int turned) {
    tick += ticks;
    swept.posts.push_back({tick, at, Facing::from_degrees(first + turned)});
  };
  for (int turned = by; turned < wide; turned += by) look(turned);
  for (int turned = wide; turned > 0; turned -= by) look(turned);
  swept.repeat = tick + ticks;
  return swept;
}

void Clock::join(std::uint64_t from, std::uint64_t repeat) {
  if (repeat == 0) {
    settled = std::max(settled, from);
    return;
  }
  if (period == 0) return;
  period = period / std::gcd(period, repeat) * repeat;  // both at most 2^32: it fits
  if (period > most_period) period = 0;
}

TimedDanger::TimedDanger(Board board, BitGrid nowhere)
    : tiling_(board.tiling),
      nowhere_(std::move(nowhere)),
      ever_(board.size),
      first_near_(Size{(board.size.cols + block - 1) / block, (board.size.rows + block - 1) / block}) {}

bool TimedDanger::add(const SightGrid& sight, const Threat& threat) {
  return add(sight, threat, {{{0, threat.at, threat.facing}}, 0});
}

bool TimedDanger::add(const SightGrid& sight, const Threat& threat, const Schedule& schedule) {
  if (!schedule.sound()) return false;
  ThreatField looking(board(), nowhere_);
  Watch watch{schedule, {}};
  Rect box;  // holds all views
  ThreatField::ThreatId id = ThreatField::no_threat;
  for (const Post& post : schedule.posts) {
    const Threat posted = threat_at(threat, schedule, post.tick);
    if (id == ThreatField::no_threat) {
      id = looking.add(sight, posted);
      if (id == ThreatField::no_threat) return false;
    } else if (!looking.replace(id, sight, posted)) {
      return false;
    }
    View view{looking.reach(posted), {}};
    for (const Cell cell : view.box.cells()) view.levels.push_back(looking.level_from(id, cell));
    box = box.joined(view.box);
    watch.views.push_back(std::move(view));
  }
  const Rect blocks =
      box.empty() ? Rect{}
                  : Rect{box.left / block, box.top / block, (box.right - 1) / block + 1, (box.bottom - 1) / block + 1};
  near_.reserve(near_.size() + static_cast<std::size_t>(blocks.cell_count()));
  watches_.push_back(std::move(watch));  // from there on nothing can fail
  for (const Cell at : blocks.cells()) {
    near_.push_back({static_cast<std::uint32_t>(watches_.size() - 1), first_near_[at]});
    first_near_[at] = static_cast<std::uint32_t>(near_.size());
  }
  for (const View& view : watches_.back().views) {
    std::size_t place = 0;
    for (const Cell cell : view.box.cells()) {
      if (view.levels[place++] != 0) ever_.set(cell);
    }
  }
  clock_.join(schedule.posts.back().tick, schedule.posts.size() > 1 ? schedule.repeat : 0);
  return true;
}

const TimedDanger::View& TimedDanger::view(const Watch& watch, std::uint64_t tick) const {
  return watch.views[static_cast<std::size_t>(&held(watch.schedule, tick) - watch.schedule.posts.data())];
}

std::uint16_t TimedDanger::level(Cell cell, std::uint64_t tick) const {
  if (!ever_.test(cell)) return 0;
  std::uint32_t sum = 0;
  const Cell at{cell.col / block, cell.row / block};
  for (std::uint32_t link = std::as_const(first_near_)[at]; link != 0; link = near_[link - 1].next) {
    const Watch& watch = watches_[near_[link - 1].watch];
    const View& now = view(watch, tick);
    if (!now.box.contains(cell)) continue;
    const auto width = static_cast<std::size_t>(now.box.right - now.box.left);
    sum += now.levels[static_cast<std::size_t>(cell.row - now.box.top) * width +
                      static_cast<std::size_t>(cell.col - now.box.left)];
    sum = std::min<std::uint32_t>(sum, 65'535);
  }
  return static_cast<std::uint16_t>(sum);
}

std::uint16_t TimedDanger::level(std::span<const Cell> body, std::uint64_t tick) const {
  std::uint16_t most = 0;
  for (const Cell part : body) most = std::max(most, level(part, tick));
  return most;
}

void TimedDanger::levels(std::uint64_t tick, Levels& out) const {
  out = Levels(ever_.size());
  ever_.for_each_set([&](Cell cell) { out[cell] = level(cell, tick); });
}

}  // namespace saunter::inline v0_2
