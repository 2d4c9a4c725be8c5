// Where units fit, for all anchors at once.
#include <algorithm>

#include "placement.hpp"
#include "saunter/grid/area.hpp"
#include "spot_rows.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// The spots that have to be asked about the cells to be kept open: where the unit would touch every set of ways
/// between them that was tried. Each set goes round what is still in doubt, until that pays no more.
BitGrid doubtful_spots(Placement& placement, const SpotRows& rows, const BitGrid& spots, const Footprint& footprint,
                       int turn, bool mirrored) {
  constexpr int most_sets = 3;
  constexpr std::size_t few = 48;  // a set of ways takes about as long as so many questions
  const Tiling tiling = placement.tiling();
  BitGrid doubtful = spots;
  BitGrid avoided(spots.size());
  std::vector<Cell> cells;
  std::size_t count = doubtful.count();
  for (int set = 0; set < most_sets && (set == 0 || count > few); ++set) {
    if (set > 0) {
      avoided.clear();
      doubtful.for_each_set([&](Cell at) {
        cells_in_pose(tiling, footprint, {at, turn, mirrored}, cells);
        for (const Cell cell : cells) avoided.set(cell);
      });
    }
    BitGrid clear = SpotRows::all_of(spots.size());
    placement.witnesses(avoided).for_each_set([&](Cell cell) { clear.set(cell, false); });
    rows.where_all(clear).for_each_set([&](Cell at) { doubtful.set(at, false); });
    const std::size_t before = count;
    count = doubtful.count();
    if (set > 0 && before - count < before / 8) break;
  }
  return doubtful;
}

}  // namespace

BitGrid Fitter::spots(const FitTerms& terms, const Footprint& footprint, int turn, bool mirrored) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {};
  const Map& map = *terms.map;
  const SpotRows rows(map.tiling(), map.size(), footprint, turn, mirrored);
  Placement placement(*scratch_, terms);
  BitGrid free = free_cells(terms);
  if (placement.keeps()) {  // what would cover one of them does not fit
    for (const Cell cell : terms.keep_open) free.set(cell, false);
  }
  BitGrid spots = rows.where_all(free);
  if (map.has_barriers()) rows.keep_unbarred(map, spots);
  const bool each = terms.flatness || !terms.rules.empty();
  if (!each && !placement.keeps()) return spots;
  const BitGrid doubtful =
      placement.keeps() ? doubtful_spots(placement, rows, spots, footprint, turn, mirrored) : BitGrid{};
  std::vector<FitProblem> found;
  const BitGrid asked = each ? spots : doubtful;
  asked.for_each_set([&](Cell at) {
    found.clear();
    const Pose pose{at, turn, mirrored};
    cells_in_pose(map.tiling(), footprint, pose, scratch_->cells);
    std::sort(scratch_->cells.begin(), scratch_->cells.end());
    placement.look_at_flatness(found);
    if (found.empty()) placement.look_at_rules(pose, found);
    if (found.empty() && doubtful.test(at)) placement.look_at_kept(found);
    if (!found.empty()) spots.set(at, false);
  });
  return spots;
}

BitGrid free_cells(const FitTerms& terms) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {};
  const Map& map = *terms.map;
  const CellTerms cell_terms(terms);
  // Layers of the map's size are read by rows; of others single cells are asked for.
  const Grid<UnitId>* const units = terms.units != nullptr ? terms.units->layer(terms.layer) : nullptr;
  const Grid<UnitId>* const taken = units != nullptr && units->size() == map.size() ? units : nullptr;
  const bool each = (units != nullptr && taken == nullptr) || (terms.levels != nullptr && terms.highest);
  BitGrid free(map.size());
  for (std::int32_t row = 0; row < map.size().rows; ++row) {
    const TerrainId* const terrain = map.terrain().row(row).data();
    const UnitId* const by = taken != nullptr ? taken->row(row).data() : nullptr;
    const auto ground = [&](std::int32_t col) { return cell_terms.ground_of(terrain[col]); };
    if (each) {
      free.set_row(row, [&](std::int32_t col) {
        return ground(col) && cell_terms.occupied({col, row}) == 0 && !cell_terms.hot({col, row});
      });
    } else if (by != nullptr) {  // without a branch, which would often be guessed wrong
      const UnitId self = terms.self;
      free.set_row(row, [&](std::int32_t col) {
        return (unsigned{ground(col)} & (unsigned{by[col] == 0} | unsigned{by[col] == self})) != 0;
      });
    } else {
      free.set_row(row, ground);
    }
  }
  return free;
}

BitGrid spots_among(Tiling tiling, const BitGrid& free, const Footprint& footprint, int turn, bool mirrored) {
  return SpotRows(tiling, free.size(), footprint, turn, mirrored).where_all(free);
}

std::optional<Cell> nearest_spot(Tiling tiling, const BitGrid& spots, Cell wished) {
  // Farther off, squares of distances would not fit, and all but the direction is the same.
  wished = {std::clamp(wished.col, -far_away, far_away), std::clamp(wished.row, -far_away, far_away)};
  std::optional<Cell> nearest;
  std::int64_t least = 0;
  for (const Cell cell : spots.size().cells()) {
    if (!spots.test(cell)) continue;
    const std::int64_t distance = distance_squared(tiling, wished, cell);
    if (nearest && distance >= least) continue;
    nearest = cell;
    least = distance;
  }
  return nearest;
}

std::optional<Cell> cheapest_spot(const Field& field, const BitGrid& spots) {
  std::optional<Cell> cheapest;
  for (const Cell cell : spots.size().cells()) {
    if (!spots.test(cell) || !field.reached(cell)) continue;
    if (!cheapest || field.cost(cell) < field.cost(*cheapest)) cheapest = cell;
  }
  return cheapest;
}

}  // namespace saunter::inline v0_2
