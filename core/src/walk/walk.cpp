#include "saunter/walk/walk.hpp"

#include <algorithm>
#include <array>
#include <span>

#include "../search/kernel/ends.hpp"
#include "../search/kernel/pack.hpp"
#include "paged_plane.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr unsigned been_here = 0x80;

WalkerOptions walker_options(const WalkOptions& options) {
  return {.kind = options.kind, .goal = options.to, .seed = options.seed};
}

}  // namespace

std::string_view walk_end_name(WalkEnd end) {
  switch (end) {
    case WalkEnd::none: return "none";
    case WalkEnd::arrived: return "arrived";
    case WalkEnd::loop: return "loop";
    case WalkEnd::stuck: return "stuck";
    case WalkEnd::steps: return "steps";
  }
  return "";
}

/// What a walker without memory does, for every way it may stand and all that may lie around it: made by asking it.
struct Walk::Reflexes {
  static constexpr unsigned sets = 64;  // of legal steps
  struct Reflex {
    std::uint32_t index = 0;  // what to add to the cell's number
    std::uint32_t spot = 0;   // and to its spot
    std::uint16_t line = 0;   // of the next step
    std::uint8_t exit = 0;
  };
  /// A line for each kind of cell and stance, an entry for each set of legal steps.
  std::array<Reflex, 2 * Walker::max_stances * sets> reflexes = {};
  std::array<std::uint8_t, 2 * Walker::max_stances * sets> bits = {};  // of the state that a line is, at its first entry

  Reflexes(Board board, WalkerKind walker) {
    const Tiling tiling = board.tiling;
    const StepTable steps(board);
    const auto edges = static_cast<unsigned>(tiling.edge_count());
    const unsigned stances = tiling.shape() == Shape::triangle ? 2 * edges : edges;
    for (const Cell cell : Size{2, 2}.cells()) {  // of both kinds
      for (unsigned stance = 0; stance < stances; ++stance) {
        for (unsigned legal = 1; legal < 1U << edges; ++legal) ask(tiling, walker, cell, stance, legal, steps);
      }
    }
  }
  [[nodiscard]] static unsigned line_of(unsigned kind, unsigned stance) {
    return (kind * Walker::max_stances + stance) * sets;
  }
  [[nodiscard]] static unsigned stance_of(unsigned line) { return line / sets % Walker::max_stances; }

 private:
  void ask(Tiling tiling, WalkerKind walker_kind, Cell cell, unsigned stance, unsigned legal, const StepTable& steps) {
    const Surroundings here{tiling, cell, static_cast<DirectionSet>(legal)};
    Walker walker({tiling, {}}, cell, {.kind = walker_kind});
    walker.stand(cell, stance);
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    bits[line_of(kind, stance)] = static_cast<std::uint8_t>(1U << walker.state(here).value_or(0));
    const std::optional<Walker::Intent> intent = walker.intend(here);
    if (!intent) return;
    walker.follow(*intent);
    const unsigned exit = intent->direction.index();
    const Offset by = tiling.neighbourhood().offset[kind][exit];
    const unsigned next = line_of(tiling.neighbourhood().kind_after[kind][exit], walker.stance());
    reflexes[line_of(kind, stance) + legal] = {
        steps.index[kind][exit], static_cast<std::uint32_t>(by.cols) + static_cast<std::uint32_t>(by.rows) * Block::row,
        static_cast<std::uint16_t>(next), static_cast<std::uint8_t>(exit)};
  }
};

struct Walk::State {
  Board board;
  Walker walker;
  Trail trail;
  bool keeps_trail = true;
  Verdict verdict;
  WalkEnd end = WalkEnd::none;
  std::uint64_t most_steps = 0;
  std::uint64_t ticks = 0;  // steps, and waiting of a caller's own walker
  std::uint64_t steps = 0;
  std::uint64_t visited = 1;
  Stamp ground;  // as it was when the states below were met
  /// For each cell a bit for each state of the walker it was in here, and whether it has been here at all.
  PagedPlane<std::uint8_t> met;
  unsigned state_bit = 0;  // of the state it is in now

