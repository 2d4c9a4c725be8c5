#include "field_by_fours.hpp"

#include <algorithm>
#include <bit>
#include <cstring>

#ifdef SAUNTER_FOURS
#include <emmintrin.h>
#endif

namespace saunter::inline v0_2::detail {
namespace {

constexpr std::int32_t raised = 1 << 20;  // more than any step costs: no sum of a blocked cell's meets a distance
constexpr std::int32_t unseen_distance = 0x7FFF'FFFF;
constexpr std::size_t most_field_buckets = 4096;
constexpr std::size_t fetched_ahead = 8;  // cells: what is looked at then is fetched now

Cost edge_part(std::uint32_t word) { return word & 0xFFFFU; }
Cost corner_part(std::uint32_t word) { return word >> 16U; }

/// Where a neighbour lies in the three rows of four about a cell.
unsigned spot_of(Offset by) { return static_cast<unsigned>((by.rows + 1) * 4 + by.cols + 1); }

}  // namespace

bool FieldByFours::suits(const CostGrid& costs, Cost head_start, bool count_steps) {
#ifdef SAUNTER_FOURS
  if (costs.has_sides() || costs.tiling().shape() == Shape::triangle) return false;
  const std::uint64_t step = count_steps ? 100 : costs.highest_step();
  const std::uint64_t most = std::uint64_t{head_start} + costs.size().cell_count() * step + raised;
  if (step > 0xFFFF || most >= static_cast<std::uint64_t>(unseen_distance)) return false;
  return count_steps || step / std::bit_floor(costs.lowest_entry()) < most_field_buckets - 2;
#else
  (void)costs;
  (void)head_start;
  (void)count_steps;
  return false;
#endif
}

std::size_t FieldByFours::memory() const {
  std::size_t bytes = bytes_of(distance_, words_, buckets_, line_);
  for (const auto& bucket : buckets_) bytes += bytes_of(bucket);
  return bytes;
}

#ifdef SAUNTER_FOURS

/// Tells that the rows about a cell are likely to be read soon.
SAUNTER_INLINE inline void FieldByFours::prefetch(std::uint32_t at, bool words) const {
  for (const std::int32_t row : {-stride_ - 1, -1, stride_ - 1}) {
    SAUNTER_PREFETCH(distance_.data() + at + row);
    if (words) SAUNTER_PREFETCH(words_.data() + at + row);
  }
}

/// Four neighbouring cells at a time.
struct FieldByFours::Four {
  static __m128i load(const std::int32_t* at) { return _mm_loadu_si128(reinterpret_cast<const __m128i*>(at)); }
  static __m128i load(const std::uint32_t* at) { return _mm_loadu_si128(reinterpret_cast<const __m128i*>(at)); }
  static void store(std::int32_t* at, __m128i fours) { _mm_storeu_si128(reinterpret_cast<__m128i*>(at), fours); }
  /// A bit for each spot of three rows that is all ones.
  static unsigned bits(__m128i a, __m128i b, __m128i c) {
    const __m128i ab = _mm_packs_epi32(a, b);
    const __m128i cc = _mm_packs_epi32(c, c);
    return static_cast<unsigned>(_mm_movemask_epi8(_mm_packs_epi16(ab, cc))) & 0xFFFU;
  }
  static __m128i choose(__m128i mask, __m128i yes, __m128i no) {
    return _mm_or_si128(_mm_and_si128(mask, yes), _mm_andnot_si128(mask, no));
  }
};

void FieldByFours::lay_out(const CostGrid& costs, Counts counts) {
  const Size size = costs.size();
  stride_ = size.cols + 4;
  const std::size_t count = static_cast<std::size_t>(stride_) * static_cast<std::size_t>(size.rows + 2) + 8;
  distance_.assign(count, 0);
  if (counts != Counts::steps) words_.assign(count, 0);
  const Length diagonal = costs.step_length(0, 4);
  const bool corners = costs.rules().steps > costs.tiling().edge_count();
  const bool by_columns = costs.tiling().shape() == Shape::hex_flat;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const std::size_t at = static_cast<std::size_t>(row + 1) * static_cast<std::size_t>(stride_) + 1;
    const auto row_kind = static_cast<std::uint32_t>(costs.tiling().kind({0, row}));
    const auto entries = costs.entries().subspan(static_cast<std::size_t>(row) * static_cast<std::size_t>(size.cols),
                                                 static_cast<std::size_t>(size.cols));
    for (std::size_t col = 0; col < entries.size(); ++col) {
      const EntryCost entry = entries[col];
      distance_[at + col] = entry == blocked ? 0 : unseen_distance;
      const std::uint32_t above = corners ? step_cost(diagonal, entry) : row_kind ^ (by_columns ? col & 1U : 0U);
      if (counts != Counts::steps) words_[at + col] = above << 16U | entry;
    }
  }
  first_kind_ = static_cast<unsigned>(costs.tiling().kind({0, 0}));
  fill_tables(costs);
}

