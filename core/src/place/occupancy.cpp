#include "saunter/place/occupancy.hpp"

#include <algorithm>
#include <array>

namespace saunter {

Occupancy::Occupancy(Board board, int layers) : tiling_(board.tiling), blocking_(board.size) {
  SAUNTER_EXPECT(layers >= 1);
  taken_.assign(static_cast<std::size_t>(std::max(layers, 1)), Grid<ThingId>(board.size));
}

const Occupancy::Thing& Occupancy::thing(ThingId id) const {
  static const Thing nobody{.footprint = Footprint(std::vector<Offset>{}), .blocks = false};
  return known(id) ? things_[id - 1] : nobody;
}

ThingId Occupancy::add(Footprint footprint, int layer, bool blocks) {
  if (layer < 0 || layer >= layers() || footprint.cell_count() == 0) return 0;
  things_.push_back({.footprint = std::move(footprint), .layer = layer, .blocks = blocks});
  return static_cast<ThingId>(things_.size());
}

void Occupancy::take_off(Thing& thing) {
  for (const Cell cell : thing.cells) {
    taken_[static_cast<std::size_t>(thing.layer)][cell] = 0;
    if (!thing.blocks) continue;
    // Another layer's thing may still stand in the way there.
    const bool still = std::any_of(taken_.begin(), taken_.end(), [&](const Grid<ThingId>& layer) {
      return layer[cell] != 0 && things_[layer[cell] - 1].blocks;
    });
    blocking_.set(cell, still);
  }
  thing.cells.clear();
  thing.standing = false;
}

void Occupancy::put_on(ThingId id, Thing& thing) {
  for (const Cell cell : thing.cells) {
    taken_[static_cast<std::size_t>(thing.layer)][cell] = id;
    if (thing.blocks) blocking_.set(cell);
  }
  thing.standing = true;
}

/// Fills `wanted_`, and `spots_` with every cell that is left or taken; false when one can't be taken.
bool Occupancy::find_wanted(std::span<const Before> states) {
  if (wanted_.size() < states.size()) wanted_.resize(states.size());
  spots_.clear();
  for (std::size_t i = 0; i < states.size(); ++i) {
    wanted_[i].clear();
    if (!states[i].standing) continue;
    const Thing& mine = thing(states[i].id);
    cells_in_pose(tiling_, mine.footprint, states[i].pose, wanted_[i]);
    for (const Cell cell : wanted_[i]) {
      if (!blocking_.size().contains(cell)) return false;
      const ThingId other = at(cell, mine.layer);
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
    const Thing& mine = thing(state.id);
    for (const Cell cell : mine.cells) spots_.push_back({mine.layer, cell, state.id});
  }
  return true;
}

bool Occupancy::change(std::span<const Before> states) {
  if (!find_wanted(states)) return false;
  // All memory first: from there on nothing can fail.
  std::vector<Before> before;
  for (const Before& state : states) before.push_back({state.id, thing(state.id).standing, thing(state.id).pose});
  changed_.reserve(spots_.size());
  for (std::size_t i = 0; i < states.size(); ++i) {
    std::vector<Cell>& cells = things_[states[i].id - 1].cells;
    cells.reserve(std::max(cells.size(), wanted_[i].size()));
  }

  for (const Before& state : states) take_off(things_[state.id - 1]);
  for (std::size_t i = 0; i < states.size(); ++i) {
    if (!states[i].standing) continue;
    Thing& mine = things_[states[i].id - 1];
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
  last_ = std::move(before);
  ++revision_;
  return true;
}

bool Occupancy::place(ThingId id, const Pose& pose) {
  if (!known(id) || thing(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

bool Occupancy::lift(ThingId id) {
  if (!thing(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, false, thing(id).pose}}};
  return change(wanted);
}

bool Occupancy::move(ThingId id, const Pose& pose) {
  if (!thing(id).standing) return false;
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

bool Occupancy::swap(ThingId a, ThingId b) {
  if (a == b || !thing(a).standing || !thing(b).standing) return false;
  std::array<Before, 2> wanted = {{{a, true, thing(a).pose}, {b, true, thing(b).pose}}};
  std::swap(wanted[0].pose.at, wanted[1].pose.at);
  return change(wanted);
}

bool Occupancy::undo() {
  if (last_.empty()) return false;
  const std::vector<Before> states = last_;
  if (!change(states)) return false;
  // Where it was lifted, it stood last where it stood before.
  for (const Before& state : states) things_[state.id - 1].pose = state.pose;
  last_.clear();
  return true;
}

Rect Occupancy::changed_block() const {
  Rect block;
  for (const Cell cell : changed_) block = block.joined(Rect::of(cell));
  return block;
}

}  // namespace saunter
