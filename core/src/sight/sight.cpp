#include "saunter/sight/sight.hpp"

#include <algorithm>
#include <bit>
#include <limits>
#include <numeric>

#include "../grid/even_out.hpp"
#include "saunter/grid/whole_plane.hpp"

namespace saunter {
namespace {

/// How rows of cells lie across an axis of the plane. Across axis 0 they are the map's own rows (flat hexes: columns);
/// the others follow by turning the plane.
class Rows {
 public:
  explicit Rows(CellShape family) : family_(family) {}

  [[nodiscard]] int axes() const { return family_ == CellShape::square ? 2 : 3; }
  /// A point's place along the rows of an axis (x) and across them (y).
  [[nodiscard]] WholePoint turned(int axis, WholePoint p) const {
    if (axis == 0) return p;
    if (family_ == CellShape::square) return {p.y, p.x};
    if (axis == 1) return {(p.y - p.x) / 2, (3 * p.x + p.y) / 2};
    return {(p.x + p.y) / 2, (3 * p.x - p.y) / 2};
  }
  [[nodiscard]] WholePoint turned_back(int axis, WholePoint p) const {
    if (axis == 0) return p;
    if (family_ == CellShape::square) return {p.y, p.x};
    if (axis == 1) return {(p.y - p.x) / 2, (p.y + 3 * p.x) / 2};
    return {(p.x + p.y) / 2, (3 * p.x - p.y) / 2};
  }
  /// The number of the row with centres so far across, and back. Triangles: those of one strip whose centres are nearer
  /// its start come first.
  [[nodiscard]] std::int64_t row(std::int64_t across) const {
    if (family_ == CellShape::square) return across >> 1;
    const std::int64_t strip = WholePlane::third(across);
    return family_ == CellShape::hex ? strip : 2 * strip + (across - 3 * strip - 1);
  }
  [[nodiscard]] std::int64_t across(std::int64_t row) const {
    if (family_ == CellShape::square) return 2 * row;
    if (family_ == CellShape::hex) return 3 * row;
    return 3 * (row >> 1) + 1 + (row & 1);
  }
  /// Cells of a row are 2 apart; whether they stand at odd places.
  [[nodiscard]] std::int64_t odd(std::int64_t row) const {
    if (family_ == CellShape::square) return 0;
    if (family_ == CellShape::hex) return row & 1;
    return (row & 1) != 0 ? (row >> 1) & 1 : ((row >> 1) + 1) & 1;
  }
  /// Row and place in it.
  [[nodiscard]] Cell spot(int axis, WholePoint centre) const {
    const WholePoint p = turned(axis, centre);
    return {static_cast<std::int32_t>(p.x >> 1), static_cast<std::int32_t>(row(p.y))};
  }

