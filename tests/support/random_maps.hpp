/// @file
/// Random boards, maps and movers. Everything follows from the seed, which tests print.
#pragma once

#include <cstdint>
#include <vector>

#include "saunter/grid/dice.hpp"
#include "saunter/ground/bake.hpp"

namespace saunter::test {

/// The library's own stream of numbers, with what tests want of it (the standard's distributions differ by machine).
class Random {
 public:
  explicit Random(std::uint64_t seed) : dice_(seed) {}
  std::uint64_t next() { return dice_.next(); }
  /// A whole number from low to high, both included.
  int whole(int low, int high) {
    return low + static_cast<int>(next() % (static_cast<std::uint64_t>(high) - static_cast<std::uint64_t>(low) + 1));
  }
  /// The same of hundredths. @pre low >= 0
  Hundredths hundredths(int low, int high) { return Hundredths(static_cast<std::uint32_t>(whole(low, high))); }
  bool chance(int percent) { return whole(1, 100) <= percent; }
  /// A number from 0 to 1, without 1.
  double share() { return static_cast<double>(next() >> 11U) * 0x1.0p-53; }
  template <typename T>
  const T& one_of(const std::vector<T>& list) {
    return list[static_cast<std::size_t>(whole(0, static_cast<int>(list.size()) - 1))];
  }
  Cell cell(Size size) { return {whole(0, size.cols - 1), whole(0, size.rows - 1)}; }

 private:
  Dice dice_;
};

inline const std::vector<Tiling>& all_tilings() {
  static const std::vector<Tiling> tilings = {
      Tiling::square(),
      Tiling::hex(HexTop::pointy, Shift::odd),
      Tiling::hex(HexTop::pointy, Shift::even),
      Tiling::hex(HexTop::flat, Shift::odd),
      Tiling::hex(HexTop::flat, Shift::even),
      Tiling::triangle(FirstTriangle::up),
      Tiling::triangle(FirstTriangle::down),
  };
  return tilings;
}

/// A size whose sides are mostly small and sometimes `most` long.
inline Size random_size(Random& random, int most) {
  const auto side = [&] { return random.chance(70) ? random.whole(1, most / 3 + 1) : random.whole(1, most); };
  return {side(), side()};
}

inline StepRules random_rules(Random& random, Tiling tiling) {
  StepRules rules;
  if (tiling.shape() == Shape::square) rules.steps = random.chance(70) ? 8 : 4;
  if (tiling.shape() == Shape::triangle) rules.steps = random.chance(70) ? 12 : 3;
  rules.corners = static_cast<Corners>(random.whole(0, 2));
  if (random.chance(20))
    rules.diagonal = static_cast<Length>(random.chance(50) ? random.whole(100, 300) : random.whole(100, 65535));
  return rules;
}

/// A map with up to six kinds of terrain, some of them blocked or void; costs over the whole range or close together.
inline Map random_map(Random& random, Tiling tiling, Size size) {
  std::vector<Terrain> kinds;
  const bool wide_costs = random.chance(40);
  const int blocked_share = random.whole(0, 45);
  const int kind_count = random.whole(2, 6);
  for (int i = 0; i < kind_count; ++i) {
    Terrain kind;
    kind.name = "kind" + std::to_string(i);
    kind.cost = static_cast<EntryCost>(wide_costs ? random.whole(1, 65535) : random.whole(90, 400));
    kinds.push_back(kind);
  }
  kinds[0].cost = blocked;
  if (random.chance(30)) kinds[0].is_void = true;
  Map map({tiling, size}, kinds);
  for (int row = 0; row < size.rows; ++row) {
    for (int col = 0; col < size.cols; ++col) {
      const bool shut = random.chance(blocked_share);
      map.set_terrain({col, row}, static_cast<TerrainId>(shut ? 0 : random.whole(1, kind_count - 1)));
    }
  }
  return map;
}

/// Thin walls and one-way ledges, heights: whatever the map has not been given by random_map.
inline void add_random_edges(Random& random, Map& map) {
  const int share = random.chance(50) ? random.whole(0, 30) : 0;
  const int one_way_share = random.chance(50) ? random.whole(0, 20) : 0;
  const bool heights = random.chance(50);
  for (int row = 0; row < map.size().rows; ++row) {
    for (int col = 0; col < map.size().cols; ++col) {
      const Cell cell{col, row};
      for (Direction d{0}; d < map.tiling().edge_count(); ++d) {
        if (random.chance(share / 2)) map.add_barrier(cell, d);
        if (random.chance(one_way_share)) map.set_closed(cell, d);
      }
      if (heights) map.set_height(cell, static_cast<std::int16_t>(random.whole(-4, 4)));
    }
  }
}

inline Mover random_mover(Random& random, Tiling tiling) {
  Mover mover;
  mover.name = "someone";
  mover.rules = random_rules(random, tiling);
  if (tiling.shape() != Shape::triangle && random.chance(50)) mover.size = random.whole(1, 4);
  if (random.chance(60)) mover.climb = random.whole(0, 5);
  if (random.chance(60)) mover.drop = random.whole(0, 5);
  if (random.chance(30)) mover.costs = {std::nullopt, static_cast<EntryCost>(random.whole(0, 500))};
  return mover;
}

/// A random map on a random tiling, with thin walls, ledges and heights if wanted, and what it bakes to for a random
/// mover.
struct Ground {
  Map map;
  Mover mover;
  CostGrid costs;
};
inline Ground random_ground(Random& random, int most, bool edges) {
  const Tiling tiling = random.one_of(all_tilings());
  Ground made;
  made.map = random_map(random, tiling, random_size(random, most));
  if (edges) add_random_edges(random, made.map);
  made.mover = random_mover(random, tiling);
  made.costs = bake(made.map, made.mover);
  return made;
}

}  // namespace saunter::test
