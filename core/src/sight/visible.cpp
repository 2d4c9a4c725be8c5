// All that is seen from a cell: shadows cast by whole cells, exactly.
#include <algorithm>
#include <bit>
#include <limits>
#include <numeric>

#include "../grid/even_out.hpp"
#include "rows.hpp"
#include "saunter/grid/whole_plane.hpp"
#include "saunter/sight/sight.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

/// One look round.
class Lookout::Sweep {
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
    for (const Cell cell : grid_.size().cells()) {
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

}  // namespace saunter::inline v0_2