 private:
  CellShape family_;
};

/// Corners of a cell as seen from its centre, clockwise.
struct Corners {
  int count = 0;
  std::array<WholePoint, 6> at = {};
};
constexpr Corners hex_corners{6, {{{0, -2}, {1, -1}, {1, 1}, {0, 2}, {-1, 1}, {-1, -1}}}};
constexpr Corners triangle_corners{3, {{{0, -2}, {1, 1}, {-1, 1}}}};  // of one that points up

/// What lies beside a line on each side at one point.
struct Beside {
  bool opaque[2] = {false, false};
  bool off_map[2] = {false, false};
  Cell at;  // one that is opaque
  [[nodiscard]] bool shut() const {
    const bool any = opaque[0] || opaque[1];
    return any && (opaque[0] || off_map[0]) && (opaque[1] || off_map[1]);
  }
};

}  // namespace

SightGrid::SightGrid(Board board) : SightGrid(board, BitGrid(board.size)) {}

SightGrid::SightGrid(Board board, const BitGrid& opaque) : tiling_(board.tiling), opaque_(opaque) {
  SAUNTER_EXPECT(opaque.size() == board.size);
  if (opaque.size() != board.size) {
    opaque_ = BitGrid(board.size);
    for (std::uint32_t i = 0; i < size().cell_count(); ++i) {
      const Cell cell = size().cell(CellIndex{i});
      opaque_.set(cell, opaque.test(cell));
    }
  }
  const WholePlane plane(board.tiling);
  const Rows rows(plane.family());
  const Size size = opaque_.size();
  if (size.cell_count() == 0) return;
  for (int axis = 0; axis < rows.axes(); ++axis) {
    Cell least{std::numeric_limits<std::int32_t>::max(), std::numeric_limits<std::int32_t>::max()};
    Cell most{std::numeric_limits<std::int32_t>::min(), std::numeric_limits<std::int32_t>::min()};
    const auto take = [&](Cell cell) {
      const Cell spot = rows.spot(axis, plane.centre(cell));
      least = {std::min(least.col, spot.col), std::min(least.row, spot.row)};
      most = {std::max(most.col, spot.col), std::max(most.row, spot.row)};
    };
    for (std::int32_t col = 0; col < size.cols; ++col) {
      for (const std::int32_t row : {0, size.rows - 1}) take({col, row});
    }
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (const std::int32_t col : {0, size.cols - 1}) take({col, row});
    }
    const auto number = static_cast<std::size_t>(axis);
    origin_[number] = least;
    clear_[number] = BitGrid({most.col - least.col + 1, most.row - least.row + 1});
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (std::int32_t col = 0; col < size.cols; ++col) {
        if (opaque_.test({col, row})) continue;
        const Cell spot = rows.spot(axis, plane.centre({col, row}));
        clear_[number].set({spot.col - least.col, spot.row - least.row});
      }
    }
  }
}

void SightGrid::set_opaque(Cell cell, bool opaque) {
  if (!size().contains(cell) || opaque_.test(cell) == opaque) return;
  ++revision_;
  opaque_.set(cell, opaque);
  const WholePlane plane(tiling_);
  const Rows rows(plane.family());
  for (int axis = 0; axis < rows.axes(); ++axis) {
    const auto number = static_cast<std::size_t>(axis);
    const Cell spot = rows.spot(axis, plane.centre(cell));
    clear_[number].set({spot.col - origin_[number].col, spot.row - origin_[number].row}, !opaque);
  }
}

namespace {
BitGrid cells_of_terrain(const Map& map, bool Terrain::*property) {
  BitGrid cells(map.size());
  for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
    if (map.kind(map.terrain()[CellIndex{i}]).*property) cells.set(map.size().cell(CellIndex{i}));
  }
  return cells;
}
}  // namespace

BitGrid opaque_terrain(const Map& map) { return cells_of_terrain(map, &Terrain::opaque); }
BitGrid void_terrain(const Map& map) { return cells_of_terrain(map, &Terrain::is_void); }

namespace {

/// Squares: which side of the cell the line leaves by follows from one number (a line drawn by its error term).
std::optional<Cell> hidden_on_squares(const BitGrid& opaque, Cell a, Cell b) {
  const std::int64_t wide = std::abs(b.col - a.col);
  const std::int64_t high = std::abs(b.row - a.row);
  const Offset across{b.col > a.col ? 1 : -1, 0};
  const Offset along{0, b.row > a.row ? 1 : -1};
  std::int64_t error = high - wide;  // of the corner ahead: above, on or below the line
  for (Cell at = a;;) {
    if (error == 0) {
      if (opaque.test(at + across) && opaque.test(at + along)) return at + across;
      at = at + across + along;
      error += 2 * (high - wide);
    } else if (error < 0) {
      at = at + across;
      error += 2 * high;
    } else {
      at = at + along;
      error -= 2 * wide;
    }
    if (at == b) return std::nullopt;
    if (opaque.test(at)) return at;
  }
}

}  // namespace

