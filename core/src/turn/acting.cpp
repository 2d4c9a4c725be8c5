#include "saunter/turn/acting.hpp"

#include <algorithm>
#include <numeric>

#include "../grid/body.hpp"

namespace saunter::inline v0_2 {

namespace {

/// The range as bounds: a touch is a range of one edge step.
ActRange in_bounds(ActRange range) {
  if (range.touch != nullptr) range.least = range.most = 1;
  return range;
}

/// Whether a barrier keeps a touch from a cell beside.
bool is_behind(const Board& board, const ActRange& range, Cell part, Cell target) {
  return range.touch != nullptr && range.touch->barred(part, board.tiling.direction(part, target));
}

/// All cells from which a body might have `target` in range with one of its cells; none when nothing can act on it.
void cells_about(const Board& board, const ActRange& range, int mover_size, Cell target, std::vector<Cell>& out) {
  out.clear();
  if (range.most < 0 || !board.size.contains(target)) return;
  if (range.nowhere != nullptr && range.nowhere->test(target)) return;
  const int beyond = 2 * (mover_size - 1);  // how far a body leads from its cell
  const int most = std::min(range.most, 2 * (board.size.cols + board.size.rows)) + beyond;
  disk_of_cells(board.tiling, target, most, board.size, out);
}

}  // namespace

std::string_view answer_name(ActAnswer answer) {
  switch (answer) {
    case ActAnswer::can_act: return "can-act";
    case ActAnswer::not_seen: return "not-seen";
    case ActAnswer::out_of_range: return "out-of-range";
  }
  return {};
}

/// The range about a cell of each kind, row by row.
void Acting::lay_out(const Board& board, const ActRange& range, int mover_size) {
  const Tiling tiling = board.tiling;
  for (std::vector<Run>& runs : runs_) runs.clear();
  if (range.most < 0) return;
  const int most = std::min(range.most, 2 * (board.size.cols + board.size.rows));  // no two cells are farther apart
  for (const Cell centre : {Cell{0, 0}, Cell{1, 0}, Cell{0, 1}}) {
    std::vector<Run>& runs = runs_[static_cast<unsigned>(tiling.kind(centre))];
    if (!runs.empty()) continue;
    disk_of_cells(tiling, centre, most, about_);
    for (const Cell cell : about_) {
      // About a large body the dead zone of one cell alone is smaller: see act_from.
      if (mover_size == 1 && tiling.edge_distance(centre, cell) < range.least) continue;
      const Offset by = cell - centre;
      if (!runs.empty() && runs.back().rows == by.rows && runs.back().last + 1 == by.cols) {
        ++runs.back().last;
      } else {
        runs.push_back({by.rows, by.cols, by.cols});
      }
    }
  }
}

void Acting::list_places(const TurnReach& turn) {
  places_.clear();
  const Size size = turn.field().board().size;
  turn.for_each_end([&](Cell cell, Cost cost) { places_.push_back({cost, size.index(cell).value()}); });
  std::sort(places_.begin(), places_.end());
}

/// The first cell from a place on that nobody acts on yet (Galler and Fischer 1964, along the line).
std::size_t Acting::next_open(std::size_t place) {
  while (onward_[place] != place) {
    onward_[place] = onward_[onward_[place]];
    place = onward_[place];
  }
  return place;
}

void Acting::act_from(const Board& board, const Place& place, const ActRange& range, int mover_size) {
  const Size size = board.size;
  const Cell from = size.cell(CellIndex{place.index});
  const bool dead_zone = mover_size > 1 && range.least > 0;
  body_cells(board.tiling, from, mover_size, body_);
  for (const Cell part : body_) {
    for (const Run& run : runs_[static_cast<unsigned>(board.tiling.kind(part))]) {
      const std::int32_t row = part.row + run.rows;
      const std::int32_t first = std::max(0, part.col + run.first);
      const std::int32_t last = std::min(size.cols - 1, part.col + run.last);
      if (row < 0 || row >= size.rows || first > last) continue;
      const std::size_t end = size.index({last, row}).value();
      for (std::size_t at = next_open(size.index({first, row}).value()); at <= end; at = next_open(at + 1)) {
        const CellIndex target{static_cast<std::uint32_t>(at)};
        const Cell cell = size.cell(target);
        if (dead_zone && detail::distance_from_body(board.tiling, from, mover_size, cell) < range.least) continue;
        if (is_behind(board, range, part, cell)) continue;
        if (range.sight != nullptr && !sees(*range.sight, part, cell)) continue;
        from_[target] = place.index + 1;
        onward_[at] = static_cast<std::uint32_t>(at + 1);
        --open_;
      }
    }
  }
}

void Acting::ask(const TurnReach& turn, const ActRange& range) {
  const ActRange bounds = in_bounds(range);
  const Board board = turn.field().board();
  if (from_.size() != board.size) from_ = Grid<std::uint32_t>(board.size);
  std::fill(from_.values().begin(), from_.values().end(), nobody);
  onward_.resize(board.size.cell_count() + 1);
  std::iota(onward_.begin(), onward_.end(), 0U);
  open_ = board.size.cell_count();
  if (bounds.nowhere != nullptr && bounds.nowhere->size() == board.size) {
    bounds.nowhere->for_each_set([&](Cell cell) {
      const std::uint32_t at = board.size.index(cell).value();
      onward_[at] = at + 1;
      --open_;
    });
  }
  lay_out(board, bounds, turn.mover_size());
  list_places(turn);
  for (std::size_t i = 0; i < places_.size() && open_ > 0; ++i) {
    act_from(board, places_[i], bounds, turn.mover_size());
  }
}

void Acting::places_for(const TurnReach& turn, const ActRange& range, Cell target, const Grid<std::uint16_t>* levels,
                        std::vector<ActPlace>& out) {
  const ActRange bounds = in_bounds(range);
  const Board board = turn.field().board();
  out.clear();
  cells_about(board, bounds, turn.mover_size(), target, about_);
  for (const Cell from : about_) {
    if (!turn.can_end(from) || act_from_one(board, bounds, from, turn.mover_size(), target) != ActAnswer::can_act)
      continue;
    out.push_back({from, turn.field().cost(from), levels != nullptr ? (*levels)[from] : std::uint16_t{0}});
  }
  std::stable_sort(out.begin(), out.end(), [](const ActPlace& a, const ActPlace& b) { return a.cost < b.cost; });
}

/// All places from which some cell they cover might be in range, looked at one by one.
Strike Acting::strike(const TurnReach& turn, const ActRange& range, std::span<const Cell> target) {
  const ActRange bounds = in_bounds(range);
  const Board board = turn.field().board();
  Strike best;
  Place cheapest;
  for (const Cell cell : target) {
    cells_about(board, bounds, turn.mover_size(), cell, about_);
    for (const Cell from : about_) {
      if (!turn.can_end(from)) continue;
      const Place place{turn.field().cost(from), board.size.index(from).value()};
      if (best.answer == ActAnswer::can_act && !(place < cheapest)) continue;
      const ActAnswer answer = act_from_one(board, bounds, from, turn.mover_size(), cell);
      if (answer == ActAnswer::not_seen && best.answer == ActAnswer::out_of_range) best = {answer, cell, {}, 0};
      if (answer != ActAnswer::can_act) continue;
      best = {answer, cell, from, place.cost};
      cheapest = place;
    }
  }
  return best;
}

ActAnswer Acting::act_from_one(const Board& board, const ActRange& range, Cell from, int mover_size, Cell target) {
  ActAnswer answer = ActAnswer::out_of_range;
  if (detail::distance_from_body(board.tiling, from, mover_size, target) < range.least) return answer;
  body_cells(board.tiling, from, mover_size, body_);
  for (const Cell part : body_) {
    if (board.tiling.edge_distance(part, target) > range.most || is_behind(board, range, part, target)) continue;
    if (range.sight == nullptr || sees(*range.sight, part, target)) return ActAnswer::can_act;
    answer = ActAnswer::not_seen;
  }
  return answer;
}

}  // namespace saunter::inline v0_2
