#include "saunter/threat/threat_field.hpp"

#include <algorithm>
#include <bit>

#include "bearing.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint16_t most_level = 65'535;
constexpr int most_of_side = 255;

std::size_t words_in_row(Rect box) { return (static_cast<std::size_t>(box.right - box.left) + 63) / 64; }

}  // namespace

ThreatField::ThreatField(Board board, BitGrid nowhere)
    : tiling_(board.tiling),
      nowhere_(nowhere.size() == board.size ? std::move(nowhere) : BitGrid(board.size)),
      levels_(board.size),
      sides_(board.size) {}

/// Rows of hexes and triangles lie up to a seventh closer than a step.
Rect ThreatField::reach(const Threat& threat) const {
  const std::uint64_t steps = std::uint64_t{Length{threat.range}} * 1155 / 100'000 + 1;
  const auto by = static_cast<std::int32_t>(std::min<std::uint64_t>(steps, 1U << 20U));
  return Rect::of(threat.at).grown(by, levels_.size());
}

std::uint16_t ThreatField::level_of(const Record& record, std::int64_t distance_squared) {
  for (std::size_t i = 0; i < record.farthest.size(); ++i) {
    if (distance_squared <= record.farthest[i]) return record.strengths[i];
  }
  return 0;
}

bool ThreatField::covers(const Record& record, Cell cell) {
  if (!record.alive || !record.box.contains(cell)) return false;
  const auto col = static_cast<std::size_t>(cell.col - record.box.left);
  const std::size_t row = static_cast<std::size_t>(cell.row - record.box.top) * words_in_row(record.box);
  return (record.covered[row + col / 64] >> (col % 64) & 1U) != 0;
}

bool ThreatField::can_be(const Board& board, const Threat& threat) {
  const auto sound = [](const ThreatBand& band) { return band.fraction >= 1 && band.fraction <= 100; };
  return board.size.contains(threat.at) && std::all_of(threat.levels.begin(), threat.levels.end(), sound) &&
         (!threat.facing || (threat.facing->exists(board.tiling) && threat.arc >= 1 && threat.arc <= 360));
}

/// Fills `looked_`.
bool ThreatField::look(const Threat& threat, const SightGrid& sight) {
  SAUNTER_EXPECT(sight.board() == board());
  if (sight.board() != board() || !can_be(board(), threat)) return false;
  Record& record = looked_;
  record.threat = threat;
  const Threat& placed = record.threat;
  record.farthest.clear();
  record.strengths.clear();
  for (const ThreatBand& band : placed.levels) {
    record.farthest.push_back(farthest_squared(placed.range, band.fraction));
    const std::uint64_t level = (std::uint64_t{band.level} * Length{placed.strength} + 50) / 100;
    record.strengths.push_back(static_cast<std::uint16_t>(std::min<std::uint64_t>(level, most_level)));
  }
  if (placed.needs_sight) {
    lookout_.visible(sight, placed.at, placed.range, seen_);
  } else {
    seen_.clear();
    const Rect all = reach(placed);
    const std::int64_t most = farthest_squared(placed.range);
    for (std::int32_t row = all.top; row < all.bottom; ++row) {
      for (std::int32_t col = all.left; col < all.right; ++col) {
        if (distance_squared(tiling_, placed.at, {col, row}) <= most) seen_.push_back({col, row});
      }
    }
  }
  const Arc arc = placed.facing ? Arc(tiling_, *placed.facing, placed.arc) : Arc();
  const WholePlane plane(tiling_);
  const WholePoint centre = plane.centre(placed.at);
  std::erase_if(seen_, [&](Cell cell) {
    return sight.opaque(cell) || nowhere_.test(cell) || (placed.facing && !arc.holds(placed.at, cell)) ||
           level_of(record, plane.squared(plane.centre(cell) - centre)) == 0;
  });
  record.box = {};
  for (const Cell cell : seen_) record.box = record.box.joined(Rect::of(cell));
  const std::size_t width = words_in_row(record.box);
  record.covered.assign(width * static_cast<std::size_t>(record.box.bottom - record.box.top), 0);
  for (const Cell cell : seen_) {
    const auto col = static_cast<std::size_t>(cell.col - record.box.left);
    const std::size_t row = static_cast<std::size_t>(cell.row - record.box.top) * width;
    record.covered[row + col / 64] |= std::uint64_t{1} << (col % 64);
  }
  record.alive = true;
  return true;
}

