#include "saunter/place/occupancy.hpp"

#include <algorithm>
#include <array>

namespace saunter {

Occupancy::Occupancy(Board board, int layers)
    : board_(board), taken_(static_cast<std::size_t>(layers), Grid<ThingId>(board.size)), blocking_(board.size) {
  SAUNTER_EXPECT(layers >= 1);
}

ThingId Occupancy::add(Footprint footprint, int layer, bool blocks) {
  SAUNTER_EXPECT(layer >= 0 && layer < layers() && footprint.cell_count() > 0);
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

bool Occupancy::change(std::span<const Before> states) {
  const auto takes_part = [&](ThingId id) {
    return std::any_of(states.begin(), states.end(), [&](const Before& state) { return state.id == id; });
  };
  if (wanted_.size() < states.size()) wanted_.resize(states.size());
  for (std::size_t i = 0; i < states.size(); ++i) {
    wanted_[i].clear();
    if (!states[i].standing) continue;
    const Thing& mine = thing(states[i].id);
    cells_in_pose(board_.tiling, mine.footprint, states[i].pose, wanted_[i]);
    for (const Cell cell : wanted_[i]) {
      if (!board_.size.contains(cell)) return false;
      const ThingId other = at(cell, mine.layer);
      if (other != 0 && !takes_part(other)) return false;
    }
    // Those that change together must not meet either.
    for (std::size_t k = 0; k < i; ++k) {
      if (thing(states[k].id).layer != mine.layer) continue;
      for (const Cell cell : wanted_[i]) {
        if (std::find(wanted_[k].begin(), wanted_[k].end(), cell) != wanted_[k].end()) return false;
      }
    }
  }
  std::vector<Before> before;
  std::vector<std::pair<Cell, ThingId>> held;  // who had each cell
  for (const Before& state : states) {
    Thing& mine = things_[state.id - 1];
    before.push_back({state.id, mine.standing, mine.pose});
    for (const Cell cell : mine.cells) held.emplace_back(cell, state.id);
    take_off(mine);
  }
  for (std::size_t i = 0; i < states.size(); ++i) {
    Thing& mine = things_[states[i].id - 1];
    if (states[i].standing) {
      mine.pose = states[i].pose;
      mine.cells = wanted_[i];
      put_on(states[i].id, mine);
    }
  }
  changed_.clear();
  for (const auto& [cell, id] : held) {
    const Thing& mine = thing(id);
    if (at(cell, mine.layer) != id) changed_.push_back(cell);
  }
  for (const Before& state : states) {
    for (const Cell cell : thing(state.id).cells) {
      if (std::find(held.begin(), held.end(), std::pair(cell, state.id)) == held.end()) changed_.push_back(cell);
    }
  }
  std::sort(changed_.begin(), changed_.end());
  changed_.erase(std::unique(changed_.begin(), changed_.end()), changed_.end());
  last_ = std::move(before);
  ++revision_;
  return true;
}

bool Occupancy::place(ThingId id, const Pose& pose) {
  SAUNTER_EXPECT(!thing(id).standing);
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

void Occupancy::lift(ThingId id) {
  SAUNTER_EXPECT(thing(id).standing);
  const std::array<Before, 1> wanted = {{{id, false, thing(id).pose}}};
  change(wanted);
}

bool Occupancy::move(ThingId id, const Pose& pose) {
  SAUNTER_EXPECT(thing(id).standing);
  const std::array<Before, 1> wanted = {{{id, true, pose}}};
  return change(wanted);
}

bool Occupancy::swap(ThingId a, ThingId b) {
  SAUNTER_EXPECT(a != b && thing(a).standing && thing(b).standing);
  std::array<Before, 2> wanted = {{{a, true, thing(a).pose}, {b, true, thing(b).pose}}};
  std::swap(wanted[0].pose.at, wanted[1].pose.at);
  return change(wanted);
}

bool Occupancy::undo() {
  if (last_.empty()) return false;
  const std::vector<Before> states = std::move(last_);
  change(states);
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
