#include <algorithm>
#include <cstddef>

#include "baker.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint16_t no_entry = 65'535;

}  // namespace

void CostGrid::Baker::set_entries(Rect anchors) {
  if (mover_.size == 1) {
    set_entries_of_one(anchors);
  } else {
    set_entries_of_many(anchors);
  }
  costs_.take_open_bits(anchors);
}

void CostGrid::Baker::set_entries_of_one(Rect anchors) {
  for (std::int32_t row = anchors.top; row < anchors.bottom; ++row) {
    const TerrainId* const kinds = map_.terrain().row(row).data();
    EntryCost* const entries = costs_.entry_.row(row).data();
    if (added_ == nullptr) {
      for (std::int32_t col = anchors.left; col < anchors.right; ++col) entries[col] = cost_by_kind_[kinds[col]];
    } else {
      for (std::int32_t col = anchors.left; col < anchors.right; ++col) entries[col] = cost_at({col, row}, kinds[col]);
    }
    if (occupied_ != nullptr) shut_occupied(entries, anchors, row);
    set_open_bits(entries, anchors, row);
  }
}

void CostGrid::Baker::set_entries_of_many(Rect anchors) {
  // Cost - 1 wraps "blocked" to the largest number, so that one maximum answers both what it costs and whether.
  const Body body = Body::of(tiling_, mover_.size);
  Patch<std::uint16_t> worst(grown_freely(anchors, mover_.size), no_entry);
  const Rect inside = worst.rect().grown(0, map_.size());
  for (std::int32_t row = inside.top; row < inside.bottom; ++row) {
    const TerrainId* const kinds = map_.terrain().row(row).data();
    std::uint16_t* const to = worst.at({0, row});
    for (std::int32_t col = inside.left; col < inside.right; ++col) {
      to[col] = static_cast<std::uint16_t>(cost_at({col, row}, kinds[col]) - 1U);
    }
    for (std::int32_t col = inside.left; occupied_ != nullptr && col < inside.right; ++col) {
      if (occupied_->test({col, row})) to[col] = no_entry;
    }
  }
  for_each_cell(anchors, [&](Cell cell) { costs_.ground_[cell] = static_cast<EntryCost>(*worst.at(cell) + 1U); });
  sweep(worst, tiling_, body, no_entry, [](std::uint16_t a, std::uint16_t b) { return std::max(a, b); });
  if (map_.has_barriers() || costs_.split_.size() == costs_.size()) find_split_places(anchors, body);
  const bool split = costs_.split_.size() == costs_.size();
  for_each_run(tiling_, anchors, [&](Run run) {
    const Offset to_base = leap(tiling_, run.kind, body.base_direction, body.base_steps);
    const std::uint16_t* const from = worst.at({to_base.cols, run.row + to_base.rows});
    EntryCost* const entries = costs_.entry_.row(run.row).data();
    for (std::int32_t col = run.first; col < run.last; col += run.apart) {
      const bool whole = !split || !costs_.split_.test({col, run.row});
      entries[col] = whole ? static_cast<EntryCost>(from[col] + 1U) : blocked;
    }
  });
  for (std::int32_t row = anchors.top; row < anchors.bottom; ++row) {
    set_open_bits(costs_.entry_.row(row).data(), anchors, row);
  }
}

/// For every cost that a block can get.
void CostGrid::Baker::make_room(Rect anchors) {
  for (std::size_t id = 0; id < map_.kinds().size(); ++id) costs_.counts_.make_room(cost_by_kind_[id]);
  if (added_ == nullptr) return;
  for (const Cell cell : anchors.grown(reach(), map_.size()).cells()) {
    costs_.counts_.make_room(cost_at(cell, map_.terrain_at(cell)));
  }
}

void CostGrid::Baker::shut_occupied(EntryCost* entries, Rect anchors, std::int32_t row) const {
  for (std::int32_t col = anchors.left; col < anchors.right; ++col) {
    if (occupied_->test({col, row})) entries[col] = blocked;
  }
}

/// Writes the open cells of a row a word of bits at a time.
void CostGrid::Baker::set_open_bits(const EntryCost* entries, Rect anchors, std::int32_t row) {
  const std::span<std::uint64_t> words = costs_.open_.row_words(row);
  const auto first_bit = static_cast<std::size_t>(anchors.left) + BitGrid::margin;
  const auto end_bit = static_cast<std::size_t>(anchors.right) + BitGrid::margin;
  for (std::size_t bit = first_bit; bit < end_bit;) {
    const std::size_t word = bit / 64;
    const std::size_t word_end = std::min(end_bit, (word + 1) * 64);
    const std::size_t count = word_end - bit;
    const EntryCost* const from = entries + (bit - BitGrid::margin);
    std::uint64_t open = 0;
    for (std::size_t i = 0; i < count; ++i) open |= std::uint64_t{from[i] != blocked ? 1U : 0U} << i;
    const std::uint64_t changed = (count == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << count) - 1) << (bit % 64);
    open <<= bit % 64;
    bit = word_end;
    words[word] = (words[word] & ~changed) | open;
  }
}

/// Marks the places where a barrier closed both ways would run through the mover.
void CostGrid::Baker::find_split_places(Rect anchors, const Body& body) {
  if (costs_.split_.size() != costs_.size()) costs_.split_ = BitGrid(costs_.size());
  for_each_cell(anchors, [&](Cell cell) { costs_.split_.set(cell, false); });
  for (int axis = 0; axis < body.axis_count; ++axis) {
    const Direction d = body.axes[static_cast<unsigned>(axis)];
    Patch<std::uint8_t> walls(grown_freely(anchors, mover_.size), 0);
    for_each_cell(walls.rect().grown(0, map_.size()), [&](Cell cell) {
      if (!map_.closed(cell, d)) return;  // never set on the map's rim
      const Cell next = tiling_.neighbour(cell, d);
      if (map_.closed(next, tiling_.direction(next, cell))) *walls.at(cell) = 1;
    });
    const auto either = [](std::uint8_t a, std::uint8_t b) { return static_cast<std::uint8_t>(a | b); };
    sweep(walls, tiling_, body, std::uint8_t{0}, either, axis);
    for_each_run(tiling_, anchors, [&](Run run) {
      const Offset to_base = leap(tiling_, run.kind, body.base_direction, body.base_steps);
      const std::uint8_t* const from = walls.at({to_base.cols, run.row + to_base.rows});
      for (std::int32_t col = run.first; col < run.last; col += run.apart) {
        if (from[col] != 0) costs_.split_.set({col, run.row});
      }
    });
  }
}

}  // namespace saunter::inline v0_2