template <typename F>
void ThreatField::for_each_covered(const Record& record, F&& f) const {
  const WholePlane plane(tiling_);
  const WholePoint centre = plane.centre(record.threat.at);
  const std::size_t width = words_in_row(record.box);
  for (std::size_t i = 0; i < record.covered.size(); ++i) {
    const Cell start{record.box.left + static_cast<std::int32_t>(i % width * 64),
                     record.box.top + static_cast<std::int32_t>(i / width)};
    for (std::uint64_t left = record.covered[i]; left != 0; left &= left - 1) {
      const Cell cell{start.col + std::countr_zero(left), start.row};
      const WholePoint away = centre - plane.centre(cell);
      const int level = level_of(record, plane.squared(away));
      f(cell, level, away == WholePoint{} ? Side(-1) : side_of(tiling_.shape(), away));
    }
  }
}

void ThreatField::put(const Record& record) {
  ++revision_;
  const int count = side_count(tiling_);
  for_each_covered(record, [&](Cell cell, int level, Side side) {
    const CellIndex index = levels_.size().index(cell);
    std::uint16_t& total = levels_[index];
    total = static_cast<std::uint16_t>(std::min<int>(total + level, most_level));
    std::array<std::uint8_t, 8>& sides = sides_[index];
    for (int s = side < 0 ? 0 : side; s < (side < 0 ? count : side + 1); ++s) {
      std::uint8_t& sum = sides[static_cast<unsigned>(s)];
      sum = static_cast<std::uint8_t>(std::min(sum + level, most_of_side));
    }
  });
}

/// A sum that was cut off at its limit is added up anew from the threats that are left. @pre the record is not alive
void ThreatField::take_away(const Record& record) {
  ++revision_;
  const int count = side_count(tiling_);
  for_each_covered(record, [&](Cell cell, int level, Side side) {
    const CellIndex index = levels_.size().index(cell);
    std::array<std::uint8_t, 8>& sides = sides_[index];
    bool known = levels_[index] < most_level;
    for (int s = side < 0 ? 0 : side; s < (side < 0 ? count : side + 1) && known; ++s) {
      std::uint8_t& sum = sides[static_cast<unsigned>(s)];
      known = sum < most_of_side;
      if (known) sum = static_cast<std::uint8_t>(sum - level);
    }
    if (known) {
      levels_[index] = static_cast<std::uint16_t>(levels_[index] - level);
    } else {
      sum_up(cell);
    }
  });
}

void ThreatField::sum_up(Cell cell) {
  const WholePlane plane(tiling_);
  std::uint64_t total = 0;
  std::array<std::uint64_t, 8> sums = {};
  for (const Record& record : records_) {
    if (!covers(record, cell)) continue;
    const WholePoint away = plane.centre(record.threat.at) - plane.centre(cell);
    const std::uint64_t level = level_of(record, plane.squared(away));
    total += level;
    if (cell == record.threat.at) {
      for (std::uint64_t& sum : sums) sum += level;
    } else {
      sums[static_cast<unsigned>(side_of(tiling_.shape(), away))] += level;
    }
  }
  levels_[cell] = static_cast<std::uint16_t>(std::min<std::uint64_t>(total, most_level));
  for (int side = 0; side < side_count(tiling_); ++side) {
    const auto s = static_cast<unsigned>(side);
    sides_[cell][s] = static_cast<std::uint8_t>(std::min<std::uint64_t>(sums[s], most_of_side));
  }
}

