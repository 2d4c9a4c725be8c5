/// @file
/// How mazes grow: each method goes on by one step at a time. All are written for a number of edges, so that loops over
/// neighbours are unrolled.
#pragma once

#include <utility>
#include <vector>

#include "../search/kernel/union_find.hpp"
#include "saunter/grid/dice.hpp"
#include "yard.hpp"

namespace saunter::inline v0_2::detail {

/// The directions from a cell to those that a test holds for, as bits.
template <unsigned edges, typename Test>
unsigned choices(const Yard& yard, Yard::Index at, unsigned kind, Test&& test) {
  unsigned found = 0;
  for (unsigned d = 0; d < edges; ++d) found |= static_cast<unsigned>(test(yard.next(at, kind, d))) << d;
  return found;
}

/// One direction of a set by lot, looked up: so many numbers are drawn from that every count of directions divides it.
template <unsigned edges>
class Lots {
 public:
  Lots() {
    for (unsigned set = 1; set < sets; ++set) {
      std::array<std::uint8_t, edges> members = {};
      unsigned count = 0;
      for (unsigned d = 0; d < edges; ++d) {
        if ((set >> d & 1U) != 0) members[count++] = static_cast<std::uint8_t>(d);
      }
      for (unsigned number = 0; number < numbers; ++number) directions_[set][number] = members[number % count];
    }
  }
  [[nodiscard]] unsigned draw(unsigned set, Dice& dice) const { return directions_[set][dice.pick(numbers)]; }

 private:
  static constexpr unsigned sets = 1U << edges;
  static constexpr unsigned numbers = edges == 3 ? 6 : edges == 4 ? 12 : 60;
  std::array<std::array<std::uint8_t, numbers>, sets> directions_ = {};
};

/// A cell of the maze by lot. @pre it has some
inline Yard::Index random_cell(const Yard& yard, Dice& dice) {
  std::size_t left = dice.below(yard.count());
  const Size size = yard.board().size;
  if (yard.count() == size.cell_count()) return yard.index(size.cell(CellIndex{static_cast<std::uint32_t>(left)}));
  for (const Cell cell : size.cells()) {
    if (yard.inside(yard.index(cell)) && left-- == 0) return yard.index(cell);
  }
  return 0;
}

/// A walk to free neighbours, one step back where there are none. The note of a cell is the way back.
template <unsigned edges>
class GrowDepthFirst {
 public:
  GrowDepthFirst(Yard& yard, Dice& dice) : at_(random_cell(yard, dice)), kind_(yard.kind(at_)) {
    yard.set_note(at_, at_root);
  }
  /// So many steps at once: what a step needs stays at hand.
  template <typename Joined>
  bool run(Yard& yard, Dice& dice, std::uint64_t& steps, Joined&& joined) {
    Yard::Spot* const spots = yard.spots();
    const Yard::Ways ways = yard.ways();
    Dice mine = dice;
    Yard::Index at = at_;
    unsigned kind = kind_;
    std::uint64_t left = steps;
    bool ended = false;
    for (; left > 0; --left) {
      unsigned free = 0;
      for (unsigned d = 0; d < edges; ++d) {
        free |= static_cast<unsigned>(spots[at + ways.delta[kind][d]].note == Yard::free) << d;
      }
      unsigned d = 0;
      if (free == 0) {
        ended = spots[at].note == at_root;
        if (ended) break;
        d = spots[at].note - 1U;
      } else {
        d = lots_.draw(free, mine);
        const unsigned back = ways.opposite[kind][d];
        Yard::Spot& next = spots[at + ways.delta[kind][d]];
        spots[at].open = static_cast<std::uint8_t>(spots[at].open | 1U << d);
        next = {static_cast<std::uint8_t>(1U << back), static_cast<std::uint8_t>(back + 1)};
      }
      at += ways.delta[kind][d];
      kind = edges == 4 ? 0U : ways.kind_after[kind][d];
      if (free != 0) joined(at);
    }
    dice = mine;
    at_ = at;
    kind_ = kind;
    steps = left;
    return ended;
  }

 private:
  static constexpr std::uint8_t at_root = 8;
  Lots<edges> lots_;
  Yard::Index at_;
  unsigned kind_;
};

/// From all of the maze's edge: a cell beside it by lot, joined to one of its neighbours in the maze.
template <unsigned edges>
class GrowPrim {
 public:
  GrowPrim(Yard& yard, Dice& dice) {
    const Yard::Index start = random_cell(yard, dice);
    yard.set_note(start, in_maze);
    add_rim(yard, start, yard.kind(start));
  }
  template <typename Joined>
  bool step(Yard& yard, Dice& dice, Joined&& joined) {
    if (rim_.empty()) return true;
    const std::size_t chosen = dice.pick(static_cast<std::uint32_t>(rim_.size()));
    const Yard::Index at = std::exchange(rim_[chosen], rim_.back());
    rim_.pop_back();
    const unsigned kind = yard.kind(at);
    const unsigned maze = choices<edges>(yard, at, kind, [&](Yard::Index next) { return yard.note(next) == in_maze; });
    yard.open(at, kind, lots_.draw(maze, dice));
    yard.set_note(at, in_maze);
    add_rim(yard, at, kind);
    joined(at);
    return false;
  }