  void look_at_ground(const CostGrid& costs) {
    if (ground.same(costs.stamp())) return;
    met.for_all([](std::uint8_t& states) { states &= been_here; });
    ground = costs.stamp();
    walker.note_ground(ground);
  }
  [[nodiscard]] bool met_before(const Surroundings& here) {
    const std::optional<unsigned> now = walker.state(here);
    if (!now) return walker.exhausted(here, ground);
    state_bit = 1U << *now;
    return (met.at(here.cell) & state_bit) != 0;
  }
  void follow(const Walker::Intent& intent) {
    // Memory is asked for first; the state left is noted only once the step is taken.
    std::uint8_t& here = met[walker.cell()];
    std::uint8_t& there = met[board.tiling.neighbour(walker.cell(), intent.direction)];
    if (keeps_trail) trail.make_room();
    walker.follow(intent);
    if (keeps_trail) trail.add(intent.direction);
    ++ticks;
    ++steps;
    here = static_cast<std::uint8_t>(here | state_bit);
    if ((there & been_here) == 0) ++visited;
    there |= been_here;
    if (walker.goal() && *walker.goal() == walker.cell()) end = WalkEnd::arrived;
  }

  template <bool stored>
  std::size_t follow_reflexes(const Reflexes& by, const CostGrid& costs, std::uint64_t most);
};

/// Steps as `follow` would take them, one after the other, until the end must be looked at; it takes those itself that
/// lead into another block of what is remembered: up to there nothing can fail. @return how many
/// @param stored  whether the grid has its legal steps as bytes
template <bool stored>
std::size_t Walk::State::follow_reflexes(const Reflexes& by, const CostGrid& costs, std::uint64_t most) {
  std::array<std::uint8_t, 4096> exits;
  most = std::min<std::uint64_t>(most, exits.size());
  if (keeps_trail) trail.make_room(most);
  const Cell from = walker.cell();
  const Cell corner = Block::corner_of(from);
  auto& block = met.block(from);
  const std::uint8_t* const moves = costs.stored_moves().data();
  const unsigned edges = (1U << static_cast<unsigned>(board.tiling.edge_count())) - 1;
  const std::uint32_t nowhere = ~std::uint32_t{0};
  const std::uint32_t goal = walker.goal() ? board.size.index(*walker.goal()).value() : nowhere;
  std::uint32_t index = board.size.index(from).value();
  std::uint32_t spot = Block::spot_of(from);
  unsigned line = Reflexes::line_of(static_cast<unsigned>(board.tiling.kind(from)), walker.stance());
  std::size_t count = 0;
  std::size_t fresh = 0;
  bool leaves = false;
  while (count < most && index != goal) {
    const unsigned legal = (stored ? moves[index] : costs.moves_on_map(Block::cell(corner, spot))) & edges;
    const unsigned state = by.bits[line];
    std::uint8_t& here = block[Block::place(spot)];
    const Reflexes::Reflex reflex = by.reflexes[line + legal];
    const std::uint32_t next = spot + reflex.spot;
    if ((here & state) != 0 || legal == 0) break;
    if (leaves = (next & Block::outside) != 0; leaves) break;
    here = static_cast<std::uint8_t>(here | state);
    std::uint8_t& there = block[Block::place(next)];
    fresh += (there & been_here) == 0 ? 1U : 0U;
    there |= been_here;
    exits[count++] = reflex.exit;
    index += reflex.index;
    line = reflex.line;
    spot = next;
  }
  if (keeps_trail) trail.add(std::span(exits).first(count));
  walker.stand(Block::cell(corner, spot), Reflexes::stance_of(line));
  ticks += count;
  steps += count;
  visited += fresh;
  if (index == goal) end = WalkEnd::arrived;
  if (!leaves) return count;
  state_bit = by.bits[line];
  follow({.direction = Direction(by.reflexes[line + (costs.moves(walker.cell()) & edges)].exit)});
  return count + 1;
}

