#include "split_probe.hpp"

#include <algorithm>
#include <limits>

#include "../search/kernel/flood.hpp"
#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2::detail {

void SplitProbe::begin(const CostGrid& costs, const Regions& regions, std::span<const Cell> lost,
                       std::span<const std::uint32_t> wanted) {
  costs_ = &costs;
  regions_ = &regions;
  floods_.begin();
  region_of_.clear();
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
  ground_.begin(costs, lost_, ChangedMoves::Lookup::by_bits, ChangedMoves::Meant::places);
  if (lost_.empty()) return;
  const std::int32_t reach = costs.tiling().shape() == Shape::triangle ? 2 : 1;  // columns a step can lead aside
  about_lost_ = window.grown(reach, costs.size());
  find_pieces(about_lost_, wanted);
  whole_ = !floods_.choose_active();
  if (whole_) return;
  (void)floods_.run(std::numeric_limits<std::size_t>::max(),
                    [&](std::uint32_t flood, Cell cell) { return look_beyond(flood, cell); });
}

unsigned SplitProbe::both_ways(Cell cell) const {
  // Elsewhere no step has changed. Without sides a step and its way back are legal together.
  unsigned steps = about_lost_.contains(cell) ? ground_.moves(cell) : costs_->moves(cell);
  if (!costs_->has_sides()) return steps;
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  for_each_direction(steps, [&](unsigned d) {
    const unsigned back = ground_.moves(cell + hood.offset[kind][d]);
    if ((back >> hood.opposite[kind][d] & 1U) == 0) steps &= ~(1U << d);
  });
  return steps;
}

void SplitProbe::mark(Cell cell, std::uint32_t flood) {
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
      const std::uint32_t number = floods_.add();
      region_of_.push_back(region);
      mark(first, number);
      for (std::size_t i = 0; i < floods_[number].line.size(); ++i) {
        const Cell at = floods_[number].line[i];
        for_each_next(costs_->tiling(), both_ways(at), at, [&](Cell next) {
          if (window.contains(next) && !marked(next)) mark(next, number);
        });
      }
    }
  }
  for (const std::uint32_t region : wanted) {
    pieces_.clear();
    for (std::uint32_t flood = 0; flood < floods_.size(); ++flood) {
      if (region_of_[flood] == region) pieces_.push_back(flood);
    }
    floods_.contest(pieces_);
  }
}

/// @return whether it met another flood
bool SplitProbe::look_beyond(std::uint32_t flood, Cell cell) {
  bool met = false;
  for_each_next(costs_->tiling(), both_ways(cell), cell, [&](Cell next) {
    const std::uint64_t there = std::as_const(marks_)[next];
    if (there >> 24U != question_) {
      mark(next, flood);
    } else {
      met = floods_.meet(flood, static_cast<std::uint32_t>(there & 0xFF'FFFFU)) || met;
    }
  });
  return met;
}

std::uint64_t SplitProbe::part(Cell place) {
  if (marked(place)) return floods_.set_of(static_cast<std::uint32_t>(std::as_const(marks_)[place] & 0xFF'FFFFU));
  // What no flood has seen belongs to the one of its region that has not ended; or the region lost nothing.
  const std::uint32_t region = regions_->at(place);
  for (std::uint32_t flood = 0; flood < floods_.size(); ++flood) {
    if (region_of_[flood] == region && !floods_[flood].ended()) return floods_.set_of(flood);
  }
  return (std::uint64_t{1} << 32U) + region;
}

}  // namespace saunter::inline v0_2::detail
