#include "saunter/threat/threat_field.hpp"

#include <algorithm>
#include <bit>

#include "saunter/grid/area.hpp"

namespace saunter {
namespace {

constexpr std::uint16_t most_level = 65'535;
constexpr int most_of_side = 255;

std::size_t cells_of(Rect rect) {
  return rect.empty()
             ? 0
             : static_cast<std::size_t>(rect.right - rect.left) * static_cast<std::size_t>(rect.bottom - rect.top);
}
std::size_t place_in(Rect box, Cell cell) {
  return static_cast<std::size_t>(cell.row - box.top) * static_cast<std::size_t>(box.right - box.left) +
         static_cast<std::size_t>(cell.col - box.left);
}

}  // namespace

ThreatField::ThreatField(Board board, BitGrid nowhere)
    : board_(board),
      nowhere_(nowhere.size() == board.size ? std::move(nowhere) : BitGrid(board.size)),
      levels_(board.size),
      sides_(board.size) {}

/// Rows of hexes and triangles lie up to a seventh closer than a step.
Rect ThreatField::reach(const ThreatSource& source) const {
  const std::uint64_t steps = std::uint64_t{source.range} * 1155 / 100'000 + 1;
  const auto by = static_cast<std::int32_t>(std::min<std::uint64_t>(steps, 1U << 20U));
  return Rect::of(source.at).grown(by, board_.size);
}

std::uint16_t ThreatField::level_of(const Record& record, Cell cell) const {
  const std::int64_t distance = distance_squared(board_.tiling, record.source.at, cell);
  for (std::size_t i = 0; i < record.farthest.size(); ++i) {
    if (distance <= record.farthest[i]) return record.strengths[i];
  }
  return 0;
}

void ThreatField::look(Record& record, const SightGrid& sight) {
  const ThreatSource& source = record.source;
  SAUNTER_EXPECT(board_.size.contains(source.at) && sight.board() == board_);
  record.farthest.clear();
  record.strengths.clear();
  for (const ThreatBand& band : source.levels) {
    SAUNTER_EXPECT(band.fraction >= 1 && band.fraction <= 100);
    record.farthest.push_back(farthest_squared(source.range, band.fraction));
    const std::uint64_t level = (std::uint64_t{band.level} * source.strength + 50) / 100;
    record.strengths.push_back(static_cast<std::uint16_t>(std::min<std::uint64_t>(level, most_level)));
  }
  if (source.needs_sight) {
    lookout_.visible(sight, source.at, source.range, seen_);
  } else {
    seen_.clear();
    const Rect all = reach(source);
    const std::int64_t most = farthest_squared(source.range);
    for (std::int32_t row = all.top; row < all.bottom; ++row) {
      for (std::int32_t col = all.left; col < all.right; ++col) {
        if (distance_squared(board_.tiling, source.at, {col, row}) <= most) seen_.push_back({col, row});
      }
    }
  }
  const Arc arc = source.facing ? Arc(board_.tiling, *source.facing, source.arc) : Arc();
  std::erase_if(seen_, [&](Cell cell) {
    return sight.opaque(cell) || nowhere_.test(cell) || !arc.holds(source.at, cell) || level_of(record, cell) == 0;
  });
  record.box = {};
  for (const Cell cell : seen_) record.box = record.box.joined(Rect::of(cell));
  record.covered.assign((cells_of(record.box) + 63) / 64, 0);
  for (const Cell cell : seen_) {
    const std::size_t bit = place_in(record.box, cell);
    record.covered[bit / 64] |= std::uint64_t{1} << (bit % 64);
  }
}

template <typename F>
void ThreatField::for_each_covered(const Record& record, F&& f) const {
  const auto width = static_cast<std::size_t>(record.box.right - record.box.left);
  for (std::size_t i = 0; i < record.covered.size(); ++i) {
    for (std::uint64_t left = record.covered[i]; left != 0; left &= left - 1) {
      const std::size_t bit = i * 64 + static_cast<std::size_t>(std::countr_zero(left));
      f(Cell{record.box.left + static_cast<std::int32_t>(bit % width),
             record.box.top + static_cast<std::int32_t>(bit / width)});
    }
  }
}

void ThreatField::put(const Record& record) {
  ++revision_;
  const auto count = static_cast<unsigned>(side_count(board_.tiling));
  for_each_covered(record, [&](Cell cell) {
    const int level = level_of(record, cell);
    std::uint16_t& total = levels_[cell];
    total = static_cast<std::uint16_t>(std::min<int>(total + level, most_level));
    std::array<std::uint8_t, 8>& sides = sides_[cell];
    const auto raise = [&](unsigned side) {
      sides[side] = static_cast<std::uint8_t>(std::min(sides[side] + level, most_of_side));
    };
    if (cell == record.source.at) {
      for (unsigned side = 0; side < count; ++side) raise(side);
    } else {
      raise(static_cast<unsigned>(side_towards(board_.tiling, cell, record.source.at)));
    }
  });
}

/// A sum that was cut off at its limit is added up anew from the sources that are left. @pre the record is not alive
void ThreatField::take_away(const Record& record) {
  ++revision_;
  const auto count = static_cast<unsigned>(side_count(board_.tiling));
  for_each_covered(record, [&](Cell cell) {
    const int level = level_of(record, cell);
    std::array<std::uint8_t, 8>& sides = sides_[cell];
    bool known = levels_[cell] < most_level;
    const auto lower = [&](unsigned side) {
      known = known && sides[side] < most_of_side;
      if (known) sides[side] = static_cast<std::uint8_t>(sides[side] - level);
    };
    if (cell == record.source.at) {
      for (unsigned side = 0; side < count; ++side) lower(side);
    } else {
      lower(static_cast<unsigned>(side_towards(board_.tiling, cell, record.source.at)));
    }
    if (known) {
      levels_[cell] = static_cast<std::uint16_t>(levels_[cell] - level);
    } else {
      sum_up(cell);
    }
  });
}

void ThreatField::sum_up(Cell cell) {
  const auto count = static_cast<unsigned>(side_count(board_.tiling));
  std::uint64_t total = 0;
  std::array<std::uint64_t, 8> sums = {};
  for (const Record& record : records_) {
    if (!record.alive || !record.box.contains(cell)) continue;
    const std::size_t bit = place_in(record.box, cell);
    if ((record.covered[bit / 64] >> (bit % 64) & 1U) == 0) continue;
    const std::uint64_t level = level_of(record, cell);
    total += level;
    if (cell == record.source.at) {
      for (unsigned side = 0; side < count; ++side) sums[side] += level;
    } else {
      sums[static_cast<unsigned>(side_towards(board_.tiling, cell, record.source.at))] += level;
    }
  }
  levels_[cell] = static_cast<std::uint16_t>(std::min<std::uint64_t>(total, most_level));
  for (unsigned side = 0; side < count; ++side) {
    sides_[cell][side] = static_cast<std::uint8_t>(std::min<std::uint64_t>(sums[side], most_of_side));
  }
}

ThreatField::SourceId ThreatField::add(const SightGrid& sight, ThreatSource source) {
  std::size_t id = 0;
  while (id < records_.size() && records_[id].alive) ++id;
  if (id == records_.size()) records_.emplace_back();
  Record& record = records_[id];
  record.source = std::move(source);
  set_down(record, sight);
  ++alive_;
  return static_cast<SourceId>(id);
}

void ThreatField::lift(Record& record) {
  SAUNTER_EXPECT(record.alive);
  record.alive = false;
  take_away(record);
}
void ThreatField::set_down(Record& record, const SightGrid& sight) {
  look(record, sight);
  record.alive = true;
  put(record);
}

void ThreatField::replace(SourceId id, const SightGrid& sight, ThreatSource source) {
  lift(records_[id]);
  records_[id].source = std::move(source);
  set_down(records_[id], sight);
}

void ThreatField::move(SourceId id, const SightGrid& sight, Cell to) {
  lift(records_[id]);
  records_[id].source.at = to;
  set_down(records_[id], sight);
}

void ThreatField::remove(SourceId id) {
  lift(records_[id]);
  --alive_;
}

void ThreatField::refresh(const SightGrid& sight, Rect changed) {
  for (Record& record : records_) {
    if (!record.alive) continue;
    const Rect block = reach(record.source);
    const bool apart = block.right <= changed.left || changed.right <= block.left || block.bottom <= changed.top ||
                       changed.bottom <= block.top;
    if (apart) continue;
    lift(record);
    set_down(record, sight);
  }
}

std::uint16_t ThreatField::level_from(SourceId id, Cell cell) const {
  const Record& record = records_[id];
  if (!record.alive || !record.box.contains(cell)) return 0;
  const std::size_t bit = place_in(record.box, cell);
  return (record.covered[bit / 64] >> (bit % 64) & 1U) != 0 ? level_of(record, cell) : std::uint16_t{0};
}

Side ThreatField::most_dangerous_side(Cell cell) const {
  const std::array<std::uint8_t, 8>& sides = sides_[cell];
  const auto most = std::max_element(sides.begin(), sides.end());
  return *most == 0 ? -1 : static_cast<Side>(most - sides.begin());
}

ThreatAround ThreatField::around(Cell cell, Side facing) const {
  const int count = side_count(board_.tiling);
  SAUNTER_EXPECT(facing >= 0 && facing < count);
  const auto at = [&](int turn) { return side(cell, (facing + turn + count) % count); };
  ThreatAround found{.ahead = at(0), .behind = at(count / 2)};
  for (int turn = 1; turn < count / 2; ++turn) {
    found.right = std::max(found.right, at(turn));
    found.left = std::max(found.left, at(-turn));
  }
  return found;
}

std::uint16_t ThreatField::highest() const {
  const auto levels = levels_.values();
  return levels.empty() ? std::uint16_t{0} : *std::max_element(levels.begin(), levels.end());
}

Grid<std::uint16_t> levels_for_size(Tiling tiling, const Grid<std::uint16_t>& levels, int size) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  if (size == 1) return levels;
  Grid<std::uint16_t> largest(levels.size());
  std::vector<Cell> body;
  for (std::int32_t row = 0; row < levels.size().rows; ++row) {
    for (std::int32_t col = 0; col < levels.size().cols; ++col) {
      const Cell at{col, row};
      std::uint16_t most = 0;
      const auto take = [&](Cell cell) {
        if (levels.size().contains(cell)) most = std::max(most, levels[cell]);
      };
      if (tiling.is_hex()) {
        disk_of_cells(tiling, at, size - 1, body);
        for (const Cell cell : body) take(cell);
      } else {
        for (std::int32_t r = 0; r < size; ++r) {
          for (std::int32_t c = 0; c < size; ++c) take({col + c, row + r});
        }
      }
      largest[at] = most;
    }
  }
  return largest;
}

}  // namespace saunter
