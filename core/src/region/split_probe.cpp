#include "saunter/region/split_probe.hpp"

#include <algorithm>
#include <bit>

namespace saunter {

void SplitProbe::begin(const CostGrid& costs, const Regions& regions, std::span<const Cell> lost,
                       std::span<const std::uint32_t> wanted) {
  costs_ = &costs;
  regions_ = &regions;
  count_ = 0;
  whole_ = true;
  ++question_;
  if (marks_.size() != costs.size()) marks_ = Grid<std::uint64_t>(costs.size());
  lost_.clear();
  Rect window;
  for (const Cell place : lost) {
    if (!costs.open(place)) continue;
    lost_.push_back({place, blocked});
    window = window.joined(Rect::of(place));
  }
  ground_.begin(costs, lost_);
  if (lost_.empty()) return;
  const std::int32_t reach = costs.tiling().shape() == Shape::triangle ? 2 : 1;  // columns a step can lead aside
  about_lost_ = window.grown(reach, costs.size());
  find_pieces(about_lost_, wanted);
  for (std::size_t i = 0; i < count_; ++i) whole_ = whole_ && !undecided(i);
  if (!whole_) flood_pieces();
}

unsigned SplitProbe::both_ways(Cell cell) const {
  // Elsewhere no step has changed. Without sides a step and its way back are legal together.
  unsigned steps = about_lost_.contains(cell) ? ground_.moves(cell) : costs_->moves(cell);
  if (!costs_->has_sides()) return steps;
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  for (unsigned left = steps; left != 0; left &= left - 1) {
    const auto d = static_cast<unsigned>(std::countr_zero(left));
    const unsigned back = ground_.moves(cell + hood.offset[kind][d]);
    if ((back >> hood.opposite[kind][d] & 1U) == 0) steps &= ~(1U << d);
  }
  return steps;
}

void SplitProbe::mark(Cell cell, std::size_t flood) {
  floods_[flood].line.push_back(cell);
  marks_[cell] = question_ << 24U | flood;
}

/// The pieces that what is left of each wanted region falls into about the lost places.
void SplitProbe::find_pieces(Rect window, std::span<const std::uint32_t> wanted) {
  for (std::int32_t row = window.top; row < window.bottom; ++row) {
    for (std::int32_t col = window.left; col < window.right; ++col) {
      const Cell first{col, row};
      if (!ground_.open(first) || marked(first)) continue;
      const std::uint32_t region = regions_->at(first);
      if (std::find(wanted.begin(), wanted.end(), region) == wanted.end()) continue;
      if (floods_.size() <= count_) floods_.emplace_back();
      const std::size_t number = count_++;
      floods_[number].line.clear();
      floods_[number].done = 0;
      floods_[number].root = number;
      floods_[number].region = region;
      mark(first, number);
      for (std::size_t i = 0; i < floods_[number].line.size(); ++i) {
        const Cell at = floods_[number].line[i];
        for (unsigned steps = both_ways(at); steps != 0; steps &= steps - 1) {
          const Cell next = costs_->tiling().neighbour(at, Direction(std::countr_zero(steps)));
          if (window.contains(next) && !marked(next)) mark(next, number);
        }
      }
    }
  }
}

std::size_t SplitProbe::root_of(std::size_t flood) {
  while (floods_[flood].root != flood) flood = floods_[flood].root = floods_[floods_[flood].root].root;
  return flood;
}

/// Whether a flood must go on: it is not closed in, and another of its region that it has not met is not either.
bool SplitProbe::undecided(std::size_t flood) {
  if (floods_[flood].ended()) return false;
  const std::size_t mine = root_of(flood);
  for (std::size_t i = 0; i < count_; ++i) {
    if (floods_[i].region == floods_[flood].region && !floods_[i].ended() && root_of(i) != mine) return true;
  }
  return false;
}

void SplitProbe::flood_pieces() {
  constexpr int cells_a_turn = 16;
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  for (bool any = true; any;) {
    any = false;
    for (std::size_t i = 0; i < count_; ++i) {
      if (!undecided(i)) continue;
      any = true;
      for (int turn = 0; turn < cells_a_turn && !floods_[i].ended(); ++turn) {
        const Cell cell = floods_[i].line[floods_[i].done++];
        const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
        for (unsigned steps = both_ways(cell); steps != 0; steps &= steps - 1) {
          const Cell next = cell + hood.offset[kind][static_cast<unsigned>(std::countr_zero(steps))];
          const std::uint64_t there = std::as_const(marks_)[next];
          if (there >> 24U != question_) {
            mark(next, i);
            continue;
          }
          const std::size_t other = there & 0xFF'FFFFU;
          if (other == i || root_of(other) == root_of(i)) continue;
          floods_[root_of(other)].root = root_of(i);
          turn = cells_a_turn;  // it may be decided now
        }
      }
    }
  }
}

std::uint64_t SplitProbe::part(Cell place) {
  if (marked(place)) return root_of(std::as_const(marks_)[place] & 0xFF'FFFFU);
  // What no flood has seen belongs to the one of its region that has not ended; or the region lost nothing.
  const std::uint32_t region = regions_->at(place);
  for (std::size_t i = 0; i < count_; ++i) {
    if (floods_[i].region == region && !floods_[i].ended()) return root_of(i);
  }
  return (std::uint64_t{1} << 32U) + region;
}

}  // namespace saunter
