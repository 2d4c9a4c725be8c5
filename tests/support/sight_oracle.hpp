/// @file
/// Sight from its definition: every cell of the board held against the line, with corners and edges where they are.
#pragma once

#include <numeric>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/tiling.hpp"

namespace saunter::test {

struct Spot {
  std::int64_t x = 0;
  std::int64_t y = 0;
};
inline std::int64_t turn(Spot a, Spot b) { return a.x * b.y - a.y * b.x; }

/// Centre and corners of a cell on a plane stretched so that they are whole.
struct Outline {
  Spot centre;
  std::vector<Spot> corners;
};
inline Outline outline(Tiling tiling, Cell cell) {
  const std::int64_t c = cell.col;
  const std::int64_t r = cell.row;
  const int kind = tiling.kind(cell);
  Outline made;
  std::vector<Spot> around;
  switch (tiling.shape()) {
    case Shape::square:
      made.centre = {2 * c, 2 * r};
      around = {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}};
      break;
    case Shape::hex_pointy:
      made.centre = {2 * c + kind, 3 * r};
      around = {{0, -2}, {1, -1}, {1, 1}, {0, 2}, {-1, 1}, {-1, -1}};
      break;
    case Shape::hex_flat:
      made.centre = {3 * c, 2 * r + kind};
      around = {{-2, 0}, {-1, -1}, {1, -1}, {2, 0}, {1, 1}, {-1, 1}};
      break;
    case Shape::triangle:
      made.centre = {c, 3 * r + (kind == 0 ? 2 : 1)};
      around = kind == 0 ? std::vector<Spot>{{0, -2}, {1, 1}, {-1, 1}} : std::vector<Spot>{{0, 2}, {1, -1}, {-1, -1}};
      break;
  }
  for (const Spot by : around) made.corners.push_back({made.centre.x + by.x, made.centre.y + by.y});
  return made;
}

/// A place on a line as a part of it.
struct Part {
  std::int64_t top = 0;
  std::int64_t bottom = 1;  // > 0
  friend bool operator<(Part a, Part b) { return a.top * b.bottom < b.top * a.bottom; }
};

inline bool sees_by_definition(Tiling tiling, const BitGrid& opaque, Cell a, Cell b) {
  if (a == b) return true;
  const Size size = opaque.size();
  const Spot from = outline(tiling, a).centre;
  const Spot to = outline(tiling, b).centre;
  const Spot line{to.x - from.x, to.y - from.y};
  struct Touch {
    Part first;
    Part last;
    bool left = false;
    bool off_map = false;
  };
  std::vector<Touch> touches;
  for (std::int32_t row = -1; row <= size.rows; ++row) {
    for (std::int32_t col = -1; col <= size.cols; ++col) {
      const Cell cell{col, row};
      if (cell == a || cell == b) continue;
      const bool on_map = size.contains(cell);
      if (on_map && !opaque.test(cell)) continue;
      const Outline shape = outline(tiling, cell);
      std::vector<std::int64_t> sides;
      for (const Spot corner : shape.corners) sides.push_back(turn(line, {corner.x - from.x, corner.y - from.y}));
      const bool some_left = std::any_of(sides.begin(), sides.end(), [](std::int64_t s) { return s > 0; });
      const bool some_right = std::any_of(sides.begin(), sides.end(), [](std::int64_t s) { return s < 0; });
      // Where the outline meets the line, as parts of the way from a to b: dot products with a corner on it, or where a
      // side crosses it.
      std::vector<Part> met;
      const auto along = [&](Spot p) { return line.x * (p.x - from.x) + line.y * (p.y - from.y); };
      const std::int64_t whole = line.x * line.x + line.y * line.y;
      for (std::size_t i = 0; i < sides.size(); ++i) {
        const std::size_t n = (i + 1) % sides.size();
        if (sides[i] == 0) met.push_back({along(shape.corners[i]), whole});
        if ((sides[i] < 0 && sides[n] > 0) || (sides[i] > 0 && sides[n] < 0)) {
          const std::int64_t share = std::abs(sides[i]);
          const std::int64_t sum = share + std::abs(sides[n]);
          met.push_back({along(shape.corners[i]) * (sum - share) + along(shape.corners[n]) * share, whole * sum});
        }
      }
      if (met.empty()) continue;
      const Part first = *std::min_element(met.begin(), met.end());
      const Part last = *std::max_element(met.begin(), met.end());
      if (last < Part{0, 1} || Part{1, 1} < first) continue;
      if (some_left && some_right) {
        if (on_map) return false;  // crosses its inside
        continue;
      }
      touches.push_back({first, last, some_left, !on_map});
    }
  }
  for (const Touch& l : touches) {
    for (const Touch& r : touches) {
      if (!l.left || r.left || (l.off_map && r.off_map)) continue;
      if (!(l.last < r.first) && !(r.last < l.first)) return false;
    }
  }
  return true;
}

}  // namespace saunter::test