/// Which neighbours a step leads to.
void FieldByFours::fill_tables(const CostGrid& costs) {
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  for (unsigned kind = 0; kind < 2; ++kind) {
    around_[kind] = 0;
    for (unsigned d = 0; d < static_cast<unsigned>(costs.rules().steps); ++d)
      around_[kind] =
          static_cast<std::uint16_t>(around_[kind] | 1U << spot_of(hood.offset[costs.tiling().is_hex() ? kind : 0][d]));
  }
  if (costs.rules().steps == costs.tiling().edge_count()) return;
  for (unsigned shut = 0; shut < 4096; ++shut) {
    unsigned allowed = 0;
    for (unsigned d = 0; d < 8; ++d) {
      const Offset by = hood.offset[0][d];
      const unsigned beside = (shut >> spot_of({by.cols, 0}) & 1U) + (shut >> spot_of({0, by.rows}) & 1U);
      const bool legal = d < 4 || costs.rules().corners == Corners::free ||
                         (costs.rules().corners == Corners::strict ? beside == 0 : beside < 2);
      if (legal) allowed |= 1U << spot_of(by);
    }
    allowed_[shut] = static_cast<std::uint16_t>(allowed);
  }
}

/// Rows of neighbours about a cell, the middle one its own.
struct FieldByFours::Rows {
  __m128i above;
  __m128i own;
  __m128i below;

  template <typename T>
  static SAUNTER_INLINE Rows load(const T* at, std::int32_t stride) {
    return {Four::load(at - stride - 1), Four::load(at - 1), Four::load(at + stride - 1)};
  }
  [[nodiscard]] SAUNTER_INLINE unsigned equal_to(__m128i value) const {
    return Four::bits(_mm_cmpeq_epi32(above, value), _mm_cmpeq_epi32(own, value), _mm_cmpeq_epi32(below, value));
  }
  [[nodiscard]] SAUNTER_INLINE unsigned larger_than(const Rows& others) const {
    return Four::bits(_mm_cmpgt_epi32(above, others.above), _mm_cmpgt_epi32(own, others.own),
                      _mm_cmpgt_epi32(below, others.below));
  }
};

