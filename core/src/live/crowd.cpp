#include "saunter/live/crowd.hpp"

#include <algorithm>
#include <array>
#include <utility>

#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Units that make room for each other in one line; beyond it the last one stays.
constexpr int longest_line = 2000;
/// How often units are asked in one tick, for each unit: what was undone is asked again.
constexpr std::size_t most_asked = 16;

}  // namespace

/// One tick under way.
class Crowd::Tick {
 public:
  Tick(Crowd& crowd, std::span<const CrowdGround> grounds, const CrowdOptions& options)
      : crowd_(crowd), grounds_(grounds), options_(options) {}

  void run() {
    crowd_.moved_.clear();
    may_ask_ = most_asked * crowd_.order_.size();
    for (const Slot unit : crowd_.order_) {
      if (crowd_.units_[unit].decided) continue;
      (void)choose(unit, nobody, 0);
      first_ = false;
    }
  }
  [[nodiscard]] bool at_goal(const Unit& unit) const {
    const CrowdGround* const ground = ground_of(unit);
    return ground != nullptr && is_home(*ground->field, unit.cell);
  }

 private:
  static constexpr Slot nobody = ~Slot{0};
  struct Choice {
    Cell cell;
    std::uint64_t cost = 0;
  };
  using Choices = std::array<Choice, max_directions + 1>;

  [[nodiscard]] bool is_home(const Field& field, Cell cell) const {
    return field.reached(cell) && (field.cost(cell) <= options_.arrive_within || !field.next(cell));
  }
  [[nodiscard]] const CrowdGround* ground_of(const Unit& unit) const {
    if (unit.kind >= grounds_.size()) return nullptr;
    const CrowdGround& ground = grounds_[unit.kind];
    const bool sound = ground.costs != nullptr && ground.field != nullptr && ground.costs->board() == crowd_.board_ &&
                       ground.costs->mover_size() == crowd_.bodies_[unit.body].size &&
                       ground.field->made_from(*ground.costs);
    return sound ? &ground : nullptr;
  }
  template <typename F>
  void for_each_part(const Unit& unit, Cell at, F&& f) const {
    const Footprint& body = crowd_.bodies_[unit.body].footprint;
    if (body.cell_count() == 1) {
      f(at);
      return;
    }
    std::vector<Cell>& cells = crowd_.cells_;  // read before any other call writes to it
    body.cells_at(crowd_.board_.tiling, at, cells);
    for (const Cell part : cells) f(part);
  }
  [[nodiscard]] bool overlap(const Unit& a, Cell at, const Grid<std::uint32_t>& grid, Slot other) const {
    bool meets = false;
    for_each_part(a, at, [&](Cell part) { meets = meets || grid[part] == other + 1; });
    return meets;
  }

  /// Where a unit would rather be, the best first. One at home moves closer where nobody is, else only when it is made
  /// to, and then within the goal.
  std::size_t list_choices(const Unit& unit, Slot number, bool pushed, Choices& choices) const {
    const CrowdGround* const ground = ground_of(unit);
    if (ground == nullptr) {
      choices[0] = {unit.cell, 0};
      return 1;
    }
    const Field& field = *ground->field;
    const auto here = std::uint64_t{field.cost(unit.cell)};
    const bool home = is_home(field, unit.cell);
    std::size_t count = 0;
    choices[count++] = {unit.cell, home && !field.next(unit.cell) ? here : here + Length{options_.waiting}};
    const auto kind = static_cast<unsigned>(crowd_.board_.tiling.kind(unit.cell));
    const auto& offsets = crowd_.board_.tiling.neighbourhood().offset[kind];
    for_each_direction(ground->costs->moves(unit.cell), [&](unsigned d) {
      const Cell next = unit.cell + offsets[d];
      if (home && !is_home(field, next)) return;
      std::uint64_t cost =
          std::uint64_t{field.cost(next)} + ground->costs->cost_of_step(unit.cell, Direction(static_cast<int>(d)));
      if (!first_ || home) {
        bool taken = false;
        for_each_part(unit, next,
                      [&](Cell part) { taken = taken || (crowd_.now_[part] != 0 && crowd_.now_[part] != number + 1); });
        if (taken && home && !pushed) return;
        if (taken) cost += Length{options_.crowding};
      }
      choices[count++] = {next, cost};
    });
    for (std::size_t i = 1; i < count; ++i) {  // few and nearly sorted; among equals the order of directions stays
      for (std::size_t k = i; k > 0 && choices[k].cost < choices[k - 1].cost; --k)
        std::swap(choices[k], choices[k - 1]);
    }
    return count;
  }

  void claim(const Unit& unit, Cell at, Slot number) {
    for_each_part(unit, at, [&](Cell part) { crowd_.then_[part] = number + 1; });
  }
  void give_back(const Unit& unit, Cell at, Slot number) {
    for_each_part(unit, at, [&](Cell part) {
      if (crowd_.then_[part] == number + 1) crowd_.then_[part] = 0;
    });
  }
  [[nodiscard]] bool claimed_by_others(const Unit& unit, Cell at, Slot number) const {
    bool claimed = false;
    for_each_part(unit, at, [&](Cell part) {
      const std::uint32_t who = crowd_.then_[part];
      claimed = claimed || (who != 0 && who != number + 1);
    });
    return claimed;
  }