Walk::Walk(const CostGrid& costs, const WalkOptions& options)
    : state_(std::make_unique<State>(State{.board = costs.board(),
                                           .walker = Walker(costs.board(), options.from, walker_options(options)),
                                           .trail = Trail(costs.board(), options.from),
                                           .keeps_trail = options.keep_trail,
                                           .verdict = {},
                                           .ground = {},
                                           .met = {}})) {
  State& state = *state_;
  state.most_steps = options.most_steps.value_or(4 * std::uint64_t{costs.size().cell_count()});
  state.verdict = unusable_end(costs, options.from, options.to.value_or(options.from));
  state.met.begin(costs.size());
  state.met[options.from] = been_here;
  if (state.verdict.reason != Reason::found) {
    state.end = WalkEnd::stuck;
  } else if (options.to == options.from) {
    state.end = WalkEnd::arrived;
  }
}
Walk::~Walk() = default;
Walk::Walk(Walk&&) noexcept = default;
Walk& Walk::operator=(Walk&&) noexcept = default;

/// The end is tested for; whether a step can be taken.
bool Walk::ready(const CostGrid& costs) {
  State& state = *state_;
  SAUNTER_EXPECT(costs.board() == state.board);
  if (state.end != WalkEnd::none) return false;
  state.end = [&] {
    if (costs.board() != state.board) return WalkEnd::stuck;
    state.look_at_ground(costs);
    const Surroundings here = surroundings(costs, cell());
    if (state.met_before(here)) return WalkEnd::loop;
    if (here.legal == 0) return WalkEnd::stuck;
    return state.ticks >= state.most_steps ? WalkEnd::steps : WalkEnd::none;
  }();
  return state.end == WalkEnd::none;
}

/// @pre ready(costs)
void Walk::take(const CostGrid& costs, Direction direction) {
  State& state = *state_;
  const bool legal = direction >= 0 && holds(surroundings(costs, cell()).legal, direction);
  SAUNTER_EXPECT(legal || direction < 0);
  if (legal) {
    state.follow({.direction = direction});
  } else {
    ++state.ticks;
  }
}

bool Walk::run(const CostGrid& costs, std::uint64_t steps) {
  State& state = *state_;
  // Asking for all reflexes takes as long as some hundred steps: only once a walk has shown that it is not short.
  constexpr std::uint64_t long_walk = 512;
  std::optional<Reflexes> reflexes;
  std::uint64_t singly = 0;
  for (; steps > 0 && ready(costs); --steps) {
    if (!reflexes && ++singly == long_walk && steps > 4 * long_walk && goes_by_heading(state.walker.kind())) {
      reflexes.emplace(state.board, state.walker.kind());
    }
    if (reflexes) {
      const std::uint64_t most = std::min(steps, state.most_steps - state.ticks);
      steps -= costs.stored_moves().empty() ? state.follow_reflexes<false>(*reflexes, costs, most) - 1
                                            : state.follow_reflexes<true>(*reflexes, costs, most) - 1;
      continue;
    }
    const std::optional<Walker::Intent> intent = state.walker.intend(surroundings(costs, cell()));
    SAUNTER_EXPECT(intent.has_value());  // else it is a walker of the caller's own, who must be asked
    if (!intent) break;
    state.follow(*intent);
  }
  return state.end != WalkEnd::none;
}

const Verdict& Walk::verdict() const { return state_->verdict; }
WalkEnd Walk::end() const { return state_->end; }
Cell Walk::cell() const { return state_->walker.cell(); }
const Walker& Walk::walker() const { return state_->walker; }
std::uint64_t Walk::steps() const { return state_->steps; }
std::uint64_t Walk::visited() const { return state_->visited; }
const Trail& Walk::trail() const { return state_->trail; }
std::size_t Walk::memory() const { return state_->walker.memory() + state_->met.bytes() + state_->trail.memory(); }

}  // namespace saunter::inline v0_2
