#include "saunter/turn/acting.hpp"

#include <algorithm>
#include <numeric>

namespace saunter::inline v0 {

std::string_view answer_name(ActAnswer answer) {
  switch (answer) {
    case ActAnswer::can_act: return "can-act";
    case ActAnswer::not_seen: return "not-seen";
    case ActAnswer::out_of_range: return "out-of-range";
  }
  return {};
}

/// The range about a cell of each kind, row by row.
void Acting::lay_out(const Board& board, const ActRange& range) {
  const Tiling tiling = board.tiling;
  for (std::vector<Run>& runs : runs_) runs.clear();
  if (range.most < 0) return;
  const int most = std::min(range.most, 2 * (board.size.cols + board.size.rows));  // no two cells are farther apart
  for (const Cell centre : {Cell{0, 0}, Cell{1, 0}, Cell{0, 1}}) {
    std::vector<Run>& runs = runs_[static_cast<unsigned>(tiling.kind(centre))];
    if (!runs.empty()) continue;
    disk_of_cells(tiling, centre, most, about_);
    for (const Cell cell : about_) {
      if (tiling.edge_distance(centre, cell) < range.least) continue;
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

void Acting::act_from(const Board& board, const Place& place, const ActRange& range) {
  const Size size = board.size;
  body_cells(board.tiling, size.cell(CellIndex{place.index}), range.size, body_);
  for (const Cell part : body_) {
    for (const Run& run : runs_[static_cast<unsigned>(board.tiling.kind(part))]) {
      const std::int32_t row = part.row + run.rows;
      const std::int32_t first = std::max(0, part.col + run.first);
      const std::int32_t last = std::min(size.cols - 1, part.col + run.last);
      if (row < 0 || row >= size.rows || first > last) continue;
      const std::size_t end = size.index({last, row}).value();
      for (std::size_t at = next_open(size.index({first, row}).value()); at <= end; at = next_open(at + 1)) {
        const CellIndex target{static_cast<std::uint32_t>(at)};
        if (range.sight != nullptr && !sees(*range.sight, part, size.cell(target))) continue;
        from_[target] = place.index + 1;
        onward_[at] = static_cast<std::uint32_t>(at + 1);
        --open_;
      }
    }
  }
}

void Acting::ask(const TurnReach& turn, const ActRange& range) {
  const Board board = turn.field().board();
  if (from_.size() != board.size) from_ = Grid<std::uint32_t>(board.size);
  std::fill(from_.values().begin(), from_.values().end(), nobody);
  onward_.resize(board.size.cell_count() + 1);
  std::iota(onward_.begin(), onward_.end(), 0U);
  open_ = board.size.cell_count();
  if (range.nowhere != nullptr && range.nowhere->size() == board.size) {
    range.nowhere->for_each_set([&](Cell cell) {
      const std::uint32_t at = board.size.index(cell).value();
      onward_[at] = at + 1;
      --open_;
    });
  }
  lay_out(board, range);
  list_places(turn);
  for (std::size_t i = 0; i < places_.size() && open_ > 0; ++i) act_from(board, places_[i], range);
}

/// All places from which some cell they cover might be in range, looked at one by one.
Strike Acting::strike(const TurnReach& turn, const ActRange& range, std::span<const Cell> target) {
  const Board board = turn.field().board();
  Strike best;
  Place cheapest;
  const int beyond = 2 * (std::max(range.size, 1) - 1);  // how far a body leads from its cell
  for (const Cell cell : target) {
    if (range.most < 0 || !board.size.contains(cell)) continue;
    if (range.nowhere != nullptr && range.nowhere->test(cell)) continue;
    const int most = std::min(range.most, 2 * (board.size.cols + board.size.rows)) + beyond;
    disk_of_cells(board.tiling, cell, most, board.size, about_);
    for (const Cell from : about_) {
      if (!turn.can_end(from)) continue;
      const Place place{turn.field().cost(from), board.size.index(from).value()};
      if (best.answer == ActAnswer::can_act && !(place < cheapest)) continue;
      const ActAnswer answer = act_from_one(board, range, from, cell);
      if (answer == ActAnswer::not_seen && best.answer == ActAnswer::out_of_range) best = {answer, cell, {}, 0};
      if (answer != ActAnswer::can_act) continue;
      best = {answer, cell, from, place.cost};
      cheapest = place;
    }
  }
  return best;
}

ActAnswer Acting::act_from_one(const Board& board, const ActRange& range, Cell from, Cell target) {
  ActAnswer answer = ActAnswer::out_of_range;
  body_cells(board.tiling, from, range.size, body_);
  for (const Cell part : body_) {
    const std::int64_t distance = board.tiling.edge_distance(part, target);
    if (distance < range.least || distance > range.most) continue;
    if (range.sight == nullptr || sees(*range.sight, part, target)) return ActAnswer::can_act;
    answer = ActAnswer::not_seen;
  }
  return answer;
}

}  // namespace saunter::inline v0