/// Hexes and triangles: from cell to cell, out through an edge, through a corner into the cell opposite, or (hexes)
/// along the edge between two cells.
std::optional<Cell> hidden_by(const SightGrid& grid, Cell a, Cell b) {
  if (!grid.size().contains(a)) return a;
  if (!grid.size().contains(b)) return b;
  if (a == b) return std::nullopt;
  const WholePlane plane(grid.board().tiling);
  if (plane.family() == CellShape::square) return hidden_on_squares(grid.opaque_cells(), a, b);
  const bool triangles = plane.family() == CellShape::triangle;
  const Corners& corners = triangles ? triangle_corners : hex_corners;
  const WholePoint start = plane.centre(a);
  const WholePoint end = plane.centre(b);
  const WholePoint line = end - start;
  std::array<std::int64_t, 6> side = {};  // of each corner, as seen from a centre on the line
  for (int i = 0; i < corners.count; ++i) {
    side[static_cast<unsigned>(i)] = cross(line, corners.at[static_cast<unsigned>(i)]);
  }
  const auto look_beside = [&](Beside& beside, WholePoint centre) {
    const Cell cell = plane.cell(centre);
    const unsigned which = cross(line, centre - start) > 0 ? 1 : 0;
    if (!grid.size().contains(cell)) {
      beside.off_map[which] = true;
    } else if (grid.opaque(cell)) {
      beside.opaque[which] = true;
      beside.at = cell;
    }
  };
  for (WholePoint at = start;;) {
    const std::int64_t turn = triangles && !WholePlane::points_up(at) ? -1 : 1;
    const std::int64_t base = cross(line, at - start);
    const auto corner = [&](int i) { return turn * corners.at[static_cast<unsigned>(i % corners.count)]; };
    const auto side_of = [&](int i) { return base + turn * side[static_cast<unsigned>(i % corners.count)]; };
    // Clockwise, the line leaves where the corners change from one side to the other.
    int i = 0;
    while (!(side_of(i) < 0 && side_of(i + 1) >= 0)) ++i;
    if (side_of(i + 1) > 0) {
      at = at + corner(i) + corner(i + 1);
    } else {
      const WholePoint out = corner(i + 1);
      Beside beside;
      if (triangles) {
        for (const WholePoint r : {WholePoint{0, 2}, WholePoint{-1, -1}, WholePoint{1, -1}, WholePoint{0, -2},
                                   WholePoint{1, 1}, WholePoint{-1, 1}}) {
          if (r != out && r != -1 * out) look_beside(beside, at + out + r);
        }
        at = at + 2 * out;
      } else if (base == 0) {
        look_beside(beside, at + corner(i) + out);
        look_beside(beside, at + out + corner(i + 2));
        at = at + 3 * out;
      } else {
        at = cross(line, out) > 0 ? at + corner(i) + out : at + out + corner(i + 2);
      }
      if (beside.shut()) return beside.at;
    }
    if (at == end) return std::nullopt;
    const Cell cell = plane.cell(at);
    if (grid.size().contains(cell) && grid.opaque(cell)) return cell;
  }
}

/// One look round.
class Sweep {
 public:
  using Slope = Lookout::Slope;
  using Gap = Lookout::Gap;

  Sweep(Lookout& lookout, const SightGrid& grid, Cell from, std::optional<Hundredths> range, std::vector<Cell>& out)
      : gaps_(lookout.gaps_),
        next_(lookout.next_gaps_),
        grid_(grid),
        plane_(grid.board().tiling),
        rows_(plane_.family()),
        from_(from),
        centre_(plane_.centre(from)),
        out_(out) {
    if (!range) return;
    const std::int64_t scale = plane_.family() == CellShape::hex ? 12 : 4;
    limit_ = scale * farthest_squared(*range);
  }