/// What stepping on from a cell sums up to, at each of its neighbours.
template <bool corners>
SAUNTER_INLINE inline FieldByFours::Rows FieldByFours::sums_about(std::uint32_t at, std::int32_t own,
                                                                  Counts counts) const {
  const __m128i low = _mm_set1_epi32(0xFFFF);
  const __m128i sides = _mm_set_epi32(0, -1, 0, -1);  // left and right of the middle
  const __m128i from = _mm_set1_epi32(own);
  if (counts == Counts::entries_back) {
    const __m128i edge = _mm_set1_epi32(static_cast<std::int32_t>(edge_part(words_[at])));
    const __m128i across = _mm_set1_epi32(static_cast<std::int32_t>(corner_part(words_[at])));
    const __m128i aside = _mm_add_epi32(from, corners ? Four::choose(sides, across, edge) : edge);
    return {aside, _mm_add_epi32(from, edge), aside};
  }
  const Rows words = Rows::load(words_.data() + at, stride_);
  Rows sums{_mm_and_si128(words.above, low), _mm_and_si128(words.own, low), _mm_and_si128(words.below, low)};
  if constexpr (corners) {
    sums.above = Four::choose(sides, _mm_srli_epi32(words.above, 16), sums.above);
    sums.below = Four::choose(sides, _mm_srli_epi32(words.below, 16), sums.below);
  }
  return {_mm_add_epi32(from, sums.above), _mm_add_epi32(from, sums.own), _mm_add_epi32(from, sums.below)};
}

/// Of the neighbours marked, those a step leads to.
template <bool corners>
SAUNTER_INLINE inline unsigned FieldByFours::legal(unsigned marked, const Rows& known, unsigned kind) const {
  constexpr unsigned diagonals = 0x505;
  constexpr unsigned edges = 0x252;
  if constexpr (!corners) return marked & around_[kind];
  if ((marked & diagonals) == 0) return marked & edges;
  return marked & allowed_[known.equal_to(_mm_setzero_si128())];
}

template <bool corners>
void FieldByFours::settle(const CostGrid& costs, std::uint32_t source, Counts counts) {
  const auto shift = static_cast<unsigned>(std::bit_width(unsigned{costs.lowest_entry()})) - 1;
  const std::size_t wanted = std::bit_ceil((costs.highest_step() >> shift) + std::size_t{2});
  if (buckets_.size() < wanted) buckets_.resize(wanted);
  for (auto& bucket : buckets_) bucket.clear();
  const std::size_t mask = wanted - 1;
  std::int32_t* const distance = distance_.data();
  const std::array<std::int32_t, 3> rows = {-stride_ - 1, -1, stride_ - 1};
  alignas(16) std::array<std::int32_t, 12> sums;
  std::size_t waiting = 1;
  std::size_t key = static_cast<std::size_t>(distance[source]) >> shift;
  buckets_[key & mask].push_back(source);
  for (; waiting > 0; ++key) {
    std::vector<std::uint32_t>& bucket = buckets_[key & mask];  // nothing is added to it meanwhile
    const std::size_t count = bucket.size();
    for (std::size_t i = 0; i < count; ++i) {
      if (i + fetched_ahead < count) prefetch(bucket[i + fetched_ahead], counts == Counts::entries_there);
      const std::uint32_t at = bucket[i];
      const std::int32_t own = distance[at];
      if (static_cast<std::size_t>(own) >> shift != key) continue;  // settled earlier, at less
      const Rows known = Rows::load(distance + at, stride_);
      const Rows sum = sums_about<corners>(at, own, counts);
      unsigned better = legal<corners>(known.larger_than(sum), known, corners ? 0 : words_[at] >> 16U);
      if (better == 0) continue;
      Four::store(sums.data(), sum.above);
      Four::store(sums.data() + 4, sum.own);
      Four::store(sums.data() + 8, sum.below);
      for (; better != 0; better &= better - 1) {
        const auto spot = static_cast<unsigned>(std::countr_zero(better));
        const std::uint32_t other =
            at + static_cast<std::uint32_t>(rows[spot / 4] + static_cast<std::int32_t>(spot % 4));
        distance[other] = sums[spot];
        buckets_[(static_cast<std::size_t>(sums[spot]) >> shift) & mask].push_back(other);
        ++waiting;
      }
    }
    waiting -= count;
    bucket.clear();
  }
}