/// Takes what a record covers away and puts another in its place. Takes no memory.
void ThreatField::exchange(Record& record, Record& by) {
  if (record.alive) {
    record.alive = false;
    take_away(record);
    --alive_;
  }
  std::swap(record, by);
  if (!record.alive) return;
  put(record);
  ++alive_;
}

ThreatField::ThreatId ThreatField::add(const SightGrid& sight, const Threat& threat) {
  if (!look(threat, sight)) return no_threat;
  std::size_t id = 0;
  while (id < records_.size() && records_[id].alive) ++id;
  if (id == records_.size()) records_.emplace_back();
  exchange(records_[id], looked_);
  return static_cast<ThreatId>(id);
}

bool ThreatField::replace(ThreatId id, const SightGrid& sight, const Threat& threat) {
  if (!known(id) || !look(threat, sight)) return false;
  exchange(records_[id], looked_);
  return true;
}

bool ThreatField::move(ThreatId id, const SightGrid& sight, Cell to) {
  if (!known(id)) return false;
  Threat threat = records_[id].threat;
  threat.at = to;
  return replace(id, sight, threat);
}

bool ThreatField::turn(ThreatId id, const SightGrid& sight, Facing facing) {
  if (!known(id)) return false;
  Threat threat = records_[id].threat;
  threat.facing = facing;
  return replace(id, sight, threat);
}

bool ThreatField::remove(ThreatId id) {
  if (!known(id)) return false;
  looked_.alive = false;
  exchange(records_[id], looked_);
  return true;
}

const Threat& ThreatField::threat(ThreatId id) const {
  static const Threat nobody{.levels = {}};
  return known(id) ? records_[id].threat : nobody;
}

void ThreatField::refresh(const SightGrid& sight, const ChangeSet& changed) {
  for (Record& record : records_) {
    if (!record.alive) continue;
    const Rect watched = reach(record.threat);
    const auto blocks = changed.blocks();
    if (std::none_of(blocks.begin(), blocks.end(), [&](Rect block) { return watched.meets(block); })) continue;
    if (look(record.threat, sight)) exchange(record, looked_);
  }
}

std::uint16_t ThreatField::level_from(ThreatId id, Cell cell) const {
  if (!known(id)) return 0;
  const Record& record = records_[id];
  return covers(record, cell) ? level_of(record, distance_squared(tiling_, record.threat.at, cell)) : std::uint16_t{0};
}

void ThreatField::levels_of(std::span<const ThreatId> ids, Levels& out) const {
  out = Levels(levels_.size());
  for (const ThreatId id : ids) {
    if (!known(id)) continue;
    for_each_covered(records_[id], [&](Cell cell, int level, Side) {
      std::uint16_t& sum = out[cell];
      sum = static_cast<std::uint16_t>(std::min<int>(sum + level, most_level));
    });
  }
}

Side ThreatField::most_dangerous_side(Cell cell) const {
  const std::array<std::uint8_t, 8> sides = std::as_const(sides_)[cell];
  const std::uint8_t most = *std::max_element(sides.begin(), sides.end());
  return Side(most == 0 ? -1 : static_cast<int>(std::find(sides.begin(), sides.end(), most) - sides.begin()));
}

ThreatAround ThreatField::around(Cell cell, Side facing) const {
  const int count = side_count(tiling_);
  if (facing < 0 || facing >= count) return {};
  const auto at = [&](int turn) { return side(cell, Side((facing + turn + count) % count)); };
  ThreatAround found{.ahead = at(0), .behind = at(count / 2)};
  const auto sum = [](int a, int b) { return std::min(65'535, a + b); };
  for (int turn = 1; turn < count / 2; ++turn) {
    found.right = sum(found.right, at(turn));
    found.left = sum(found.left, at(-turn));
  }
  return found;
}

std::uint16_t ThreatField::highest() const {
  const auto levels = levels_.values();
  return levels.empty() ? std::uint16_t{0} : *std::max_element(levels.begin(), levels.end());
}

}  // namespace saunter::inline v0_2
