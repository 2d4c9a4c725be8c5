#include "saunter/turn/turn_reach.hpp"

#include <algorithm>

#include "../search/kernel/beside.hpp"
#include "../search/kernel/changed_moves.hpp"

namespace saunter::inline v0_2 {
namespace {

void take_places(const CostGrid& costs, const BitGrid* given, BitGrid& out) {
  const BitGrid* const places = detail::as_places(costs, given, out);
  if (places != nullptr) {
    if (places != &out) out = *places;
  } else if (out.size() == costs.size()) {
    out.clear();
  } else {
    out = BitGrid(costs.size());
  }
}

}  // namespace

std::string_view answer_name(TurnAnswer answer) {
  switch (answer) {
    case TurnAnswer::reached: return "reached";
    case TurnAnswer::off_map: return "off-map";
    case TurnAnswer::occupied: return "occupied";
    case TurnAnswer::cannot_stand: return "blocked";
    case TurnAnswer::passed_over: return "passed-over";
    case TurnAnswer::stop_between: return "stop-between";
    case TurnAnswer::too_dear: return "too-dear";
    case TurnAnswer::no_way: return "no-way";
    case TurnAnswer::start_unusable: return "start-unusable";
  }
  return {};
}

void TurnReach::ask(const CostGrid& costs, Cell from, const TurnTerms& terms) {
  from_ = from;
  points_ = terms.points;
  mover_size_ = costs.mover_size();
  take_places(costs, terms.stops, stops_);
  take_places(costs, terms.passed, passed_);
  const Source start{from};
  searcher_.reach(costs, {&start, 1}, field_, {.budget = terms.points, .changes = terms.changes, .stops = terms.stops});
}

Verdict TurnReach::verdict() const {
  if (!field_.unused().empty()) return field_.unused().front().verdict;
  return {field_.sources().empty() ? Reason::not_asked : Reason::found, from_};
}

std::optional<Cost> TurnReach::left(Cell cell) const {
  if (!field_.reached(cell) || !points_) return std::nullopt;
  return is_stop(cell) ? 0 : Cost{*points_} - field_.cost(cell);
}

bool TurnReach::off_map(Size board, Tiling tiling, Cell cell) {
  if (!board.contains(cell)) return true;
  body_cells(tiling, cell, mover_size_, cells_);
  return std::any_of(cells_.begin(), cells_.end(), [&](Cell part) { return !board.contains(part); });
}

/// @pre cells_ is the body
TurnReason TurnReach::why_not_stand(Tiling tiling, Cell cell, const Grid<UnitId>* units,
                                    std::span<const UnitId> friends) {
  if (units != nullptr) {
    body_cells(tiling, cell, mover_size_, cells_);
    const UnitId itself = std::as_const(*units)[from_];
    for (const Cell part : cells_) {
      const UnitId by = std::as_const(*units)[part];
      const bool in_the_way = by != 0 && by != itself && std::find(friends.begin(), friends.end(), by) == friends.end();
      if (in_the_way) return {.answer = TurnAnswer::occupied, .at = part, .by = by};
    }
  }
  return {.answer = TurnAnswer::cannot_stand, .at = cell};
}

TurnReason TurnReach::why(const CostGrid& costs, Cell cell, const Grid<UnitId>* units, Borrowed<EntryChange> changes,
                          Borrowed<UnitId> friends) {
  if (off_map(costs.size(), costs.tiling(), cell)) return {.answer = TurnAnswer::off_map, .at = cell};
  if (field_.reached(cell)) {
    const TurnAnswer answer = passed_.test(cell) ? TurnAnswer::passed_over : TurnAnswer::reached;
    return {.answer = answer, .cost = field_.cost(cell), .left = left(cell).value_or(0)};
  }
  if (verdict().reason != Reason::found) return {};
  const Source start{from_};
  const auto search = [&](const BitGrid* stops) {
    searcher_.reach(costs, {&start, 1}, farther_, {.changes = changes, .stops = stops, .until = std::span(&cell, 1)});
    return farther_.cost(cell);
  };
  const Cost free = search(nullptr);
  if (free == unreached) {
    detail::ChangedMoves ground;
    ground.begin(costs, changes, detail::ChangedMoves::Lookup::by_list);
    if (!ground.open(cell)) return why_not_stand(costs.tiling(), cell, units, friends);
    return {.answer = TurnAnswer::no_way, .at = cell};
  }
  const Cost points = points_ ? Cost{*points_} : max_cost;
  if (free <= points) {
    farther_.path(cell, cells_);
    const auto stop = std::find_if(cells_.begin(), cells_.end(), [&](Cell on_way) { return is_stop(on_way); });
    return {.answer = TurnAnswer::stop_between, .cost = free, .at = stop == cells_.end() ? cell : *stop};
  }
  const Cost round = search(field_.stops());
  const Cost cost = round == unreached ? free : round;
  return {.answer = TurnAnswer::too_dear, .cost = cost, .missing = cost - points};
}

}  // namespace saunter::inline v0_2