/// Breadth first: every cell is reached once, along a line of all cells.
template <bool corners>
void FieldByFours::settle_by_steps(const CostGrid& costs, std::uint32_t source) {
  std::int32_t* const distance = distance_.data();
  const auto width = static_cast<std::uint32_t>(stride_);
  const bool by_columns = costs.tiling().shape() == Shape::hex_flat;
  const __m128i unseen = _mm_set1_epi32(unseen_distance);
  std::array<std::int32_t, 12> steps = {};
  for (std::int32_t spot = 0; spot < 12; ++spot)
    steps[static_cast<unsigned>(spot)] = (spot / 4 - 1) * stride_ + spot % 4 - 1;
  line_.resize(distance_.size());
  std::uint32_t* const line = line_.data();
  std::size_t last = 0;
  line[last++] = source;
  for (std::size_t next = 0; next < last; ++next) {
    if (next + fetched_ahead < last) prefetch(line[next + fetched_ahead], false);
    const std::uint32_t at = line[next];
    const std::int32_t sum = distance[at] + 100;
    const Rows known = Rows::load(distance + at, stride_);
    unsigned better = known.equal_to(unseen);
    if (better == 0) continue;
    const std::uint32_t kind = corners ? 0 : first_kind_ ^ (((by_columns ? at % width : at / width) - 1) & 1U);
    for (better = legal<corners>(better, known, kind); better != 0; better &= better - 1) {
      const std::uint32_t other =
          at + static_cast<std::uint32_t>(steps[static_cast<unsigned>(std::countr_zero(better))]);
      distance[other] = sum;
      line[last++] = other;
    }
  }
}

/// What is written of four cells at a time.
struct FieldByFours::Sweep {
  const std::int32_t* distance = nullptr;
  const std::uint32_t* words = nullptr;
  std::array<std::array<std::int32_t, 8>, 2> steps = {};  // to a neighbour, by kind and direction
  unsigned directions = 0;
  std::int32_t stride = 0;
  Corners rule = Corners::strict;

  /// The first direction in which each of four cells leans on its neighbour: from the last to the first, each over
  /// those after it.
  template <bool corners, Counts counts>
  [[nodiscard]] SAUNTER_INLINE __m128i first_steps(std::size_t at, __m128i own, __m128i known, unsigned kind) const {
    const __m128i zero = _mm_setzero_si128();
    const std::int32_t* const here = distance + at;
    __m128i shut[4] = {zero, zero, zero, zero};  // ne se sw nw
    if (corners && rule != Corners::free) {
      const auto closed = [&](std::int32_t by) { return _mm_cmpeq_epi32(Four::load(here + by), zero); };
      const __m128i sides[4] = {closed(-stride), closed(1), closed(stride), closed(-1)};
      for (unsigned i = 0; i < 4; ++i) {
        const __m128i other = sides[(i + 1) % 4];
        shut[i] = rule == Corners::strict ? _mm_or_si128(sides[i], other) : _mm_and_si128(sides[i], other);
      }
    }
    __m128i first = _mm_set1_epi32(255);
    for (unsigned d = corners ? 8 : directions; d-- > 0;) {
      const std::int32_t step = steps[kind][d];
      __m128i length = _mm_set1_epi32(100);
      if constexpr (counts != Counts::steps) {
        const __m128i word = Four::load(words + at + (counts == Counts::entries_back ? step : 0));
        length = corners && d >= 4 ? _mm_srli_epi32(word, 16) : _mm_and_si128(word, _mm_set1_epi32(0xFFFF));
      }
      __m128i leans = _mm_cmpeq_epi32(_mm_add_epi32(Four::load(here + step), length), own);
      if (corners && d >= 4) leans = _mm_andnot_si128(shut[d - 4], leans);
      first = Four::choose(leans, _mm_set1_epi32(static_cast<std::int32_t>(d)), first);
    }
    return _mm_or_si128(_mm_and_si128(known, first), _mm_andnot_si128(known, _mm_set1_epi32(255)));
  }
};

