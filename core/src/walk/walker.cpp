#include "saunter/walk/walker.hpp"

#include <algorithm>
#include <tuple>

#include "paged_plane.hpp"
#include "steering.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

std::string_view walker_name(WalkerKind kind) {
  switch (kind) {
    case WalkerKind::wander: return "wander";
    case WalkerKind::turn_right: return "turn-right";
    case WalkerKind::turn_left: return "turn-left";
    case WalkerKind::turn_to_goal: return "turn-to-goal";
    case WalkerKind::right_hand: return "right-hand";
    case WalkerKind::left_hand: return "left-hand";
    case WalkerKind::explore: return "explore";
    case WalkerKind::own: return "own";
  }
  return "";
}

/// What walkers remember of cells. An explorer's byte: the way back to where a cell was tried from (7 where it began),
/// whether it has been tried, whether it began there.
struct Walker::Memory {
  static constexpr std::uint8_t way_back = 7;
  static constexpr std::uint8_t tried = 8;
  static constexpr std::uint8_t began = 16;

  PagedPlane<std::uint8_t> cells;
  PagedPlane<std::uint32_t> entries;  // turn_to_goal: how often each cell was entered
  Stamp ground;                       // as it was when an explorer last began
};

Walker::Walker(Board board, Cell cell, const WalkerOptions& options)
    : tiling_(board.tiling), cell_(cell), goal_(options.goal), kind_(options.kind), dice_(options.seed) {
  SAUNTER_EXPECT(options.goal || !needs_goal(options.kind));
  if (!needs_goal(kind_)) return;
  if (!goal_) goal_ = cell;
  memory_ = std::make_unique<Memory>();
  if (kind_ == WalkerKind::explore) {
    memory_->cells.begin(board.size);
    memory_->cells[cell] = Memory::way_back | Memory::tried | Memory::began;
  } else {
    memory_->entries.begin(board.size);
    memory_->entries[cell] = 1;
  }
}
Walker::~Walker() = default;
Walker::Walker(Walker&&) noexcept = default;
Walker& Walker::operator=(Walker&&) noexcept = default;

std::size_t Walker::memory() const {
  return memory_ == nullptr ? 0 : sizeof(Memory) + memory_->cells.bytes() + memory_->entries.bytes();
}

/// The exit that goes straight on. Before the first step: the first legal one. @pre some exit is legal
int Walker::straight(const Surroundings& here) const {
  const int edges = tiling_.edge_count();
  if (back_ < 0) return std::countr_zero(here.legal);
  if (tiling_.shape() != Shape::triangle) return (back_ + edges / 2) % edges;
  return (back_ + (last_turn_ == Turn::right ? 1 : edges - 1)) % edges;
}

std::optional<Direction> Walker::heading() const {
  if (back_ < 0) return std::nullopt;
  return Direction(straight({}));
}

unsigned Walker::stance() const {
  const auto back = static_cast<unsigned>(back_);
  return tiling_.shape() == Shape::triangle && last_turn_ == Turn::right ? back + 3 : back;
}

void Walker::stand(Cell cell, unsigned stance) {
  const bool turned_right = tiling_.shape() == Shape::triangle && stance >= 3;
  cell_ = cell;
  back_ = static_cast<std::int8_t>(turned_right ? stance - 3 : stance);
  last_turn_ = turned_right ? Turn::right : Turn::left;
}

std::optional<unsigned> Walker::state(const Surroundings& here) const {
  if (!goes_by_heading(kind_) || here.legal == 0) return std::nullopt;
  if (tiling_.shape() != Shape::triangle) return static_cast<unsigned>(straight(here));
  if (back_ < 0) return 6;
  const bool turns = kind_ == WalkerKind::turn_right || kind_ == WalkerKind::turn_left;
  return static_cast<unsigned>(back_) + (turns && last_turn_ == Turn::right ? 3U : 0U);
}

Direction Walker::by_hand(const Surroundings& here, bool right) const {
  const int edges = tiling_.edge_count();
  const int back = back_ >= 0 ? back_ : back_of_heading(edges, straight(here), right);
  return Direction(exit_by_hand(here.legal, edges, back, right));
}

Direction Walker::by_turning(const Surroundings& here, bool right) const {
  return Direction(exit_by_turning(here.legal, tiling_.edge_count(), straight(here), right));
}

/// How far an exit turns, a clockwise turn before one as far the other way.
int Walker::turn_of(int direction) const {
  if (back_ < 0) return direction;  // in fixed order
  const int edges = tiling_.edge_count();
  if (tiling_.shape() == Shape::triangle) {
    const int round = (back_ - direction + edges) % edges;  // 0 back, 1 right, 2 left
    return round == 0 ? 3 : round;
  }
  const int round = (direction - back_ - edges / 2 + 2 * edges) % edges;
  return round <= edges / 2 ? 2 * round : 2 * (edges - round) + 1;
}

Direction Walker::toward_goal(const Surroundings& here) const {
  if (back_ >= 0) {
    const int on = straight(here);
    if ((here.legal >> on & 1U) != 0) return Direction(on);
  }
  Direction best{-1};
  std::tuple<std::int64_t, std::uint32_t, int> least;
  for (const Direction d : directions(here.legal)) {
    const Cell next = tiling_.neighbour(cell_, d);
    const std::uint32_t entries = back_ < 0 ? 0 : memory_->entries.at(next);
    const std::tuple rank(tiling_.edge_distance(next, *goal_), entries, turn_of(d));
    if (best >= 0 && least <= rank) continue;
    best = d;
    least = rank;
  }
  return best;
}