 private:
  static constexpr std::uint8_t in_maze = 1;
  static constexpr std::uint8_t on_rim = 2;
  void add_rim(Yard& yard, Yard::Index at, unsigned kind) {
    for (unsigned d = 0; d < edges; ++d) {
      const Yard::Index next = yard.next(at, kind, d);
      if (yard.note(next) != Yard::free) continue;
      yard.set_note(next, on_rim);
      rim_.push_back(next);
    }
  }
  Lots<edges> lots_;
  std::vector<Yard::Index> rim_;
};

/// All sides in an order by lot; one is opened where it joins two parts.
template <unsigned edges>
class GrowKruskal {
 public:
  GrowKruskal(Yard& yard, Dice&) {
    for (const Cell cell : yard.board().size.cells()) {
      const Yard::Index at = yard.index(cell);
      if (!yard.inside(at)) continue;
      const unsigned kind = yard.kind(at);
      for (unsigned d = 0; d < edges; ++d) {
        const Yard::Index next = yard.next(at, kind, d);
        if (next > at && yard.inside(next)) sides_.push_back(at << 3U | d);
      }
      last_ = at;
    }
    parts_.begin(sides_.empty() ? 0 : std::size_t{last_} + 1);
    left_ = yard.count() - 1;
  }
  template <typename Joined>
  bool step(Yard& yard, Dice& dice, Joined&& joined) {
    if (left_ == 0) return true;
    const std::size_t chosen = done_ + dice.pick(static_cast<std::uint32_t>(sides_.size() - done_));
    const std::uint32_t side = std::exchange(sides_[chosen], sides_[done_]);
    ++done_;
    const Yard::Index at = side >> 3U;
    const unsigned kind = yard.kind(at);
    if (!parts_.join(at, yard.next(at, kind, side & 7U))) return false;
    yard.open(at, kind, side & 7U);
    joined(at);
    joined(yard.next(at, kind, side & 7U));
    return --left_ == 0;
  }

 private:
  std::vector<std::uint32_t> sides_;  // a cell's index and, in the lowest three bits, a direction
  UnionFind parts_;
  std::size_t done_ = 0;
  std::size_t left_ = 0;
  Yard::Index last_ = 0;
};

/// From each cell a walk at random until it meets the maze; the last way out of each cell it was in is then part of it.
/// Its first walks are long; but what all walks together cost does not depend on the order in which cells set out
/// (Propp and Wilson 1998), so nothing would be gained by another method for the first part.
template <unsigned edges>
class GrowWilson {
 public:
  GrowWilson(Yard& yard, Dice& dice) {
    yard.set_note(random_cell(yard, dice), in_maze);
    stop_ = yard.index({yard.board().size.cols - 1, yard.board().size.rows - 1}) + 1;
    set_out(yard);
  }
  template <typename Joined>
  bool step(Yard& yard, Dice& dice, Joined&& joined) {
    if (start_ == stop_) return true;
    const unsigned d = erasing_ ? yard.note(at_) - walked : random_exit(yard, dice);
    const Yard::Index next = yard.next(at_, kind_, d);
    if (erasing_) {
      yard.open(at_, kind_, d);
      yard.set_note(at_, in_maze);
      joined(at_);
    } else {
      yard.set_note(at_, walked + d);
    }
    at_ = next;
    kind_ = yard.kind_after(kind_, d);
    if (yard.note(at_) != in_maze) return false;
    if (erasing_) {
      set_out(yard);
    } else {
      erasing_ = true;
      at_ = start_;
      kind_ = yard.kind(at_);
    }
    return start_ == stop_;
  }

 private:
  static constexpr std::uint8_t in_maze = 1;
  static constexpr std::uint8_t walked = 16;  // and the direction it was left in last

  /// The next cell that is not in the maze yet, in reading order.
  void set_out(const Yard& yard) {
    erasing_ = false;
    while (start_ != stop_ && (!yard.inside(start_) || yard.note(start_) == in_maze)) ++start_;
    if (start_ == stop_) return;
    at_ = start_;
    kind_ = yard.kind(at_);
  }
  [[nodiscard]] unsigned random_exit(const Yard& yard, Dice& dice) const {
    for (;;) {
      const unsigned d = dice.pick(edges);
      if (yard.inside(yard.next(at_, kind_, d))) return d;
    }
  }

  Yard::Index start_ = 0;
  Yard::Index stop_ = 0;
  Yard::Index at_ = 0;
  unsigned kind_ = 0;
  bool erasing_ = false;
};

}  // namespace saunter::inline v0_2::detail
