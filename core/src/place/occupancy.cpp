#include "saunter/place/occupancy.hpp"

#include <algorithm>
#include <array>

namespace saunter::inline v0_2 {

Occupancy::Occupancy(Board board, int layers) : tiling_(board.tiling), blocking_(board.size) {
  SAUNTER_EXPECT(layers >= 1);
  taken_.assign(static_cast<std::size_t>(std::max(layers, 1)), Grid<UnitId>(board.size));
}

const Occupancy::Unit& Occupancy::unit(UnitId id) const {
  static const Unit nobody{.footprint = Footprint(std::vector<Offset>{}), .blocks = false};
  return known(id) ? units_[id - 1] : nobody;
}

UnitId Occupancy::add(Footprint footprint, int layer, bool blocks) {
  if (layer < 0 || layer >= layers() || footprint.cell_count() == 0) return 0;
  units_.push_back({.footprint = std::move(footprint), .layer = layer, .blocks = blocks});
  return static_cast<UnitId>(units_.size());
}

void Occupancy::take_off(Unit& unit) {
  for (const Cell cell : unit.cells) {
    taken_[static_cast<std::size_t>(unit.layer)][cell] = 0;
    if (!unit.blocks) continue;
    // Another layer's unit may still stand in the way there.
    const bool still = std::any_of(taken_.begin(), taken_.end(), [&](const Grid<UnitId>& layer) {
      return layer[cell] != 0 && units_[layer[cell] - 1].blocks;
    });
    blocking_.set(cell, still);
  }
  unit.cells.clear();
  unit.standing = false;
}

void Occupancy::put_on(UnitId id, Unit& unit) {
  for (const Cell cell : unit.cells) {
    taken_[static_cast<std::size_t>(unit.layer)][cell] = id;
    if (unit.blocks) blocking_.set(cell);
  }
  unit.standing = true;
}

/// Fills `wanted_`, and `spots_` with every cell that is left or taken; false when one can't be taken.
bool Occupancy::find_wanted(std::span<const Before> states) {
  if (wanted_.size() < states.size()) wanted_.resize(states.size());
  spots_.clear();
  for (std::size_t i = 0; i < states.size(); ++i) {
    wanted_[i].clear();
    if (!states[i].standing) continue;
    const Unit& mine = unit(states[i].id);
    cells_in_pose(tiling_, mine.footprint, states[i].pose, wanted_[i]);
    for (const Cell cell : wanted_[i]) {
      if (!blocking_.size().contains(cell)) return false;
      const UnitId other = at(cell, mine.layer);
      const auto changes = [&](const Before& state) { return state.id == other; };
      if (other != 0 && std::none_of(states.begin(), states.end(), changes)) return false;
      spots_.push_back({mine.layer, cell, other});
    }
  }
  // Those that change together must not meet either.
  std::sort(spots_.begin(), spots_.end());
  const auto same = [](const Spot& a, const Spot& b) { return !(a < b) && !(b < a); };
  if (std::adjacent_find(spots_.begin(), spots_.end(), same) != spots_.end()) return false;
  for (const Before& state : states) {
    const Unit& mine = unit(state.id);
    for (const Cell cell : mine.cells) spots_.push_back({mine.layer, cell, state.id});
  }
  return true;
}

bool Occupancy::change(std::span<const Before> states) {
  if (!find_wanted(states)) return false;
  // All memory first: from there on nothing can fail.
  before_.clear();
  for (const Before& state : states) before_.push_back({state.id, unit(state.id).standing, unit(state.id).pose});
  changed_.reserve(spots_.size());
  for (std::size_t i = 0; i < states.size(); ++i) {
    std::vector<Cell>& cells = units_[states[i].id - 1].cells;
    cells.reserve(std::max(cells.size(), wanted_[i].size()));
  }

  for (const Before& state : states) take_off(units_[state.id - 1]);
  for (std::size_t i = 0; i < states.size(); ++i) {
    if (!states[i].standing) continue;
    Unit& mine = units_[states[i].id - 1];
    mine.pose = states[i].pose;
    mine.cells.assign(wanted_[i].begin(), wanted_[i].end());
    put_on(states[i].id, mine);
  }
  changed_.clear();
  for (const Spot& spot : spots_) {
    if (at(spot.cell, spot.layer) != spot.had) changed_.push_back(spot.cell);
  }
  std::sort(changed_.begin(), changed_.end());
  changed_.erase(std::unique(changed_.begin(), changed_.end()), changed_.end());
  std::swap(last_, before_);
  ++revision_;
  return true;
}

bool Occupancy::place(UnitId id, const Pose& pose) {
  if (!known(id) || unit(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

bool Occupancy::lift(UnitId id) {
  if (!unit(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, false, unit(id).pose}}};
  return change(wanted);
}

bool Occupancy::move(UnitId id, const Pose& pose) {
  if (!unit(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

bool Occupancy::swap(UnitId a, UnitId b) {
  if (a == b || !unit(a).standing || !unit(b).standing) return false;
  std::array<Before, 2> wanted = {{{a, true, unit(a).pose}, {b, true, unit(b).pose}}};
  std::swap(wanted[0].pose.at, wanted[1].pose.at);
  return change(wanted);
}

bool Occupancy::move_all(std::span<const UnitMove> moves) {
  std::vector<Before> wanted;
  std::vector<UnitId> ids;
  for (const UnitMove& move : moves) {
    if (!unit(move.id).standing) return false;
    wanted.push_back({move.id, true, move.pose});
    ids.push_back(move.id);
  }
  std::sort(ids.begin(), ids.end());
  if (std::adjacent_find(ids.begin(), ids.end()) != ids.end()) return false;
  return wanted.empty() || change(wanted);
}

bool Occupancy::remove(UnitId id) {
  if (!known(id)) return false;
  Footprint nothing{std::vector<Offset>{}};
  if (unit(id).standing) {
    if (!lift(id)) return false;
  } else {
    changed_.clear();
    ++revision_;
  }
  units_[id - 1].footprint = std::move(nothing);
  units_[id - 1].resident = false;
  last_.clear();
  return true;
}

bool Occupancy::keep(UnitId id, bool resident) {
  if (!known(id)) return false;
  units_[id - 1].resident = resident;
  return true;
}

void Occupancy::residents(std::vector<Cell>& out) const {
  out.clear();
  for (const Unit& unit : units_) {
    if (unit.resident && unit.standing) out.push_back(unit.cells.front());
  }
}

bool Occupancy::undo() {
  if (last_.empty()) return false;
  const std::vector<Before> states = last_;
  if (!change(states)) return false;
  // Where it was lifted, it stood last where it stood before.
  for (const Before& state : states) units_[state.id - 1].pose = state.pose;
  last_.clear();
  return true;
}

ChangeSet Occupancy::changed_blocks() const {
  ChangeSet blocks;
  for (const Cell cell : changed_) blocks.add(cell);
  return blocks;
}

Rect Occupancy::changed_block() const {
  Rect block;
  for (const Cell cell : changed_) block = block.joined(Rect::of(cell));
  return block;
}

}  // namespace saunter::inline v0_2