std::optional<Direction> Walker::untried(const Surroundings& here) const {
  std::optional<Direction> best;
  std::int64_t least = 0;
  for (const Direction d : directions(here.legal)) {
    const Cell next = tiling_.neighbour(cell_, d);
    if ((memory_->cells.at(next) & Memory::tried) != 0) continue;
    const std::int64_t heuristic = tiling_.edge_distance(next, *goal_);
    if (best && least <= heuristic) continue;
    best = d;
    least = heuristic;
  }
  return best;
}

Walker::Intent Walker::exploring(const Surroundings& here) const {
  if (const std::optional<Direction> next = untried(here)) return {.direction = *next};
  const unsigned back = memory_->cells.at(cell_) & Memory::way_back;
  if (back != Memory::way_back && (here.legal >> back & 1U) != 0) return {.direction = Direction(back)};
  // Anew: every neighbour is untried then.
  Direction best{-1};
  for (const Direction d : directions(here.legal)) {
    const auto heuristic = [&](Direction to) { return tiling_.edge_distance(tiling_.neighbour(cell_, to), *goal_); };
    if (best < 0 || heuristic(d) < heuristic(best)) best = d;
  }
  return {.direction = best, .starts_anew = true};
}

bool Walker::exhausted(const Surroundings& here, const Stamp& ground) const {
  if (kind_ != WalkerKind::explore || back_ < 0 || !memory_->ground.same(ground)) return false;
  if ((memory_->cells.at(cell_) & Memory::began) == 0 || untried(here)) return false;
  const unsigned back = memory_->cells.at(cell_) & Memory::way_back;
  return back == Memory::way_back || (here.legal >> back & 1U) == 0;
}

void Walker::note_ground(const Stamp& ground) {
  if (kind_ != WalkerKind::explore || memory_->ground.same(ground)) return;
  const bool first = back_ < 0 && restarts_ == 0;  // where it began just now counts
  if (!first) memory_->cells.for_all([](std::uint8_t& cell) { cell &= static_cast<std::uint8_t>(~Memory::began); });
  memory_->ground = ground;
}

std::optional<Walker::Intent> Walker::intend(const Surroundings& here) const {
  if (here.legal == 0) return std::nullopt;
  switch (kind_) {
    case WalkerKind::turn_right: return Intent{.direction = by_turning(here, true)};
    case WalkerKind::turn_left: return Intent{.direction = by_turning(here, false)};
    case WalkerKind::turn_to_goal: return Intent{.direction = toward_goal(here)};
    case WalkerKind::right_hand: return Intent{.direction = by_hand(here, true)};
    case WalkerKind::left_hand: return Intent{.direction = by_hand(here, false)};
    case WalkerKind::explore: return exploring(here);
    case WalkerKind::own: return std::nullopt;
    case WalkerKind::wander: break;
  }
  unsigned among = here.legal;
  if (back_ >= 0 && among != 1U << static_cast<unsigned>(back_)) among &= ~(1U << static_cast<unsigned>(back_));
  Intent intent{.dice = dice_};
  for (std::uint32_t left = intent.dice.pick(static_cast<std::uint32_t>(std::popcount(among))); left > 0; --left) {
    among &= among - 1;
  }
  intent.direction = Direction(std::countr_zero(among));
  return intent;
}

void Walker::follow(const Intent& intent) {
  const int direction = intent.direction;
  SAUNTER_EXPECT(direction >= 0 && direction < tiling_.edge_count());
  if (direction < 0 || direction >= tiling_.edge_count()) return;
  const auto kind = static_cast<unsigned>(tiling_.kind(cell_));
  const std::uint8_t back = tiling_.neighbourhood().opposite[kind][intent.direction.index()];
  const Cell next = tiling_.neighbour(cell_, intent.direction);
  // Memory is asked for first: what fails then has changed nothing.
  if (kind_ == WalkerKind::turn_to_goal) ++memory_->entries[next];
  if (kind_ == WalkerKind::explore) remember(intent, next, back);
  if (kind_ == WalkerKind::wander) dice_ = intent.dice;
  if (direction != back_) last_turn_ = back_ >= 0 && (back_ - direction + 3) % 3 == 1 ? Turn::right : Turn::left;
  if (back_ < 0) last_turn_ = Turn::none;
  cell_ = next;
  back_ = static_cast<std::int8_t>(back);
}

/// What an explorer knows once it has stepped to a cell.
void Walker::remember(const Intent& intent, Cell next, std::uint8_t back) {
  std::uint8_t& known = memory_->cells[next];
  if (intent.starts_anew) {
    memory_->cells.for_all([](std::uint8_t& cell) { cell &= Memory::began; });
    memory_->cells[cell_] = Memory::way_back | Memory::tried | Memory::began;
    ++restarts_;
  }
  if ((known & Memory::tried) == 0) {
    known = static_cast<std::uint8_t>((known & Memory::began) | Memory::tried | back);
  }
}

std::optional<Cell> Walker::step(const CostGrid& costs) {
  note_ground(costs.stamp());
  const std::optional<Intent> intent = intend(costs);
  if (!intent) return std::nullopt;
  follow(*intent);
  return cell_;
}

}  // namespace saunter::inline v0_2
