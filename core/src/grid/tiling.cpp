#include "saunter/grid/tiling.hpp"

#include <cstdlib>

namespace saunter::inline v0_2 {
namespace {

constexpr Length edge_length = 100;
constexpr Length square_diagonal_length = 141;
constexpr Length triangle_near_corner_length = 173;
constexpr Length triangle_far_corner_length = 200;

using OffsetTable = std::array<std::array<Offset, max_directions>, 2>;

// Every table lists neighbours clockwise from north, edge neighbours first.
constexpr OffsetTable square_offsets = {{
    {{{0, -1}, {1, 0}, {0, 1}, {-1, 0}, {1, -1}, {1, 1}, {-1, 1}, {-1, -1}}},
    {},
}};
constexpr OffsetTable pointy_offsets = {{
    {{{0, -1}, {1, 0}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}}},
    {{{1, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 0}, {0, -1}}},
}};
constexpr OffsetTable flat_offsets = {{
    {{{0, -1}, {1, -1}, {1, 0}, {0, 1}, {-1, 0}, {-1, -1}}},
    {{{0, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}}},
}};
constexpr OffsetTable triangle_offsets = {{
    {{{1, 0}, {0, 1}, {-1, 0}, {0, -1}, {1, -1}, {2, 0}, {2, 1}, {1, 1}, {-1, 1}, {-2, 1}, {-2, 0}, {-1, -1}}},
    {{{0, -1}, {1, 0}, {-1, 0}, {1, -1}, {2, -1}, {2, 0}, {1, 1}, {0, 1}, {-1, 1}, {-2, 0}, {-2, -1}, {-1, -1}}},
}};

constexpr std::uint8_t find_offset(const Neighbourhood& hood, int kind, Offset offset) {
  for (int d = 0; d < hood.directions; ++d) {
    if (hood.offset[static_cast<unsigned>(kind)][static_cast<unsigned>(d)] == offset)
      return static_cast<std::uint8_t>(d);
  }
  return max_directions;
}

/// Walks edge steps from a cell of `kind` and records, for the corner neighbours met on the way, how they were reached.
constexpr void add_ways(Neighbourhood& hood, unsigned kind, const std::array<std::uint8_t, 6>& cycle, unsigned steps,
                        unsigned side) {
  Offset at;
  unsigned at_kind = kind;
  CornerWay way;
  for (unsigned i = 0; i < steps; ++i) {
    way.steps[way.count++] = cycle[i];
    at = at + hood.offset[at_kind][cycle[i]];
    at_kind = hood.kind_after[at_kind][cycle[i]];
    const unsigned target = find_offset(hood, static_cast<int>(kind), at);
    if (target >= static_cast<unsigned>(hood.edges)) hood.ways[kind][target][side] = way;
  }
}

constexpr void add_square_ways(Neighbourhood& hood) {
  for (std::uint8_t corner = 0; corner < 4; ++corner) {
    const auto next = static_cast<std::uint8_t>((corner + 1) % 4);
    add_ways(hood, 0, {corner, next}, 2, 0);
    add_ways(hood, 0, {next, corner}, 2, 1);
  }
}

/// The six triangles round a corner, clockwise and counter-clockwise from each triangle that touches it.
constexpr void add_triangle_ways(Neighbourhood& hood) {
  // Clockwise edge steps round the corner named first; the corners 120 and 240 degrees on are the same steps turned.
  constexpr std::array<std::array<std::uint8_t, 6>, 2> clockwise = {{
      {2, 0, 0, 1, 1, 2},  // a triangle pointing up, its top corner
      {1, 1, 2, 2, 0, 0},  // a triangle pointing down, its bottom corner
  }};
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (std::uint8_t turn = 0; turn < 3; ++turn) {
      std::array<std::uint8_t, 6> steps = {};
      for (unsigned i = 0; i < 6; ++i) steps[i] = static_cast<std::uint8_t>((clockwise[kind][i] + turn) % 3);
      std::array<std::uint8_t, 6> back = {};
      for (unsigned i = 0; i < 6; ++i) {
        const unsigned from_kind = (kind + i) % 2;  // orientations alternate round the corner
        back[5 - i] = hood.opposite[from_kind][steps[i]];
      }
      add_ways(hood, kind, steps, 4, 0);
      add_ways(hood, kind, back, 4, 1);
    }
  }
}

constexpr Neighbourhood make(Shape shape, int edges, int directions, const OffsetTable& offsets) {
  Neighbourhood hood;
  hood.edges = edges;
  hood.directions = directions;
  hood.offset = offsets;
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < static_cast<unsigned>(directions); ++d) {
      const Offset o = offsets[kind][d];
      unsigned flips = 0;
      if (shape == Shape::hex_pointy) flips = static_cast<unsigned>(o.rows) & 1U;
      if (shape == Shape::hex_flat) flips = static_cast<unsigned>(o.cols) & 1U;
      if (shape == Shape::triangle) flips = static_cast<unsigned>(o.rows + o.cols) & 1U;
      hood.kind_after[kind][d] = static_cast<std::uint8_t>(kind ^ flips);
      hood.length[kind][d] = edge_length;
      if (d >= static_cast<unsigned>(edges)) {
        hood.length[kind][d] = shape == Shape::square ? square_diagonal_length
                               : flips != 0           ? triangle_far_corner_length
                                                      : triangle_near_corner_length;
      }
    }
  }
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < static_cast<unsigned>(directions); ++d) {
      hood.opposite[kind][d] = find_offset(hood, hood.kind_after[kind][d], -offsets[kind][d]);
    }
  }
  if (shape == Shape::square) add_square_ways(hood);
  if (shape == Shape::triangle) add_triangle_ways(hood);
  return hood;
}