  void run() {
    out_.push_back(from_);
    if (plane_.family() == CellShape::triangle && grid_.size().cols == 1) {
      cell_by_cell();  // the only maps on which a line has the outside of the map on both sides
      return;
    }
    for (int axis = 0; axis < rows_.axes(); ++axis) {
      sector(axis, 1);
      sector(axis, -1);
    }
    if (plane_.family() == CellShape::square) {
      for (const WholePoint step : {WholePoint{2, -2}, WholePoint{2, 2}, WholePoint{-2, 2}, WholePoint{-2, -2}})
        border(step);
    } else {
      for (const WholePoint step : {WholePoint{2, 0}, WholePoint{1, 3}, WholePoint{-1, 3}, WholePoint{-2, 0},
                                    WholePoint{-1, -3}, WholePoint{1, -3}}) {
        border(step);
      }
    }
  }

 private:
  static std::int64_t floor_divided(std::int64_t a, std::int64_t b) {
    // Narrow divisions take a third of the time.
    constexpr std::int64_t narrow = std::numeric_limits<std::int32_t>::max();
    if (a <= narrow && a >= -narrow) {
      const auto x = static_cast<std::int32_t>(a);
      const auto y = static_cast<std::int32_t>(b);
      const std::int32_t q = x / y;
      return q - (q * y > x ? 1 : 0);
    }
    const std::int64_t q = a / b;
    return q - (q * b > a ? 1 : 0);
  }
  static std::int64_t ceil_divided(std::int64_t a, std::int64_t b) { return -floor_divided(-a, b); }
  static std::int64_t compare(Slope a, Slope b) {
    return std::int64_t{a.aside} * b.ahead - std::int64_t{b.aside} * a.ahead;
  }
  [[nodiscard]] std::int64_t measure(WholePoint d) const {
    return (plane_.family() == CellShape::square ? 1 : 3) * d.x * d.x + d.y * d.y;
  }
  void see(Cell cell) {
    if (grid_.size().contains(cell)) out_.push_back(cell);
  }

  void cell_by_cell() {
    for (std::uint32_t i = 0; i < grid_.size().cell_count(); ++i) {
      const Cell cell = grid_.size().cell(CellIndex{i});
      if (cell != from_ && measure(plane_.centre(cell) - centre_) <= limit_ && sees(grid_, from_, cell)) see(cell);
    }
  }

  /// The directions on the border of two sectors.
  void border(WholePoint step) {
    WholePoint at = centre_;
    for (;;) {
      const WholePoint next = at + step;
      if (!follow(at, next)) return;
      at = next;
    }
  }
  /// Sees the next centre on a line of which `at` is seen, if it is; false when nothing beyond it can be.
  bool follow(WholePoint at, WholePoint next) {
    const Cell cell = plane_.cell(next);
    if (measure(next - centre_) > limit_ || !grid_.size().contains(cell)) return false;
    if (!sees(grid_, plane_.cell(at), cell)) return false;
    out_.push_back(cell);
    return !grid_.opaque(cell);
  }

  /// A single direction between two shadows, seen so far: the shadows may touch it at one point, or at two.
  void thread(int axis, int way, Slope slope, std::int64_t done) {
    const std::int32_t divisor = std::gcd(slope.aside, slope.ahead);
    const WholePoint step{slope.aside / divisor, std::int64_t{way} * (slope.ahead / divisor)};
    if (std::int64_t{slope.aside} * border_ahead_ == std::int64_t{slope.ahead} * border_aside_ ||
        std::int64_t{slope.aside} * border_ahead_ == -std::int64_t{slope.ahead} * border_aside_) {
      return;  // looked at apart
    }
    const WholePoint origin = rows_.turned(axis, centre_);
    WholePoint at = centre_;
    for (std::int64_t k = 1; k * k * measure(step) <= limit_; ++k) {
      const WholePoint turned = origin + k * step;
      // Turning back halves; between centres the halves need not be whole.
      if (plane_.family() != CellShape::square && ((turned.x ^ turned.y) & 1) != 0 && axis != 0) continue;
      const WholePoint next = rows_.turned_back(axis, turned);
      if (!plane_.is_centre(next)) continue;
      if (std::abs(turned.y - origin.y) <= done) {
        at = next;
        continue;
      }
      if (!follow(at, next)) return;
      at = next;
    }
  }

