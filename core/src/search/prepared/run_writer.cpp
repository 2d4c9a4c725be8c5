#include "run_writer.hpp"

#include <algorithm>
#include <cstdlib>

namespace saunter::inline v0_2::detail {

void RunWriter::straight(Cell from, Cell to, std::vector<Straight>& out) {
  const std::int32_t cols = to.col - from.col;
  const std::int32_t rows = to.row - from.row;
  const std::int32_t both = std::min(std::abs(cols), std::abs(rows));
  // n e s w are 0 to 3, ne se sw nw 4 to 7.
  const int diagonal = cols > 0 ? (rows < 0 ? 4 : 5) : (rows > 0 ? 6 : 7);
  add_straight(out, static_cast<std::uint8_t>(diagonal), static_cast<std::uint32_t>(both));
  const int edge = std::abs(cols) > std::abs(rows) ? (cols > 0 ? 1 : 3) : (rows > 0 ? 2 : 0);
  add_straight(out, static_cast<std::uint8_t>(edge),
               static_cast<std::uint32_t>(std::max(std::abs(cols), std::abs(rows)) - both));
}

void RunWriter::passage(const CostGrid& costs, Cell from, unsigned direction, Cell to, std::vector<Straight>& out) {
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  for (;;) {
    const auto kind = static_cast<unsigned>(tiling.kind(from));
    from = from + hood.offset[kind][direction];
    add_straight(out, static_cast<std::uint8_t>(direction), 1);
    if (from == to) return;
    direction =
        static_cast<unsigned>(std::countr_zero(costs.moves_on_map(from) & ~(1U << hood.opposite[kind][direction])));
  }
}

void RunWriter::passage_back(const CostGrid& costs, Cell from, unsigned direction, Cell to,
                             std::vector<Straight>& out) {
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  back_.clear();
  for (;;) {
    const auto kind = static_cast<unsigned>(tiling.kind(from));
    const std::uint8_t opposite = hood.opposite[kind][direction];
    back_.push_back(opposite);
    from = from + hood.offset[kind][direction];
    if (from == to) break;
    direction = static_cast<unsigned>(std::countr_zero(costs.moves_on_map(from) & ~(1U << opposite)));
  }
  for (std::size_t i = back_.size(); i-- > 0;) add_straight(out, back_[i], 1);
}

/// Puts both halves of the last stretch in its place until it is no short cut.
template <unsigned sides>
void RunWriter::take_apart(const Index& index, std::vector<Stretch>& stretches) {
  while (stretches.back().by == Stretch::By::middle) {
    const Stretch whole = stretches.back();
    const std::uint32_t middle = whole.how;
    Stretch first;
    Stretch last;
    for (const IndexWay<sides>& way : index.ways<sides>(middle)) {
      if (way.to == whole.from) first = index.stretch<sides>(middle, way, true);
      if (way.to == whole.to) last = index.stretch<sides>(middle, way, false);
    }
    stretches.back() = last;
    stretches.push_back(first);
  }
}

void RunWriter::next(const WayGround& ground, std::vector<Stretch>& stretches, std::vector<Straight>& out) {
  ground.index.sides == 1 ? take_apart<1>(ground.index, stretches) : take_apart<2>(ground.index, stretches);
  const Stretch stretch = stretches.back();
  stretches.pop_back();
  if (stretch.by == Stretch::By::text) {
    for (std::size_t i = stretch.how; ground.index.text[i] != 0; ++i) {
      add_straight(out, ground.index.text[i] >> 4U, ground.index.text[i] & 15U);
    }
    return;
  }
  const Cell from = ground.cell(stretch.from);
  const Cell to = ground.cell(stretch.to);
  if (ground.straight) {
    straight(from, to, out);
  } else if (stretch.by == Stretch::By::direct) {
    passage(ground.costs, from, stretch.how, to, out);
  } else {
    passage_back(ground.costs, to, stretch.how, from, out);
  }
}

}  // namespace saunter::inline v0_2::detail