constexpr std::array<Neighbourhood, 4> neighbourhoods = {
    make(Shape::square, 4, 8, square_offsets),
    make(Shape::hex_pointy, 6, 6, pointy_offsets),
    make(Shape::hex_flat, 6, 6, flat_offsets),
    make(Shape::triangle, 3, 12, triangle_offsets),
};

constexpr std::array<std::string_view, 8> square_names = {"n", "e", "s", "w", "ne", "se", "sw", "nw"};
constexpr std::array<std::string_view, 6> pointy_names = {"ne", "e", "se", "sw", "w", "nw"};
constexpr std::array<std::string_view, 6> flat_names = {"n", "ne", "se", "s", "sw", "nw"};
constexpr std::array<std::array<std::string_view, 12>, 2> triangle_names = {{
    {"ne", "s", "nw", "n", "nne", "e", "ese", "sse", "ssw", "wsw", "w", "nnw"},
    {"n", "se", "sw", "nne", "ene", "e", "sse", "s", "ssw", "w", "wnw", "nnw"},
}};

constexpr std::int64_t half_down(std::int64_t value) { return value >> 1U; }

/// How many whole cells the slanted axis has moved along a line of a hex map by the time it reaches that line.
constexpr std::int32_t cells_pushed(std::int32_t line, Shift shift) {
  return static_cast<std::int32_t>(half_down(std::int64_t{line} + (shift == Shift::even ? 1 : 0)));
}

}  // namespace

const Neighbourhood& Tiling::neighbourhood() const { return neighbourhoods[static_cast<unsigned>(shape_)]; }

Direction Tiling::direction(Cell from, Cell to) const {
  // Far pairs first: the difference of two cells need not fit 32 bits.
  const std::int64_t cols = std::int64_t{to.col} - from.col;
  const std::int64_t rows = std::int64_t{to.row} - from.row;
  if (std::abs(cols) > 2 || std::abs(rows) > 1) return Direction(-1);
  const Neighbourhood& hood = neighbourhood();
  const auto found = find_offset(hood, kind(from), to - from);
  return Direction(found < hood.directions ? int{found} : -1);
}

std::string_view Tiling::direction_name(Cell from, Direction direction) const {
  if (direction < 0 || direction >= direction_count()) return {};
  const auto d = static_cast<unsigned>(direction);
  switch (shape_) {
    case Shape::square: return square_names[d];
    case Shape::hex_pointy: return pointy_names[d];
    case Shape::hex_flat: return flat_names[d];
    case Shape::triangle: break;
  }
  return triangle_names[static_cast<unsigned>(kind(from))][d];
}

Axial Tiling::to_axial(Cell cell) const {
  SAUNTER_EXPECT(is_hex());
  const bool pointy = shape_ == Shape::hex_pointy;
  const std::int32_t line = pointy ? cell.row : cell.col;
  const std::int32_t along = wrapping_subtract(pointy ? cell.col : cell.row, cells_pushed(line, shift()));
  return pointy ? Axial{along, line} : Axial{line, along};
}

Cell Tiling::from_axial(Axial axial) const {
  SAUNTER_EXPECT(is_hex());
  const bool pointy = shape_ == Shape::hex_pointy;
  const std::int32_t line = pointy ? axial.r : axial.q;
  const std::int32_t along = wrapping_add(pointy ? axial.q : axial.r, cells_pushed(line, shift()));
  return pointy ? Cell{along, line} : Cell{line, along};
}

std::array<std::int64_t, 3> Tiling::strips(Cell cell) const {
  SAUNTER_EXPECT(shape_ == Shape::triangle);
  const std::int64_t row = cell.row;
  const std::int64_t col = std::int64_t{cell.col} + (flipped_ ? 1 : 0);
  return {row, half_down(col + row), half_down(col - row - 1)};
}

Cell Tiling::from_strips(const std::array<std::int64_t, 3>& strips) const {
  SAUNTER_EXPECT(shape_ == Shape::triangle);
  // With the second strip known, a column and the next share it; the third tells them apart.
  const std::int64_t row = strips[0];
  std::int64_t col = 2 * strips[1] - row;
  if (half_down(col - row - 1) != strips[2]) ++col;
  return {static_cast<std::int32_t>(col - (flipped_ ? 1 : 0)), static_cast<std::int32_t>(row)};
}

std::int64_t Tiling::edge_distance(Cell a, Cell b) const {
  if (shape_ == Shape::square) {
    return std::abs(std::int64_t{a.col} - b.col) + std::abs(std::int64_t{a.row} - b.row);
  }
  if (shape_ == Shape::triangle) {
    const auto from = strips(a);
    const auto to = strips(b);
    return std::abs(from[0] - to[0]) + std::abs(from[1] - to[1]) + std::abs(from[2] - to[2]);
  }
  // On the axes in 64 bits: those of cells near the ends of the number range do not fit 32.
  const bool pointy = shape_ == Shape::hex_pointy;
  const auto along = [&](Cell cell) {
    return std::int64_t{pointy ? cell.col : cell.row} - cells_pushed(pointy ? cell.row : cell.col, shift());
  };
  const std::int64_t q = along(b) - along(a);
  const std::int64_t r = pointy ? std::int64_t{b.row} - a.row : std::int64_t{b.col} - a.col;
  return (std::abs(q) + std::abs(r) + std::abs(q + r)) / 2;
}

}  // namespace saunter::inline v0_2