  void sector(int axis, int way) {
    const auto number = static_cast<std::size_t>(axis);
    const BitGrid& clear = grid_.clear_[number];
    const Cell least = grid_.origin_[number];
    const WholePoint origin = rows_.turned(axis, centre_);
    const bool triangles = plane_.family() == CellShape::triangle;
    border_aside_ = 1;
    border_ahead_ = plane_.family() == CellShape::square ? 1 : 3;
    gaps_.assign(1, {{-border_aside_, border_ahead_}, {border_aside_, border_ahead_}});
    const std::int64_t factor = plane_.family() == CellShape::square ? 1 : 3;
    std::int64_t wide = std::int64_t{clear.size().cols} * 2 + 2;
    for (std::int64_t row = rows_.row(origin.y) + way; !gaps_.empty(); row += way) {
      const std::int64_t line = row - least.row;
      if (line < 0 || line >= clear.size().rows) return;
      const std::int64_t across = rows_.across(row);
      const std::int64_t ahead = std::abs(across - origin.y);
      const std::int64_t left = limit_ - ahead * ahead;
      if (left < 0) return;
      while (factor * wide * wide > left) --wide;
      // Where the corners that bound a cell's shadow lie: nearer for one side, farther for the other.
      std::int64_t near = ahead - 1;
      std::int64_t far = ahead + 1;
      if (triangles) {
        const std::int64_t third = across - 3 * WholePlane::third(across);
        near = far = std::abs((third == 1 ? across - 1 : across + 1) - origin.y);
      }
      row_of_cells(axis, way, row, ahead, near, far, wide, origin.x, clear.row_words(static_cast<std::int32_t>(line)),
                   least.col, clear.size().cols);
      std::swap(gaps_, next_);
    }
  }

  void row_of_cells(int axis, int way, std::int64_t row, std::int64_t ahead, std::int64_t near, std::int64_t far,
                    std::int64_t wide, std::int64_t origin, std::span<const std::uint64_t> words, std::int64_t least,
                    std::int64_t places) {
    const std::int64_t odd = rows_.odd(row);
    // Places are counted from the start of the row of bits; a place's steps aside from the viewer:
    const std::int64_t shift = 2 * least + odd - origin;
    const auto low_of = [&](std::int64_t place) {
      const std::int64_t aside = 2 * place + shift - 1;
      return Slope{static_cast<std::int32_t>(aside), static_cast<std::int32_t>(aside < 0 ? near : far)};
    };
    const auto high_of = [&](std::int64_t place) {
      const std::int64_t aside = 2 * place + shift + 1;
      return Slope{static_cast<std::int32_t>(aside), static_cast<std::int32_t>(aside > 0 ? near : far)};
    };
    next_.clear();
    for (const Gap& gap : gaps_) {
      // Centres within the gap; those on a border are looked at apart.
      std::int64_t first_aside = ceil_divided(gap.low.aside * ahead, gap.low.ahead);
      std::int64_t last_aside = floor_divided(gap.high.aside * ahead, gap.high.ahead);
      if (first_aside * border_ahead_ <= -border_aside_ * ahead) ++first_aside;
      if (last_aside * border_ahead_ >= border_aside_ * ahead) --last_aside;
      first_aside = std::max(first_aside, -wide);
      last_aside = std::min(last_aside, wide);
      const std::int64_t first_seen = std::max<std::int64_t>((first_aside - shift + 1) >> 1, 0);
      const std::int64_t last_seen = std::min<std::int64_t>((last_aside - shift) >> 1, places - 1);
      if (first_seen <= last_seen) see_row(axis, row, first_seen + least, last_seen + least, odd);

      // Cells whose shadows reach into the gap: the first whose high end lies beyond its low end, and so on.
      const std::int64_t low_depth = gap.low.aside >= 0 ? near : far;
      const std::int64_t high_depth = gap.high.aside <= 0 ? near : far;
      const std::int64_t from = floor_divided(gap.low.aside * low_depth, gap.low.ahead);
      const std::int64_t to = ceil_divided(gap.high.aside * high_depth, gap.high.ahead);
      const std::int64_t first = std::max<std::int64_t>((from - shift + 1) >> 1, -1);
      const std::int64_t last = std::min<std::int64_t>((to - shift) >> 1, places);
      Slope low = gap.low;
      bool open = true;
      for (std::int64_t place = first; place <= last;) {
        place = next_with(words, place, last, false);
        if (place > last) break;
        const std::int64_t end = next_with(words, place, last, true);  // one past the run
        const Slope run_low = low_of(place);
        const Slope run_high = high_of(end - 1);
        place = end;
        const std::int64_t order = compare(run_low, low);
        if (order > 0) next_.push_back({low, run_low});
        if (order == 0) thread(axis, way, low, ahead);
        low = run_high;
        const std::int64_t rest = compare(low, gap.high);
        if (rest == 0) thread(axis, way, low, ahead);
        if (rest >= 0) {
          open = false;
          break;
        }
      }
      if (open) next_.push_back({low, gap.high});
    }
  }