  /// Whether going there would exchange places with somebody who has decided to come here.
  [[nodiscard]] bool exchanges(const Unit& unit, Cell at, Slot number) const {
    bool found = false;
    for_each_part(unit, at, [&](Cell part) {
      const std::uint32_t who = crowd_.now_[part];
      if (who == 0 || who == number + 1) return;
      const Unit& other = crowd_.units_[who - 1];
      found = found || (other.decided && other.next != other.cell && comes_here(unit, who - 1));
    });
    return found;
  }
  [[nodiscard]] bool comes_here(const Unit& unit, Slot other) const {
    bool meets = false;
    const Footprint& body = crowd_.bodies_[unit.body].footprint;
    if (body.cell_count() == 1) return crowd_.then_[unit.cell] == other + 1;
    body.cells_at(crowd_.board_.tiling, unit.cell, crowd_.other_cells_);
    for (const Cell part : crowd_.other_cells_) meets = meets || crowd_.then_[part] == other + 1;
    return meets;
  }

  /// A unit chooses where it will be. @param pusher  who wants its place, or nobody
  /// @return whether it makes room for the pusher
  bool choose(Slot number, Slot pusher, int depth) {
    Unit& unit = crowd_.units_[number];
    unit.decided = true;
    const std::size_t before = crowd_.moved_.size();
    Choices choices;
    const std::size_t count = list_choices(unit, number, pusher != nobody, choices);
    for (std::size_t i = 0; i < count; ++i) {
      const Cell at = choices[i].cell;
      if (claimed_by_others(unit, at, number) || exchanges(unit, at, number)) continue;
      unit.next = at;
      claim(unit, at, number);
      if (at == unit.cell || make_room(number, depth)) {
        crowd_.moved_.push_back(number);
        return true;
      }
      give_back(unit, at, number);
      undo(before);
    }
    unit.next = unit.cell;
    if (pusher != nobody && crowd_.bodies_[unit.body].footprint.cell_count() > 1) {
      // A large one that can't get out of the way in one step takes the first.
      for (std::size_t i = 0; i < count && unit.next == unit.cell; ++i) {
        if (is_free(unit, choices[i].cell, number, pusher)) unit.next = choices[i].cell;
      }
    }
    claim(unit, unit.next, number);
    return pusher == nobody;
  }
  /// Lets those who made room for somebody who does not come choose again: one of them may have gone where that one
  /// stands.
  void undo(std::size_t before) {
    while (crowd_.moved_.size() > before) {
      const Slot number = crowd_.moved_.back();
      crowd_.moved_.pop_back();
      Unit& unit = crowd_.units_[number];
      give_back(unit, unit.next, number);
      unit.next = unit.cell;
      unit.decided = false;
    }
  }
  /// Whether nobody is at a place or has claimed it, but for a pusher's claim.
  [[nodiscard]] bool is_free(const Unit& unit, Cell at, Slot number, Slot pusher) const {
    bool free = true;
    for_each_part(unit, at, [&](Cell part) {
      const std::uint32_t there = crowd_.now_[part];
      const std::uint32_t claimed = crowd_.then_[part];
      free = free && (there == 0 || there == number + 1) &&
             (claimed == 0 || claimed == number + 1 || claimed == pusher + 1);
    });
    return free;
  }

  /// Asks all who stand where a unit wants to be. @return whether all of them go
  bool make_room(Slot number, int depth) {
    const Unit& unit = crowd_.units_[number];
    const std::size_t parts = crowd_.bodies_[unit.body].footprint.cell_count();
    for (std::size_t part = 0; part < parts; ++part) {
      const Cell cell = part_of(unit, part);
      const std::uint32_t who = crowd_.now_[cell];
      if (who == 0 || who == number + 1) continue;
      const Unit& other = crowd_.units_[who - 1];
      if (other.decided) {
        if (overlap(unit, unit.next, crowd_.then_, who - 1)) return false;
        continue;
      }
      if (depth >= longest_line || may_ask_ == 0) return false;
      --may_ask_;
      if (!choose(who - 1, number, depth + 1)) return false;
    }
    return true;
  }
  [[nodiscard]] Cell part_of(const Unit& unit, std::size_t part) const {
    const Footprint& body = crowd_.bodies_[unit.body].footprint;
    if (body.cell_count() == 1) return unit.next;
    body.cells_at(crowd_.board_.tiling, unit.next, crowd_.cells_);
    return crowd_.cells_[part];
  }

  Crowd& crowd_;
  std::span<const CrowdGround> grounds_;
  const CrowdOptions& options_;
  std::size_t may_ask_ = 0;
  bool first_ = true;  // who chooses now is the most patient of all
};