template <bool corners, FieldByFours::Counts counts>
std::size_t FieldByFours::write(const CostGrid& costs, Grid<Cost>& cost, Grid<std::uint8_t>& next) const {
  const Size size = costs.size();
  const bool by_columns = costs.tiling().shape() == Shape::hex_flat;
  Sweep sweep{distance_.data(), words_.data(),        {}, static_cast<unsigned>(costs.rules().steps),
              stride_,          costs.rules().corners};
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < sweep.directions; ++d)
      sweep.steps[kind][d] = hood.offset[kind][d].rows * stride_ + hood.offset[kind][d].cols;
  }
  const __m128i blocked_cells = _mm_setzero_si128();
  const __m128i unseen = _mm_set1_epi32(unseen_distance);
  const __m128i even = _mm_set_epi32(0, -1, 0, -1);
  std::size_t reached = 0;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    const auto kind = static_cast<unsigned>(costs.tiling().kind({0, row}));
    const std::size_t start = static_cast<std::size_t>(row + 1) * static_cast<std::size_t>(stride_) + 1;
    for (std::int32_t col = 0; col < size.cols; col += 4) {
      const std::size_t at = start + static_cast<std::size_t>(col);
      const __m128i own = Four::load(sweep.distance + at);
      const __m128i unknown = _mm_or_si128(_mm_cmpeq_epi32(own, blocked_cells), _mm_cmpeq_epi32(own, unseen));
      const __m128i known = _mm_andnot_si128(unknown, _mm_set1_epi32(-1));
      __m128i first = sweep.first_steps<corners, counts>(at, own, known, kind);
      if (by_columns) {  // columns take turns with two tables
        first = Four::choose(even, first, sweep.first_steps<corners, counts>(at, own, known, kind ^ 1U));
      }
      const __m128i sums = Four::choose(known, _mm_sub_epi32(own, _mm_set1_epi32(raised)), _mm_set1_epi32(-1));
      const __m128i two = _mm_packs_epi32(first, first);
      const auto told = static_cast<std::uint32_t>(_mm_cvtsi128_si32(_mm_packus_epi16(two, two)));
      const auto many = static_cast<std::size_t>(std::min(4, size.cols - col));
      std::array<std::uint32_t, 4> four;
      _mm_storeu_si128(reinterpret_cast<__m128i*>(four.data()), sums);
      const auto marks = static_cast<unsigned>(_mm_movemask_ps(_mm_castsi128_ps(known)));
      reached += static_cast<std::size_t>(std::popcount(marks & ((1U << many) - 1)));
      std::memcpy(cost.row(row).data() + col, four.data(), many * sizeof(Cost));
      std::memcpy(next.row(row).data() + col, &told, many);
    }
  }
  return reached;
}

std::size_t FieldByFours::run(const CostGrid& costs, Cell source, Cost head_start, Counts counts, Grid<Cost>& cost,
                              Grid<std::uint8_t>& next) {
  const bool corners = costs.tiling().shape() == Shape::square && costs.rules().steps == 8;
  lay_out(costs, counts);
  const std::int32_t at = (source.row + 1) * stride_ + source.col + 1;
  distance_[static_cast<std::size_t>(at)] = raised + static_cast<std::int32_t>(head_start);
  const auto from = static_cast<std::uint32_t>(at);
  if (counts == Counts::steps) {
    corners ? settle_by_steps<true>(costs, from) : settle_by_steps<false>(costs, from);
  } else {
    corners ? settle<true>(costs, from, counts) : settle<false>(costs, from, counts);
  }
  const auto write_all = [&]<Counts by>() {
    return corners ? write<true, by>(costs, cost, next) : write<false, by>(costs, cost, next);
  };
  if (counts == Counts::steps) return write_all.template operator()<Counts::steps>();
  if (counts == Counts::entries_there) return write_all.template operator()<Counts::entries_there>();
  return write_all.template operator()<Counts::entries_back>();
}
#else
std::size_t FieldByFours::run(const CostGrid&, Cell, Cost, Counts, Grid<Cost>&, Grid<std::uint8_t>&) { return 0; }
#endif

}  // namespace saunter::inline v0_2::detail