  /// The first place from `from` on that is clear, or is not; `last` + 1 when there is none.
  static std::int64_t next_with(std::span<const std::uint64_t> words, std::int64_t from, std::int64_t last,
                                bool clear) {
    auto bit = static_cast<std::size_t>(from + static_cast<std::int64_t>(BitGrid::margin));
    const auto end = static_cast<std::size_t>(last + static_cast<std::int64_t>(BitGrid::margin)) + 1;
    while (bit < end) {
      std::uint64_t word = words[bit / 64];
      if (!clear) word = ~word;
      word >>= bit % 64;
      if (word != 0) {
        bit += static_cast<std::size_t>(std::countr_zero(word));
        break;
      }
      bit = (bit / 64 + 1) * 64;
    }
    return static_cast<std::int64_t>(std::min(bit, end)) - static_cast<std::int64_t>(BitGrid::margin);
  }

  void see_row(int axis, std::int64_t row, std::int64_t first, std::int64_t last, std::int64_t odd) {
    WholePoint at = rows_.turned_back(axis, {2 * first + odd, rows_.across(row)});
    const WholePoint step = rows_.turned_back(axis, {2, 0});
    if (axis == 0 || plane_.family() == CellShape::square) {
      const Cell start = plane_.cell(at);
      const Offset by = plane_.cell(at + step) - start;
      Cell cell = start;
      for (std::int64_t i = first; i <= last; ++i, cell = cell + by) see(cell);
      return;
    }
    for (std::int64_t i = first; i <= last; ++i, at = at + step) see(plane_.cell(at));
  }

  std::vector<Gap>& gaps_;
  std::vector<Gap>& next_;
  const SightGrid& grid_;
  const WholePlane plane_;
  const Rows rows_;
  const Cell from_;
  const WholePoint centre_;
  std::vector<Cell>& out_;
  std::int64_t limit_ = std::numeric_limits<std::int64_t>::max() / 4;
  std::int32_t border_aside_ = 1;
  std::int32_t border_ahead_ = 1;
};

void Lookout::visible(const SightGrid& grid, Cell from, std::optional<Hundredths> range, std::vector<Cell>& out) {
  out.clear();
  if (!grid.size().contains(from)) return;
  Sweep(*this, grid, from, range, out).run();
  even_out(gaps_, next_gaps_);
}

}  // namespace saunter
