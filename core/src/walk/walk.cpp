#include "saunter/walk/walk.hpp"

#include "../search/kernel/ends.hpp"
#include "paged_plane.hpp"

namespace saunter::inline v0 {
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

  void look_at_ground(const CostGrid& costs) {
    if (ground.same(costs.stamp())) return;
    met.for_all([](std::uint8_t& states) { states &= been_here; });
    ground = costs.stamp();
    walker.note_ground(ground);
  }
  /// Notes the walker's state; whether it was met before.
  [[nodiscard]] bool met_before(const Surroundings& here) {
    const std::optional<unsigned> now = walker.state(here);
    if (!now) return walker.exhausted(here, ground);
    std::uint8_t& states = met[here.cell];
    const unsigned bit = 1U << *now;
    if ((states & bit) != 0) return true;
    states = static_cast<std::uint8_t>(states | bit | been_here);
    return false;
  }
  void follow(const Walker::Intent& intent) {
    std::uint8_t& states = met[board.tiling.neighbour(walker.cell(), intent.direction)];
    if (keeps_trail) trail.make_room();
    walker.follow(intent);
    if (keeps_trail) trail.add(intent.direction);
    ++ticks;
    ++steps;
    if ((states & been_here) == 0) ++visited;
    states |= been_here;
    if (walker.goal() && *walker.goal() == walker.cell()) end = WalkEnd::arrived;
  }
};

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
  for (; steps > 0 && ready(costs); --steps) {
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

}  // namespace saunter::inline v0