Crowd::Crowd(Board board) : board_(board), now_(board.size), then_(board.size) {}

std::uint32_t Crowd::body_of(int size) {
  for (std::size_t i = 0; i < bodies_.size(); ++i) {
    if (bodies_[i].size == size) return static_cast<std::uint32_t>(i);
  }
  bodies_.push_back({size, Footprint::of_size(board_.tiling, size)});
  return static_cast<std::uint32_t>(bodies_.size() - 1);
}

std::optional<Crowd::Slot> Crowd::slot_of(UnitNumber unit) const {
  const auto found = std::lower_bound(numbers_.begin(), numbers_.end(), unit);
  if (found == numbers_.end() || *found != unit) return std::nullopt;
  return slots_[static_cast<std::size_t>(found - numbers_.begin())];
}

std::optional<Crowd::UnitNumber> Crowd::add(const CostGrid& costs, Cell cell, std::size_t kind) {
  SAUNTER_EXPECT(costs.board() == board_);
  if (costs.board() != board_ || kind > 0xFFFFFFFF || last_ == 0xFFFFFFFF) return std::nullopt;
  const std::uint32_t body = body_of(costs.mover_size());
  bodies_[body].footprint.cells_at(board_.tiling, cell, cells_);
  for (const Cell part : cells_) {
    if (!board_.size.contains(part) || now_[part] != 0) return std::nullopt;
  }
  if (free_.empty()) {
    if (units_.size() == units_.capacity()) units_.reserve(std::max<std::size_t>(16, 2 * units_.size()));
    for (std::vector<Slot>* list : {&slots_, &order_, &moved_, &free_}) list->reserve(units_.capacity());
    numbers_.reserve(units_.capacity());  // nothing below fails
    free_.push_back(static_cast<Slot>(units_.size()));
    units_.emplace_back();
  }
  const Slot slot = free_.back();
  free_.pop_back();
  const UnitNumber number(++last_);
  units_[slot] = {.number = number, .cell = cell, .next = cell, .kind = static_cast<std::uint32_t>(kind), .body = body};
  numbers_.push_back(number);
  slots_.push_back(slot);
  for (const Cell part : cells_) now_[part] = slot + 1;
  return number;
}

bool Crowd::remove(UnitNumber unit) {
  const std::optional<Slot> slot = slot_of(unit);
  if (!slot) return false;
  bodies_[units_[*slot].body].footprint.cells_at(board_.tiling, units_[*slot].cell, cells_);
  for (const Cell part : cells_) now_[part] = 0;
  const auto at = std::lower_bound(numbers_.begin(), numbers_.end(), unit) - numbers_.begin();
  numbers_.erase(numbers_.begin() + at);
  slots_.erase(slots_.begin() + at);
  free_.push_back(*slot);
  return true;
}

Cell Crowd::cell(UnitNumber unit) const {
  const std::optional<Slot> slot = slot_of(unit);
  return slot ? units_[*slot].cell : Cell{-1, -1};
}

bool Crowd::arrived(UnitNumber unit) const {
  const std::optional<Slot> slot = slot_of(unit);
  return slot && units_[*slot].arrived;
}

std::uint32_t Crowd::patience(UnitNumber unit) const {
  const std::optional<Slot> slot = slot_of(unit);
  return slot ? units_[*slot].patience : 0;
}

std::optional<Crowd::UnitNumber> Crowd::at(Cell cell) const {
  const std::uint32_t who = now_[cell];
  return who == 0 ? std::nullopt : std::optional(units_[who - 1].number);
}

std::size_t Crowd::arrived_count() const {
  return static_cast<std::size_t>(
      std::count_if(slots_.begin(), slots_.end(), [&](Slot slot) { return units_[slot].arrived; }));
}

void Crowd::step(std::span<const CrowdGround> grounds, const CrowdOptions& options) {
  Tick tick(*this, grounds, options);
  order_.assign(slots_.begin(), slots_.end());
  for (const Slot slot : order_) units_[slot].decided = false;
  std::sort(order_.begin(), order_.end(), [&](Slot a, Slot b) {
    return units_[a].patience != units_[b].patience ? units_[a].patience > units_[b].patience
                                                    : units_[a].number < units_[b].number;
  });
  tick.run();
  const auto write = [&](Grid<std::uint32_t>& grid, const Unit& unit, Cell at, std::uint32_t who) {
    bodies_[unit.body].footprint.cells_at(board_.tiling, at, cells_);
    for (const Cell part : cells_) grid[part] = who;
  };
  for (const Slot slot : order_) write(now_, units_[slot], units_[slot].cell, 0);
  for (const Slot slot : order_) {
    Unit& unit = units_[slot];
    write(then_, unit, unit.next, 0);
    write(now_, unit, unit.next, slot + 1);
    unit.cell = unit.next;
    unit.arrived = tick.at_goal(unit);
    unit.patience = unit.arrived ? 0 : unit.patience + 1;
  }
  ++ticks_;
}

}  // namespace saunter::inline v0_2
